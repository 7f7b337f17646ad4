import { pointToSegment } from '../../core/base/rect.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { applySteps, type Step } from '../../core/document/steps.ts';
import { turnedInPlane } from '../../core/outline/directions.ts';
import { ARC_STRIDE, HIDDEN } from '../../core/outline/linework.ts';
import { changeOf } from '../change.ts';
import { followAll } from '../follow.ts';
import type { Scene } from '../scene.ts';

/** The steps that turn a view in its plane against the clock, rad; what points at it keeps pointing there. It stands free then. */
export function turnView(scene: Scene, view: ViewRecord, angle: number): Step[] {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const turned = ([x, y]: Vec2): Vec2 => [x * c - y * s, x * s + y * c];
  const record: ViewRecord = { ...view, ...turnedInPlane(view, angle), pivot: turned(view.pivot), align: null };
  const put: Step = { op: 'put', record };
  const now = applySteps(scene.document, [put]);
  const change = changeOf({ point: (id, at) => (id === view.id ? turned(at) : at) });
  return now.ok ? [put, ...followAll(now.document, change)] : [];
}

/** May a view be turned in its plane? Outlines of breaks and level gaps could not turn along. */
export const canTurn = (view: ViewRecord): boolean => !view.detail && !view.gaps && view.within?.kind !== 'box' && view.cut?.shape?.kind !== 'local';

/** Slope of the straight edge that a view shows at a place on paper, rad, between -90° and 90°; undefined where there is none. @param grace paper mm */
export function slopeAt(scene: Scene, view: ViewRecord, at: Vec2, grace: number): number | undefined {
  const result = scene.result(view.id);
  if (!result) return undefined;
  const [x, y] = scene.map(view).toView(at);
  const { xy, start, kind, arc } = result.lines;
  let best: { readonly d: number; readonly slope: number } | undefined;
  for (let i = 0; i < kind.length; i++) {
    if (kind[i]! & HIDDEN || arc[i * ARC_STRIDE + 2]! > 0) continue;
    for (let p = start[i]! * 2; p < start[i + 1]! * 2 - 2; p += 2) {
      const d = pointToSegment(x, y, xy[p]!, xy[p + 1]!, xy[p + 2]!, xy[p + 3]!) * view.scale;
      if (d <= grace && (!best || d < best.d)) best = { d, slope: Math.atan((xy[p + 3]! - xy[p + 1]!) / (xy[p + 2]! - xy[p]!)) };
    }
  }
  return best?.slope;
}
