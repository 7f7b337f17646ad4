import { SurfaceKind } from '../assembly/part-geometry.ts';
import type { Candidates } from './candidates.ts';
import { LineClass } from './linework.ts';
import { EDGE_ON, Facing, type ProjectedBody } from './scene.ts';
import type { MeshTopology } from './topology.ts';

/** A piece of outline between two nodes; nodes are mesh edges (crossings) or vertices. */
interface Piece {
  readonly face: number;
  readonly a: number;
  readonly b: number;
}

/**
 * Outlines (where the surface turns away) of curved faces: n·toward = 0 traced between exact vertex normals, and smooth
 * mesh edges that lie on the outline themselves: beside a face seen edge-on, or where the mesh happens to run along it.
 */
export function traceOutlines(out: Candidates, b: ProjectedBody, index: number, topology: MeshTopology): void {
  const g = b.body.geometry;
  const vertexBase = topology.ends.length / 2;
  const points = new Map<number, readonly [number, number, number]>();
  const pieces: Piece[] = [];

  for (let t = 0; t < b.side.length; t++) {
    if (b.side[t] !== Facing.mixed) continue;
    const face = g.triangleFace[t]!;
    if (g.faceKind[face] === SurfaceKind.plane) continue;
    const nodes: number[] = [];
    for (let s = 0; s < 3; s++) {
      const i = t * 3 + s;
      const j = t * 3 + ((s + 1) % 3);
      const p = snap(b.facing[i]!);
      const q = snap(b.facing[j]!);
      if (p === 0) {
        const node = vertexBase + g.triangles[i]!;
        nodes.push(node);
        const v = g.triangles[i]! * 3;
        points.set(node, [b.xyz[v]!, b.xyz[v + 1]!, b.xyz[v + 2]!]);
      }
      if (p * q < 0) {
        // Two faces that meet at a sharp edge have normals of their own there: a node for each.
        const e = topology.sideEdge[i]!;
        const node = topology.sharp[e] ? -1 - (face * vertexBase + e) : e;
        nodes.push(node);
        if (!points.has(node)) points.set(node, crossing(b, i, j));
      }
    }
    if (nodes.length === 2) pieces.push({ face, a: nodes[0]!, b: nodes[1]! });
  }

  for (let e = 0; e < vertexBase; e++) {
    if (topology.sharp[e]) continue;
    const [t, u] = [topology.sides[e * 2]!, topology.sides[e * 2 + 1]!];
    if (u < 0) continue;
    if ((b.side[t] === Facing.front) === (b.side[u] === Facing.front) || b.side[t] === Facing.mixed || b.side[u] === Facing.mixed) continue;
    if (!grazing(b, t, e, topology) && !grazing(b, u, e, topology)) continue;
    const front = b.side[t] === Facing.front ? t : u;
    const [v, w] = [topology.ends[e * 2]!, topology.ends[e * 2 + 1]!];
    for (const x of [v, w]) points.set(vertexBase + x, [b.xyz[x * 3]!, b.xyz[x * 3 + 1]!, b.xyz[x * 3 + 2]!]);
    pieces.push({ face: g.triangleFace[front]!, a: vertexBase + v, b: vertexBase + w });
  }
  chain(out, index, pieces, points, g.deflectionMm);
}

const snap = (f: number) => (Math.abs(f) <= EDGE_ON ? 0 : f);

/** Are both ends of mesh edge `e` seen edge-on in triangle `t`? */
function grazing(b: ProjectedBody, t: number, e: number, topology: MeshTopology): boolean {
  for (let s = 0; s < 3; s++) if (topology.sideEdge[t * 3 + s] === e) return snap(b.facing[t * 3 + s]!) === 0 && snap(b.facing[t * 3 + ((s + 1) % 3)]!) === 0;
  return false;
}

/**
 * Where the outline crosses the mesh edge between corners i and j: the zero of the facing, put back on the surface by
 * the cubic that has the corners' normals (Vlachos et al., Curved PN Triangles, 2001).
 */
function crossing(b: ProjectedBody, i: number, j: number): readonly [number, number, number] {
  const tri = b.body.geometry.triangles;
  // The same result from both sides: lower vertex first.
  if (tri[i]! > tri[j]!) [i, j] = [j, i];
  const t = b.facing[i]! / (b.facing[i]! - b.facing[j]!);
  const [p, q] = [tri[i]! * 3, tri[j]! * 3];
  let dp = 0;
  let dq = 0;
  for (let k = 0; k < 3; k++) {
    const d = b.xyz[q + k]! - b.xyz[p + k]!;
    dp += d * b.normals[i * 3 + k]!;
    dq -= d * b.normals[j * 3 + k]!;
  }
  const s = 1 - t;
  const out: [number, number, number] = [0, 0, 0];
  for (let k = 0; k < 3; k++) {
    const P = b.xyz[p + k]!;
    const Q = b.xyz[q + k]!;
    const b1 = (2 * P + Q - dp * b.normals[i * 3 + k]!) / 3;
    const b2 = (2 * Q + P - dq * b.normals[j * 3 + k]!) / 3;
    out[k] = s * s * s * P + 3 * s * s * t * b1 + 3 * s * t * t * b2 + t * t * t * Q;
  }
  return out;
}

/** Joins pieces of a face end to end. */
function chain(
  out: Candidates,
  index: number,
  pieces: readonly Piece[],
  points: ReadonlyMap<number, readonly [number, number, number]>,
  deflection: number,
): void {
  const byFace = new Map<number, Piece[]>();
  for (const p of pieces) {
    const list = byFace.get(p.face);
    if (list) list.push(p);
    else byFace.set(p.face, [p]);
  }
  for (const [face, list] of byFace) {
    const at = new Map<number, number[]>();
    list.forEach((p, i) => {
      for (const n of [p.a, p.b]) {
        const l = at.get(n);
        if (l) l.push(i);
        else at.set(n, [i]);
      }
    });
    const used = new Uint8Array(list.length);
    const walk = (first: number, from: number): void => {
      const nodes = [from];
      let piece: number | undefined = first;
      let node = from;
      while (piece !== undefined) {
        used[piece] = 1;
        const p: Piece = list[piece]!;
        node = p.a === node ? p.b : p.a;
        nodes.push(node);
        const next: number[] = at.get(node)!;
        piece = next.length === 2 ? next.find((i) => !used[i]) : undefined;
      }
      out.start.push(out.xyz.length / 3);
      out.body.push(index);
      out.kind.push(LineClass.outline);
      out.edge.push(-1 - face);
      out.deflection.push(deflection);
      for (const n of nodes) {
        const xyz = points.get(n)!;
        for (const v of xyz) out.xyz.push(v);
        out.covered.push(0);
      }
    };
    // Open chains from their ends first, then the closed ones.
    list.forEach((p, i) => {
      if (used[i]) return;
      if (at.get(p.a)!.length !== 2) walk(i, p.a);
      else if (at.get(p.b)!.length !== 2) walk(i, p.b);
    });
    list.forEach((p, i) => {
      if (!used[i]) walk(i, p.a);
    });
  }
}
