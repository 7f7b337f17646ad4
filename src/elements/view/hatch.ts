import { without } from '../../core/base/without.ts';
import type { OwnHatch } from '../../core/cut/hatch-styles.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { Step } from '../../core/document/steps.ts';
import type { Scene } from '../scene.ts';

export type Hatch = Omit<OwnHatch, 'pattern'> & { readonly pattern?: OwnHatch['pattern'] | 'none' };

/** The view with the hatching of components set; nothing chosen gives them the usual one back. */
export function withHatch(view: ViewRecord, paths: readonly string[], { pattern, angle, spacingMm }: Hatch): ViewRecord {
  const these = new Set(paths);
  const others = (view.hatch ?? []).flatMap((h) => {
    const of = h.of.filter((p) => !these.has(p));
    return of.length ? [{ ...h, of }] : [];
  });
  const chosen = pattern !== undefined || angle !== undefined || spacingMm !== undefined;
  const own = {
    of: [...paths],
    ...(pattern !== undefined ? { pattern } : {}),
    ...(angle !== undefined ? { angle } : {}),
    ...(spacingMm !== undefined ? { spacingMm } : {}),
  };
  const hatch = chosen ? [...others, own] : others;
  return hatch.length ? { ...view, hatch } : without(view, 'hatch');
}

/** The steps that hatch components alike in every section. */
export function hatchedEverywhere(scene: Scene, paths: readonly string[], hatch: Hatch): Step[] {
  return scene
    .all('view')
    .filter((v) => v.cut && !v.detail)
    .map((v) => ({ op: 'put', record: withHatch(v, paths, hatch) }));
}
