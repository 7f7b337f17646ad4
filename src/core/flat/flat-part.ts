import earcut from 'earcut';
import { boxOf, CurveKind, EDGE_STRIDE, EdgeClass, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import type { Vec2 } from '../base/vector.ts';
import { piecesOf } from './curves.ts';
import { unfold, type FlatPattern } from './unfold.ts';

/** A part that is laid flat, if it is bent from sheet. */
export interface LaidPart {
  readonly pattern: FlatPattern;
  readonly geometry: PartGeometry;
}

const known = new WeakMap<PartGeometry, Map<number | undefined, LaidPart | null>>();

/** The flat pattern of a part as a part, taken once; undefined when it is not bent from sheet. @param k share of the thickness; absent: by DIN 6935 */
export function laidPart(g: PartGeometry, k?: number): LaidPart | undefined {
  let own = known.get(g);
  if (!own) known.set(g, (own = new Map()));
  let laid = own.get(k);
  if (laid === undefined) {
    const found = unfold(g, k);
    own.set(k, (laid = 'flat' in found ? { pattern: found.flat, geometry: flatPart(found.flat) } : null));
  }
  return laid ?? undefined;
}

/** Corners less than this are smooth, rad: chords of an arc turn by half a step against what is tangent to it. */
const SMOOTH = 0.27;

/**
 * The plate of a flat pattern, its upper side at z = thickness: walls of lines and arcs, and bend lines on the upper side as smooth
 * edges, which are narrow lines as ISO 128-2 wants for bends.
 */
export function flatPart({ contours, bends, thicknessMm: t, areaMm2 }: FlatPattern): PartGeometry {
  const positions: number[] = [];
  const triangles: number[] = [];
  const triangleFace: number[] = [];
  const normals: number[] = [];
  const faceKind: number[] = [SurfaceKind.plane, SurfaceKind.plane];
  const faceParams: number[] = [0, 0, 0, 0, 0, -1, 0, 0, 0, 0, t, 0, 0, 1, 0, 0];
  const edges: { vertices: number[]; class: number; faces: readonly [number, number]; curve: number; params: readonly number[] }[] = [];
  const points = contours.flat();
  const n = points.length;
  for (const z of [0, t]) for (const [x, y] of points) positions.push(x, y, z);
  const holes = contours.slice(0, -1).map((_, i) => contours.slice(0, i + 1).reduce((s, c) => s + c.length, 0));
  const flat = earcut(
    points.flatMap((p) => [...p]),
    holes,
  );
  for (let i = 0; i < flat.length; i += 3) {
    const [a, b, c] = ccw(points, flat[i]!, flat[i + 1]!, flat[i + 2]!);
    triangles.push(a, c, b, a + n, b + n, c + n);
    triangleFace.push(0, 1);
    normals.push(0, 0, -1, 0, 0, -1, 0, 0, -1, 0, 0, 1, 0, 0, 1, 0, 0, 1);
  }
  let first = 0;
  let around = 0;
  for (const contour of contours) {
    const count = contour.length;
    const vertex = (i: number) => first + (i % count);
    const pieces = piecesOf(contour);
    const faces = pieces.map((_, k) => faceKind.length + k);
    for (const [k, piece] of pieces.entries()) {
      const face = faces[k]!;
      const chain = Array.from({ length: piece.to - piece.from + 1 }, (_, i) => vertex(piece.from + i));
      const [p, q] = [contour[piece.from % count]!, contour[piece.to % count]!];
      const l = Math.hypot(q[0] - p[0], q[1] - p[1]) || 1;
      const straight = [(q[1] - p[1]) / l, -(q[0] - p[0]) / l] as const;
      const normalAt = (v: number): readonly [number, number] => {
        if (piece.kind === 'line') return straight;
        const [x, y] = points[v]!;
        const s = (piece.left ? 1 : -1) / piece.radius;
        return [(x - piece.centre[0]) * s, (y - piece.centre[1]) * s];
      };
      faceKind.push(piece.kind === 'line' ? SurfaceKind.plane : SurfaceKind.cylinder);
      faceParams.push(
        ...(piece.kind === 'line' ? [p[0], p[1], 0, ...straight, 0, 0, 0] : [...piece.centre, 0, 0, 0, 1, piece.left ? piece.radius : -piece.radius, 0]),
      );
      for (let i = 0; i + 1 < chain.length; i++) {
        const [a, b] = [chain[i]!, chain[i + 1]!];
        const [na, nb] = [normalAt(a), normalAt(b)];
        triangles.push(a, b, b + n, a, b + n, a + n);
        triangleFace.push(face, face);
        for (const [x, y] of [na, nb, nb, na, nb, na]) normals.push(x, y, 0);
        around += Math.hypot(points[b]![0] - points[a]![0], points[b]![1] - points[a]![1]);
      }
      const curve = piece.kind === 'line' ? CurveKind.line : CurveKind.circle;
      const params = (z: number) => (piece.kind === 'line' ? [0, 0, 0, 0, 0, 0, 0] : [...piece.centre, z, 0, 0, 1, piece.radius]);
      edges.push({ vertices: chain, class: EdgeClass.sharp, faces: [0, face], curve, params: params(0) });
      edges.push({ vertices: chain.map((v) => v + n), class: EdgeClass.sharp, faces: [1, face], curve, params: params(t) });
      if (piece.kind === 'arc' && piece.whole) continue;
      const before = pieces[(k + pieces.length - 1) % pieces.length]!;
      const start = chain[0]!;
      const smooth = isSmooth(contour, piece.from % count) && (piece.kind === 'arc' || before.kind === 'arc');
      edges.push({
        vertices: [start, start + n],
        class: smooth ? EdgeClass.tangent : EdgeClass.sharp,
        faces: [face, faces[(k + pieces.length - 1) % pieces.length]!],
        curve: CurveKind.line,
        params: [0, 0, 0, 0, 0, 0, 0],
      });
    }
    first += count;
  }
  for (const b of bends)
    for (const [p, q] of insideOf(b.line, contours)) {
      const v = positions.length / 3;
      positions.push(...p, t, ...q, t);
      edges.push({ vertices: [v, v + 1], class: EdgeClass.tangent, faces: [1, 1], curve: CurveKind.line, params: [0, 0, 0, 0, 0, 0, 0] });
    }
  const start = [0];
  for (const e of edges) start.push(start.at(-1)! + e.vertices.length);
  const all = Float64Array.from(positions);
  const box = boxOf(all);
  return {
    positions: all,
    triangles: Uint32Array.from(triangles),
    triangleFace: Uint32Array.from(triangleFace),
    cornerNormals: Float32Array.from(normals),
    faceKind: Uint8Array.from(faceKind),
    faceParams: Float64Array.from(faceParams),
    edgeStart: Uint32Array.from(start),
    edgeVertices: Uint32Array.from(edges.flatMap((e) => e.vertices)),
    edgeClass: Uint8Array.from(edges, (e) => e.class),
    edgeFaces: Int32Array.from(edges.flatMap((e) => [...e.faces])),
    edgeCurve: Uint8Array.from(edges, (e) => e.curve),
    edgeParams: Float64Array.from(edges.flatMap((e) => e.params.slice(0, EDGE_STRIDE))),
    closed: true,
    deflectionMm: 0,
    volumeMm3: areaMm2 * t,
    areaMm2: 2 * areaMm2 + around * t,
    centroid: [(box[0] + box[3]) / 2, (box[1] + box[4]) / 2, t / 2],
    box,
  };
}

function ccw(points: readonly Vec2[], a: number, b: number, c: number): readonly [number, number, number] {
  const [p, q, r] = [points[a]!, points[b]!, points[c]!];
  return (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]) < 0 ? [a, c, b] : [a, b, c];
}

