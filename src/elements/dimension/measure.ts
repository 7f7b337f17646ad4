import { withinTurn } from '../../core/base/angle.ts';
import { add, cross, length, scale, subtract, type Vec2, type Vec3 } from '../../core/base/vector.ts';
import type { ValueKind } from '../../core/dimension/value.ts';
import type { RecordOf, ViewRecord } from '../../core/document/records.ts';
import type { Scene } from '../scene.ts';
import { flatLength, flatWay, holdOf, isSeenRound, type CircleHold, type Hold, type LineHold, type Target } from '../target.ts';

export type DimensionRecord = RecordOf<'dimension'>;

/** A stretch that is measured along a direction. View space, model mm. */
export interface Stretch {
  readonly shape: 'stretch';
  readonly value: number;
  readonly kind: ValueKind;
  /** What its ends belong to: extension lines begin there. */
  readonly from: Vec2;
  readonly to: Vec2;
  /** What an extension line may begin at either end of, where that is a line. */
  readonly fromEnds?: readonly [Vec2, Vec2] | undefined;
  readonly toEnds?: readonly [Vec2, Vec2] | undefined;
  /** Unit vector along which it is measured. */
  readonly along: Vec2;
  /** Only from the axis: half of a diameter is drawn. */
  readonly half?: true;
}

/** Something round that is seen as a circle. */
export interface Round {
  readonly shape: 'round';
  readonly value: number;
  readonly kind: 'diameter' | 'radius';
  readonly centre: Vec2;
  readonly radius: number;
}

/** An angle at a corner, or an arc's length about its centre. */
export interface Corner {
  readonly shape: 'corner';
  readonly value: number;
  readonly kind: 'angle' | 'arc';
  readonly centre: Vec2;
  /** Where it begins, rad against the clock, and how far it goes. */
  readonly start: number;
  readonly turn: number;
  /** How far what is measured reaches from the corner, along either side. */
  readonly reach: readonly [number, number];
}

/** A value that stands at the end of a leader. */
export interface Pointed {
  readonly shape: 'pointed';
  readonly value: number;
  readonly kind: 'chamfer' | 'slope';
  readonly at: Vec2;
}

export type Measured = Stretch | Round | Corner | Pointed;

const flat = (v: Vec3): Vec2 => [v[0], v[1]];
const dot2 = (a: Vec2, b: Vec2) => a[0] * b[0] + a[1] * b[1];

/** A view from no main direction of the model: what is measured along a line is its true length, not its picture's. */
const isPictorial = (view: ViewRecord): boolean => view.toward.every((v) => Math.abs(v) < 1 - 1e-6);

/**
 * What a dimension measures, as things stand: one value, or one after the other of a row.
 * @returns undefined when something it holds on to is lost or not at hand
 */
export function measured(record: DimensionRecord, scene: Scene): readonly Measured[] | undefined {
  const view = scene.one('view', record.view);
  if (!view) return undefined;
  const holds = record.of.map((t) => holdOf(scene, view, t));
  if (holds.some((h) => !h)) return undefined;
  return measureHolds(record.kind, record.of, holds as readonly Hold[], view, record.row);
}

/** The same of targets that are only picked so far. */
export function measureHolds(
  kind: DimensionRecord['kind'],
  of: readonly Target[],
  holds: readonly Hold[],
  view: ViewRecord,
  row?: DimensionRecord['row'],
): readonly Measured[] | undefined {
  const [a, b] = holds as [Hold, Hold | undefined];
  switch (kind) {
    case 'level':
    case 'upright':
    case 'aligned':
      return stretches(kind, of, holds, view, row);
    case 'diameter':
    case 'radius': {
      if (a.kind === 'circle' && !b) return round(kind, a);
      const across = b ? acrossBoth(kind, a, b) : acrossOne(kind, a);
      return across && [across];
    }
    case 'angle':
    case 'arc': {
      const corner = b ? between(a, b, of) : kind === 'arc' || a.kind === 'circle' ? ofArc(kind, a) : ofCone(a);
      return corner && [corner];
    }
    case 'chamfer':
    case 'slope':
      return pointed(kind, a, b);
  }
}

/** A single line is measured from end to end; else from the first target to the second, or along the row. */
function stretches(
  kind: 'level' | 'upright' | 'aligned',
  of: readonly Target[],
  holds: readonly Hold[],
  view: ViewRecord,
  row: DimensionRecord['row'],
): Stretch[] | undefined {
  const [only] = holds as [Hold];
  if (holds.length === 1) {
    const ends = only.kind === 'line' ? only.ends : only.kind === 'circle' && only.arc ? ([only.arc.start, only.arc.end] as const) : undefined;
    if (!ends) return undefined;
    const along = directionOf(kind, { kind: 'point', at: ends[0] }, { kind: 'point', at: ends[1] });
    return along && [stretch(ends[0], ends[1], along, kind, view)];
  }
  const along = directionOf(kind, holds[0]!, holds.at(-1)!);
  if (!along) return undefined;
  const out: Stretch[] = [];
  for (let i = 1; i < holds.length; i++) {
    const first = row === 'chain' || row === undefined ? i - 1 : 0;
    const [h, g] = [holds[first]!, holds[i]!];
    const [p, q] = [placeAlong(h, g, along, of[first]!), placeAlong(g, h, along, of[i]!)];
    out.push({ ...stretch(p, q, along, kind, view), fromEnds: endsOf(h, along), toEnds: endsOf(g, along) });
  }
  return out;
}

