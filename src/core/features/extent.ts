import { CurveKind, EDGE_STRIDE, FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { applyToDirection, applyToPoint, type Placement } from '../base/placement.ts';
import { withinTurn } from '../base/angle.ts';
import { cross, dot, length, scale, subtract, vectorAt, type Vec3 } from '../base/vector.ts';
import { ENDS_STRIDE, featuresOf, type PartFeatures } from './part-features.ts';

/** Least and greatest value along a direction, mm. */
export type Reach = readonly [number, number];

/**
 * How far the edges of a part reach along a direction. Circles count as such: not their chords. Ruled surfaces never reach
 * past their edges, so that for parts of planes, cylinders and cones this is exact.
 * @param way unit vector in the frame that the placement leads to
 */
export function edgeReach(f: PartFeatures, placement: Placement, way: Vec3): Reach {
  let [least, most] = [Infinity, -Infinity];
  const take = (v: number) => {
    if (v < least) least = v;
    if (v > most) most = v;
  };
  for (let e = 0; e < f.edgeCurve.length; e++) {
    for (let k = 0; k < ENDS_STRIDE; k += 3) take(dot(applyToPoint(placement, vectorAt(f.edgeEnds, e * ENDS_STRIDE + k)), way));
    if (f.edgeCurve[e] !== CurveKind.circle) continue;
    const centre = applyToPoint(placement, vectorAt(f.edgeParams, e * EDGE_STRIDE));
    const axis = applyToDirection(placement, vectorAt(f.edgeParams, e * EDGE_STRIDE + 3));
    const radius = f.edgeParams[e * EDGE_STRIDE + 6]!;
    const across = subtract(way, scale(axis, dot(way, axis)));
    const l = length(across);
    if (l < 1e-9) continue;
    const start = subtract(applyToPoint(placement, vectorAt(f.edgeEnds, e * ENDS_STRIDE)), centre);
    const end = subtract(applyToPoint(placement, vectorAt(f.edgeEnds, e * ENDS_STRIDE + 6)), centre);
    for (const side of [1, -1]) {
      const to = scale(across, side / l);
      if (onArc(start, end, f.edgeTurn[e]!, axis, to)) take(dot(centre, way) + side * radius * l);
    }
  }
  return [least, most];
}

/** Does an arc pass a direction from its centre? A mirrored placement turns its sense: both senses are tried. */
function onArc(start: Vec3, end: Vec3, turn: number, axis: Vec3, to: Vec3): boolean {
  const whole = 2 * Math.PI;
  if (Math.abs(turn) > whole - 1e-6) return true;
  const angle = (v: Vec3) => Math.atan2(dot(axis, cross(start, v)), dot(start, v));
  // The way round in which the end is where it should be.
  const sense = Math.abs(Math.sin((angle(end) - turn) / 2)) <= Math.abs(Math.sin((angle(end) + turn) / 2)) ? Math.sign(turn) : -Math.sign(turn);
  return withinTurn(sense * angle(to)) <= Math.abs(turn) + 1e-9;
}

/** Where spheres and tori would reach if they were whole: both ways along a direction. */
function bulges(f: PartFeatures, placement: Placement, way: Vec3): number[] {
  const out: number[] = [];
  for (let i = 0; i < f.faceKind.length; i++) {
    const kind = f.faceKind[i];
    if (kind !== SurfaceKind.sphere && kind !== SurfaceKind.torus) continue;
    const p = f.faceParams.subarray(i * FACE_STRIDE, (i + 1) * FACE_STRIDE);
    const middle = dot(applyToPoint(placement, [p[0]!, p[1]!, p[2]!]), way);
    const axis = applyToDirection(placement, [p[3]!, p[4]!, p[5]!]);
    const across = length(subtract(way, scale(axis, dot(way, axis))));
    const by = kind === SurfaceKind.sphere ? Math.abs(p[6]!) : Math.abs(p[6]!) * across + p[7]!;
    out.push(middle + by, middle - by);
  }
  return out;
}

/**
 * How far a part truly reaches, from how far its mesh does: the mesh lies inside where the part is round.
 * @param mesh reach of the mesh
 */
export function trueReach(f: PartFeatures, placement: Placement, way: Vec3, mesh: Reach): Reach {
  const edges = edgeReach(f, placement, way);
  let [least, most] = [Math.min(mesh[0], edges[0]), Math.max(mesh[1], edges[1])];
  const slack = 1.5 * f.deflectionMm;
  for (const b of bulges(f, placement, way)) {
    if (b > most && b <= mesh[1] + slack) most = b;
    if (b < least && b >= mesh[0] - slack) least = b;
  }
  return [least, most];
}

/** How far parts in their places reach along a direction together. @returns undefined for none */
export function reachOf(bodies: readonly { readonly geometry: PartGeometry; readonly placement: Placement }[], way: Vec3): Reach | undefined {
  let out: [number, number] | undefined;
  for (const { geometry, placement } of bodies) {
    const [least, most] = trueReach(featuresOf(geometry), placement, way, meshReach(geometry, placement, way));
    if (!(least <= most)) continue;
    out = out ? [Math.min(out[0], least), Math.max(out[1], most)] : [least, most];
  }
  return out;
}

function meshReach(g: PartGeometry, p: Placement, way: Vec3): Reach {
  const x = p[0]! * way[0] + p[4]! * way[1] + p[8]! * way[2];
  const y = p[1]! * way[0] + p[5]! * way[1] + p[9]! * way[2];
  const z = p[2]! * way[0] + p[6]! * way[1] + p[10]! * way[2];
  const shift = p[3]! * way[0] + p[7]! * way[1] + p[11]! * way[2];
  let [least, most] = [Infinity, -Infinity];
  const q = g.positions;
  for (let i = 0; i < g.triangles.length; i++) {
    const v = g.triangles[i]! * 3;
    const h = q[v]! * x + q[v + 1]! * y + q[v + 2]! * z;
    if (h < least) least = h;
    if (h > most) most = h;
  }
  return [least + shift, most + shift];
}
