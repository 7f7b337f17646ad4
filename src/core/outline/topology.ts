import { meshEdges } from '../assembly/mesh-edges.ts';
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
