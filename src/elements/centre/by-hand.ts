import { add, dot, scale, subtract, type Vec2, type Vec3 } from '../../core/base/vector.ts';
import type { RecordOf, ViewRecord } from '../../core/document/records.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import type { SheetStyle } from '../../core/sheet/paper.ts';
import type { Scene } from '../scene.ts';
import { flatWay, holdOf, type Hold } from '../target.ts';
import { drawCentres, drawLine, drawPitch } from './draw.ts';
import { circleThroughPoints } from './pitch.ts';

type Hand = RecordOf<'centre'>;

const flat = (v: Vec3): Vec2 => [v[0], v[1]];

/** A centreline that someone drew: nothing while what it holds on to is lost. */
export function byHand(record: Hand, view: ViewRecord, scene: Scene, style: SheetStyle): DisplayItem[] {
  const map = scene.map(view);
  const line = handLine(record, view, scene);
  if (line) return drawLine(map.toPaper(line.from), map.toPaper(line.to), style, record.past);
  const holds = holdsOf(record, view, scene);
  if (holds.length >= 3) {
    const circle = circleThroughPoints(holds.map((h) => flat(h.at)));
    return circle ? drawPitch(circle, map, style) : [];
  }
  const [only] = holds;
  if (only?.kind !== 'circle') return [];
  return drawCentres([{ x: only.at[0], y: only.at[1], radius: only.radius, component: -1, edge: -1 }], map, style);
}

const holdsOf = (record: Hand, view: ViewRecord, scene: Scene): Hold[] => {
  const holds = (record.of ?? []).map((t) => holdOf(scene, view, t));
  return holds.every((h) => h !== undefined) ? (holds as Hold[]) : [];
};

/** The line that one or two targets stand for, extended to what it is to reach. View space, model mm. */
export function handLine(record: Hand, view: ViewRecord, scene: Scene): { readonly from: Vec2; readonly to: Vec2 } | undefined {
  const holds = holdsOf(record, view, scene);
  const [a, b] = holds;
  const line = holds.length === 1 ? ofOne(a!) : holds.length === 2 ? midway(a!, b!) : undefined;
  if (!line || !record.to) return line;
  const to = holdOf(scene, view, record.to);
  return to ? extended(line, to) : line;
}

function ofOne(h: Hold): { from: Vec2; to: Vec2 } | undefined {
  if (h.kind === 'line') {
    // Of an outline the axis is meant.
    const by: Vec3 = h.axis ? subtract(h.axis, h.at) : [0, 0, 0];
    return { from: flat(add(h.ends[0], by)), to: flat(add(h.ends[1], by)) };
  }
  return undefined;
}

/** Midway between two edges, or between a point and a point square to the way between them. */
function midway(a: Hold, b: Hold): { from: Vec2; to: Vec2 } | undefined {
  if (a.kind === 'line' && b.kind === 'line') {
    const u = flatWay(a.way);
    let v = flatWay(b.way);
    if (u[0] * v[0] + u[1] * v[1] < 0) v = [-v[0], -v[1]];
    const way: Vec2 = [u[0] + v[0], u[1] + v[1]];
    const l = Math.hypot(...way);
    const unit: Vec3 = [way[0] / l, way[1] / l, 0];
    const at = scale(add(a.at, b.at), 0.5);
    const reach = [...a.ends, ...b.ends].map((e) => dot(subtract(e, at), unit));
    return { from: flat(add(at, scale(unit, Math.min(...reach)))), to: flat(add(at, scale(unit, Math.max(...reach)))) };
  }
  const d = subtract(b.at, a.at);
  const l = Math.hypot(d[0], d[1]);
  // From centre to centre: the line through both.
  return l > 1e-9 ? { from: flat(a.at), to: flat(b.at) } : undefined;
}

/** The line carried on to where it meets another one, or beside a point. */
function extended(line: { readonly from: Vec2; readonly to: Vec2 }, to: Hold): { readonly from: Vec2; readonly to: Vec2 } {
  const d: Vec2 = [line.to[0] - line.from[0], line.to[1] - line.from[1]];
  const l = Math.hypot(...d) || 1;
  const u: Vec2 = [d[0] / l, d[1] / l];
  const v: Vec2 = [to.at[0] - line.from[0], to.at[1] - line.from[1]];
  let t = v[0] * u[0] + v[1] * u[1];
  if (to.kind === 'line') {
    const w = flatWay(to.way);
    const det = u[0] * w[1] - u[1] * w[0];
    if (Math.abs(det) < 1e-9) return line;
    t = (v[0] * w[1] - v[1] * w[0]) / det;
  }
  const at: Vec2 = [line.from[0] + u[0] * t, line.from[1] + u[1] * t];
  return t < 0 ? { from: at, to: line.to } : t > l ? { from: line.from, to: at } : line;
}