/** Does the outline go on without a corner at a point, as far as its chords tell? */
function isSmooth(contour: readonly Vec2[], i: number): boolean {
  const n = contour.length;
  const [a, b, c] = [contour[(i + n - 1) % n]!, contour[i]!, contour[(i + 1) % n]!];
  const turn = Math.abs(
    Math.atan2((b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]), (b[0] - a[0]) * (c[0] - b[0]) + (b[1] - a[1]) * (c[1] - b[1])),
  );
  return turn < SMOOTH;
}

/** The stretches of a line that lie inside the outline and outside its holes. */
function insideOf([p, q]: readonly [Vec2, Vec2], contours: readonly (readonly Vec2[])[]): (readonly [Vec2, Vec2])[] {
  const [dx, dy] = [q[0] - p[0], q[1] - p[1]];
  const at: number[] = [];
  for (const c of contours)
    c.forEach(([x0, y0], i) => {
      const [x1, y1] = c[(i + 1) % c.length]!;
      const [ex, ey] = [x1 - x0, y1 - y0];
      const det = dx * ey - dy * ex;
      if (Math.abs(det) < 1e-12) return;
      const t = ((x0 - p[0]) * ey - (y0 - p[1]) * ex) / det;
      const s = ((x0 - p[0]) * dy - (y0 - p[1]) * dx) / det;
      if (s >= 0 && s < 1 && t > -1e-9 && t < 1 + 1e-9) at.push(Math.min(1, Math.max(0, t)));
    });
  const stops = [0, ...at, 1].sort((a, b) => a - b);
  const point = (t: number): Vec2 => [p[0] + dx * t, p[1] + dy * t];
  const out: (readonly [Vec2, Vec2])[] = [];
  for (let i = 0; i + 1 < stops.length; i++) {
    const [a, b] = [stops[i]!, stops[i + 1]!];
    if (b - a > 1e-6 && isInside(point((a + b) / 2), contours)) out.push([point(a), point(b)]);
  }
  return out;
}

function isInside([x, y]: Vec2, contours: readonly (readonly Vec2[])[]): boolean {
  let inside = false;
  for (const c of contours)
    c.forEach(([x0, y0], i) => {
      const [x1, y1] = c[(i + 1) % c.length]!;
      if (y0 > y !== y1 > y && x < x0 + ((y - y0) / (y1 - y0)) * (x1 - x0)) inside = !inside;
    });
  return inside;
}
