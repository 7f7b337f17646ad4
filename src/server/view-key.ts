import { createHash } from 'node:crypto';
import type { Assembly, Component } from '../core/assembly/assembly.ts';
import { specText, type ViewSpec } from '../core/views/view-spec.ts';

/** Key under which the result of a view is stored, wherever it is computed. */
export function viewKey(spec: ViewSpec, assembly: Assembly, components: readonly Component[]): string {
  return createHash('sha256')
    .update(specText(spec, assembly, components))
    .digest('hex')
    .slice(0, 40);
}
