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
  const count = g.triangles.length;
  const numbers = new Map<number, number>();
  const vertices = g.positions.length / 3 + 1;
  const sideEdge = new Uint32Array(count);
  const ends: number[] = [];
  const sides: number[] = [];
  for (let t = 0; t < count; t += 3)
    for (let s = 0; s < 3; s++) {
      const a = g.triangles[t + s]!;
      const b = g.triangles[t + ((s + 1) % 3)]!;
      const key = a < b ? a * vertices + b : b * vertices + a;
      let e = numbers.get(key);
      if (e === undefined) {
        e = ends.length / 2;
        numbers.set(key, e);
        ends.push(Math.min(a, b), Math.max(a, b));
        sides.push(t / 3, -1);
      } else sides[e * 2 + 1] = t / 3;
      sideEdge[t + s] = e;
    }
  const sharp = new Uint8Array(ends.length / 2);
  const stepEdge = new Int32Array(g.edgeVertices.length).fill(-1);
  for (let i = 0; i < g.edgeClass.length; i++) {
    const isSharp = g.edgeClass[i] === EdgeClass.sharp || g.edgeClass[i] === EdgeClass.cut;
    for (let p = g.edgeStart[i]!; p < g.edgeStart[i + 1]! - 1; p++) {
      const a = g.edgeVertices[p]!;
      const b = g.edgeVertices[p + 1]!;
      const e = numbers.get(a < b ? a * vertices + b : b * vertices + a);
      if (e === undefined) continue;
      stepEdge[p] = e;
      if (isSharp) sharp[e] = 1;
    }
  }
  return { sideEdge, ends: Uint32Array.from(ends), sides: Int32Array.from(sides), sharp, stepEdge };
}
