import { CurveKind, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { cross, dot, length, scale, subtract, type Vec3 } from '../base/vector.ts';
import type { Helix, Round } from './part-features.ts';

/** Less of a turn is no winding, rad. */
const LEAST_TURN = 1.2 * Math.PI;
/** A helix keeps its radius and its slope within this share of the radius. */
const TRUE_SHARE = 0.02;

/** Edges that wind about the axis of a round surface at one distance and with one slope. */
export function helicesOf(g: PartGeometry, rounds: readonly Round[]): Helix[] {
  const out: Helix[] = [];
  const axes = distinctAxes(rounds);
  if (!axes.length) return out;
  for (let e = 0; e < g.edgeClass.length; e++) {
    if (g.edgeCurve[e] !== CurveKind.free || g.edgeStart[e + 1]! - g.edgeStart[e]! < 8) continue;
    for (const axis of axes) {
      const found = windingOf(g, e, rounds[axis]!);
      if (!found) continue;
      out.push({ edge: e, axis, ...found });
      break;
    }
  }
  return out;
}

/** One round for each axis. */
function distinctAxes(rounds: readonly Round[]): number[] {
  const out: number[] = [];
  rounds.forEach((r, i) => {
    if (r.kind !== SurfaceKind.cylinder && r.kind !== SurfaceKind.cone) return;
    const same = (o: Round) => {
      const d = subtract(r.at, o.at);
      return Math.abs(dot(r.axis, o.axis)) > 1 - 1e-6 && length(subtract(d, scale(o.axis, dot(d, o.axis)))) < 1e-3;
    };
    if (!out.some((o) => same(rounds[o]!))) out.push(i);
  });
  return out;
}

function windingOf(g: PartGeometry, e: number, r: Round): Omit<Helix, 'edge' | 'axis'> | undefined {
  const points: { along: number; radial: Vec3; radius: number }[] = [];
  for (let k = g.edgeStart[e]!; k < g.edgeStart[e + 1]!; k++) {
    const v = g.edgeVertices[k]! * 3;
    const d = subtract([g.positions[v]!, g.positions[v + 1]!, g.positions[v + 2]!], r.at);
    const along = dot(d, r.axis);
    const radial = subtract(d, scale(r.axis, along));
    points.push({ along, radial, radius: length(radial) });
  }
  const radius = points.reduce((s, p) => s + p.radius, 0) / points.length;
  if (points.some((p) => Math.abs(p.radius - radius) > TRUE_SHARE * radius)) return undefined;
  let turn = 0;
  const turns = [0];
  for (let k = 1; k < points.length; k++) {
    const [a, b] = [points[k - 1]!.radial, points[k]!.radial];
    turn += Math.atan2(dot(r.axis, cross(a, b)), dot(a, b));
    turns.push(turn);
  }
  if (Math.abs(turn) < LEAST_TURN) return undefined;
  const rise = points.at(-1)!.along - points[0]!.along;
  const slope = rise / turn;
  if (Math.abs(rise) < 1e-3 * radius) return undefined;
  if (points.some((p, k) => Math.abs(p.along - points[0]!.along - slope * turns[k]!) > TRUE_SHARE * radius)) return undefined;
  const [from, to] = [points[0]!.along, points.at(-1)!.along].sort((a, b) => a - b) as [number, number];
  return { radius, pitch: slope * 2 * Math.PI, from, to, inward: isInward(g, e, r) };
}

/** Does a face beside an edge look towards the axis? */
function isInward(g: PartGeometry, e: number, r: Round): boolean {
  const faces = [g.edgeFaces[e * 2]!, g.edgeFaces[e * 2 + 1]!];
  let sum = 0;
  for (let t = 0; t < g.triangleFace.length; t++) {
    if (!faces.includes(g.triangleFace[t]!)) continue;
    for (let k = 0; k < 3; k++) {
      const v = g.triangles[t * 3 + k]! * 3;
      const d = subtract([g.positions[v]!, g.positions[v + 1]!, g.positions[v + 2]!], r.at);
      const out = subtract(d, scale(r.axis, dot(d, r.axis)));
      sum += dot([g.cornerNormals[t * 9 + k * 3]!, g.cornerNormals[t * 9 + k * 3 + 1]!, g.cornerNormals[t * 9 + k * 3 + 2]!], out);
    }
  }
  return sum < 0;
}
