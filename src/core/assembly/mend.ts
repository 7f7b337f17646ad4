import earcut from 'earcut';
import { chainsOf } from '../base/chains.ts';
import { anyPerpendicular, cross, dot, length, scale, subtract, type Vec3 } from '../base/vector.ts';
import { meshEdges } from './mesh-edges.ts';
import { boxDiagonal, FACE_STRIDE, SurfaceKind, type PartGeometry } from './part-geometry.ts';

/** A larger hole than this share of the surface is meant to be one: an open box is no solid. */
const MOST_HOLE_SHARE = 0.02;
/** A hole may be this far from flat, as a share of the part's diagonal. */
const FLAT = 2e-3;

const mended = new WeakMap<PartGeometry, PartGeometry>();

/**
 * Closes small flat holes of an open mesh, such as missing triangles of a triangle file, so that it has an inside to
 * cut. Whatever cannot be closed stays open; a closed mesh is given back as it is. Made once per geometry.
 */
export function mend(g: PartGeometry): PartGeometry {
  if (g.closed) return g;
  let known = mended.get(g);
  if (!known) mended.set(g, (known = fill(g)));
  return known;
}

function fill(g: PartGeometry): PartGeometry {
  const mesh = meshEdges(g.triangles);
  const ends: number[] = [];
  for (let e = 0; e < mesh.ends.length / 2; e++) {
    if (mesh.crowded[e]) return g;
    if (mesh.sides[e * 2 + 1]! >= 0) continue;
    // The patch runs along the edge against its one triangle.
    const t = mesh.sides[e * 2]! * 3;
    const [a, b] = [mesh.ends[e * 2]!, mesh.ends[e * 2 + 1]!];
    const forward = [0, 1, 2].some((k) => g.triangles[t + k] === a && g.triangles[t + ((k + 1) % 3)] === b);
    ends.push(...(forward ? [b, a] : [a, b]));
  }
  const at = (v: number): Vec3 => [g.positions[v * 3]!, g.positions[v * 3 + 1]!, g.positions[v * 3 + 2]!];
  const patches: { triangles: number[]; normal: Vec3; point: Vec3 }[] = [];
  for (const { nodes, pieces } of chainsOf(ends)) {
    if (nodes[0] !== nodes.at(-1)) return g;
    const ring = ends[pieces[0]! * 2] === nodes[0] ? nodes.slice(0, -1) : nodes.slice(1).reverse();
    const patch = patchOf(ring.map(at), g);
    if (!patch) return g;
    patches.push({ ...patch, triangles: patch.triangles.map((i) => ring[i]!) });
  }
  const added = patches.reduce((n, p) => n + p.triangles.length, 0);
  const triangles = new Uint32Array(g.triangles.length + added);
  triangles.set(g.triangles);
  const triangleFace = new Uint32Array(triangles.length / 3);
  triangleFace.set(g.triangleFace);
  const cornerNormals = new Float32Array(triangles.length * 3);
  cornerNormals.set(g.cornerNormals);
  const faceKind = new Uint8Array(g.faceKind.length + patches.length).fill(SurfaceKind.plane, g.faceKind.length);
  faceKind.set(g.faceKind);
  const faceParams = new Float64Array(faceKind.length * FACE_STRIDE);
  faceParams.set(g.faceParams);
  let next = g.triangles.length;
  patches.forEach((p, i) => {
    const face = g.faceKind.length + i;
    faceParams.set([...p.point, ...p.normal, 0, 0], face * FACE_STRIDE);
    for (const v of p.triangles) {
      triangles[next] = v;
      cornerNormals.set(p.normal, next * 3);
      triangleFace[Math.floor(next / 3)] = face;
      next++;
    }
  });
  const closed = !meshEdges(triangles).sides.includes(-1);
  return closed ? { ...g, triangles, triangleFace, cornerNormals, faceKind, faceParams, closed } : g;
}

/** Triangles over a small flat ring, by index in it; undefined when it is neither. */
function patchOf(ring: readonly Vec3[], g: PartGeometry): { triangles: number[]; normal: Vec3; point: Vec3 } | undefined {
  // Newell's normal: twice the area, whatever the shape.
  let sum: Vec3 = [0, 0, 0];
  ring.forEach((p, i) => {
    const n = cross(p, ring[(i + 1) % ring.length]!);
    sum = [sum[0] + n[0], sum[1] + n[1], sum[2] + n[2]];
  });
  const area = length(sum) / 2;
  if (!(area > 0) || area > MOST_HOLE_SHARE * g.areaMm2) return undefined;
  const normal = scale(sum, 0.5 / area);
  const point = ring[0]!;
  const off = ring.reduce((m, p) => Math.max(m, Math.abs(dot(subtract(p, point), normal))), 0);
  if (off > FLAT * boxDiagonal(g.box)) return undefined;
  const x = anyPerpendicular(normal);
  const y = cross(normal, x);
  const flat = ring.flatMap((p) => [dot(p, x), dot(p, y)]);
  const triangles = earcut(flat);
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t]! * 2, triangles[t + 1]! * 2, triangles[t + 2]! * 2];
    const turn = (flat[b]! - flat[a]!) * (flat[c + 1]! - flat[a + 1]!) - (flat[c]! - flat[a]!) * (flat[b + 1]! - flat[a + 1]!);
    if (turn < 0) [triangles[t + 1], triangles[t + 2]] = [triangles[t + 2]!, triangles[t + 1]!];
  }
  return { triangles, normal, point };
}
