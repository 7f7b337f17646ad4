import { SurfaceKind } from '../assembly/part-geometry.ts';
import { FACE_STRIDE } from '../assembly/part-geometry.ts';
import { applyToDirection, applyToPoint, type Placement } from '../base/placement.ts';
import { add, cross, dot, normalize, scale, type Vec3 } from '../base/vector.ts';
import type { Plane } from '../cut/plane-cut.ts';
import { hasAxis, isWhole, type PartFeatures, type Round } from '../features/part-features.ts';
import { frameFrom, type ViewFrame } from '../outline/directions.ts';

/** How a part is looked at on its own sheet. Frames and planes in the assembled model. */
export interface PartLook {
  readonly front: ViewFrame;
  /** Instead of the plain front: something turned says more when it is cut along its axis. */
  readonly frontCut?: Plane;
  /** Neighbours of the front, each named by where it is seen from. */
  readonly neighbours: readonly { readonly from: Side; readonly frame: ViewFrame }[];
  /** A section of its own: seen from there, with its line in the front. */
  readonly section?: { readonly from: Side; readonly frame: ViewFrame; readonly plane: Plane };
  readonly pictorial: ViewFrame;
}
export type Side = 'right' | 'left' | 'top' | 'bottom';

type Axis = 0 | 1 | 2;
const AXES = [0, 1, 2] as const;

/** What is as wide as it is high to this share, and filled by one round surface, is turned. */
const ROUND = 0.02;
/** A hole so wide against the part shows an inside worth a section. */
const WIDE_HOLE = 0.2;
/** … and a blind one on the axis of something turned. */
const BORED = 0.4;
/** Ends of holes are at the part's side to this share of its size. */
const AT_END = 0.02;
/** A rounding as long as this share of the part along its axis belongs to its profile. */
const LONG_ROUND = 0.5;
/** Directions are along an axis to this. */
const SAME = 1e-4;

/**
 * The fewest views that show every hole and step of a part (common practice): its front is its largest side, something turned lies
 * level; a neighbour for each other direction in which it has holes, roundings along it, or steps; a section through bored and
 * blind holes that are wide.
 * @param f the part, in its own frame
 * @param placement where it stands in the model: its own axes are looked along
 */
export function lookAt(f: PartFeatures, placement: Placement): PartLook {
  const size = AXES.map((k) => Math.max(f.box[k + 3]! - f.box[k]!, 1e-9));
  const along = (r: Round): Axis | undefined => AXES.find((k) => Math.abs(r.axis[k]!) > 1 - SAME);
  const own = AXES.map((k) => applyToDirection(placement, [k === 0 ? 1 : 0, k === 1 ? 1 : 0, k === 2 ? 1 : 0]));
  const axial = f.rounds.flatMap((r) => {
    const axis = along(r);
    return axis === undefined ? [] : [{ r, axis }];
  });
  const turned = turnedAxis(axial, size);
  const steps = stepsOf(f);
  const holes = axial.filter(({ r }) => r.inward && hasAxis(r));
  const [t, r, u] = turned === undefined ? axesOfBlock(size, holes, steps) : axesOfTurned(turned, holes, own);
  const sign = (k: Axis): 1 | -1 => openSide(holes, k, f, size) ?? (k === u ? upward(own[u]!) : 1);
  const toward = scale(own[t]!, sign(t));
  const up = scale(own[u]!, upward(own[u]!));
  const front: ViewFrame = { right: cross(up, toward), up, toward };
  const across = dot(front.right, own[r]!) > 0 ? 1 : -1;

  const needed = new Set<Axis>();
  for (const { r: round, axis } of axial) {
    if (axis === t) continue;
    const coaxial = turned === axis && onAxis(round, f, turned);
    const counts = hasAxis(round) ? (round.inward || turned !== axis) && !coaxial : Math.abs(round.to - round.from) > LONG_ROUND * size[axis]!;
    if (counts && !(turned === axis && !round.inward)) needed.add(axis);
  }
  if (turned !== undefined && hasFlats(f, turned)) needed.add(turned);
  const inside = insideOf(holes, f, size, turned);
  if (turned !== undefined && inside?.axis === turned) needed.add(turned);
  // Steps towards the reader are seen from where the walls between them are edge-on.
  if (turned === undefined && steps[t]! > 0 && needed.size === 0) {
    const [walls, floors] = [steps[r]! > 0, steps[u]! > 0];
    if (walls !== floors) needed.add(walls ? u : r);
  } else if (turned === undefined && steps[t]! > 0 && steps[r]! === 0 && steps[u]! > 0) needed.add(r);
  else if (turned === undefined && steps[t]! > 0 && steps[u]! === 0 && steps[r]! > 0) needed.add(u);
  // A block wants its thickness: where it has the more steps.
  if (turned === undefined && needed.size === 0) needed.add(steps[u]! > steps[r]! ? r : steps[r]! > steps[u]! ? u : size[u]! < size[r]! ? u : r);

  const sideOf = (axis: Axis): Side => {
    const s = openSide(holes, axis, f, size) ?? 1;
    return axis === u ? (s * upward(own[u]!) > 0 ? 'top' : 'bottom') : s * across > 0 ? 'right' : 'left';
  };
  const neighbours = [r, u].filter((k) => needed.has(k)).map((k) => ({ from: sideOf(k), frame: seenFrom(front, sideOf(k)) }));
  const pictorial = frameFrom(normalize(add(add(front.toward, front.right), front.up)), front.up);
  const look = { front, neighbours, pictorial };
  if (!inside) return look;
  const at = applyToPoint(placement, inside.at);
  if (inside.axis !== t) {
    const plane = { normal: front.toward, d: dot(front.toward, at) };
    // The plain front of something turned says nothing that its section does not.
    if (turned === inside.axis) return { ...look, frontCut: plane };
    return look;
  }
  // A hole towards the reader is opened by a cut that is seen from above, or from where there is no plain neighbour yet.
  const from: Side =
    neighbours.some((n) => n.from === 'top' || n.from === 'bottom') && !neighbours.some((n) => n.from === 'right' || n.from === 'left') ? 'right' : 'top';
  const frame = seenFrom(front, from);
  return {
    ...look,
    neighbours: neighbours.filter((n) => n.from !== from),
    section: { from, frame, plane: { normal: frame.toward, d: dot(frame.toward, at) } },
  };
}

