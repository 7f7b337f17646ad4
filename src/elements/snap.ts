import { rectOf, type Rect } from '../core/base/rect.ts';
import type { Vec2 } from '../core/base/vector.ts';
import { kindOf, type ElementRecord } from './kinds.ts';
import { elementsOn } from './compose.ts';
import type { Scene } from './scene.ts';
import { boxOf } from './together.ts';

/** A line that others are brought onto: where it stands along one axis, and from where to where it is shown, paper mm. */
export interface SnapLine {
  readonly at: number;
  readonly from: number;
  readonly to: number;
}

/** Upright lines have a place in x, level ones in y. */
export interface SnapLines {
  readonly upright: readonly SnapLine[];
  readonly level: readonly SnapLine[];
}

/** Balloons stand in line by their middles, whatever is in them. */
const byMiddle = (r: ElementRecord) => r.type === 'balloon';

/** Edges and middles of a box, or its middles alone, along one axis. */
const placesOf = (from: number, size: number, middleOnly: boolean) => (middleOnly ? [from + size / 2] : [from, from + size / 2, from + size]);

/**
 * What something that is dragged is brought into line with: edges and middles of its neighbours, the frame, the middle of the sheet.
 * Balloons look at balloons, everything else at everything else.
 * @param but what is being moved
 */
export function snapLinesOn(scene: Scene, sheet: string, moving: ElementRecord, but: ReadonlySet<string>): SnapLines {
  const upright: SnapLine[] = [];
  const level: SnapLine[] = [];
  const add = (b: Rect, middleOnly: boolean) => {
    for (const at of placesOf(b.x, b.width, middleOnly)) upright.push({ at, from: b.y, to: b.y + b.height });
    for (const at of placesOf(b.y, b.height, middleOnly)) level.push({ at, from: b.x, to: b.x + b.width });
  };
  const { frame, width, height } = scene.page(sheet).geometry;
  add(frame, false);
  add({ x: 0, y: 0, width, height }, true);
  for (const r of elementsOn(scene, sheet)) {
    if (but.has(r.id) || r.type === 'centre' || r.type === 'dimension' || byMiddle(r) !== byMiddle(moving)) continue;
    if (r.type === 'sheet') {
      for (const d of kindOf(r).draw(r, scene)) if (d.role === 'title') add(rectOf(d.box), false);
    } else {
      const box = boxOf(scene, r);
      if (box) add(box, byMiddle(r));
    }
  }
  return { upright, level };
}

/** A thin line that shows what something was brought into line with, paper mm. */
export type Guide = readonly [Vec2, Vec2];

/**
 * The way of a drag, brought to the nearest lines within reach.
 * @param box of what is dragged, where it was @param middleOnly only its middle counts @param reach paper mm
 */
export function snapped(box: Rect, by: Vec2, lines: SnapLines, middleOnly: boolean, reach: number): { readonly by: Vec2; readonly guides: readonly Guide[] } {
  const x = nearest(placesOf(box.x + by[0], box.width, middleOnly), lines.upright, reach);
  const y = nearest(placesOf(box.y + by[1], box.height, middleOnly), lines.level, reach);
  const at: Vec2 = [by[0] + (x?.off ?? 0), by[1] + (y?.off ?? 0)];
  const guides: Guide[] = [];
  if (x) {
    const [top, foot] = [Math.min(x.line.from, box.y + at[1]), Math.max(x.line.to, box.y + box.height + at[1])];
    guides.push([
      [x.line.at, top],
      [x.line.at, foot],
    ]);
  }
  if (y) {
    const [left, right] = [Math.min(y.line.from, box.x + at[0]), Math.max(y.line.to, box.x + box.width + at[0])];
    guides.push([
      [left, y.line.at],
      [right, y.line.at],
    ]);
  }
  return { by: at, guides };
}

function nearest(places: readonly number[], lines: readonly SnapLine[], reach: number): { readonly off: number; readonly line: SnapLine } | undefined {
  let best: { off: number; line: SnapLine } | undefined;
  for (const line of lines)
    for (const p of places) {
      const off = line.at - p;
      if (Math.abs(off) <= reach && (!best || Math.abs(off) < Math.abs(best.off) - 1e-9)) best = { off, line };
    }
  return best;
}
