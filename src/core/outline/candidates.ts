import { CurveKind, EdgeClass, SurfaceKind } from '../assembly/part-geometry.ts';
import { Floats, Ints } from '../base/buffers.ts';
import { LineClass } from './linework.ts';
import { traceOutlines } from './outlines.ts';
import { Facing, type ProjectedBody } from './scene.ts';
import { topologyOf } from './topology.ts';

/** Lines that may be drawn: chains of points in view space. Chain `i` is the points `start[i]` to `start[i + 1]`. */
export interface Candidates {
  readonly xyz: Floats;
  readonly start: Ints;
  /** Index into the bodies. */
  readonly body: Ints;
  readonly kind: Ints;
  /** Edge of the part, or `-1 - face` for an outline. */
  readonly edge: Ints;
  /** 1 per point: the segment that begins here is hidden by its own part without a test. */
  readonly covered: Ints;
  /** How far the chain may be off its true curve, mm. */
  readonly deflection: Floats;
}

export function newCandidates(): Candidates {
  return { xyz: new Floats(), start: new Ints(), body: new Ints(), kind: new Ints(), edge: new Ints(), covered: new Ints(), deflection: new Floats() };
}

/** Collects the sharp edges, the tangent edges if wanted, and the outlines of one body. */
export function collectCandidates(out: Candidates, b: ProjectedBody, index: number, tangents: boolean): void {
  const g = b.body.geometry;
  const topology = topologyOf(g);
  for (let e = 0; e < g.edgeClass.length; e++) {
    const c = g.edgeClass[e]!;
    if (c === EdgeClass.seam || (c === EdgeClass.tangent && !tangents)) continue;
    const kind = c === EdgeClass.cut ? LineClass.cut : c === EdgeClass.tangent ? LineClass.tangent : LineClass.sharp;
    out.start.push(out.xyz.length / 3);
    out.body.push(index);
    out.kind.push(kind);
    out.edge.push(e);
    out.deflection.push(g.edgeCurve[e] === CurveKind.line ? 0 : g.deflectionMm);
    for (let p = g.edgeStart[e]!; p < g.edgeStart[e + 1]!; p++) {
      const v = g.edgeVertices[p]! * 3;
      out.xyz.push(b.xyz[v]!);
      out.xyz.push(b.xyz[v + 1]!);
      out.xyz.push(b.xyz[v + 2]!);
      const mesh = topology.stepEdge[p]!;
      out.covered.push(g.closed && mesh >= 0 && !looksAtReader(b, topology.sides, mesh) ? 1 : 0);
    }
  }
  traceOutlines(out, b, index, topology);
}

/** Does one of the edge's two triangles face the reader? */
function looksAtReader(b: ProjectedBody, sides: Int32Array, mesh: number): boolean {
  for (let k = 0; k < 2; k++) {
    const t = sides[mesh * 2 + k]!;
    if (t >= 0 && b.side[t]! >= Facing.front) return true;
  }
  return false;
}

/** 0 for planar faces, else the part's deflection: how far a triangle may be from its surface. */
export function faceDeflection(b: ProjectedBody, face: number): number {
  return b.body.geometry.faceKind[face] === SurfaceKind.plane ? 0 : b.body.geometry.deflectionMm;
}
