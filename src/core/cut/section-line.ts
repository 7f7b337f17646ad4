import { add, cross, dot, scale, type Vec2, type Vec3 } from '../base/vector.ts';
import type { ViewFrame } from '../outline/directions.ts';
import type { CutShape } from './cut-shape.ts';
import type { Plane } from './plane-cut.ts';

/** What a cutting line on a view means: plane and shape of the cut, and the frame in which the section is seen. */
export interface LineCut {
  readonly frame: ViewFrame;
  readonly plane: Plane;
  readonly shape?: CutShape;
}

/** Directions within this angle count as parallel, rad. */
const PARALLEL = 1e-3;
/** While a line is drawn, directions this near to square or level snap to it, rad. */
const SNAP = (7 * Math.PI) / 180;

const minus = (a: Vec2, b: Vec2): Vec2 => [a[0] - b[0], a[1] - b[1]];
const dot2 = (a: Vec2, b: Vec2) => a[0] * b[0] + a[1] * b[1];
const cross2 = (a: Vec2, b: Vec2) => a[0] * b[1] - a[1] * b[0];
const unit = (a: Vec2): Vec2 => {
  const l = Math.hypot(a[0], a[1]);
  return [a[0] / l, a[1] / l];
};
const turned = (a: Vec2, angle: number): Vec2 => [a[0] * Math.cos(angle) - a[1] * Math.sin(angle), a[0] * Math.sin(angle) + a[1] * Math.cos(angle)];
const inModel = (v: Vec2, f: ViewFrame): Vec3 => add(scale(f.right, v[0]), scale(f.up, v[1]));
const inView = (v: Vec3, f: ViewFrame): Vec2 => [dot(v, f.right), dot(v, f.up)];

/** The next corner of a cutting line under the pointer: level, upright, or square to the first stretch when it is near to that. */
export function snapCorner(points: readonly Vec2[], next: Vec2): Vec2 {
  const last = points.at(-1);
  if (!last) return next;
  const base = points.length > 1 ? Math.atan2(points[1]![1] - points[0]![1], points[1]![0] - points[0]![0]) : 0;
  const [dx, dy] = minus(next, last);
  const angle = Math.atan2(dy, dx) - base;
  const square = Math.round(angle / (Math.PI / 2)) * (Math.PI / 2);
  if (Math.abs(angle - square) > SNAP) return next;
  const direction: Vec2 = [Math.cos(base + square), Math.sin(base + square)];
  const l = dot2([dx, dy], direction);
  return [last[0] + direction[0] * l, last[1] + direction[1] * l];
}

/**
 * The cut that a line drawn on a view stands for. The reader of the section stands to the right of someone who walks
 * the line. Straight: a full section. Square steps: a stepped one. One square bend towards the reader: a half section.
 * One other bend: two planes that meet there, of which the more level or upright one is the plane of the picture.
 * @param drawn corners in the view plane of `seen`, model mm
 * @returns a sentence when the line means no cut
 */
export function cutFromLine(drawn: readonly Vec2[], seen: ViewFrame): LineCut | { readonly wrong: string } {
  const points = withoutStraightCorners(drawn);
  const legs = points.slice(1).map((p, i) => minus(p, points[i]!));
  if (legs.length === 0 || legs.some((l) => !(Math.hypot(l[0], l[1]) > 1e-9))) return { wrong: 'A cutting line needs two different points.' };
  const u = unit(legs[0]!);
  const n: Vec2 = [u[1], -u[0]];
  const level = legs.map((l) => Math.abs(cross2(unit(l), u)) < PARALLEL);
  const upright = legs.map((l) => Math.abs(dot2(unit(l), u)) < PARALLEL);
  const plane = planeAt(points[0]!, n, seen);
  const base = { frame: sectionFrame(u, n, seen), plane };
  if (legs.length === 1) return base;
  if (legs.length === 2 && upright[1] && dot2(legs[1]!, n) > 0) {
    const across: Vec2 = [-u[0], -u[1]];
    return { ...base, shape: { kind: 'half', across: inModel(across, seen), from: dot2(across, points[1]!) } };
  }
  if (legs.length === 2 && !level[1]) return alignedCut(points, seen);
  if (legs.length % 2 === 1 && legs.every((l, i) => (i % 2 ? upright[i] : level[i] && dot2(l, u) > 0))) {
    const steps = legs.flatMap((_, i) => (i % 2 ? [] : [{ from: dot2(points[i]!, u), d: dot2(points[i]!, n) }]));
    return { ...base, shape: { kind: 'stepped', across: inModel(u, seen), steps } };
  }
  return { wrong: 'A cutting line runs straight, in square steps one way, or bends once. Draw it again.' };
}

/** A corner where the line goes straight on is none. */
function withoutStraightCorners(points: readonly Vec2[]): readonly Vec2[] {
  return points.filter((p, i) => {
    const [a, b] = [points[i - 1], points[i + 1]];
    if (!a || !b) return true;
    const [u, v] = [minus(p, a), minus(b, p)];
    return !(dot2(u, v) > 0 && Math.abs(cross2(u, v)) <= PARALLEL * Math.hypot(...u) * Math.hypot(...v));
  });
}

const planeAt = (p: Vec2, n: Vec2, seen: ViewFrame): Plane => ({ normal: inModel(n, seen), d: dot2(p, n) });

