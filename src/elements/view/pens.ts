import { without } from '../../core/base/without.ts';
import type { ViewRecord } from '../../core/document/records.ts';

export interface ViewPen {
  /** A multiple of the usual width. */
  readonly width?: number;
  /** `#rrggbb`; black unless said. */
  readonly color?: string;
}

/** The view with a pen of their own for components; undefined gives them the usual one back. */
export function withPen(view: ViewRecord, paths: readonly string[], pen: ViewPen | undefined): ViewRecord {
  const these = new Set(paths);
  const others = (view.pens ?? []).flatMap((p) => {
    const of = p.of.filter((one) => !these.has(one));
    return of.length ? [{ ...p, of }] : [];
  });
  const pens = pen ? [...others, { ...pen, of: [...paths] }] : others;
  return pens.length ? { ...view, pens } : without(view, 'pens');
}
