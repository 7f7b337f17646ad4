import type { Vec2 } from '../../core/base/vector.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { movedGap, movedOutline, outlineBox, type Outline } from '../../core/views/outline.ts';

export type HandLine = NonNullable<ViewRecord['handLines']>[number];

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
  'handLines',
] as const satisfies readonly (keyof ViewRecord)[];

/**
 * A view whose outline, gaps and hand-drawn lines lie elsewhere in view space; the same object if nothing of it does.
 * @param to where a place goes; lines end on components
 */
export function movedPart(view: ViewRecord, to: (p: Vec2, path?: string) => Vec2): ViewRecord {
  // An outline goes where the component goes that it is around.
  const outlineTo = (p: Vec2) => to(p, view.detail?.on);
  // What leaves three places where they are leaves all of them.
  const places: readonly Vec2[] = [
    [0, 0],
    [1, 0],
    [0, 1],
  ];
  const stays = places.every((p) => outlineTo(p).every((v, k) => v === p[k]));
  const end = (e: HandLine['from']): HandLine['from'] => {
    const at = to(e.at, e.of);
    return at[0] === e.at[0] && at[1] === e.at[1] ? e : { ...e, at };
  };
  const lines = view.handLines?.map((l): HandLine => {
    const [from, then] = [end(l.from), end(l.to)];
    return from === l.from && then === l.to ? l : { from, to: then };
  });
  const linesMove = lines?.some((l, i) => l !== view.handLines![i]) ?? false;
  const partMoves = !stays && (view.within !== undefined || view.gaps !== undefined);
  if (!linesMove && !partMoves) return view;
  return {
    ...view,
    ...(view.within && partMoves ? movedWithin(view, movedOutline(view.within, outlineTo)) : {}),
    ...(view.gaps && partMoves ? { gaps: view.gaps.map((g) => movedGap(g, to)) } : {}),
    ...(lines && linesMove ? { handLines: lines } : {}),
  };
}

/** A detail stands for the middle of what it encloses, wherever that is. */
export function movedWithin(view: ViewRecord, within: Outline): Pick<ViewRecord, 'within' | 'pivot'> {
  if (!view.detail) return { within, pivot: view.pivot };
  const [x0, y0, x1, y1] = outlineBox(within);
  return { within, pivot: [(x0 + x1) / 2, (y0 + y1) / 2] };
}
