import type { Vec3 } from '../base/vector.ts';

/** A projected circle: `point(t) = centre + rx·cos t·(cos turn, sin turn) + ry·sin t·(-sin turn, cos turn)`. */
export interface ProjectedCircle {
  readonly cx: number;
  readonly cy: number;
  readonly rx: number;
  readonly ry: number;
  readonly turn: number;
}

export interface ArcPiece extends ProjectedCircle {
  readonly t0: number;
  readonly t1: number;
}

/** Below this share of the radius an ellipse is seen edge-on: a straight line. */
const FLAT = 1e-6;

/** Projects a circle given in view space; undefined when it is seen edge-on. */
export function projectCircle(centre: Vec3, axis: Vec3, radius: number): ProjectedCircle | undefined {
  const tilt = Math.hypot(axis[0], axis[1]);
  const ry = radius * Math.abs(axis[2]);
  if (ry < FLAT * radius) return undefined;
  if (tilt < 1e-7) return { cx: centre[0], cy: centre[1], rx: radius, ry: radius, turn: 0 };
  // The long axis is square to the projected axis; turned into half a circle so that equal ellipses compare equal.
  let turn = Math.atan2(axis[0], -axis[1]);
  if (turn < 0) turn += Math.PI;
  if (turn >= Math.PI - 1e-9) turn = 0;
  return { cx: centre[0], cy: centre[1], rx: radius, ry, turn };
}

/** The arc of a projected circle that runs through the points, in their sense. */
export function arcThrough(c: ProjectedCircle, xy: readonly number[]): ArcPiece | undefined {
  const cos = Math.cos(c.turn);
  const sin = Math.sin(c.turn);
  const at = (i: number) => {
    const dx = xy[i]! - c.cx;
    const dy = xy[i + 1]! - c.cy;
    return Math.atan2((dy * cos - dx * sin) / c.ry, (dx * cos + dy * sin) / c.rx);
  };
  const t0 = at(0);
  let t = t0;
  let before = t0;
  for (let i = 2; i < xy.length; i += 2) {
    const now = at(i);
    let d = now - before;
    if (d > Math.PI) d -= 2 * Math.PI;
    else if (d < -Math.PI) d += 2 * Math.PI;
    t += d;
    before = now;
  }
  if (Math.abs(t - t0) > 2 * Math.PI - 1e-6) t = t0 + Math.sign(t - t0) * 2 * Math.PI;
  return Math.abs(t - t0) < 1e-9 ? undefined : { ...c, t0, t1: t };
}

/** Point of an arc at parameter t. */
export function arcPoint(c: ProjectedCircle, t: number): [number, number] {
  const x = c.rx * Math.cos(t);
  const y = c.ry * Math.sin(t);
  return [c.cx + x * Math.cos(c.turn) - y * Math.sin(c.turn), c.cy + x * Math.sin(c.turn) + y * Math.cos(c.turn)];
}
