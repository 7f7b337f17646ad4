import type { z } from 'zod';
import { CurveKind, EDGE_STRIDE, FACE_STRIDE, SurfaceKind } from '../core/assembly/part-geometry.ts';
import { applyToDirection, applyToPoint } from '../core/base/placement.ts';
import { add, cross, dot, length, normalize, scale, subtract, vectorAt, type Vec2, type Vec3 } from '../core/base/vector.ts';
import type { EdgeReference, FaceReference } from '../core/document/fields.ts';
import type { ViewRecord } from '../core/document/records.ts';
import { edgeReach } from '../core/features/extent.ts';
import { ENDS_STRIDE } from '../core/features/part-features.ts';
import type { target } from '../core/features/record.ts';
import { linesBox } from '../core/outline/linework.ts';
import type { ViewResult } from '../core/views/compute-view.ts';
import type { Change } from './change.ts';
import type { Scene } from './scene.ts';

/** What a dimension, a centreline or a leader holds on to. */
export type Target = z.infer<typeof target>;

/** A target as it is in a view now: axes of the view, x right, y up, z towards the reader; model mm. */
export type Hold = PointHold | LineHold | CircleHold;

export interface PointHold {
  readonly kind: 'point';
  readonly at: Vec3;
}

/** A straight edge, the axis of something round, a flat surface seen edge-on, the outline of a cylinder. */
export interface LineHold {
  readonly kind: 'line';
  /** The middle of it. */
  readonly at: Vec3;
  /** Unit vector. */
  readonly way: Vec3;
  readonly ends: readonly [Vec3, Vec3];
  /** Of an axis or an outline: radius of what is about it. */
  readonly radius?: number;
  /** Of the outline of a cylinder: the middle of the axis. */
  readonly axis?: Vec3;
  /** Of the axis of a cone, which looks where that widens: where its radius is `radius`, and half its angle, rad. */
  readonly cone?: { readonly at: Vec3; readonly halfAngle: number };
}

/** Something round that is seen along its axis, or on the slant. */
export interface CircleHold {
  readonly kind: 'circle';
  /** Centre. */
  readonly at: Vec3;
  readonly axis: Vec3;
  readonly radius: number;
  /** Of an arc: its ends and how far it goes, rad. */
  readonly arc?: { readonly start: Vec3; readonly middle: Vec3; readonly end: Vec3; readonly turn: number };
}

const middleOf = (a: Vec3, b: Vec3): Vec3 => scale(add(a, b), 0.5);
export const flatLength = (v: Vec3): number => Math.hypot(v[0], v[1]);

/** Seen along: less than this of a direction's length is left on paper. */
const ALONG = 1e-6;

/**
 * Finds what a target is in its view now.
 * @returns undefined when it is lost, or not at hand yet
 */
export function holdOf(scene: Scene, view: ViewRecord, t: Target): Hold | undefined {
  const hold = wholeHold(scene, view, t);
  if (!hold || !t.as) return hold;
  if (hold.kind === 'line') {
    if (t.as === 'start') return { kind: 'point', at: hold.ends[0] };
    if (t.as === 'end') return { kind: 'point', at: hold.ends[1] };
    return t.as === 'middle' ? { kind: 'point', at: hold.at } : hold;
  }
  if (hold.kind === 'circle' && hold.arc && (t.as === 'start' || t.as === 'end' || t.as === 'middle')) return { kind: 'point', at: hold.arc[t.as] };
  return hold;
}

function wholeHold(scene: Scene, view: ViewRecord, t: Target): Hold | undefined {
  if (t.edge && t.with) return crossing(edgeHold(scene, view, t.edge), edgeHold(scene, view, t.with));
  if (t.edge) return edgeHold(scene, view, t.edge);
  if (t.face) return faceHold(scene, view, t.face, t.at);
  if (t.side) return sideHold(scene, view, t);
  return t.at && { kind: 'point', at: [t.at[0], t.at[1], 0] };
}

/** The component that a target is on, if it is on one. */
export const pathOfTarget = (t: Target): string | undefined => t.edge?.component ?? t.face?.component ?? t.of;

/** Where targets were pressed in a view, after a change of that; the same object when nothing happened to one. */
export function followTarget(t: Target, view: string, change: Change): Target {
  const at = t.at && change.point(view, t.at, pathOfTarget(t));
  return !at || (at[0] === t.at![0] && at[1] === t.at![1]) ? t : { ...t, at };
}

/** Is a target gone with the shape it was on? */
export const isLost = (t: Target): boolean => t.edge?.lost === true || t.with?.lost === true || t.face?.lost === true;

function placeOf(scene: Scene, view: ViewRecord, r: EdgeReference | FaceReference) {
  const component = r.lost ? undefined : scene.component(r.component);
  if (!component || scene.shapeIn(view, component.index) !== r.geometry) return undefined;
  const features = scene.featuresIn(view, component.index);
  return features && { features, placement: scene.placed(view)[component.index]! };
}

