import type { Assembly, Component } from '../assembly/assembly.ts';
import { applyToPoint, combine, type Placement } from '../base/placement.ts';
import { dot, type Vec3 } from '../base/vector.ts';
import type { ViewFrame } from '../outline/directions.ts';
import type { Rect } from '../base/rect.ts';
import { LEAST_GAP_MM } from './lay-out.ts';
import { overlaps } from '../base/rect.ts';
import { placeBeside } from './beside.ts';

/**
 * Box of the model in a frame, by the boxes of its parts: minX minY maxX maxY, model mm. At least as large as what is drawn.
 * @param motions where each component is, relative to its assembled place
 */
export function boxInFrame(
  assembly: Assembly,
  components: readonly Component[],
  frame: ViewFrame,
  motions: readonly Placement[],
): readonly [number, number, number, number] {
  const out: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const c of components) {
    const b = assembly.parts[c.part]!.box;
    const m = combine(motions[c.index]!, c.placement);
    for (let i = 0; i < 8; i++) {
      const corner: Vec3 = [b[i & 1 ? 3 : 0]!, b[i & 2 ? 4 : 1]!, b[i & 4 ? 5 : 2]!];
      const p = applyToPoint(m, corner);
      const [x, y] = [dot(p, frame.right), dot(p, frame.up)];
      out[0] = Math.min(out[0], x);
      out[1] = Math.min(out[1], y);
      out[2] = Math.max(out[2], x);
      out[3] = Math.max(out[3], y);
    }
  }
  return out;
}

/** Smaller scales that are tried before a view is put where it covers something. */
const SMALLER = 5;

/**
 * The largest of the scales at which something has free room on a sheet, nearest to `near`, and where its middle goes.
 * Where there is none it goes where it covers least, at the smallest scale tried; `free` is false then.
 * @param size width and height, model mm
 * @param scales those that may be taken, the largest first
 */
export function roomFor(
  size: readonly [number, number],
  scales: readonly number[],
  near: Rect,
  allowed: Rect,
  obstacles: readonly Rect[],
): { scale: number; at: readonly [number, number]; free: boolean } {
  let last: { scale: number; at: readonly [number, number]; free: boolean } | undefined;
  for (const scale of scales.slice(0, SMALLER)) {
    const [width, height] = [size[0] * scale, size[1] * scale];
    const { at } = placeBeside(near, undefined, [width, height], allowed, obstacles);
    const rect: Rect = { x: at[0] - width / 2, y: at[1] - height / 2, width, height };
    const inside = width <= allowed.width && height <= allowed.height;
    const free = inside && ![...obstacles, near].some((o) => overlaps(rect, o, LEAST_GAP_MM / 4));
    last = { scale, at, free };
    if (free) break;
  }
  return last ?? { scale: 1, at: [near.x, near.y], free: false };
}
