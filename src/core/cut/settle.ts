import { FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { add, dot, length, scale, subtract, type Vec3 } from '../base/vector.ts';

/** Signed distance from a surface and its gradient (a unit vector); part's frame, mm. */
export type Field = (p: Vec3) => readonly [distance: number, gradient: Vec3];

/** Steps of Newton's rule; two would do but for planes that graze the surface. */
const STEPS = 6;

/**
 * Moves points of a plane, within it, onto the true surface of a recognised face: cut points lie on the mesh's chords.
 * @returns undefined for planes and free faces; a function that gives points back unmoved where the plane only grazes the surface
 */
export function settleInPlane(g: PartGeometry, face: number, normal: Vec3, mostMm: number): ((p: Vec3) => Vec3) | undefined {
  const field = fieldOf(g, face);
  if (!field) return undefined;
  return (start) => {
    let p = start;
    for (let i = 0; i < STEPS; i++) {
      const [off, gradient] = field(p);
      const within = subtract(gradient, scale(normal, dot(gradient, normal)));
      const l2 = dot(within, within);
      if (l2 < 1e-8) return start;
      p = subtract(p, scale(within, off / l2));
      if (Math.abs(off) < 1e-12 * (1 + length(p))) break;
    }
    return length(subtract(p, start)) <= mostMm ? p : start;
  };
}

/** Distance from the surface of a recognised curved face; undefined for planes and free faces. */
export function fieldOf(g: PartGeometry, face: number): Field | undefined {
  const q = g.faceParams.subarray(face * FACE_STRIDE, (face + 1) * FACE_STRIDE);
  const point: Vec3 = [q[0]!, q[1]!, q[2]!];
  const axis: Vec3 = [q[3]!, q[4]!, q[5]!];
  const kind = g.faceKind[face];
  // Holes have negative radii; the foot of a cone's axis may lie beyond its apex.
  const size = kind === SurfaceKind.cone ? q[6]! : Math.abs(q[6]!);
  const second = q[7]!;
  const unit = (v: Vec3): [number, Vec3] => {
    const l = length(v);
    return [l, l > 0 ? scale(v, 1 / l) : [0, 0, 0]];
  };
  if (kind === SurfaceKind.sphere)
    return (p) => {
      const [l, u] = unit(subtract(p, point));
      return [l - size, u];
    };
  if (kind !== SurfaceKind.cylinder && kind !== SurfaceKind.cone && kind !== SurfaceKind.torus) return undefined;
  return (p) => {
    const d = subtract(p, point);
    const along = dot(d, axis);
    const [l, u] = unit(subtract(d, scale(axis, along)));
    if (kind === SurfaceKind.cylinder) return [l - size, u];
    if (kind === SurfaceKind.cone) {
      const [c, s] = [Math.cos(second), Math.sin(second)];
      return [(l - size) * c - along * s, subtract(scale(u, c), scale(axis, s))];
    }
    const [r, out] = unit(add(scale(u, l - size), scale(axis, along)));
    return [r - second, out];
  };
}