function edgeHold(scene: Scene, view: ViewRecord, r: EdgeReference): Hold | undefined {
  const place = placeOf(scene, view, r);
  if (!place) return undefined;
  const { features: f, placement } = place;
  const e = r.edge;
  const kind = f.edgeCurve[e];
  if (kind === undefined) return undefined;
  const [start, middle, end] = [0, 3, 6].map((k) => applyToPoint(placement, vectorAt(f.edgeEnds, e * ENDS_STRIDE + k))) as [Vec3, Vec3, Vec3];
  if (kind === CurveKind.circle) {
    const turn = f.edgeTurn[e]!;
    const p = e * EDGE_STRIDE;
    const circle = {
      kind: 'circle' as const,
      at: applyToPoint(placement, vectorAt(f.edgeParams, p)),
      axis: applyToDirection(placement, vectorAt(f.edgeParams, p + 3)),
      radius: f.edgeParams[p + 6]!,
    };
    return Math.abs(turn) > 2 * Math.PI - 1e-6 ? circle : { ...circle, arc: { start, middle, end, turn: Math.abs(turn) } };
  }
  const d = subtract(end, start);
  const l = length(d);
  if (kind === CurveKind.line && l > 1e-9) {
    // Seen along it is a point.
    if (flatLength(d) < ALONG * l) return { kind: 'point', at: start };
    return { kind: 'line', at: middleOf(start, end), way: scale(d, 1 / l), ends: [start, end] };
  }
  // A free curve has its ends and its middle.
  return l > 1e-9 ? { kind: 'line', at: middle, way: scale(d, 1 / l), ends: [start, end] } : { kind: 'point', at: start };
}

/** @param picked where, view space: of the two outlines of a cylinder the nearer one was meant */
function faceHold(scene: Scene, view: ViewRecord, r: FaceReference, picked: Vec2 | undefined): Hold | undefined {
  const place = placeOf(scene, view, r);
  if (!place) return undefined;
  const { features: f, placement } = place;
  if (f.faceKind[r.face] === undefined) return undefined;
  const round = f.rounds[f.faceRound[r.face]!];
  if (!round) {
    if (f.faceKind[r.face] !== SurfaceKind.plane) return undefined;
    const p = r.face * FACE_STRIDE;
    return planeHold(applyToPoint(placement, vectorAt(f.faceParams, p)), applyToDirection(placement, vectorAt(f.faceParams, p + 3)), picked);
  }
  const axis = applyToDirection(placement, round.axis);
  const at = applyToPoint(placement, round.at);
  if (round.kind === SurfaceKind.sphere) return { kind: 'circle', at, axis: [0, 0, 1], radius: round.radius };
  const ends: [Vec3, Vec3] = [add(at, scale(axis, round.from)), add(at, scale(axis, round.to))];
  if (flatLength(axis) < 1e-3) return { kind: 'circle', at: middleOf(...ends), axis, radius: round.radius };
  const cone = round.kind === SurfaceKind.cone ? { cone: { at, halfAngle: round.second } } : {};
  const line: LineHold = { kind: 'line', at: middleOf(...ends), way: axis, ends, radius: round.radius, ...cone };
  if (!picked || round.kind !== SurfaceKind.cylinder) return line;
  // Outline of a cylinder: the axis moved square to itself and to the line of sight.
  const out = normalize(cross(axis, [0, 0, 1]));
  const off = (picked[0] - at[0]) * out[0] + (picked[1] - at[1]) * out[1];
  // Nearer to the axis than to the outline the axis is meant.
  if (Math.abs(off) < round.radius / 2) return line;
  const by = scale(out, Math.sign(off) * round.radius);
  return { ...line, at: add(line.at, by), ends: [add(ends[0], by), add(ends[1], by)], axis: line.at };
}

/** A flat surface seen edge-on is a line; else it has no place to measure from. */
function planeHold(at: Vec3, normal: Vec3, picked: Vec2 | undefined): Hold | undefined {
  if (Math.abs(normal[2]) > 1e-4) return undefined;
  const way = normalize([-normal[1], normal[0], 0]);
  const along = picked ? (picked[0] - at[0]) * way[0] + (picked[1] - at[1]) * way[1] : 0;
  const foot = add(at, scale(way, along));
  return { kind: 'line', at: foot, way, ends: [foot, foot] };
}

/** Where two straight edges meet on paper, extended. */
function crossing(a: Hold | undefined, b: Hold | undefined): Hold | undefined {
  if (a?.kind !== 'line' || b?.kind !== 'line') return undefined;
  const det = a.way[0] * b.way[1] - a.way[1] * b.way[0];
  if (Math.abs(det) < 1e-9) return undefined;
  const d = subtract(b.at, a.at);
  const t = (d[0] * b.way[1] - d[1] * b.way[0]) / det;
  return { kind: 'point', at: add(a.at, scale(a.way, t)) };
}

