import type { PartGeometry } from './part-geometry.ts';

/** Mesh area of each face, mm². */
export function faceAreas(g: PartGeometry): Float64Array {
  const areas = new Float64Array(g.faceKind.length);
  const p = g.positions;
  for (let t = 0; t < g.triangleFace.length; t++) {
    const [a, b, c] = [g.triangles[t * 3]! * 3, g.triangles[t * 3 + 1]! * 3, g.triangles[t * 3 + 2]! * 3];
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    areas[g.triangleFace[t]!]! += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
  }
  return areas;
}
