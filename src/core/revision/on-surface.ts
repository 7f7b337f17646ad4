import { boxDiagonal, FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { applyToPoint, type Placement } from '../base/placement.ts';
import { length, subtract, type Vec3 } from '../base/vector.ts';
import { fieldOf, type Field } from '../cut/settle.ts';

/** How far points of one shape may lie off another one that counts as the same, mm: figures in the last place of a file. */
export const offTolerance = (diagonalMm: number) => 0.002 + 2e-5 * diagonalMm;

/** Cells along the longest side of the grid over a mesh. */
const CELLS = 40;

/**
 * Tells whether a point lies on the surface of a part, whoever meshed it: the mesh says near which face it is, the
 * recognised surface of that face how far off it. Free faces are as good as their mesh.
 */
export class PartSurface {
  private readonly g: PartGeometry;
  private readonly low: Vec3;
  private readonly cell: number;
  private readonly counts: readonly [number, number, number];
  private readonly cells = new Map<number, number[]>();
  private readonly fields: (Field | undefined)[];
  private readonly reach: number;
  private readonly tolerance: number;

  constructor(g: PartGeometry) {
    this.g = g;
    this.tolerance = offTolerance(boxDiagonal(g.box));
    // A chord lies off its arc by the deflection; its neighbour across an edge may be as far.
    this.reach = 2 * g.deflectionMm + this.tolerance;
    const size = [0, 1, 2].map((k) => g.box[k + 3]! - g.box[k]! + 2 * this.reach) as [number, number, number];
    this.low = [g.box[0] - this.reach, g.box[1] - this.reach, g.box[2] - this.reach];
    this.cell = Math.max(...size, 1e-9) / CELLS;
    this.counts = size.map((s) => Math.max(1, Math.ceil(s / this.cell))) as [number, number, number];
    this.fields = Array.from({ length: g.faceKind.length }, (_, f) => fieldOf(g, f));
    for (let t = 0; t < g.triangles.length; t += 3) this.file(t);
  }

  private index(v: number, k: 0 | 1 | 2): number {
    return Math.max(0, Math.min(this.counts[k] - 1, Math.floor((v - this.low[k]) / this.cell)));
  }

  private file(t: number): void {
    const { positions, triangles } = this.g;
    const from: number[] = [];
    const to: number[] = [];
    for (const k of [0, 1, 2] as const) {
      const [a, b, c] = [positions[triangles[t]! * 3 + k]!, positions[triangles[t + 1]! * 3 + k]!, positions[triangles[t + 2]! * 3 + k]!];
      from.push(this.index(Math.min(a, b, c) - this.reach, k));
      to.push(this.index(Math.max(a, b, c) + this.reach, k));
    }
    for (let x = from[0]!; x <= to[0]!; x++)
      for (let y = from[1]!; y <= to[1]!; y++)
        for (let z = from[2]!; z <= to[2]!; z++) {
          const key = (x * this.counts[1] + y) * this.counts[2] + z;
          const list = this.cells.get(key);
          if (list) list.push(t);
          else this.cells.set(key, [t]);
        }
  }

  /** @param p in the part's frame, mm; @param slack how far off its own surface the point may be itself, mm */
  holds(p: Vec3, slack = 0): boolean {
    const { box, deflectionMm, triangleFace, faceKind } = this.g;
    const far = this.reach + slack;
    for (let k = 0; k < 3; k++) if (p[k]! < box[k]! - far || p[k]! > box[k + 3]! + far) return false;
    const key = (this.index(p[0], 0) * this.counts[1] + this.index(p[1], 1)) * this.counts[2] + this.index(p[2], 2);
    const tested = new Set<number>();
    for (const t of this.cells.get(key) ?? []) {
      const face = triangleFace[t / 3]!;
      const free = faceKind[face] === SurfaceKind.free;
      // A recognised face has said no already unless its mesh is nearer elsewhere: it is asked once for its surface.
      if (tested.has(face)) continue;
      if (this.distance(p, t) > (free ? deflectionMm + this.tolerance + slack : this.reach + slack)) continue;
      if (free) return true;
      if (this.off(p, face) <= this.tolerance + slack) return true;
      tested.add(face);
    }
    return false;
  }

  private off(p: Vec3, face: number): number {
    const field = this.fields[face];
    if (field) return Math.abs(field(p)[0]);
    const q = face * FACE_STRIDE;
    const f = this.g.faceParams;
    return Math.abs((p[0] - f[q]!) * f[q + 3]! + (p[1] - f[q + 1]!) * f[q + 4]! + (p[2] - f[q + 2]!) * f[q + 5]!);
  }

  private distance(p: Vec3, t: number): number {
    const { positions, triangles } = this.g;
    const at = (i: number): Vec3 => {
      const v = triangles[t + i]! * 3;
      return [positions[v]!, positions[v + 1]!, positions[v + 2]!];
    };
    return length(subtract(p, nearestInTriangle(p, at(0), at(1), at(2))));
  }
}

/** The point of a triangle nearest to `p` (Ericson, Real-Time Collision Detection, 5.1.5). */
export function nearestInTriangle(p: Vec3, a: Vec3, b: Vec3, c: Vec3): Vec3 {
  const [ab, ac, ap] = [subtract(b, a), subtract(c, a), subtract(p, a)];
  const dot = (u: Vec3, v: Vec3) => u[0] * v[0] + u[1] * v[1] + u[2] * v[2];
  const at = (u: Vec3, v: Vec3, k: number): Vec3 => [u[0] + v[0] * k, u[1] + v[1] * k, u[2] + v[2] * k];
  const [d1, d2] = [dot(ab, ap), dot(ac, ap)];
  if (d1 <= 0 && d2 <= 0) return a;
  const bp = subtract(p, b);
  const [d3, d4] = [dot(ab, bp), dot(ac, bp)];
  if (d3 >= 0 && d4 <= d3) return b;
  const vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0) return at(a, ab, d1 / (d1 - d3));
  const cp = subtract(p, c);
  const [d5, d6] = [dot(ab, cp), dot(ac, cp)];
  if (d6 >= 0 && d5 <= d6) return c;
  const vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0) return at(a, ac, d2 / (d2 - d6));
  const va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) return at(b, subtract(c, b), (d4 - d3) / (d4 - d3 + (d5 - d6)));
  const k = 1 / (va + vb + vc);
  return at(at(a, ab, vb * k), ac, vc * k);
}