/** Across or up, and where in a box. */
const SIDES: { readonly [S in NonNullable<Target['side']>]: { readonly index: 0 | 1; readonly box: number } } = {
  left: { index: 0, box: 0 },
  bottom: { index: 1, box: 1 },
  right: { index: 0, box: 2 },
  top: { index: 1, box: 3 },
};

/** The outermost line of a view to one side, or of one component in it: upright for left and right, level for top and bottom. */
function sideHold(scene: Scene, view: ViewRecord, t: Target): Hold | undefined {
  const only = t.of === undefined ? undefined : scene.component(t.of)?.index;
  if (t.of !== undefined && only === undefined) return undefined;
  const box = only === undefined ? viewReach(scene, view) : componentReach(scene, view, only);
  if (!box) return undefined;
  const side = SIDES[t.side!];
  const [least, most] = alongSide(scene, view, side.index, box[side.box]!, only) ?? [box[1 - side.index]!, box[3 - side.index]!];
  const place = (v: number): Vec3 => (side.index === 0 ? [box[side.box]!, v, 0] : [v, box[side.box]!, 0]);
  const ends: [Vec3, Vec3] = [place(least), place(most)];
  return { kind: 'line', at: middleOf(...ends), way: side.index === 0 ? [0, 1, 0] : [1, 0, 0], ends };
}

/** From where to where something drawn touches the outermost line of a view. */
function alongSide(scene: Scene, view: ViewRecord, index: 0 | 1, value: number, only: number | undefined): readonly [number, number] | undefined {
  const result = scene.whole(view.id);
  if (!result) return undefined;
  const { lines } = result;
  const near = 2e-3 * Math.max(result.box[2] - result.box[0], result.box[3] - result.box[1]);
  let [least, most] = [Infinity, -Infinity];
  for (let i = 0; i < lines.kind.length; i++) {
    if (only !== undefined && lines.component[i] !== only) continue;
    for (let p = lines.start[i]! * 2; p < lines.start[i + 1]! * 2; p += 2) {
      if (Math.abs(lines.xy[p + index]! - value) > near) continue;
      least = Math.min(least, lines.xy[p + 1 - index]!);
      most = Math.max(most, lines.xy[p + 1 - index]!);
    }
  }
  return least <= most ? [least, most] : undefined;
}

type Box = readonly [number, number, number, number];

/** How far the whole of a view truly reaches; view space, model mm: minX minY maxX maxY. */
export function viewReach(scene: Scene, view: ViewRecord): Box | undefined {
  const result = scene.whole(view.id);
  if (!result) return undefined;
  const known = reaches.get(result);
  if (known && known.measured === scene.partFeatures) return known.box;
  // Lines are put together to a thousandth or so: of edges that are measured the measure counts.
  const arcs = linesBox(result.lines, (i) => {
    const f = scene.featuresIn(view, result.lines.component[i]!);
    const edge = result.lines.edge[i]!;
    // Planes, cylinders and cones never reach past their edges.
    return !f || (edge < 0 && !RULED.has(f.faceKind[-1 - edge]!));
  });
  const out = [...result.box] as [number, number, number, number];
  const take = (i: 0 | 1, least: number, most: number) => {
    out[i] = Math.min(out[i], least);
    out[i + 2] = Math.max(out[i + 2]!, most);
  };
  take(0, arcs[0], arcs[2]);
  take(1, arcs[1], arcs[3]);
  // What a cut took away reaches nowhere; of what is whole the edges are exact.
  if (scene.seenAs(view).cut) return out;
  const shown = new Set(result.lines.component);
  const places = scene.placed(view);
  let all = true;
  for (const c of shown) {
    const f = scene.featuresIn(view, c);
    if (!f) {
      all = false;
      continue;
    }
    take(0, ...edgeReach(f, places[c]!, [1, 0, 0]));
    take(1, ...edgeReach(f, places[c]!, [0, 1, 0]));
  }
  // The same result is of the same parts in the same places; what is measured on them may come later, by another K.
  if (all) reaches.set(result, { box: out, measured: scene.partFeatures });
  return out;
}

const RULED: ReadonlySet<number> = new Set([SurfaceKind.plane, SurfaceKind.cylinder, SurfaceKind.cone]);
const reaches = new WeakMap<ViewResult, { readonly box: Box; readonly measured: unknown }>();

function componentReach(scene: Scene, view: ViewRecord, c: number): Box | undefined {
  const f = scene.featuresIn(view, c);
  if (!f) return undefined;
  const place = scene.placed(view)[c]!;
  const [x, y] = [edgeReach(f, place, [1, 0, 0]), edgeReach(f, place, [0, 1, 0])];
  return [x[0], y[0], x[1], y[1]];
}

/** The direction along a line, as far as it lies on paper. */
export const flatWay = (v: Vec3): Vec2 => {
  const l = flatLength(v) || 1;
  return [v[0] / l, v[1] / l];
};

/** Is something round seen along its axis, so that it reads as a circle? */
export const isSeenRound = (h: CircleHold): boolean => Math.abs(dot(h.axis, [0, 0, 1])) > 1 - 1e-4;