function alignedCut(points: readonly Vec2[], seen: ViewFrame): LineCut | { readonly wrong: string } {
  const bend = points[1]!;
  const [first, second] = [unit(minus(bend, points[0]!)), unit(minus(points[2]!, bend))];
  if (dot2(first, second) < -0.9) return { wrong: 'The cutting line folds back on itself. Bend it less.' };
  const slant = (v: Vec2) => Math.min(Math.abs(v[0]), Math.abs(v[1]));
  const turnBack = slant(second) < slant(first) - 1e-9;
  // Walked the other way the second stretch comes first, and the reader stands to the left.
  const u: Vec2 = turnBack ? [-second[0], -second[1]] : first;
  const v: Vec2 = turnBack ? [-first[0], -first[1]] : second;
  const n: Vec2 = turnBack ? [-u[1], u[0]] : [u[1], -u[0]];
  const angle = Math.atan2(cross2(u, v), dot2(u, v));
  // Right-handed about normal × across, which looks at the reader of this view, or away from him.
  const turn = cross2(n, u) > 0 ? angle : -angle;
  return {
    frame: sectionFrame(u, n, seen),
    plane: planeAt(bend, n, seen),
    shape: { kind: 'aligned', across: inModel(u, seen), from: dot2(bend, u), turn },
  };
}

/** The section is seen along −n. A line that is more level than upright stays level on its picture. */
function sectionFrame(u: Vec2, n: Vec2, seen: ViewFrame): ViewFrame {
  const toward = inModel(n, seen);
  if (Math.abs(u[0]) >= Math.abs(u[1]) - 1e-9) {
    const right = inModel(u[0] > 0 ? u : [-u[0], -u[1]], seen);
    return { right, up: cross(toward, right), toward };
  }
  const up = inModel(u[1] > 0 ? u : [-u[0], -u[1]], seen);
  return { right: cross(up, toward), up, toward };
}

/** The same cut seen from the other side. @param keep the axis of its frame that stays: up, or right as beside a view with which it shares the level one */
export function turnedRound(c: LineCut, keep: 'right' | 'up' = 'up'): LineCut {
  const back = (v: Vec3): Vec3 => scale(v, -1);
  const plane = { normal: back(c.plane.normal), d: -c.plane.d };
  const { right, up, toward } = c.frame;
  const frame = keep === 'up' ? { right: back(right), up, toward: back(toward) } : { right, up: back(up), toward: back(toward) };
  const { shape } = c;
  if (!shape) return { frame, plane };
  if (shape.kind === 'stepped') return { frame, plane, shape: { ...shape, steps: shape.steps.map((s) => ({ from: s.from, d: -s.d })) } };
  // The axis is counted from normal to across: it turns with the normal.
  if (shape.kind === 'aligned') return { frame, plane, shape: { ...shape, turn: -shape.turn } };
  if (shape.kind === 'local') {
    const flipped = (o: readonly number[]) => o.map((v, i) => (i % 2 === (keep === 'up' ? 0 : 1) ? -v : v));
    const more = shape.more?.map((m) => ({ outline: flipped(m.outline), d: -m.d }));
    return { frame, plane, shape: { ...shape, outline: flipped(shape.outline), ...(more ? { more } : {}) } };
  }
  return { frame, plane, shape };
}

/** A cutting line as a view shows it; corners in the view plane, model mm, from one end of the box to the other. */
export interface CuttingLine {
  readonly points: readonly Vec2[];
  /** Where the reader of the section stands, seen from each end; undefined at an end without an arrow. */
  readonly readers: readonly [Vec2 | undefined, Vec2 | undefined];
}

/** @returns undefined when the view does not see the cut edge-on, or the cut has no line (a broken-out section) */
export function lineOfCut(
  cut: { readonly normal: Vec3; readonly d: number; readonly shape?: CutShape | undefined },
  seen: ViewFrame,
  box: readonly [number, number, number, number],
): CuttingLine | undefined {
  const { shape } = cut;
  const n = inView(cut.normal, seen);
  if (Math.hypot(n[0], n[1]) < 0.999 || shape?.kind === 'local') return undefined;
  const corners: Vec2[] = [
    [box[0], box[1]],
    [box[2], box[1]],
    [box[0], box[3]],
    [box[2], box[3]],
  ];
  const farthest = (direction: Vec2) => Math.max(...corners.map((c) => dot2(c, direction)));
  const across: Vec2 = shape ? inView(shape.across, seen) : [-n[1], n[0]];
  if (Math.hypot(across[0], across[1]) < 0.999) return undefined;
  const at = (along: number, d: number): Vec2 => [across[0] * along + n[0] * d, across[1] * along + n[1] * d];
  const [start, end] = [-farthest([-across[0], -across[1]]), farthest(across)];
  switch (shape?.kind) {
    case undefined:
      return { points: [at(start, cut.d), at(end, cut.d)], readers: [n, n] };
    case 'half':
      return { points: [at(end, cut.d), at(shape.from, cut.d), at(shape.from, Math.max(cut.d, farthest(n)))], readers: [n, undefined] };
    case 'stepped': {
      const points = shape.steps.flatMap((s, i) => [at(i ? s.from : start, s.d), at(shape.steps[i + 1]?.from ?? end, s.d)]);
      return { points, readers: [n, n] };
    }
    case 'aligned': {
      const bend = at(shape.from, cut.d);
      const angle = cross2(n, across) > 0 ? shape.turn : -shape.turn;
      const v = turned(across, angle);
      const reach = Math.max(0, farthest(v) - dot2(bend, v));
      return { points: [at(start, cut.d), bend, [bend[0] + v[0] * reach, bend[1] + v[1] * reach]], readers: [n, turned(n, angle)] };
    }
  }
}
