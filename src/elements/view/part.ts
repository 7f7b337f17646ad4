import type { Vec2 } from '../../core/base/vector.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { movedGap, movedOutline } from '../../core/views/outline.ts';

/** What a view has for itself alone: another one made from it begins without. */
export const OF_ITS_OWN = [
  'within',
  'border',
  'gaps',
  'gapMm',
  'breaks',
  'detail',
  'ownScale',
  'arrow',
  'off',
  'locked',
] as const satisfies readonly (keyof ViewRecord)[];

/** A view whose outline and gaps lie elsewhere in view space; the same object if it has neither. */
export function movedPart(view: ViewRecord, to: (p: Vec2) => Vec2): ViewRecord {
  if (!view.within && !view.gaps) return view;
  return {
    ...view,
    ...(view.within ? { within: movedOutline(view.within, to) } : {}),
    ...(view.gaps ? { gaps: view.gaps.map((g) => movedGap(g, to)) } : {}),
  };
}