/** The frame seen from a side of the front. */
export function seenFrom({ right, up, toward }: ViewFrame, side: Side): ViewFrame {
  const back = (v: Vec3): Vec3 => scale(v, -1);
  switch (side) {
    case 'right':
      return { right: back(toward), up, toward: right };
    case 'left':
      return { right: toward, up, toward: back(right) };
    case 'top':
      return { right, up: back(toward), toward: up };
    case 'bottom':
      return { right, up: toward, toward: back(up) };
  }
}

interface Axial {
  readonly r: Round;
  readonly axis: Axis;
}

/** The axis about which the whole is round. */
function turnedAxis(axial: readonly Axial[], size: readonly number[]): Axis | undefined {
  const outer = axial.filter(({ r }) => !r.inward && isWhole(r)).sort((a, b) => reach(b.r) - reach(a.r))[0];
  if (!outer) return undefined;
  const across = AXES.filter((k) => k !== outer.axis).map((k) => size[k]!);
  return across.every((s) => Math.abs(s - 2 * reach(outer.r)) < ROUND * s) ? outer.axis : undefined;
}

/** The widest that a round surface gets. */
const reach = (r: Round): number =>
  r.kind === SurfaceKind.cone ? Math.max(...[r.from, r.to].map((at) => Math.abs(r.radius + at * Math.tan(r.second)))) : r.radius;

const upward = (v: Vec3): 1 | -1 => (v[2] < -1e-6 || (Math.abs(v[2]) <= 1e-6 && (v[1] < -1e-6 || (Math.abs(v[1]) <= 1e-6 && v[0] < 0))) ? -1 : 1);

/** Turned: level along its axis; cross holes are looked into. */
function axesOfTurned(axis: Axis, holes: readonly Axial[], own: readonly Vec3[]): readonly [toward: Axis, right: Axis, up: Axis] {
  const others = AXES.filter((k) => k !== axis);
  const crossed = others.find((k) => holes.some((h) => h.axis === k));
  const toward = crossed ?? (Math.abs(own[others[0]!]![2]) > Math.abs(own[others[1]!]![2]) ? others[1]! : others[0]!);
  return [toward, axis, others.find((k) => k !== toward)!];
}

