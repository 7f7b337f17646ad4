import { createHash } from 'node:crypto';
import type { Assembly } from '../core/assembly/assembly.ts';
import { specText, type ViewSpec } from '../core/views/view-spec.ts';

/** Key under which the result of a view is stored, wherever it is computed. @param text of its specification */
export const keyOfText = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 40);

export const viewKey = (spec: ViewSpec, assembly: Assembly): string => keyOfText(specText(spec, assembly));
