import { EdgeClass, type PartGeometry } from '../assembly/part-geometry.ts';

/** Which triangles meet along which mesh edges. */
export interface MeshTopology {
  /** Mesh edge of each triangle side: side k runs from corner k to corner k + 1. */
  readonly sideEdge: Uint32Array;
  /** Two per mesh edge: its vertices, lower first. */
  readonly ends: Uint32Array;
  /** Two per mesh edge: its triangles, -1 where there is none. */
  readonly sides: Int32Array;
  /** 1 where a sharp B-rep edge runs along the mesh edge. */
  readonly sharp: Uint8Array;
  /** Mesh edge under each step of the B-rep edges' vertex lists: entry `i` joins entries i and i + 1; -1 for none. */
  readonly stepEdge: Int32Array;
  /** 1 for vertices at which a face has no normal of its own: apexes. */
  readonly apex: Uint8Array;
}

const cache = new WeakMap<PartGeometry, MeshTopology>();

/** Computed once per geometry. */
export function topologyOf(g: PartGeometry): MeshTopology {
  let t = cache.get(g);
  if (!t) {
    t = build(g);
    cache.set(g, t);
  }
  return t;
}

function build(g: PartGeometry): MeshTopology {
  const mesh = meshEdges(g.triangles);
  const sharp = new Uint8Array(mesh.ends.length / 2);
  const stepEdge = new Int32Array(g.edgeVertices.length).fill(-1);
  for (let i = 0; i < g.edgeClass.length; i++) {
    const isSharp = g.edgeClass[i] === EdgeClass.sharp || g.edgeClass[i] === EdgeClass.cut;
    for (let p = g.edgeStart[i]!; p < g.edgeStart[i + 1]! - 1; p++) {
      const e = mesh.find(g.edgeVertices[p]!, g.edgeVertices[p + 1]!);
      if (e < 0) continue;
      stepEdge[p] = e;
      if (isSharp) sharp[e] = 1;
    }
  }
  return { sideEdge: mesh.sideEdge, ends: mesh.ends, sides: mesh.sides, sharp, stepEdge, apex: apexesOf(g) };
}

/** Normals of one face at one point differ by more than this only at an apex. cos 20° */
const APEX_COS = Math.cos(Math.PI / 9);

function apexesOf(g: PartGeometry): Uint8Array {
  const count = g.positions.length / 3;
  const out = new Uint8Array(count);
  const corner = new Int32Array(count).fill(-1);
  const n = g.cornerNormals;
  for (let i = 0; i < g.triangles.length; i++) {
    const v = g.triangles[i]!;
    const face = g.triangleFace[(i / 3) | 0]!;
    const known = corner[v]!;
    if (known < 0 || g.triangleFace[(known / 3) | 0] !== face) {
      corner[v] = i;
      continue;
    }
    if (n[i * 3]! * n[known * 3]! + n[i * 3 + 1]! * n[known * 3 + 1]! + n[i * 3 + 2]! * n[known * 3 + 2]! < APEX_COS) out[v] = 1;
  }
  return out;
}

export interface MeshEdges {
  readonly sideEdge: Uint32Array;
  readonly ends: Uint32Array;
  /** Third and further triangles of an edge are passed over. */
  readonly sides: Int32Array;
  /** 1 where more than two triangles meet. */
  readonly crowded: Uint8Array;
  /** Number of the mesh edge between two vertices, -1 for none. */
  find(a: number, b: number): number;
}

/** Edges of a triangle mesh, numbered in order of first use. */
export function meshEdges(triangles: Uint32Array): MeshEdges {
  const count = triangles.length;
  let size = 16;
  while (size < count * 2) size *= 2;
  const mask = size - 1;
  const table = new Int32Array(size).fill(-1);
  const sideEdge = new Uint32Array(count);
  const ends = new Uint32Array(count * 2);
  const sides = new Int32Array(count * 2).fill(-1);
  const crowded = new Uint8Array(count);
  let n = 0;
  const slotOf = (a: number, b: number): number => {
    let h = (Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b)) >>> 0;
    h = (h ^ (h >>> 15)) & mask;
    for (;;) {
      const e = table[h]!;
      if (e < 0 || (ends[e * 2] === a && ends[e * 2 + 1] === b)) return h;
      h = (h + 1) & mask;
    }
  };
  for (let t = 0; t < count; t += 3)
    for (let s = 0; s < 3; s++) {
      const p = triangles[t + s]!;
      const q = triangles[t + (s === 2 ? 0 : s + 1)]!;
      const a = p < q ? p : q;
      const b = p < q ? q : p;
      const h = slotOf(a, b);
      let e = table[h]!;
      if (e < 0) {
        e = n++;
        table[h] = e;
        ends[e * 2] = a;
        ends[e * 2 + 1] = b;
        sides[e * 2] = t / 3;
      } else if (sides[e * 2 + 1]! < 0) sides[e * 2 + 1] = t / 3;
      else crowded[e] = 1;
      sideEdge[t + s] = e;
    }
  return {
    sideEdge,
    ends: ends.slice(0, n * 2),
    sides: sides.slice(0, n * 2),
    crowded: crowded.slice(0, n),
    find: (a, b) => table[slotOf(Math.min(a, b), Math.max(a, b))]!,
  };
}
