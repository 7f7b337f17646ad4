import { chainsOf } from '../base/chains.ts';
import { cross, dot, length, normalize, subtract, type Vec3 } from '../base/vector.ts';
import { EdgeList } from './edge-list.ts';
import { fitCurve, fitSurface } from './fit.ts';
import { meshEdges, type MeshEdges } from './mesh-edges.ts';
import { boxDiagonal, boxOf, EdgeClass, FACE_STRIDE, SurfaceKind, type PartGeometry } from './part-geometry.ts';

/** Triangles that meet at a sharper angle than this meet at an edge; tessellated curves turn by less. rad */
const EDGE_ANGLE = (25 * Math.PI) / 180;
/** A chain of edges that turns by more than this in one step is two edges. rad */
const CORNER_ANGLE = (30 * Math.PI) / 180;
/** Corners closer than this share of the diagonal are one. */
const WELD = 1e-6;

/**
 * Part geometry from bare triangles, as STL and its like give them: corners welded, faces found by the angles between
 * triangles, normals smoothed within a face, planes, cylinders, cones, spheres and circles recognised.
 * @param positions flat, mm; @param triangles three corners each; default: every three points are a triangle
 * @returns undefined when no triangle has an area; points that are not finite drop their triangles
 */
export function geometryFromMesh(positions: ArrayLike<number>, triangles?: ArrayLike<number>): PartGeometry | undefined {
  const mesh = weld(positions, triangles);
  if (mesh.triangles.length === 0) return undefined;
  let edges = meshEdges(mesh.triangles);
  const closed = isClosed(edges);
  let sums = measure(mesh);
  if (closed && sums.volume < 0) {
    for (let t = 0; t < mesh.triangles.length; t += 3) [mesh.triangles[t + 1], mesh.triangles[t + 2]] = [mesh.triangles[t + 2]!, mesh.triangles[t + 1]!];
    edges = meshEdges(mesh.triangles);
    sums = measure(mesh);
  }
  const flat = triangleNormals(mesh);
  const smooth = smoothEdges(edges, flat);
  const triangleFace = faces(edges, smooth, mesh.triangles.length / 3);
  const cornerNormals = smoothNormals(mesh, flat, triangleFace);
  const box = boxOf(mesh.positions);
  const diagonal = boxDiagonal(box);
  if (!(sums.area > 1e-18 * diagonal * diagonal)) return undefined;
  return {
    positions: mesh.positions,
    triangles: mesh.triangles,
    triangleFace,
    cornerNormals,
    ...describeFaces(mesh, triangleFace, cornerNormals, 2e-4 * diagonal),
    ...describeEdges(mesh, edges, smooth, triangleFace),
    closed,
    deflectionMm: Math.max(1e-4, 1e-3 * diagonal),
    volumeMm3: closed ? sums.volume : 0,
    areaMm2: sums.area,
    centroid: sums.centroid,
    box,
  };
}

interface Mesh {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
}

function weld(points: ArrayLike<number>, corners?: ArrayLike<number>): Mesh {
  const count = Math.floor(points.length / 3);
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < count * 3; i++) {
    const v = points[i]!;
    if (!Number.isFinite(v)) continue;
    if (v < low) low = v;
    if (v > high) high = v;
  }
  const step = Math.max(1e-9, (high - low) * WELD);
  const known = new Map<string, number>();
  const vertex = new Int32Array(count).fill(-1);
  const positions: number[] = [];
  for (let i = 0; i < count; i++) {
    const p = [points[i * 3]!, points[i * 3 + 1]!, points[i * 3 + 2]!];
    if (!p.every(Number.isFinite)) continue;
    const key = p.map((v) => Math.round(v / step)).join();
    let v = known.get(key);
    if (v === undefined) {
      known.set(key, (v = positions.length / 3));
      positions.push(...p);
    }
    vertex[i] = v;
  }
  const triangles: number[] = [];
  const n = corners ? corners.length : count;
  for (let t = 0; t + 2 < n; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => vertex[corners ? corners[t + k]! : t + k] ?? -1) as [number, number, number];
    if (a >= 0 && b >= 0 && c >= 0 && a !== b && b !== c && c !== a) triangles.push(a, b, c);
  }
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
}

