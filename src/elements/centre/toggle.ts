import type { Vec2 } from '../../core/base/vector.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { Step } from '../../core/document/steps.ts';
import type { Scene } from '../scene.ts';
import { circlesOf, edgeOf, isCircle, type Circle } from './circles.ts';
import { markedBy, type CentreRecord } from './kind.ts';

/** Those drawn by hand are no marks that are switched on and off. */
const marksOf = (scene: Scene, view: string) => scene.all('centre').filter((c) => c.view === view && !c.of);

/** Does a record mark all that a view shows? */
export const marksAll = (c: CentreRecord): boolean => !c.circle && !c.of;

/** The steps that mark all circles of a view, or none. */
export function toggleAll(scene: Scene, view: ViewRecord, id: string): Step[] {
  const marks = marksOf(scene, view.id);
  if (marks.some(marksAll)) return marks.map((m) => ({ op: 'drop', id: m.id }));
  // Single ones are among all of them.
  return [...marks.map((m): Step => ({ op: 'drop', id: m.id })), { op: 'put', record: { type: 'centre', id, view: view.id, circle: null, off: [] } }];
}

/** The circle that a press means: the nearest rim or centre. @param grace what the press may be off, paper mm */
export function circleAt(scene: Scene, view: ViewRecord, at: Vec2, grace: number): Circle | undefined {
  const result = scene.result(view.id);
  if (!result) return undefined;
  const [x, y] = scene.map(view).toView(at);
  let best: { readonly circle: Circle; readonly off: number } | undefined;
  for (const circle of circlesOf(result)) {
    const d = Math.hypot(x - circle.x, y - circle.y);
    const off = Math.min(d, Math.abs(d - circle.radius));
    if (off * view.scale < grace && (!best || off < best.off)) best = { circle, off };
  }
  return best?.circle;
}

/**
 * The steps that mark a circle, or take its mark off again.
 * @returns undefined where it cannot be kept: a cut made it
 */
export function toggleCircle(scene: Scene, view: ViewRecord, circle: Circle, id: string): Step[] | undefined {
  const edge = edgeOf(scene, view, circle);
  if (!edge) return undefined;
  const marks = marksOf(scene, view.id);
  const by = marks.filter((m) => markedBy(m, scene).includes(circle));
  if (by.length) return by.map((m): Step => (m.circle ? { op: 'drop', id: m.id } : { op: 'put', record: { ...m, off: [...m.off, edge] } }));
  const all = marks.find((m): m is CentreRecord => !m.circle);
  // It was taken off: now it is back.
  if (all) return [{ op: 'put', record: { ...all, off: all.off.filter((o) => !isCircle(scene, view, circle, o)) } }];
  return [{ op: 'put', record: { type: 'centre', id, view: view.id, circle: edge, off: [] } }];
}
