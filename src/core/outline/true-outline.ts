import { FACE_STRIDE, SurfaceKind } from '../assembly/part-geometry.ts';
import { add, cross, dot, length, normalize, scale, subtract, type Vec3 } from '../base/vector.ts';
import type { PartView } from './scene.ts';

/** Puts a point that is near an outline on the true one. View space of the part, mm. */
export type Settle = (p: Vec3) => Vec3;

const TOWARD: Vec3 = [0, 0, 1];
/** Nearer to the line of sight than this an axis gives no ruling worth the name. sin */
const END_ON = 1e-6;
/** Below this a torus is seen so much from the side that its angle about the axis no longer tells a point of its outline. */
const SIDEWAYS = 0.05;

/** The true outline of a cylinder, cone, sphere or torus; undefined for other faces, whose traced points stand as they are. */
export function settlerFor(b: PartView, face: number): Settle | undefined {
  const p = b.geometry.faceParams.subarray(face * FACE_STRIDE, (face + 1) * FACE_STRIDE);
  const point = turned(b, [p[0]!, p[1]!, p[2]!]);
  const axis = turned(b, [p[3]!, p[4]!, p[5]!]);
  switch (b.geometry.faceKind[face]) {
    case SurfaceKind.cylinder:
      return cylinderRuling(point, axis, Math.abs(p[6]!));
    case SurfaceKind.cone:
      return coneRuling(point, axis, p[6]!, p[7]!);
    case SurfaceKind.sphere:
      return (q) => {
        const d: Vec3 = [q[0] - point[0], q[1] - point[1], 0];
        const l = length(d);
        return l > 0 ? add(point, scale(d, Math.abs(p[6]!) / l)) : q;
      };
    case SurfaceKind.torus:
      return torusOutline(point, axis, p[6]!, p[7]!);
    default:
      return undefined;
  }
}

/** Which way a recognised face looks: its true normal · toward at a point near it, view space of the part. */
export type TrueFacing = (p: Vec3) => number;

/** Undefined for planes and free faces, whose corner normals are all there is. */
export function trueFacing(b: PartView, face: number): TrueFacing | undefined {
  const p = b.geometry.faceParams.subarray(face * FACE_STRIDE, (face + 1) * FACE_STRIDE);
  const kind = b.geometry.faceKind[face];
  if (kind === SurfaceKind.plane || kind === SurfaceKind.free) return undefined;
  const point = turned(b, [p[0]!, p[1]!, p[2]!]);
  const axis = turned(b, [p[3]!, p[4]!, p[5]!]);
  if (kind === SurfaceKind.sphere) return (q) => q[2] - point[2];
  return (q) => {
    const d = subtract(q, point);
    const along = dot(d, axis);
    const radial = subtract(d, scale(axis, along));
    const l = length(radial) || 1;
    if (kind === SurfaceKind.cylinder) return radial[2] / l;
    if (kind === SurfaceKind.torus) return (radial[2] / l) * (l - p[6]!) + axis[2] * along;
    return (radial[2] / l) * Math.cos(p[7]!) - axis[2] * Math.sin(p[7]!);
  };
}

/**
 * Where the facing changes its sign between two points with facings of opposite sign, as a share of the way.
 * @param exact the true facing of the face, if it is known: sharpens what the corners' normals give
 */
export function signChange(a: Vec3, b: Vec3, fa: number, fb: number, exact: TrueFacing | undefined): number {
  const straight = fa / (fa - fb);
  if (!exact) return straight;
  const at = (t: number) => exact([a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t]);
  let lo = 0;
  let hi = 1;
  let f = at(0);
  let g = at(1);
  if (!(f * g < 0)) return straight;
  // False position with halving of the end that stays (Illinois).
  let t = straight;
  let side = 0;
  for (let i = 0; i < 12; i++) {
    t = (lo * g - hi * f) / (g - f);
    const h = at(t);
    if (Math.abs(h) < 1e-12) break;
    if (h * f > 0) {
      lo = t;
      f = h;
      if (side === 1) g /= 2;
      side = 1;
    } else {
      hi = t;
      g = h;
      if (side === -1) f /= 2;
      side = -1;
    }
  }
  return t;
}

function turned(b: PartView, v: Vec3): Vec3 {
  const m = b.turn;
  return [m[0]! * v[0] + m[1]! * v[1] + m[2]! * v[2], m[3]! * v[0] + m[4]! * v[1] + m[5]! * v[2], m[6]! * v[0] + m[7]! * v[1] + m[8]! * v[2]];
}

/** The ruling of a cylinder whose normal is square to the line of sight, on the side of the point. */
function cylinderRuling(point: Vec3, axis: Vec3, radius: number): Settle | undefined {
  const across = cross(axis, TOWARD);
  if (length(across) < END_ON) return undefined;
  const m = normalize(across);
  return (q) => {
    const d = subtract(q, point);
    return add(add(point, scale(axis, dot(d, axis))), scale(m, dot(d, m) < 0 ? -radius : radius));
  };
}

/** @param axis looks where the cone widens; @param base radius at `point`; @param half half the angle at the apex, rad */
function coneRuling(point: Vec3, axis: Vec3, base: number, half: number): Settle | undefined {
  const across = cross(axis, TOWARD);
  if (length(across) < END_ON || !(half > 1e-6)) return undefined;
  const m = normalize(across);
  const outward = normalize(subtract(TOWARD, scale(axis, dot(TOWARD, axis))));
  const apex = add(point, scale(axis, -base / Math.tan(half)));
  const cos = (Math.tan(half) * axis[2]) / dot(TOWARD, outward);
  if (Math.abs(cos) >= 1) return undefined;
  const rulings = [1, -1].map((side) => {
    const u = add(scale(outward, cos), scale(m, side * Math.sqrt(1 - cos * cos)));
    return add(scale(axis, Math.cos(half)), scale(u, Math.sin(half)));
  });
  return (q) => {
    const e = subtract(q, apex);
    const ruling = rulings[dot(e, m) < 0 ? 1 : 0]!;
    return add(apex, scale(ruling, dot(e, ruling)));
  };
}

/** Keeps the angle about the axis and takes the place on the tube whose normal is square to the line of sight. */
function torusOutline(centre: Vec3, axis: Vec3, major: number, minor: number): Settle | undefined {
  const tilt = dot(axis, TOWARD);
  if (Math.abs(tilt) < SIDEWAYS) return undefined;
  return (q) => {
    const d = subtract(q, centre);
    const height = dot(d, axis);
    const flat = subtract(d, scale(axis, height));
    const l = length(flat);
    if (!(l > 0)) return q;
    const outward = scale(flat, 1 / l);
    // (cos v · outward + sin v · axis) · toward = 0
    const v = Math.atan2(-dot(outward, TOWARD), tilt);
    const [c, s] = [Math.cos(v), Math.sin(v)];
    const side = (l - major) * c + height * s < 0 ? -1 : 1;
    return add(centre, add(scale(outward, major + minor * c * side), scale(axis, minor * s * side)));
  };
}
