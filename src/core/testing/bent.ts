import { boxOf, CurveKind, EDGE_STRIDE, EdgeClass, FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import type { Vec2 } from '../base/vector.ts';

/** A flat piece, and the bend after it. */
export interface Leg {
  readonly length: number;
  /** Turned after it, rad; more than nought: to the left of the way. */
  readonly angle?: number;
  /** Inner radius of that bend. */
  readonly radius?: number;
}

/** A strip of sheet bent along its way, seen from the side: made by hand, as the kernel would give it. @param width across, mm */
export function bentStrip(legs: readonly Leg[], thickness: number, width: number, facets = 12): PartGeometry {
  const t = thickness;
  interface Piece {
    readonly left: Vec2[];
    readonly right: Vec2[];
    readonly bend?: { readonly centre: Vec2; readonly inner: number; readonly leftTurn: boolean };
    readonly normal?: Vec2;
  }
  let [x, y, heading] = [0, 0, 0];
  const pieces: Piece[] = [];
  // The way runs along the middle of the sheet.
  const sides = (px: number, py: number, h: number): [Vec2, Vec2] => {
    const n: Vec2 = [-Math.sin(h), Math.cos(h)];
    return [
      [px + (n[0] * t) / 2, py + (n[1] * t) / 2],
      [px - (n[0] * t) / 2, py - (n[1] * t) / 2],
    ];
  };
  for (const { length, angle, radius = t } of legs) {
    const start = sides(x, y, heading);
    x += Math.cos(heading) * length;
    y += Math.sin(heading) * length;
    const end = sides(x, y, heading);
    pieces.push({ left: [start[0], end[0]], right: [start[1], end[1]], normal: [-Math.sin(heading), Math.cos(heading)] });
    if (!angle) continue;
    const turn = Math.sign(angle);
    const middle = radius + t / 2;
    const centre: Vec2 = [x - Math.sin(heading) * middle * turn, y + Math.cos(heading) * middle * turn];
    const bend: Piece = { left: [], right: [], bend: { centre, inner: radius, leftTurn: turn > 0 } };
    for (let k = 0; k <= facets; k++) {
      const h = heading + (angle * k) / facets;
      const at: Vec2 = [centre[0] + Math.sin(h) * middle * turn, centre[1] - Math.cos(h) * middle * turn];
      const [l, r] = sides(at[0], at[1], h);
      bend.left.push(l);
      bend.right.push(r);
    }
    heading += angle;
    x = centre[0] + Math.sin(heading) * middle * turn;
    y = centre[1] - Math.cos(heading) * middle * turn;
    pieces.push(bend);
  }

  // Corners: two rows (z = 0 and z = width) for each side.
  const positions: number[] = [];
  const chain = (side: 'left' | 'right') => pieces.flatMap((p, i) => (i === 0 ? p[side] : p[side].slice(1)));
  const [left, right] = [chain('left'), chain('right')];
  const put = (points: readonly Vec2[], z: number) => {
    const first = positions.length / 3;
    for (const p of points) positions.push(p[0], p[1], z);
    return first;
  };
  const rows = { l0: put(left, 0), l1: put(left, width), r0: put(right, 0), r1: put(right, width) };
  const triangles: number[] = [];
  const triangleFace: number[] = [];
  const normals: number[] = [];
  const faceKind: number[] = [];
  const faceParams: number[] = [];
  const edges: { vertices: number[]; class: number; faces: [number, number] }[] = [];
  const face = (kind: number, ...params: number[]) => {
    faceKind.push(kind);
    faceParams.push(...params, ...Array<number>(FACE_STRIDE - params.length).fill(0));
    return faceKind.length - 1;
  };
  const quad = (f: number, a: number, b: number, c: number, d: number) => {
    triangles.push(a, b, c, a, c, d);
    triangleFace.push(f, f);
    for (let k = 0; k < 18; k++) normals.push(0);
  };
  const [low, high] = [face(SurfaceKind.plane, 0, 0, 0, 0, 0, -1), face(SurfaceKind.plane, 0, 0, width, 0, 0, 1)];
  let k = 0;
  let before: [number, number] | undefined;
  for (const p of pieces) {
    const n = p.left.length - 1;
    const { bend } = p;
    // The left of the way is the inner side of a turn to the left.
    const l = bend
      ? face(SurfaceKind.cylinder, ...bend.centre, 0, 0, 0, 1, bend.leftTurn ? -bend.inner : bend.inner + t)
      : face(SurfaceKind.plane, ...p.left[0]!, 0, ...p.normal!, 0);
    const r = bend
      ? face(SurfaceKind.cylinder, ...bend.centre, 0, 0, 0, 1, bend.leftTurn ? bend.inner + t : -bend.inner)
      : face(SurfaceKind.plane, ...p.right[0]!, 0, -p.normal![0], -p.normal![1], 0);
    if (before) {
      edges.push({ vertices: [rows.l0 + k, rows.l1 + k], class: EdgeClass.tangent, faces: [before[0], l] });
      edges.push({ vertices: [rows.r0 + k, rows.r1 + k], class: EdgeClass.tangent, faces: [before[1], r] });
    }
    for (let i = k; i < k + n; i++) {
      quad(l, rows.l0 + i, rows.l1 + i, rows.l1 + i + 1, rows.l0 + i + 1);
      quad(r, rows.r0 + i, rows.r0 + i + 1, rows.r1 + i + 1, rows.r1 + i);
      quad(low, rows.r0 + i, rows.l0 + i, rows.l0 + i + 1, rows.r0 + i + 1);
      quad(high, rows.r1 + i, rows.r1 + i + 1, rows.l1 + i + 1, rows.l1 + i);
    }
    const line = (row: number, f: number, side: number) =>
      edges.push({ vertices: Array.from({ length: n + 1 }, (_, j) => row + k + j), class: EdgeClass.sharp, faces: [f, side] });
    line(rows.l0, l, low);
    line(rows.l1, l, high);
    line(rows.r0, r, low);
    line(rows.r1, r, high);
    before = [l, r];
    k += n;
  }
  const ends = [0, left.length - 1].map((i, e) => {
    const d: Vec2 = e === 0 ? [-1, 0] : [Math.cos(heading), Math.sin(heading)];
    const f = face(SurfaceKind.plane, ...left[i]!, 0, ...d, 0);
    if (e === 0) quad(f, rows.l0 + i, rows.r0 + i, rows.r1 + i, rows.l1 + i);
    else quad(f, rows.l0 + i, rows.l1 + i, rows.r1 + i, rows.r0 + i);
    return f;
  });
  edges.push({ vertices: [rows.l0, rows.l1], class: EdgeClass.sharp, faces: [2, ends[0]!] });
  const start = [0];
  for (const e of edges) start.push(start.at(-1)! + e.vertices.length);
  const all = Float64Array.from(positions);
  // Turning about its middle line a cross-section sweeps length × area (Pappus).
  const way = legs.reduce((s, g) => s + g.length + Math.abs(g.angle ?? 0) * ((g.radius ?? t) + t / 2), 0);
  return {
    positions: all,
    triangles: Uint32Array.from(triangles),
    triangleFace: Uint32Array.from(triangleFace),
    cornerNormals: Float32Array.from(normals),
    faceKind: Uint8Array.from(faceKind),
    faceParams: Float64Array.from(faceParams),
    edgeStart: Uint32Array.from(start),
    edgeVertices: Uint32Array.from(edges.flatMap((e) => e.vertices)),
    edgeClass: Uint8Array.from(edges.map((e) => e.class)),
    edgeFaces: Int32Array.from(edges.flatMap((e) => e.faces)),
    edgeCurve: Uint8Array.from(edges.map((e) => (e.vertices.length === 2 ? CurveKind.line : CurveKind.free))),
    edgeParams: new Float64Array(edges.length * EDGE_STRIDE),
    closed: true,
    deflectionMm: 0.01,
    volumeMm3: way * t * width,
    areaMm2: 2 * way * (t + width) + 2 * t * width,
    centroid: [0, 0, 0],
    box: boxOf(all),
  };
}