/** Points that tell a shape: every vertex, and inside every triangle a point that is put on the true surface. */
export interface Samples {
  readonly points: readonly Vec3[];
  /** How far the point may lie off its own true surface, mm. */
  readonly slack: readonly number[];
}

/** At most this many of each kind: more would not tell more. */
const MOST_SAMPLES = 20_000;

export function samplesOf(g: PartGeometry): Samples {
  const points: Vec3[] = [];
  const slack: number[] = [];
  const every = (n: number) => Math.max(1, Math.ceil(n / MOST_SAMPLES));
  const vertices = g.positions.length / 3;
  for (let v = 0; v < vertices; v += every(vertices)) {
    points.push([g.positions[v * 3]!, g.positions[v * 3 + 1]!, g.positions[v * 3 + 2]!]);
    slack.push(0);
  }
  const fields = Array.from({ length: g.faceKind.length }, (_, f) => fieldOf(g, f));
  const triangles = g.triangles.length / 3;
  for (let t = 0; t < triangles; t += every(triangles)) {
    const c = [0, 1, 2].map((k) => [0, 1, 2].reduce((s, i) => s + g.positions[g.triangles[t * 3 + i]! * 3 + k]!, 0) / 3) as [number, number, number];
    const face = g.triangleFace[t]!;
    const field = fields[face];
    if (field) {
      const [off, n] = field(c);
      points.push([c[0] - off * n[0], c[1] - off * n[1], c[2] - off * n[2]]);
    } else points.push(c);
    slack.push(g.faceKind[face] === SurfaceKind.free ? g.deflectionMm : 0);
  }
  return { points, slack };
}

/** Do all points of a shape, moved by `m`, lie on a surface? The share that may not is for slivers that meshing leaves. */
export function allOn(samples: Samples, m: Placement | undefined, surface: PartSurface, every = 1): boolean {
  for (let i = 0; i < samples.points.length; i += every) {
    const p = samples.points[i]!;
    if (!surface.holds(m ? applyToPoint(m, p) : p, samples.slack[i]!)) return false;
  }
  return true;
}
