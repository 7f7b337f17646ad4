import type { Part } from '../assembly/assembly.ts';
import { applyToPoint, combine, determinant, IDENTITY, inverse, type Placement } from '../base/placement.ts';
import { length, normalize, subtract, type Vec3 } from '../base/vector.ts';

/** How a component moved between two models: its own middle by so much, and turned about that. */
export interface Motion {
  readonly mm: number;
  readonly degrees: number;
  /** Unit vector in the model, where it turned. */
  readonly axis: Vec3 | undefined;
  readonly mirrored: boolean;
}

/** Places that agree this well are the same. */
export const SAME_PLACE_MM = 0.01;
export const SAME_TURN_DEGREES = 0.01;
export const isStill = (m: Motion) => m.mm < SAME_PLACE_MM && m.degrees < SAME_TURN_DEGREES && !m.mirrored;

/** The middle of a part in its own frame: of its box, and of its mass. */
const middles = (p: Part): Vec3[] => [[0, 1, 2].map((k) => (p.box[k]! + p.box[k + 3]!) / 2) as [number, number, number], p.centroid];

/**
 * How a component of `part`, the older one, moved. A part that turns in place, about the middle of its box or of its
 * mass, stays where it is, wherever its origin lies.
 * @param shift from the older part's frame to the newer one's
 */
export function motionBetween(before: Placement, after: Placement, part: Part, shift: Placement = IDENTITY): Motion {
  const now = combine(after, shift);
  const world = combine(now, inverse(before));
  const at = (r: number, c: number) => world[r * 4 + c]!;
  const twist: Vec3 = [at(2, 1) - at(1, 2), at(0, 2) - at(2, 0), at(1, 0) - at(0, 1)];
  const mirrored = determinant(world) < 0;
  // Both the sine and the cosine: each is blunt where the other is sharp.
  const angle = mirrored ? 0 : Math.atan2(length(twist) / 2, (at(0, 0) + at(1, 1) + at(2, 2) - 1) / 2);
  return {
    mm: Math.min(...middles(part).map((m) => length(subtract(applyToPoint(now, m), applyToPoint(before, m))))),
    degrees: (angle * 180) / Math.PI,
    axis: angle < 1e-9 ? undefined : length(twist) > 1e-6 ? normalize(twist) : halfTurnAxis(world),
    mirrored,
  };
}

/** At half a turn R = 2aaᵀ − 1: the column with the largest diagonal gives the axis. */
function halfTurnAxis(m: Placement): Vec3 {
  const k = [0, 1, 2].reduce((best, i) => (m[i * 5]! > m[best * 5]! ? i : best), 0);
  const v = [0, 1, 2].map((r) => m[r * 4 + k]! + (r === k ? 1 : 0)) as [number, number, number];
  return normalize(v);
}

/** Such as `z`, `−x` turned to `x`, or `(0.6, 0.8, 0)`. */
export function axisText(a: Vec3): string {
  const k = [0, 1, 2].find((i) => Math.abs(Math.abs(a[i]!) - 1) < 1e-4);
  return k === undefined ? `(${a.map((v) => Number(v.toFixed(2))).join(', ')})` : 'xyz'[k]!;
}
