import { CurveKind, EDGE_STRIDE, EdgeClass, type PartGeometry } from '../assembly/part-geometry.ts';
import type { Vec3 } from '../base/vector.ts';
import { Floats, Ints } from '../base/buffers.ts';
import type { Candidates } from './candidate-lines.ts';
import { LineClass } from './linework.ts';
import { traceOutlines } from './outlines.ts';
import { EDGE_ON, type PartView } from './scene.ts';
import { topologyOf } from './topology.ts';
import { signChange, trueFacing } from './true-outline.ts';

/** Collects the sharp edges, the tangent edges if wanted, and the outlines of one part. */
export function collectCandidates(b: PartView, tangents: boolean): Candidates {
  const out: Candidates = {
    xyz: new Floats(),
    start: new Ints(64),
    kind: new Ints(64),
    edge: new Ints(64),
    covered: new Floats(256),
    deflection: new Floats(64),
  };
  const g = b.geometry;
  const topology = topologyOf(g);
  for (let e = 0; e < g.edgeClass.length; e++) {
    const c = g.edgeClass[e]!;
    if (c === EdgeClass.seam || (c === EdgeClass.tangent && !tangents) || alongWall(b, e)) continue;
    const kind = c === EdgeClass.cut ? LineClass.cut : c === EdgeClass.tangent ? LineClass.tangent : LineClass.sharp;
    out.start.push(out.xyz.length / 3);
    out.kind.push(kind);
    out.edge.push(e);
    out.deflection.push(edgeDeflection(g, e));
    for (let p = g.edgeStart[e]!; p < g.edgeStart[e + 1]!; p++) {
      const v = g.edgeVertices[p]! * 3;
      out.xyz.push3(b.xyz[v]!, b.xyz[v + 1]!, b.xyz[v + 2]!);
      const mesh = topology.stepEdge[p]!;
      const [lo, hi] = g.closed && mesh >= 0 ? turnedAway(b, topology.sides, mesh, g.edgeVertices[p]!, g.edgeVertices[p + 1]!) : NONE;
      out.covered.push(lo);
      out.covered.push(hi);
    }
  }
  traceOutlines(out, b, topology);
  out.start.push(out.xyz.length / 3);
  return out;
}

/** How far the chords of an edge may be off its curve, mm. */
function edgeDeflection(g: PartGeometry, e: number): number {
  if (g.edgeCurve[e] === CurveKind.line) return 0;
  if (g.edgeCurve[e] !== CurveKind.circle) return g.deflectionMm;
  const p = g.positions;
  let longest = 0;
  for (let k = g.edgeStart[e]!; k < g.edgeStart[e + 1]! - 1; k++) {
    const [i, j] = [g.edgeVertices[k]! * 3, g.edgeVertices[k + 1]! * 3];
    longest = Math.max(longest, (p[j]! - p[i]!) ** 2 + (p[j + 1]! - p[i + 1]!) ** 2 + (p[j + 2]! - p[i + 2]!) ** 2);
  }
  return longest / (8 * g.edgeParams[e * EDGE_STRIDE + 6]!);
}

/** Does the edge bound a wall that a stepped or half cut left and that is seen edge-on? */
function alongWall({ geometry: g, edgeOn }: PartView, e: number): boolean {
  if (!g.walls) return false;
  const [f, h] = [g.edgeFaces[e * 2]!, g.edgeFaces[e * 2 + 1]!];
  return (g.walls[f] === 1 && edgeOn[f] === 1) || (h >= 0 && g.walls[h] === 1 && edgeOn[h] === 1);
}

const NONE = [0, 0] as const;

/**
 * The stretch of a mesh edge, from vertex v to w, along which both its faces are turned away from the reader. It ends
 * where the outline of a curved face begins, not where the mesh has a vertex.
 */
function turnedAway(b: PartView, sides: Int32Array, mesh: number, v: number, w: number): readonly [number, number] {
  let lo = 0;
  let hi = 1;
  for (let k = 0; k < 2; k++) {
    const t = sides[mesh * 2 + k]!;
    // Where a cap's triangles leave out a point of its outline, it cannot be told which way they look.
    if (t < 0) return NONE;
    if (b.edgeOn[b.geometry.triangleFace[t]!]) continue;
    const p = facingAt(b, t, v) - EDGE_ON;
    const q = facingAt(b, t, w) - EDGE_ON;
    if (p > 0 && q > 0) return NONE;
    if (!(p > 0 || q > 0)) continue;
    const at = signChange(vertexAt(b, v), vertexAt(b, w), p, q, trueFacing(b, b.geometry.triangleFace[t]!));
    if (p > 0) lo = Math.max(lo, at);
    else hi = Math.min(hi, at);
  }
  return lo < hi ? [lo, hi] : NONE;
}

function vertexAt(b: PartView, v: number): Vec3 {
  return [b.xyz[v * 3]!, b.xyz[v * 3 + 1]!, b.xyz[v * 3 + 2]!];
}

function facingAt(b: PartView, t: number, vertex: number): number {
  const tri = b.geometry.triangles;
  const corner = tri[t * 3] === vertex ? 0 : tri[t * 3 + 1] === vertex ? 1 : 2;
  return b.facing[t * 3 + corner]!;
}
