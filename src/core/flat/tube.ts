import { FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { faceAreas } from '../assembly/face-areas.ts';
import { anyPerpendicular, cross, dot, normalize, scale, subtract, vectorAt, type Vec2, type Vec3 } from '../base/vector.ts';
import { endCuts, type EndCut } from '../stock/ends.ts';
import type { FlatPattern } from './unfold.ts';

/** A round tube that is cut to length, its outside laid flat: what is wrapped around it to mark ends and holes. */
export interface Wrap {
  readonly diameterMm: number;
  readonly wallMm: number;
  /** From its farthest point to its farthest point, mm. */
  readonly lengthMm: number;
  /** Turned away from square, rad; null for an end that no plane cuts. */
  readonly ends: readonly [EndCut, EndCut];
  /** Along x around the tube, along y along it; its sides are the seam, where the tube is longest. Mm. */
  readonly pattern: FlatPattern;
}

/** Thicker walls are bored from the bar. */
const THICKEST = 0.25;
const SAME_MM = 0.02;

/** Recognises a round tube, straight and of one diameter, and lays its outside flat; or says why not. */
export function wrapOf(g: PartGeometry): { readonly wrap: Wrap } | { readonly why: string } {
  const areas = faceAreas(g);
  const rounds = Array.from(g.faceKind, (kind, f) => ({ f, kind, radius: g.faceParams[f * FACE_STRIDE + 6]!, area: areas[f]! })).filter(
    (r) => r.kind === SurfaceKind.cylinder,
  );
  const [largest] = rounds.filter((r) => r.radius > 0).sort((a, b) => b.area - a.area);
  if (!largest) return { why: 'It is no tube.' };
  const at = vectorAt(g.faceParams, largest.f * FACE_STRIDE);
  const axis = vectorAt(g.faceParams, largest.f * FACE_STRIDE + 3);
  const about = (f: number) => {
    const d = subtract(vectorAt(g.faceParams, f * FACE_STRIDE), at);
    return Math.abs(dot(vectorAt(g.faceParams, f * FACE_STRIDE + 3), axis)) > 1 - 1e-6 && Math.hypot(...subtract(d, scale(axis, dot(d, axis)))) < SAME_MM;
  };
  const outer = new Set(rounds.filter((r) => Math.abs(r.radius - largest.radius) < SAME_MM && about(r.f)).map((r) => r.f));
  const [bore] = rounds.filter((r) => r.radius < 0 && about(r.f)).sort((a, b) => b.area - a.area);
  if (!bore) return { why: 'It is no tube.' };
  const [radius, wall] = [largest.radius, largest.radius + bore.radius];
  if (!(wall > 0) || wall >= THICKEST * 2 * radius) return { why: 'It is no tube.' };
  const e1 = normalize(anyPerpendicular(axis));
  const e2 = cross(axis, e1);
  const place = (p: Vec3): { readonly turn: number; readonly z: number } => {
    const d = subtract(p, at);
    return { turn: Math.atan2(dot(d, e2), dot(d, e1)), z: dot(d, axis) };
  };
  const loops = loopsOf(g, outer).map((loop) => unwound(loop.map((v) => place(vectorAt(g.positions, v * 3)))));
  const rims = loops.filter((l) => Math.abs(l.turns) === 1);
  if (rims.length !== 2) return { why: 'It is no straight tube with two ends.' };
  const meanOf = (l: Loop) => l.points.reduce((s, p) => s + p.z, 0) / l.points.length;
  const [lower, upper] = rims.sort((a, b) => meanOf(a) - meanOf(b)) as [Loop, Loop];
  const holes = loops.filter((l) => l.turns === 0);
  const seam = seamOf(lower, upper, holes);
  const [foot, head] = [opened(lower, seam), opened(upper, seam)];
  const low = Math.min(...foot.map((p) => p.z));
  const put = (turn: number, z: number): Vec2 => [turn * radius, z - low];
  const outline: Vec2[] = [...foot.map((p) => put(p.turn, p.z)), ...[...head].reverse().map((p) => put(p.turn, p.z))];
  const inner = holes.map((l) => {
    const [first] = l.points;
    const shift = Math.floor((first!.turn - seam) / (2 * Math.PI)) * 2 * Math.PI + seam;
    const points = l.points.map((p) => put(p.turn - shift, p.z));
    return signedArea(points) > 0 ? points.reverse() : points;
  });
  const zs = Array.from({ length: g.positions.length / 3 }, (_, v) => dot(subtract(vectorAt(g.positions, v * 3), at), axis));
  const lengthMm = Math.max(...zs) - Math.min(...zs);
  const high = Math.max(...head.map((p) => p.z)) - low;
  return {
    wrap: {
      diameterMm: 2 * radius,
      wallMm: wall,
      lengthMm,
      ends: endCuts(g, axis),
      pattern: {
        thicknessMm: wall,
        sizeMm: [2 * Math.PI * radius, high],
        areaMm2: signedArea(outline) - inner.reduce((s, l) => s - signedArea(l), 0),
        contours: [outline, ...inner],
        bends: [],
      },
    },
  };
}

interface Loop {
  /** Round the tube, rad, going on past a whole turn; along it, mm. */
  readonly points: readonly { readonly turn: number; readonly z: number }[];
  /** How often it goes round the tube. */
  readonly turns: number;
}

/** A loop whose angle goes on from point to point instead of beginning anew. */
function unwound(points: readonly { readonly turn: number; readonly z: number }[]): Loop {
  let at = points[0]!.turn;
  const out = points.map((p, i) => {
    if (i) at += nearest(p.turn - at);
    return { turn: at, z: p.z };
  });
  const last = at + nearest(points[0]!.turn - at);
  return { points: out, turns: Math.round((last - points[0]!.turn) / (2 * Math.PI)) };
}

const nearest = (turn: number): number => turn - 2 * Math.PI * Math.round(turn / (2 * Math.PI));

/** Height of a rim at an angle. */
function heightAt(rim: Loop, turn: number): number {
  const { points } = rim;
  for (const [i, a] of points.entries()) {
    const b = points[(i + 1) % points.length]!;
    const span = nearest(b.turn - a.turn);
    const off = nearest(turn - a.turn);
    if (span === 0 || off / span < -1e-9 || off / span > 1 + 1e-9) continue;
    return a.z + ((b.z - a.z) * off) / span;
  }
  return points[0]!.z;
}

/** Where the tube is longest, and no hole lies. */
function seamOf(lower: Loop, upper: Loop, holes: readonly Loop[]): number {
  const spans = holes.map((h) => {
    const turns = h.points.map((p) => p.turn);
    const [a, b] = [Math.min(...turns), Math.max(...turns)];
    return { middle: (a + b) / 2, half: (b - a) / 2 };
  });
  const free = upper.points.filter((p) => spans.every((s) => Math.abs(nearest(p.turn - s.middle)) > s.half + 1e-6));
  let [best, most] = [(free[0] ?? upper.points[0]!).turn, -Infinity];
  for (const p of free) {
    const length = p.z - heightAt(lower, p.turn);
    if (length > most + 1e-9) [best, most] = [p.turn, length];
  }
  return best;
}

/** A rim from the seam to the seam, once round: turns from 0 to 2π. */
function opened(rim: Loop, seam: number): { readonly turn: number; readonly z: number }[] {
  const turned = rim.points
    .map((p) => ({ turn: p.turn - seam - 2 * Math.PI * Math.floor((p.turn - seam) / (2 * Math.PI) + 1e-12), z: p.z }))
    .sort((a, b) => a.turn - b.turn)
    .filter((p) => p.turn > 1e-9 && p.turn < 2 * Math.PI - 1e-9);
  const z = heightAt(rim, seam);
  return [{ turn: 0, z }, ...turned, { turn: 2 * Math.PI, z }];
}

const signedArea = (points: readonly Vec2[]): number =>
  points.reduce((s, p, i) => s + p[0] * points[(i + 1) % points.length]![1] - points[(i + 1) % points.length]![0] * p[1], 0) / 2;

/** Loops around faces: sides of triangles that only one of them has. Corner numbers. */
function loopsOf(g: PartGeometry, faces: ReadonlySet<number>): number[][] {
  const sides: (readonly [number, number])[] = [];
  for (let t = 0; t < g.triangleFace.length; t++)
    if (faces.has(g.triangleFace[t]!)) for (let k = 0; k < 3; k++) sides.push([g.triangles[t * 3 + k]!, g.triangles[t * 3 + ((k + 1) % 3)]!]);
  const known = new Set(sides.map(([a, b]) => `${a}>${b}`));
  const next = new Map<number, number[]>();
  for (const [a, b] of sides) {
    if (known.has(`${b}>${a}`)) continue;
    const list = next.get(a);
    if (list) list.push(b);
    else next.set(a, [b]);
  }
  const loops: number[][] = [];
  for (const start of next.keys()) {
    let to = next.get(start)!.pop();
    if (to === undefined) continue;
    const loop = [start];
    while (to !== undefined && to !== start) {
      loop.push(to);
      to = next.get(to)?.pop();
    }
    if (loop.length > 2) loops.push(loop);
  }
  return loops;
}