/** The ends of a line that lies square to a measure; an axis is taken hold of at its middle. */
function endsOf(h: Hold, along: Vec2): readonly [Vec2, Vec2] | undefined {
  if (h.kind !== 'line' || Math.abs(dot2(flatWay(h.way), along)) > 1e-6) return undefined;
  return [flat(h.ends[0]), flat(h.ends[1])];
}

function stretch(p: Vec3, q: Vec3, along: Vec2, kind: string, view: ViewRecord): Stretch {
  const d = subtract(q, p);
  const value = kind === 'aligned' && isPictorial(view) ? length(d) : Math.abs(dot2(flat(d), along));
  return { shape: 'stretch', value, kind: 'length', from: flat(p), to: flat(q), along };
}

/** The direction of a measure; of aligned ones square to lines, else from place to place. */
function directionOf(kind: 'level' | 'upright' | 'aligned', a: Hold, b: Hold): Vec2 | undefined {
  if (kind === 'level') return [1, 0];
  if (kind === 'upright') return [0, 1];
  const line = a.kind === 'line' ? a : b.kind === 'line' ? b : undefined;
  if (line) {
    const [x, y] = flatWay(line.way);
    const square: Vec2 = [-y, x];
    // Looking from the first to the second.
    return dot2(flat(subtract(b.at, a.at)), square) < 0 ? [y, -x] : square;
  }
  const d = flat(subtract(b.at, a.at));
  const l = Math.hypot(...d);
  return l > 1e-9 ? [d[0] / l, d[1] / l] : undefined;
}

/** Where a target is measured from: a rim that was asked for, the end of a line that lies askew, else its middle. */
function placeAlong(h: Hold, other: Hold, along: Vec2, t: Target): Vec3 {
  if (h.kind === 'circle') {
    if (t.as !== 'near' && t.as !== 'far') return h.at;
    const toOther = Math.sign(dot2(flat(subtract(other.at, h.at)), along)) || 1;
    const side = t.as === 'near' ? toOther : -toOther;
    return add(h.at, scale([along[0], along[1], 0], side * h.radius));
  }
  if (h.kind === 'line' && Math.abs(dot2(flatWay(h.way), along)) > 1e-6) {
    const { at } = t;
    if (!at) return h.at;
    const away = (e: Vec3) => Math.hypot(e[0] - at[0], e[1] - at[1]);
    return away(h.ends[0]) <= away(h.ends[1]) ? h.ends[0] : h.ends[1];
  }
  return h.at;
}

function round(kind: 'diameter' | 'radius', h: CircleHold): Measured[] {
  return [{ shape: 'round', value: kind === 'diameter' ? 2 * h.radius : h.radius, kind, centre: flat(h.at), radius: h.radius }];
}

/** The diameter of something round seen from the side, by its axis or one outline. */
function acrossOne(kind: 'diameter' | 'radius', h: Hold): Stretch | undefined {
  if (h.kind === 'circle' || h.kind === 'point') return undefined;
  if (h.radius === undefined) return undefined;
  const [x, y] = flatWay(h.way);
  const along: Vec2 = [-y, x];
  const out = scale([along[0], along[1], 0], h.radius);
  const middle = h.axis ?? h.at;
  const [from, to] = [subtract(middle, out), add(middle, out)];
  return kind === 'diameter'
    ? { shape: 'stretch', value: 2 * h.radius, kind, from: flat(from), to: flat(to), along }
    : { shape: 'stretch', value: h.radius, kind, from: flat(middle), to: flat(to), along };
}

/** … by two edges of it, or in a section by one edge and the axis: the value is that of the whole. */
function acrossBoth(kind: 'diameter' | 'radius', a: Hold, b: Hold): Stretch | undefined {
  const along = directionOf('aligned', a, b);
  if (!along) return undefined;
  const apart = Math.abs(dot2(flat(subtract(b.at, a.at)), along));
  const base = { shape: 'stretch' as const, from: flat(a.at), to: flat(b.at), along };
  const isAxis = (h: Hold) => h.kind === 'line' && h.radius !== undefined && !h.axis;
  if (isAxis(a) || isAxis(b)) return { ...base, value: kind === 'diameter' ? 2 * apart : apart, kind, ...(kind === 'diameter' ? { half: true as const } : {}) };
  return { ...base, value: kind === 'diameter' ? apart : apart / 2, kind };
}

