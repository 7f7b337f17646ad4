import type { Rect } from '../sheet/formats.ts';
import { LEAST_GAP_MM, overlaps } from './arrange.ts';

export interface Beside {
  /** Middle of the new view, paper mm. */
  readonly at: readonly [number, number];
  /** It stands where projection puts it, in line with its parent. */
  readonly inLine: boolean;
}

/** Steps of the search for free room, mm. */
const STEP = 6;

/**
 * Room for a new view that looks at its parent from a side: in line with it if there is room on the wanted side or the
 * other, else wherever it is free, nearest first; on a full sheet on the wanted side, over what lies there.
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
  const clamped = (x: number, y: number): [number, number] => [
    Math.min(Math.max(x, allowed.x + size[0] / 2), Math.max(allowed.x + size[0] / 2, allowed.x + allowed.width - size[0] / 2)),
    Math.min(Math.max(y, allowed.y + size[1] / 2), Math.max(allowed.y + size[1] / 2, allowed.y + allowed.height - size[1] / 2)),
  ];
  const beside = (k: number, gap: number): [number, number] => {
    const [dx, dy] = direction!;
    return [middle[0] + dx * k * (parent.width / 2 + size[0] / 2 + gap), middle[1] + dy * k * (parent.height / 2 + size[1] / 2 + gap)];
  };
  if (direction)
    for (const k of [1, -1]) {
      // A little farther is better than elsewhere.
      const reach = Math.max(allowed.width, allowed.height);
      for (let gap = LEAST_GAP_MM + 8; gap < reach; gap += STEP) {
        const at = beside(k, gap);
        if (!inside(rectAt(...at))) break;
        if (free(...at, LEAST_GAP_MM / 2)) return { at, inLine: true };
      }
    }
  let best: { at: [number, number]; d: number } | undefined;
  for (let y = allowed.y + size[1] / 2; y <= allowed.y + allowed.height - size[1] / 2; y += STEP)
    for (let x = allowed.x + size[0] / 2; x <= allowed.x + allowed.width - size[0] / 2; x += STEP) {
      const d = Math.hypot(x - middle[0], y - middle[1]);
      if ((!best || d < best.d) && free(x, y, LEAST_GAP_MM / 2)) best = { at: [x, y], d };
    }
  if (best) return { at: best.at, inLine: false };
  return direction ? { at: clamped(...beside(1, LEAST_GAP_MM)), inLine: false } : { at: clamped(...middle), inLine: false };
}
