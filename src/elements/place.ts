import { inflate, overlaps, rectOf, type Rect, type Segment } from '../core/base/rect.ts';
import type { Vec2 } from '../core/base/vector.ts';
import { composeSheet } from './compose.ts';
import { homeOf, type Scene } from './scene.ts';

/** New things keep so far from the frame, mm. */
export const OFF_FRAME_MM = 4;

/** Where new things may stand on a sheet: inside the frame. */
export const allowedOn = (scene: Scene, sheet: string): Rect => inflate(scene.page(sheet).geometry.frame, -OFF_FRAME_MM);

/**
 * What stands on a sheet and is in the way of something new, paper mm.
 * Of a view that is the box of its lines, and what stands outside it: labels, cutting lines, letters.
 * @param but what is not: a view with all that belongs to it, an element alone, or every view itself
 */
export function standingOn(scene: Scene, sheet: string, but: { readonly family?: string; readonly id?: string; readonly views?: false } = {}): Rect[] {
  const inTheWay = (id: string) => {
    const record = scene.document[id.split('/')[0]!];
    if (record?.type === 'view' && but.views === false) return false;
    return id !== but.id && id !== but.family && (record === undefined || but.family === undefined || homeOf(record) !== but.family);
  };
  return composeSheet(scene, sheet)
    .groups.filter((g) => g.role !== 'frame' && inTheWay(g.id))
    .flatMap((g) => (g.role === 'view' ? [rectOf(g.box), ...g.solid.rects, ...g.solid.segments.map(around)] : [rectOf(g.box)]));
}

/** The box of a stroke. */
const around = ([x0, y0, x1, y1]: Segment): Rect => ({ x: Math.min(x0, x1), y: Math.min(y0, y1), width: Math.abs(x1 - x0), height: Math.abs(y1 - y0) });

/** Steps of the search for free room, and what new things keep off others, mm. */
const STEP_MM = 4;
const OFF_OTHERS_MM = 2;

/**
 * Where something new has free room on a sheet, nearest to where it would stand best.
 * @param size width and height, paper mm @param wanted its upper left corner, paper mm
 * @returns its upper left corner; undefined where there is no room
 */
export function freeRoom(scene: Scene, sheet: string, [width, height]: Vec2, wanted: Vec2): Vec2 | undefined {
  const allowed = allowedOn(scene, sheet);
  const taken = standingOn(scene, sheet);
  const [right, foot] = [allowed.x + allowed.width - width, allowed.y + allowed.height - height];
  let best: { at: Vec2; off: number } | undefined;
  const attempt = (x: number, y: number) => {
    const off = Math.hypot(x - wanted[0], y - wanted[1]);
    if (x < allowed.x || y < allowed.y || x > right || y > foot || (best && off >= best.off)) return;
    if (!taken.some((t) => overlaps({ x, y, width, height }, t, OFF_OTHERS_MM))) best = { at: [x, y], off };
  };
  attempt(...wanted);
  for (let y = allowed.y; y <= foot; y += STEP_MM) for (let x = allowed.x; x <= right; x += STEP_MM) attempt(x, y);
  return best?.at;
}