/** Between two lines; of the four angles the one in which both were picked. */
function between(a: Hold, b: Hold, of: readonly Target[]): Corner | undefined {
  if (a.kind !== 'line' || b.kind !== 'line') return undefined;
  const [u, v] = [flatWay(a.way), flatWay(b.way)];
  const det = u[0] * v[1] - u[1] * v[0];
  if (Math.abs(det) < 1e-9) return undefined;
  const d = flat(subtract(b.at, a.at));
  const t = (d[0] * v[1] - d[1] * v[0]) / det;
  const centre: Vec2 = [a.at[0] + u[0] * t, a.at[1] + u[1] * t];
  const ray = (h: LineHold, w: Vec2, picked: Vec2 | undefined): readonly [number, number] => {
    const to = picked ?? flat(h.at);
    const side = dot2([to[0] - centre[0], to[1] - centre[1]], w) < 0 ? -1 : 1;
    const reach = Math.max(...h.ends.map((e) => side * dot2([e[0] - centre[0], e[1] - centre[1]], w)));
    return [Math.atan2(side * w[1], side * w[0]), Math.max(0, reach)];
  };
  const [[p, rp], [q, rq]] = [ray(a, u, of[0]?.at), ray(b, v, of[1]?.at)];
  let turn = q - p;
  while (turn > Math.PI) turn -= 2 * Math.PI;
  while (turn < -Math.PI) turn += 2 * Math.PI;
  // The true angle of edges that do not lie in the plane of the paper is not the one that is seen: what is drawn is what counts.
  const [start, reach] = turn < 0 ? [q, [rq, rp] as const] : [p, [rp, rq] as const];
  return { shape: 'corner', value: Math.abs(turn), kind: 'angle', centre, start, turn: Math.abs(turn), reach };
}

function ofArc(kind: 'angle' | 'arc', h: Hold): Corner | undefined {
  if (h.kind !== 'circle' || !h.arc || !isSeenRound(h)) return undefined;
  const angle = (p: Vec3) => Math.atan2(p[1] - h.at[1], p[0] - h.at[0]);
  const [s, m, e] = [angle(h.arc.start), angle(h.arc.middle), angle(h.arc.end)];
  // Against the clock from whichever end the middle is met first.
  const start = withinTurn(m - s) <= withinTurn(e - s) ? s : e;
  const { turn } = h.arc;
  return { shape: 'corner', value: kind === 'arc' ? h.radius * turn : turn, kind, centre: flat(h.at), start, turn, reach: [h.radius, h.radius] };
}

/** The angle between the outlines of a cone seen from the side. */
function ofCone(h: Hold): Corner | undefined {
  if (h.kind !== 'line' || h.radius === undefined || !h.cone) return undefined;
  const [x, y] = flatWay(h.way);
  const apex = subtract(h.cone.at, scale(h.way, h.radius / Math.tan(h.cone.halfAngle)));
  const start = Math.atan2(y, x) - h.cone.halfAngle;
  const reach = Math.max(...h.ends.map((e) => flatLength(subtract(e, apex)) / Math.cos(h.cone!.halfAngle)));
  return { shape: 'corner', value: 2 * h.cone.halfAngle, kind: 'angle', centre: flat(apex), start, turn: 2 * h.cone.halfAngle, reach: [reach, reach] };
}

function pointed(kind: 'chamfer' | 'slope', a: Hold, b: Hold | undefined): Pointed[] | undefined {
  if (a.kind !== 'line') return undefined;
  const d = flat(subtract(a.ends[1], a.ends[0]));
  const [dx, dy] = [Math.abs(d[0]), Math.abs(d[1])];
  if (kind === 'chamfer') return [{ shape: 'pointed', value: Math.min(dx, dy), kind, at: flat(a.at) }];
  // Against another line, or against whichever of level and upright is nearer.
  const ratio = b?.kind === 'line' ? Math.abs(Math.tan(Math.asin(length(cross(a.way, b.way))))) : Math.min(dx, dy) / Math.max(dx, dy, 1e-12);
  return [{ shape: 'pointed', value: ratio, kind, at: flat(a.at) }];
}

/** The angle of a chamfer against whichever of level and upright is nearer, rad. */
export function chamferAngle(h: Hold): number {
  if (h.kind !== 'line') return 0;
  const d = subtract(h.ends[1], h.ends[0]);
  return Math.atan2(Math.min(Math.abs(d[0]), Math.abs(d[1])), Math.max(Math.abs(d[0]), Math.abs(d[1])));
}

/** Values closer than this, as a share, are the same: files round to about 1e-6. */
const SAME = 2e-6;

/** Is a value another one than when it was last seen? */
export const hasChanged = (was: number | undefined, is: number): boolean => was !== undefined && Math.abs(was - is) > SAME * Math.max(1, Math.abs(was));
