import type { Rect } from '../base/rect.ts';
import { LEAST_GAP_MM } from './lay-out.ts';
import { overlaps } from '../base/rect.ts';

export interface Beside {
  /** Middle of the new view, paper mm. */
  readonly at: readonly [number, number];
  /** It stands where projection puts it, in line with its parent. */
  readonly inLine: boolean;
}

/** Steps of the search for free room, mm. */
const STEP = 6;

/**
 * Room for a new view that looks at its parent from a side: in line with it if there is room on that side, else wherever it is
 * free, nearest first; on a full sheet where it covers least.
 * @param direction from the parent's middle to the wanted side, on paper, one of ±x, ±y; undefined: no side is in line
 * @param size of the new view, paper mm
 * @param allowed where views may stand
 */
export function placeBeside(
  parent: Rect,
  direction: readonly [number, number] | undefined,
  size: readonly [number, number],
  allowed: Rect,
  obstacles: readonly Rect[],
): Beside {
  const middle = [parent.x + parent.width / 2, parent.y + parent.height / 2] as const;
  const around = [...obstacles, parent];
  const rectAt = (x: number, y: number): Rect => ({ x: x - size[0] / 2, y: y - size[1] / 2, width: size[0], height: size[1] });
  const inside = (r: Rect) =>
    r.x >= allowed.x && r.y >= allowed.y && r.x + r.width <= allowed.x + allowed.width && r.y + r.height <= allowed.y + allowed.height;
  const free = (x: number, y: number, gap: number) => inside(rectAt(x, y)) && !around.some((o) => overlaps(rectAt(x, y), o, gap));
  /** Area of what a place would cover; the parent counts double. */
  const covered = (x: number, y: number) => around.reduce((sum, o) => sum + (o === parent ? 2 : 1) * common(rectAt(x, y), o), 0);
  if (direction) {
    const [dx, dy] = direction;
    // A little farther is better than elsewhere.
    const reach = Math.max(allowed.width, allowed.height);
    for (let gap = LEAST_GAP_MM + 8; gap < reach; gap += STEP) {
      const at = [middle[0] + dx * (parent.width / 2 + size[0] / 2 + gap), middle[1] + dy * (parent.height / 2 + size[1] / 2 + gap)] as const;
      if (!inside(rectAt(...at))) break;
      if (free(...at, LEAST_GAP_MM / 2)) return { at, inLine: true };
    }
  }
  let best: { at: [number, number]; covers: number; d: number } = {
    at: [allowed.x + allowed.width / 2, allowed.y + allowed.height / 2],
    covers: Infinity,
    d: 0,
  };
  for (let y = allowed.y + size[1] / 2; y <= allowed.y + allowed.height - size[1] / 2; y += STEP)
    for (let x = allowed.x + size[0] / 2; x <= allowed.x + allowed.width - size[0] / 2; x += STEP) {
      const d = Math.hypot(x - middle[0], y - middle[1]);
      const covers = free(x, y, LEAST_GAP_MM / 2) ? 0 : Math.max(1e-6, covered(x, y));
      if (covers < best.covers || (covers === best.covers && d < best.d)) best = { at: [x, y], covers, d };
    }
  return { at: best.at, inLine: false };
}

/** Area that two rectangles share, mm². */
function common(a: Rect, b: Rect): number {
  const w = Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x);
  const h = Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y);
  return w > 0 && h > 0 ? w * h : 0;
}
