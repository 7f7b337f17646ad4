/** A point or vector in model space, mm unless said otherwise. */
export type Vec3 = readonly [number, number, number];
export type Vec2 = readonly [number, number];

export const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const subtract = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const scale = (a: Vec3, k: number): Vec3 => [a[0] * k, a[1] * k, a[2] * k];
export const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vec3, b: Vec3): Vec3 => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
export const distance2 = (a: Vec2, b: Vec2): number => Math.hypot(b[0] - a[0], b[1] - a[1]);
export const length = (a: Vec3): number => Math.hypot(a[0], a[1], a[2]);

/** The vector that begins at an index of flat numbers. */
export const vectorAt = (a: ArrayLike<number>, i: number): Vec3 => [a[i]!, a[i + 1]!, a[i + 2]!];

/** @throws RangeError for a vector without length */
export function normalize(a: Vec3): Vec3 {
  const l = length(a);
  if (!(l > 0)) throw new RangeError(`A direction needs a length: ${a.join(', ')}`);
  return [a[0] / l, a[1] / l, a[2] / l];
}

/** Some unit vector square to the unit vector `a`; the same one every time. */
export function anyPerpendicular(a: Vec3): Vec3 {
  const helper: Vec3 = Math.abs(a[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
  return normalize(cross(helper, a));
}
