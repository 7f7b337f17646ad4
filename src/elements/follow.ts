import type { DrawingDocument } from '../core/document/records.ts';
import type { Step } from '../core/document/steps.ts';
import type { Change } from './change.ts';
import { isElement, kindOf } from './kinds.ts';

/** The steps that let every element follow a change of what it belongs to. */
export function followAll(doc: DrawingDocument, change: Change): Step[] {
  return Object.values(doc).flatMap((r): Step[] => {
    if (!isElement(r)) return [];
    const next = kindOf(r).follow?.(r, change);
    return next && next !== r ? [{ op: 'put', record: next }] : [];
  });
}