/** The largest side, with most holes among equals; its longer extent level. */
function axesOfBlock(size: readonly number[], holes: readonly Axial[], steps: readonly number[]): readonly [toward: Axis, right: Axis, up: Axis] {
  const telling = (k: Axis) => {
    const [a, b] = AXES.filter((x) => x !== k);
    return size[a!]! * size[b!]! * (1 + 0.1 * Math.min(5, holes.filter((h) => h.axis === k).length) + 0.05 * Math.min(5, steps[a!]! + steps[b!]!));
  };
  const toward = [...AXES].sort((a, b) => telling(b) - telling(a))[0]!;
  const [right, up] = AXES.filter((k) => k !== toward).sort((a, b) => size[b]! - size[a]!);
  return [toward, right!, up!];
}

/** Levels of flat faces along each axis, besides both ends. */
function stepsOf(f: PartFeatures): [number, number, number] {
  const levels = AXES.map(() => new Set<number>());
  for (let i = 0; i < f.faceKind.length; i++) {
    if (f.faceKind[i] !== SurfaceKind.plane) continue;
    const p = i * FACE_STRIDE;
    const k = AXES.find((a) => Math.abs(f.faceParams[p + 3 + a]!) > 1 - SAME);
    if (k !== undefined) levels[k]!.add(Math.round(f.faceParams[p + k]! * 100));
  }
  return levels.map((l) => Math.max(0, l.size - 2)) as [number, number, number];
}

/** Flat faces that lie along the axis of something turned: flats, keyways. */
function hasFlats(f: PartFeatures, axis: Axis): boolean {
  return f.faceKind.some((kind, i) => kind === SurfaceKind.plane && Math.abs(f.faceParams[i * FACE_STRIDE + 3 + axis]!) < SAME);
}

/** Is a round surface about the middle of the part? */
function onAxis(r: Round, f: PartFeatures, axis: Axis): boolean {
  return AXES.every((k) => k === axis || Math.abs(r.at[k]! - (f.box[k]! + f.box[k + 3]!) / 2) < AT_END * (f.box[k + 3]! - f.box[k]!));
}

/** From where to where it goes along an axis of the part. */
function reachAlong(r: Round, axis: Axis): readonly [number, number] {
  const ends = [r.at[axis]! + r.axis[axis]! * r.from, r.at[axis]! + r.axis[axis]! * r.to];
  return [Math.min(...ends), Math.max(...ends)];
}

/** From which side more of the blind holes are seen; undefined where that makes no difference. */
function openSide(holes: readonly Axial[], axis: Axis, f: PartFeatures, size: readonly number[]): 1 | -1 | undefined {
  const near = AT_END * size[axis]!;
  let balance = 0;
  for (const { r } of holes.filter((h) => h.axis === axis)) {
    const [low, high] = reachAlong(r, axis);
    balance += Number(high > f.box[axis + 3]! - near) - Number(low < f.box[axis]! + near);
  }
  return balance > 0 ? 1 : balance < 0 ? -1 : undefined;
}

/** A wide hole that is blind or stepped, or bored through something turned. */
function insideOf(
  holes: readonly Axial[],
  f: PartFeatures,
  size: readonly number[],
  turned: Axis | undefined,
): { readonly axis: Axis; readonly at: Vec3 } | undefined {
  const wide = holes
    .filter(({ r, axis }) => 2 * r.radius > WIDE_HOLE * Math.min(...AXES.filter((k) => k !== axis).map((k) => size[k]!)))
    .sort((a, b) => b.r.radius - a.r.radius);
  const found = wide.find(({ r, axis }) => {
    const [low, high] = reachAlong(r, axis);
    const near = AT_END * size[axis]!;
    const through = low < f.box[axis]! + near && high > f.box[axis + 3]! - near;
    // Shafts stay whole for a centre hole; what is bored is cut.
    if (turned === axis && onAxis(r, f, axis)) return through || 2 * r.radius > BORED * Math.min(...AXES.filter((k) => k !== axis).map((k) => size[k]!));
    const stepped = holes.some(
      (o) => o.axis === axis && o.r !== r && Math.abs(o.r.radius - r.radius) > 1e-3 && AXES.every((k) => k === axis || Math.abs(o.r.at[k]! - r.at[k]!) < 1e-3),
    );
    return !through || stepped;
  });
  return found && { axis: found.axis, at: found.r.at };
}
