import { pointToSegment } from '../core/base/rect.ts';
import type { Vec2 } from '../core/base/vector.ts';
import type { ViewRecord } from '../core/document/records.ts';
import { arcPoint } from '../core/outline/arcs.ts';
import { ARC_STRIDE, HIDDEN, type Linework } from '../core/outline/linework.ts';
import { axisLinesOf, distanceToLine } from './centre/axes.ts';
import type { Scene } from './scene.ts';
import { holdOf, viewReach, type Target } from './target.ts';

interface Found {
  readonly target: Target;
  /** How far from the pointer, view space, model mm. */
  readonly off: number;
}

/**
 * What can be measured from at a place of a view: an end or the middle of an edge, a centre, else an edge, an outline, an
 * axis, the outermost line of the view. The nearest first; ends and centres before what they are on.
 * @param at paper mm @param grace what a press may be off, paper mm
 */
export function targetsAt(scene: Scene, view: ViewRecord, at: Vec2, grace: number): Target[] {
  const result = scene.result(view.id);
  if (!result) return [];
  const map = scene.map(view);
  const p = map.toView(at);
  const reach = grace / map.scale;
  const points: Found[] = [];
  const lines: Found[] = [];
  const { lines: work } = result;
  const seen = new Set<string>();
  for (let i = 0; i < work.kind.length; i++) {
    if (work.kind[i]! & HIDDEN && !scene.seenAs(view).hidden) continue;
    const off = distanceToRun(work, i, p);
    const target = targetOfRun(scene, view, work, i, p);
    if (!target) continue;
    const a = work.arc.subarray(i * ARC_STRIDE, (i + 1) * ARC_STRIDE);
    if (a[2]! > 0 && a[2]! > 2 * reach) {
      const centre = Math.hypot(a[0]! - p[0], a[1]! - p[1]);
      if (centre < reach) points.push({ target, off: centre });
    }
    if (off > reach) continue;
    const key = JSON.stringify([target.edge, target.face]);
    if (!seen.has(key)) lines.push({ target, off });
    seen.add(key);
    if (target.edge) points.push(...pointsOf(scene, view, target, p, reach));
  }
  for (const line of axisLinesOf(scene, view)) {
    const off = distanceToLine(line, p);
    const [on] = line.on;
    if (off > reach || !on) continue;
    const component = scene.components[on.component]!;
    const faces = scene.featuresIn(view, on.component)?.rounds[on.round]?.faces;
    const geometry = scene.shapeIn(view, on.component);
    // An axis is thin: it is told by a place on it.
    if (faces)
      lines.push({ target: { face: { component: component.path, geometry, face: faces[0]! }, at: onAxis(line.from, line.to, p) }, off: off + reach / 4 });
  }
  const order = (list: Found[]) => list.sort((a, b) => a.off - b.off).map((f) => f.target);
  return [...order(points), ...order(lines), ...sidesAt(scene, view, p, reach)];
}

function onAxis(a: Vec2, b: Vec2, p: Vec2): Vec2 {
  const d: Vec2 = [b[0] - a[0], b[1] - a[1]];
  const l2 = d[0] * d[0] + d[1] * d[1] || 1;
  const t = ((p[0] - a[0]) * d[0] + (p[1] - a[1]) * d[1]) / l2;
  return [a[0] + d[0] * t, a[1] + d[1] * t];
}

/** The edge or the face that a line belongs to. */
function targetOfRun(scene: Scene, view: ViewRecord, work: Linework, i: number, at: Vec2): Target | undefined {
  const component = scene.components[work.component[i]!];
  if (!component) return undefined;
  const features = scene.featuresIn(view, component.index);
  const geometry = scene.shapeIn(view, component.index);
  const e = work.edge[i]!;
  if (e >= 0) return features && e < features.edgeCurve.length ? { edge: { component: component.path, geometry, edge: e }, at } : undefined;
  // The walls of a cut are no faces of the part.
  return features && -1 - e < features.faceKind.length ? { face: { component: component.path, geometry, face: -1 - e }, at } : undefined;
}

/** Ends and middle of an edge near a place. */
function pointsOf(scene: Scene, view: ViewRecord, target: Target, p: Vec2, reach: number): Found[] {
  return (['start', 'end', 'middle'] as const).flatMap((as) => {
    const t = { ...target, as };
    const hold = holdOf(scene, view, t);
    if (hold?.kind !== 'point') return [];
    const off = Math.hypot(hold.at[0] - p[0], hold.at[1] - p[1]);
    // The middle is no place that is seen: it is taken from nearer by.
    return off < (as === 'middle' ? reach / 2 : reach) ? [{ target: t, off }] : [];
  });
}

function distanceToRun(work: Linework, i: number, p: Vec2): number {
  const a = work.arc.subarray(i * ARC_STRIDE, (i + 1) * ARC_STRIDE);
  if (a[2]! > 0) {
    const arc = { cx: a[0]!, cy: a[1]!, rx: a[2]!, ry: a[3]!, turn: a[4]! };
    const n = Math.max(2, Math.ceil(Math.abs(a[6]! - a[5]!) * 12));
    let best = Infinity;
    let before = arcPoint(arc, a[5]!);
    for (let k = 1; k <= n; k++) {
      const now = arcPoint(arc, a[5]! + ((a[6]! - a[5]!) * k) / n);
      best = Math.min(best, pointToSegment(p[0], p[1], before[0], before[1], now[0], now[1]));
      before = now;
    }
    return best;
  }
  let best = Infinity;
  for (let k = work.start[i]! * 2; k < work.start[i + 1]! * 2 - 2; k += 2)
    best = Math.min(best, pointToSegment(p[0], p[1], work.xy[k]!, work.xy[k + 1]!, work.xy[k + 2]!, work.xy[k + 3]!));
  return best;
}

/** The outermost lines of a view, beside what is drawn there. */
function sidesAt(scene: Scene, view: ViewRecord, p: Vec2, reach: number): Target[] {
  const box = viewReach(scene, view);
  if (!box || p[0] < box[0] - reach || p[0] > box[2] + reach || p[1] < box[1] - reach || p[1] > box[3] + reach) return [];
  return (
    [
      ['left', Math.abs(p[0] - box[0])],
      ['right', Math.abs(p[0] - box[2])],
      ['bottom', Math.abs(p[1] - box[1])],
      ['top', Math.abs(p[1] - box[3])],
    ] as const
  )
    .filter(([, off]) => off < reach)
    .map(([side]) => ({ side, at: p }));
}

/** An edge, an outline or an axis, and no point of one. */
export const pickedLines = (t: Target): boolean => t.as === undefined && t.side === undefined && (t.edge ?? t.face) !== undefined;
