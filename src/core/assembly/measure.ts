import { applyToDirection, applyToPoint, type Placement } from '../base/placement.ts';
import { add, cross, dot, length, normalize, scale, subtract, type Vec3 } from '../base/vector.ts';
import { CurveKind, EdgeClass, FACE_STRIDE, SurfaceKind, type PartGeometry } from './part-geometry.ts';

/** What was picked on the model, on its true geometry; model mm. */
export interface Probe {
  /** Where it was picked. */
  readonly at: Vec3;
  /** A plane with its normal, an axis (of a hole, shaft or cone) with its direction, or a point alone. */
  readonly kind: 'plane' | 'axis' | 'point';
  readonly point: Vec3;
  readonly direction: Vec3;
  /** Of a cylinder or ball. */
  readonly radius: number | undefined;
}

/** One line of what was measured. */
export interface Measure {
  readonly what: string;
  /** mm, or rad for an angle. */
  readonly value: number;
  readonly unit: 'mm' | 'rad';
}

/** What a face of a part in its place offers to measure from. @param at the point that was picked, model mm */
export function probeOf(g: PartGeometry, face: number, placement: Placement, at: Vec3): Probe {
  const q = g.faceParams.subarray(face * FACE_STRIDE, (face + 1) * FACE_STRIDE);
  const point = applyToPoint(placement, [q[0]!, q[1]!, q[2]!]);
  const kind = g.faceKind[face];
  if (kind === SurfaceKind.sphere) return { at, kind: 'point', point, direction: [0, 0, 1], radius: Math.abs(q[6]!) };
  if (kind === SurfaceKind.free || kind === undefined) return { at, kind: 'point', point: at, direction: [0, 0, 1], radius: undefined };
  const direction = normalize(applyToDirection(placement, [q[3]!, q[4]!, q[5]!]));
  if (kind === SurfaceKind.plane) return { at, kind: 'plane', point: at, direction, radius: undefined };
  return { at, kind: 'axis', point, direction, radius: kind === SurfaceKind.cylinder ? Math.abs(q[6]!) : undefined };
}

/** A straight edge of a part. */
export interface StraightEdge {
  /** The nearest point on it, model mm. */
  readonly at: Vec3;
  /** Unit vector. */
  readonly direction: Vec3;
}

/** The straight edge of a part in its place nearest to a point. @param within mm @returns undefined when none is that near */
export function edgeNear(g: PartGeometry, placement: Placement, point: Vec3, within: number): StraightEdge | undefined {
  let best: StraightEdge | undefined;
  let least = within;
  for (let e = 0; e < g.edgeClass.length; e++) {
    if (g.edgeClass[e] === EdgeClass.seam || g.edgeCurve[e] !== CurveKind.line) continue;
    const [first, last] = [g.edgeVertices[g.edgeStart[e]!]!, g.edgeVertices[g.edgeStart[e + 1]! - 1]!];
    const vertex = (v: number) => applyToPoint(placement, [g.positions[v * 3]!, g.positions[v * 3 + 1]!, g.positions[v * 3 + 2]!]);
    const a = vertex(first);
    const along = subtract(vertex(last), a);
    const long = length(along);
    if (long < 1e-9) continue;
    const direction = scale(along, 1 / long);
    const t = Math.min(long, Math.max(0, dot(subtract(point, a), direction)));
    const at = add(a, scale(direction, t));
    const away = length(subtract(point, at));
    if (away <= least) [best, least] = [{ at, direction }, away];
  }
  return best;
}

/** Directions this near to parallel are parallel, rad. */
const PARALLEL = 1e-4;

/** What one picked thing says of itself. */
export function measureOne(p: Probe): Measure[] {
  if (p.radius === undefined) return [];
  return [
    { what: 'Diameter', value: 2 * p.radius, unit: 'mm' },
    { what: 'Radius', value: p.radius, unit: 'mm' },
  ];
}

/** Distances and angles between two picked things: between parallel planes and axes square to them, else between the points. */
export function measureTwo(a: Probe, b: Probe): Measure[] {
  const out: Measure[] = [];
  const between = subtract(b.point, a.point);
  const angle = a.kind === 'point' || b.kind === 'point' ? undefined : Math.acos(Math.min(1, Math.abs(dot(a.direction, b.direction))));
  const mm = (what: string, value: number) => out.push({ what, value: Math.abs(value), unit: 'mm' });
  if (a.kind === 'plane' && b.kind === 'plane') {
    if (angle! < PARALLEL) mm('Distance of the faces', dot(between, a.direction));
    else out.push({ what: 'Angle of the faces', value: angle!, unit: 'rad' });
  } else if (a.kind === 'axis' && b.kind === 'axis') {
    const square = cross(a.direction, b.direction);
    if (angle! < PARALLEL) mm('Distance of the axes', length(subtract(between, scale(a.direction, dot(between, a.direction)))));
    else {
      mm('Distance of the axes', dot(between, normalize(square)));
      out.push({ what: 'Angle of the axes', value: angle!, unit: 'rad' });
    }
  } else if (angle !== undefined) {
    const [plane, axis] = a.kind === 'plane' ? [a, b] : [b, a];
    // An axis that runs along the face has a distance from it, another one an angle.
    if (Math.abs(angle - Math.PI / 2) < PARALLEL) mm('Distance of axis and face', dot(subtract(axis.point, plane.point), plane.direction));
    else out.push({ what: 'Angle of axis and face', value: Math.PI / 2 - angle, unit: 'rad' });
  } else if (a.kind === 'plane' || b.kind === 'plane') {
    const plane = a.kind === 'plane' ? a : b;
    mm('Distance of point and face', dot(between, plane.direction));
  } else if (a.kind === 'axis' || b.kind === 'axis') {
    const axis = a.kind === 'axis' ? a : b;
    mm('Distance of point and axis', length(subtract(between, scale(axis.direction, dot(between, axis.direction)))));
  } else mm('Distance of the points', length(between));
  mm('Between the picked points', length(subtract(b.at, a.at)));
  return out;
}
