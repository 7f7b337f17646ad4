import type { Vec3 } from './vector.ts';

/** Rigid placement, row-major 3×4: `[r00 r01 r02 tx, r10 r11 r12 ty, r20 r21 r22 tz]`, translation in mm. It may mirror. */
export type Placement = readonly number[];

export const IDENTITY: Placement = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

/** The placement that applies `b` first, then `a`. */
export function combine(a: Placement, b: Placement): Placement {
  const out = new Array<number>(12);
  for (let r = 0; r < 3; r++) {
    const [p, q, s, t] = [a[r * 4]!, a[r * 4 + 1]!, a[r * 4 + 2]!, a[r * 4 + 3]!];
    for (let c = 0; c < 4; c++) out[r * 4 + c] = p * b[c]! + q * b[4 + c]! + s * b[8 + c]! + (c === 3 ? t : 0);
  }
  return out;
}

export function translation(v: Vec3): Placement {
  return [1, 0, 0, v[0], 0, 1, 0, v[1], 0, 0, 1, v[2]];
}

export function applyToPoint(m: Placement, p: Vec3): Vec3 {
  return [
    m[0]! * p[0] + m[1]! * p[1] + m[2]! * p[2] + m[3]!,
    m[4]! * p[0] + m[5]! * p[1] + m[6]! * p[2] + m[7]!,
    m[8]! * p[0] + m[9]! * p[1] + m[10]! * p[2] + m[11]!,
  ];
}

export function applyToDirection(m: Placement, d: Vec3): Vec3 {
  return [m[0]! * d[0] + m[1]! * d[1] + m[2]! * d[2], m[4]! * d[0] + m[5]! * d[1] + m[6]! * d[2], m[8]! * d[0] + m[9]! * d[1] + m[10]! * d[2]];
}

/** Negative when the placement mirrors: triangles then change their turning sense. */
export function determinant(m: Placement): number {
  return m[0]! * (m[5]! * m[10]! - m[6]! * m[9]!) - m[1]! * (m[4]! * m[10]! - m[6]! * m[8]!) + m[2]! * (m[4]! * m[9]! - m[5]! * m[8]!);
}

/** Of a placement that turns, shifts or mirrors, nothing else: its turn is undone by its transpose. */
export function inverse(m: Placement): Placement {
  const row = (c: number) => [m[c]!, m[4 + c]!, m[8 + c]!, -(m[c]! * m[3]! + m[4 + c]! * m[7]! + m[8 + c]! * m[11]!)];
  return [...row(0), ...row(1), ...row(2)];
}