function isClosed(e: MeshEdges): boolean {
  for (let i = 0; i < e.crowded.length; i++) if (e.crowded[i] || e.sides[i * 2 + 1]! < 0) return false;
  return true;
}

const point = (m: Mesh, v: number): Vec3 => [m.positions[v * 3]!, m.positions[v * 3 + 1]!, m.positions[v * 3 + 2]!];
const corner = (m: Mesh, t: number, k: number): Vec3 => point(m, m.triangles[t * 3 + k]!);

/** Twice the area times the unit normal. */
const areaVector = (m: Mesh, t: number): Vec3 => cross(subtract(corner(m, t, 1), corner(m, t, 0)), subtract(corner(m, t, 2), corner(m, t, 0)));

function measure(m: Mesh): { volume: number; area: number; centroid: [number, number, number] } {
  let volume = 0;
  let area = 0;
  const byVolume: [number, number, number] = [0, 0, 0];
  const byArea: [number, number, number] = [0, 0, 0];
  for (let t = 0; t < m.triangles.length / 3; t++) {
    const [a, b, c] = [corner(m, t, 0), corner(m, t, 1), corner(m, t, 2)];
    const v = dot(a, cross(b, c)) / 6;
    const s = length(areaVector(m, t)) / 2;
    volume += v;
    area += s;
    for (let k = 0; k < 3; k++) {
      const sum = a[k]! + b[k]! + c[k]!;
      byVolume[k]! += (v * sum) / 4;
      byArea[k]! += (s * sum) / 3;
    }
  }
  const by = volume !== 0 ? byVolume : byArea;
  const all = volume !== 0 ? volume : area || 1;
  return { volume, area, centroid: [by[0] / all, by[1] / all, by[2] / all] };
}

function triangleNormals(m: Mesh): Vec3[] {
  return Array.from({ length: m.triangles.length / 3 }, (_, t) => {
    const n = areaVector(m, t);
    return length(n) > 0 ? normalize(n) : n;
  });
}

/** 1 for mesh edges at which the surface goes on without an edge. Slivers without a normal belong to their neighbours. */
function smoothEdges(e: MeshEdges, normals: readonly Vec3[]): Uint8Array {
  const least = Math.cos(EDGE_ANGLE);
  return Uint8Array.from({ length: e.crowded.length }, (_, i) => {
    const [t, u] = [e.sides[i * 2]!, e.sides[i * 2 + 1]!];
    if (u < 0 || e.crowded[i]) return 0;
    const [p, q] = [normals[t]!, normals[u]!];
    return length(p) === 0 || length(q) === 0 || dot(p, q) >= least ? 1 : 0;
  });
}

function faces(e: MeshEdges, smooth: Uint8Array, count: number): Uint32Array {
  const out = new Uint32Array(count).fill(0xffffffff);
  let n = 0;
  for (let seed = 0; seed < count; seed++) {
    if (out[seed] !== 0xffffffff) continue;
    const stack = [seed];
    out[seed] = n;
    while (stack.length) {
      const t = stack.pop()!;
      for (let s = 0; s < 3; s++) {
        const i = e.sideEdge[t * 3 + s]!;
        if (!smooth[i]) continue;
        const other = e.sides[i * 2] === t ? e.sides[i * 2 + 1]! : e.sides[i * 2]!;
        if (other < 0 || out[other] !== 0xffffffff) continue;
        out[other] = n;
        stack.push(other);
      }
    }
    n++;
  }
  return out;
}

