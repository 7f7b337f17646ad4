import { EdgeList } from '../assembly/edge-list.ts';
import { fitCurve } from '../assembly/fit.ts';
import { meshEdges } from '../assembly/mesh-edges.ts';
import { boxOf, CurveKind, EDGE_STRIDE, EdgeClass, FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { chainsOf } from '../base/chains.ts';
import { add, cross, dot, length, normalize, scale, subtract, type Vec3 } from '../base/vector.ts';
import { faceDistance, type Prism } from './prism.ts';
import { settleInPlane } from './settle.ts';
import type { SolidDifference, SolidPort } from './solid-port.ts';

export interface ToolCut {
  /** What remains; undefined when nothing does. Faces from `firstCap` on are the tool's, in its order. */
  readonly geometry: PartGeometry | undefined;
  readonly firstCap: number;
  /** What the chords of curved faces leave out of (or put into) the mesh area of each tool face, mm². */
  readonly bulge: Float64Array;
}

const NO_BULGE = new Float64Array(0);

/**
 * Takes a prism away from a part.
 * @param tool in the part's own frame
 * @returns undefined when the part is no closed solid
 */
export function cutWithTool(g: PartGeometry, tool: Prism, port: SolidPort): ToolCut | undefined {
  const firstCap = g.faceKind.length;
  if (apart(g.box, boxOf(tool.positions))) return { geometry: g, firstCap, bulge: NO_BULGE };
  if (!g.closed) return undefined;
  const rest = port.subtract({ positions: g.positions, triangles: g.triangles }, tool);
  if (!rest) return undefined;
  if (rest.triangles.length === 0) return { geometry: undefined, firstCap, bulge: NO_BULGE };
  const faceOf = (t: number) => {
    const s = rest.source[t]!;
    return s >= 0 ? g.triangleFace[s]! : firstCap + tool.face[-1 - s]!;
  };
  const count = rest.triangles.length / 3;
  const triangleFace = Uint32Array.from({ length: count }, (_, t) => faceOf(t));
  const faceKind = new Uint8Array(firstCap + tool.normals.length).fill(SurfaceKind.plane);
  faceKind.set(g.faceKind);
  const faceParams = new Float64Array(faceKind.length * FACE_STRIDE);
  faceParams.set(g.faceParams);
  tool.normals.forEach((n, f) => {
    const d = faceDistance(tool, f);
    faceParams.set([n[0] * d, n[1] * d, n[2] * d, -n[0], -n[1], -n[2], 0, 0], (firstCap + f) * FACE_STRIDE);
  });
  const mesh = meshEdges(rest.triangles);
  const { positions, bulge } = rounded(g, rest, triangleFace, mesh, firstCap, tool);
  const settled = { ...rest, positions };
  return {
    firstCap,
    bulge,
    geometry: {
      ...g,
      positions,
      triangles: rest.triangles,
      triangleFace,
      cornerNormals: normalsOf(g, settled, tool),
      faceKind,
      faceParams,
      ...edgesOf(g, settled, triangleFace, mesh, firstCap),
      closed: true,
      box: boxOf(positions),
    },
  };
}

const apart = (a: readonly number[], b: readonly number[]) => [0, 1, 2].some((k) => a[k]! >= b[k + 3]! || b[k]! >= a[k + 3]!);

type MeshEdges = ReturnType<typeof meshEdges>;

/**
 * Cut points lie on the mesh's chords: those between one tool face and a recognised face are put on the true surface,
 * within the tool's plane, and what the chords still leave out is summed up per tool face (parabolas over the chords).
 */
function rounded(g: PartGeometry, rest: SolidDifference, face: Uint32Array, mesh: MeshEdges, firstCap: number, tool: Prism) {
  const positions = rest.positions.slice();
  const bulge = new Float64Array(tool.normals.length);
  const at = (v: number): Vec3 => [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!];
  const settlers = new Map<string, ((p: Vec3) => Vec3) | undefined>();
  const settler = (f: number, h: number) => {
    const key = `${f},${h}`;
    if (!settlers.has(key)) settlers.set(key, settleInPlane(g, f, tool.normals[h]!, 4 * g.deflectionMm));
    return settlers.get(key);
  };
  // A corner of the tool stays where two of its planes want it.
  const toolFace = new Int32Array(positions.length / 3).fill(-1);
  for (let t = 0; t < face.length; t++) {
    if (face[t]! < firstCap) continue;
    for (let k = 0; k < 3; k++) {
      const v = rest.triangles[t * 3 + k]!;
      toolFace[v] = toolFace[v] === -1 || toolFace[v] === face[t] ? face[t]! : -2;
    }
  }
  const rim: { cap: number; h: number; ends: [number, number]; settle: (p: Vec3) => Vec3 }[] = [];
  const done = new Uint8Array(toolFace.length);
  for (let m = 0; m < mesh.ends.length / 2; m++) {
    const [t, u] = [mesh.sides[m * 2]!, mesh.sides[m * 2 + 1]!];
    if (u < 0 || face[t]! >= firstCap === face[u]! >= firstCap) continue;
    const [cap, other] = face[t]! >= firstCap ? [t, u] : [u, t];
    const settle = settler(face[other]!, face[cap]! - firstCap);
    if (!settle) continue;
    const ends: [number, number] = [mesh.ends[m * 2]!, mesh.ends[m * 2 + 1]!];
    rim.push({ cap, h: face[cap]! - firstCap, ends, settle });
    for (const v of ends) {
      if (done[v] || toolFace[v]! < 0) continue;
      done[v] = 1;
      positions.set(settle(at(v)), v * 3);
    }
  }
  for (const { cap, h, ends, settle } of rim) {
    const [p, q] = [at(ends[0]), at(ends[1])];
    const middle = scale(add(p, q), 0.5);
    const sag = subtract(settle(middle), middle);
    const third = rest.triangles.slice(cap * 3, cap * 3 + 3).find((v) => v !== ends[0] && v !== ends[1])!;
    const inward = subtract(at(third), middle);
    bulge[h]! -= ((Math.sign(dot(sag, inward)) * 2) / 3) * length(sag) * length(subtract(q, p));
  }
  return { positions, bulge };
}

/** Normals of the part are carried over by barycentric weights; those of the cut look out of the tool's hollow. */
function normalsOf(g: PartGeometry, rest: SolidDifference, tool: Prism): Float32Array {
  const out = new Float32Array(rest.triangles.length * 3);
  const at = (p: ArrayLike<number>, v: number): Vec3 => [p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!];
  for (let t = 0; t < rest.source.length; t++) {
    const s = rest.source[t]!;
    if (s < 0) {
      const n = scale(tool.normals[tool.face[-1 - s]!]!, -1);
      for (let k = 0; k < 3; k++) out.set(n, t * 9 + k * 3);
      continue;
    }
    const [a, b, c] = [0, 1, 2].map((k) => at(g.positions, g.triangles[s * 3 + k]!)) as [Vec3, Vec3, Vec3];
    const u = subtract(b, a);
    const v = subtract(c, a);
    const n = cross(u, v);
    const nn = dot(n, n);
    for (let k = 0; k < 3; k++) {
      const d = subtract(at(rest.positions, rest.triangles[t * 3 + k]!), a);
      const wb = nn > 0 ? dot(cross(d, v), n) / nn : 0;
      const wc = nn > 0 ? dot(cross(u, d), n) / nn : 0;
      const o = s * 9;
      const mix = [0, 1, 2].map(
        (i) => (1 - wb - wc) * g.cornerNormals[o + i]! + wb * g.cornerNormals[o + 3 + i]! + wc * g.cornerNormals[o + 6 + i]!,
      ) as unknown as Vec3;
      out.set(length(mix) > 0 ? normalize(mix) : mix, t * 9 + k * 3);
    }
  }
  return out;
}

/** Edges are where the face changes: those of the part keep class and curve, those along the cut are cut edges. */
function edgesOf(g: PartGeometry, rest: SolidDifference, face: Uint32Array, mesh: MeshEdges, firstCap: number) {
  const between = new Map<string, number[]>();
  for (let e = 0; e < g.edgeClass.length; e++) {
    const [f, h] = [g.edgeFaces[e * 2]!, g.edgeFaces[e * 2 + 1]!];
    const key = f < h ? `${f},${h}` : `${h},${f}`;
    between.set(key, [...(between.get(key) ?? []), e]);
  }
  const groups = new Map<string, { edge: number; faces: [number, number]; pieces: number[] }>();
  for (let m = 0; m < mesh.ends.length / 2; m++) {
    const [t, u] = [mesh.sides[m * 2]!, mesh.sides[m * 2 + 1]!];
    if (u < 0) continue;
    const [f, h] = [Math.min(face[t]!, face[u]!), Math.max(face[t]!, face[u]!)];
    if (f === h) continue;
    const ends: [number, number] = [mesh.ends[m * 2]!, mesh.ends[m * 2 + 1]!];
    const edge = h >= firstCap ? -1 : nearestEdge(g, between.get(`${f},${h}`), rest.positions, ends);
    if (h < firstCap && edge < 0) continue;
    const key = `${f},${h},${edge}`;
    const group = groups.get(key) ?? { edge, faces: [f, h], pieces: [] };
    group.pieces.push(...ends);
    groups.set(key, group);
  }
  const out = new EdgeList();
  for (const { edge, faces, pieces } of groups.values())
    for (const { nodes: chain } of chainsOf(pieces)) {
      const samples = chain.flatMap((v) => [rest.positions[v * 3]!, rest.positions[v * 3 + 1]!, rest.positions[v * 3 + 2]!]);
      const curve =
        edge >= 0
          ? { kind: g.edgeCurve[edge]!, params: g.edgeParams.subarray(edge * EDGE_STRIDE, (edge + 1) * EDGE_STRIDE) }
          : chain.length === 2
            ? { kind: CurveKind.line, params: [] }
            : fitCurve(samples);
      const origin = edge < 0 ? -1 - faces[0] : (g.edgeOrigin?.[edge] ?? edge);
      out.add(chain, edge >= 0 ? g.edgeClass[edge]! : EdgeClass.cut, faces, curve, origin);
    }
  return out.finishCut();
}

/** Two faces may meet along several edges: the one whose chord passes nearest to the middle of the piece. */
function nearestEdge(g: PartGeometry, edges: readonly number[] | undefined, positions: Float64Array, [a, b]: readonly [number, number]): number {
  if (!edges) return -1;
  if (edges.length === 1) return edges[0]!;
  const middle = [0, 1, 2].map((k) => (positions[a * 3 + k]! + positions[b * 3 + k]!) / 2) as unknown as Vec3;
  let best = -1;
  let least = Infinity;
  for (const e of edges)
    for (let p = g.edgeStart[e]!; p < g.edgeStart[e + 1]! - 1; p++) {
      const [i, j] = [g.edgeVertices[p]! * 3, g.edgeVertices[p + 1]! * 3];
      const from: Vec3 = [g.positions[i]!, g.positions[i + 1]!, g.positions[i + 2]!];
      const step: Vec3 = [g.positions[j]! - from[0], g.positions[j + 1]! - from[1], g.positions[j + 2]! - from[2]];
      const d = subtract(middle, from);
      const l2 = dot(step, step);
      const t = l2 > 0 ? Math.max(0, Math.min(1, dot(d, step) / l2)) : 0;
      const off = length(subtract(d, scale(step, t)));
      if (off < least) {
        least = off;
        best = e;
      }
    }
  return best;
}
