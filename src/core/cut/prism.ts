import earcut from 'earcut';
import { add, cross, dot, scale, type Vec3 } from '../base/vector.ts';
import type { TriangleSolid } from './solid-port.ts';

/** What a cut takes away: a prism over a closed outline. Model space, mm. */
export interface Prism extends TriangleSolid {
  /** Face of each triangle: side i runs over step i of the outline; then the lower and the upper end. */
  readonly face: Uint32Array;
  /** Outward unit normals of the faces. */
  readonly normals: readonly Vec3[];
}

/** A right-handed frame: a point and two unit vectors that span the outline's plane. */
export interface PrismFrame {
  readonly origin: Vec3;
  readonly u: Vec3;
  readonly v: Vec3;
}

/**
 * @param outline closed, flat `[u, v, …]` in the frame, mm; either sense, not crossing itself
 * @param low,high ends along u × v, mm
 * @throws RangeError for fewer than three corners, no area, or ends in the wrong order
 */
export function prism(frame: PrismFrame, outline: readonly number[], low: number, high: number): Prism {
  if (outline.length < 6 || !(high > low)) throw new RangeError('A prism needs three corners and a height.');
  let area = 0;
  for (let i = 0, j = outline.length - 2; i < outline.length; j = i, i += 2) area += outline[j]! * outline[i + 1]! - outline[i]! * outline[j + 1]!;
  if (area === 0) throw new RangeError('The outline of a prism has no area.');
  const n = outline.length / 2;
  const ring = area > 0 ? [...outline] : Array.from({ length: n }, (_, i) => [outline[(n - 1 - i) * 2]!, outline[(n - 1 - i) * 2 + 1]!]).flat();
  const w = cross(frame.u, frame.v);
  const at = (i: number, h: number): Vec3 => add(add(frame.origin, scale(w, h)), add(scale(frame.u, ring[i * 2]!), scale(frame.v, ring[i * 2 + 1]!)));
  const positions = new Float64Array(n * 6);
  for (let i = 0; i < n; i++) {
    positions.set(at(i, low), i * 3);
    positions.set(at(i, high), (n + i) * 3);
  }
  const triangles: number[] = [];
  const face: number[] = [];
  const normals: Vec3[] = [];
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    triangles.push(i, j, n + j, i, n + j, n + i);
    face.push(i, i);
    const [du, dv] = [ring[j * 2]! - ring[i * 2]!, ring[j * 2 + 1]! - ring[i * 2 + 1]!];
    const l = Math.hypot(du, dv);
    normals.push(add(scale(frame.u, dv / l), scale(frame.v, -du / l)));
  }
  const top = earcut(ring);
  for (let t = 0; t < top.length; t += 3) {
    const [a, b, c] = [top[t]!, top[t + 1]!, top[t + 2]!];
    const turn = (ring[b * 2]! - ring[a * 2]!) * (ring[c * 2 + 1]! - ring[a * 2 + 1]!) - (ring[c * 2]! - ring[a * 2]!) * (ring[b * 2 + 1]! - ring[a * 2 + 1]!);
    const [p, q] = turn > 0 ? [b, c] : [c, b];
    triangles.push(a, q, p, n + a, n + p, n + q);
    face.push(n, n + 1);
  }
  normals.push(scale(w, -1), w);
  return { positions, triangles: Uint32Array.from(triangles), face: Uint32Array.from(face), normals };
}

/** Distance of a face's plane from the origin along its normal, mm. */
export function faceDistance(p: Prism, f: number): number {
  const t = p.face.indexOf(f) * 3;
  const v = p.triangles[t]! * 3;
  return dot(p.normals[f]!, [p.positions[v]!, p.positions[v + 1]!, p.positions[v + 2]!]);
}