/** Normals at the corners: those of the triangles of the same face around the vertex, weighted by their angle there. */
function smoothNormals(m: Mesh, flat: readonly Vec3[], face: Uint32Array): Float32Array {
  const count = flat.length;
  const sums = new Map<number, [number, number, number]>();
  const key = (v: number, f: number) => f * (m.positions.length / 3) + v;
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 3; k++) {
      const here = corner(m, t, k);
      const [u, w] = [subtract(corner(m, t, (k + 1) % 3), here), subtract(corner(m, t, (k + 2) % 3), here)];
      const angle = Math.atan2(length(cross(u, w)), dot(u, w));
      const id = key(m.triangles[t * 3 + k]!, face[t]!);
      const sum = sums.get(id) ?? [0, 0, 0];
      for (let i = 0; i < 3; i++) sum[i]! += flat[t]![i]! * angle;
      sums.set(id, sum);
    }
  const out = new Float32Array(count * 9);
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 3; k++) {
      const sum = sums.get(key(m.triangles[t * 3 + k]!, face[t]!))!;
      out.set(length(sum) > 0 ? normalize(sum) : flat[t]!, t * 9 + k * 3);
    }
  return out;
}

function describeFaces(m: Mesh, face: Uint32Array, normals: Float32Array, tolerance: number) {
  const count = face.reduce((n, f) => Math.max(n, f + 1), 0);
  const points = Array.from({ length: count }, (): number[] => []);
  const directions = Array.from({ length: count }, (): number[] => []);
  for (let i = 0; i < m.triangles.length; i++) {
    // Triangles without an area have no direction: they hold the surface together and say nothing of it.
    if (normals[i * 3] === 0 && normals[i * 3 + 1] === 0 && normals[i * 3 + 2] === 0) continue;
    const f = face[(i / 3) | 0]!;
    points[f]!.push(...point(m, m.triangles[i]!));
    directions[f]!.push(normals[i * 3]!, normals[i * 3 + 1]!, normals[i * 3 + 2]!);
  }
  const faceKind = new Uint8Array(count);
  const faceParams = new Float64Array(count * FACE_STRIDE);
  for (let f = 0; f < count; f++) {
    if (points[f]!.length === 0) {
      faceKind[f] = SurfaceKind.free;
      continue;
    }
    const fitted = fitSurface(points[f]!, directions[f]!, tolerance);
    faceKind[f] = fitted.kind;
    faceParams.set(fitted.params, f * FACE_STRIDE);
  }
  return { faceKind, faceParams };
}

/** Chains of the mesh edges that are edges of the part: along one pair of faces, cut at corners; rings closed. */
function describeEdges(m: Mesh, e: MeshEdges, smooth: Uint8Array, face: Uint32Array) {
  const pieces = Array.from(smooth.keys()).filter((i) => !smooth[i]);
  const facesOf = (i: number): [number, number] => {
    const u = e.sides[i * 2 + 1]!;
    const [f, g] = [face[e.sides[i * 2]!]!, u < 0 ? -1 : face[u]!];
    return f < g || g < 0 ? [f, g] : [g, f];
  };
  const otherEnd = (i: number, v: number) => (e.ends[i * 2] === v ? e.ends[i * 2 + 1]! : e.ends[i * 2]!);
  const direction = (from: number, to: number) => normalize(subtract(point(m, to), point(m, from)));
  const goesOn = (i: number, v: number, next: number): boolean => {
    const [a, b] = [facesOf(i), facesOf(next)];
    return a[0] === b[0] && a[1] === b[1] && dot(direction(otherEnd(i, v), v), direction(v, otherEnd(next, v))) >= Math.cos(CORNER_ANGLE);
  };
  const out = new EdgeList();
  const ends = pieces.flatMap((i) => [e.ends[i * 2]!, e.ends[i * 2 + 1]!]);
  for (const c of chainsOf(ends, (p, v, next) => goesOn(pieces[p]!, v, pieces[next]!)))
    out.add(c.nodes, EdgeClass.sharp, facesOf(pieces[c.pieces[0]!]!), fitCurve(c.nodes.flatMap((x) => [...point(m, x)])));
  return out.finish();
}
