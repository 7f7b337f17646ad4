import { arrangeBalloons, balloonAreaIn, type BalloonArea } from '$elements/balloon/place/propose';
import { reaimSteps, strayBalloons } from '$elements/balloon/place/stray';
import type { ViewRecord } from '$core/document/records';
import { pageOf } from '$elements/compose';
import { rectOf } from '$core/sheet/formats';
import type { Drawing } from './drawing.svelte';
import { notify } from './notices.svelte';

/** Where balloons of a view may stand on its sheet: inside the frame, clear of everything but the view. */
export function balloonArea(drawing: Drawing, view: ViewRecord): BalloonArea {
  const sheet = drawing.sheets.find((s) => s.id === view.sheet)!;
  const { geometry, style } = pageOf(sheet);
  // Its own balloons give way, others do not.
  const own = (id: string) => {
    const r = drawing.document[id];
    return id === view.id || (r?.type === 'balloon' && r.view === view.id);
  };
  const obstacles = (drawing.composed.get(sheet.id)?.groups ?? []).filter((g) => g.role !== 'frame' && !own(g.id)).map((g) => rectOf(g.box));
  return balloonAreaIn(geometry.frame, obstacles, style.balloon);
}

/** Places the balloons of a view anew, once its lines are there. */
export async function arrangeAnew(drawing: Drawing, viewId: string): Promise<void> {
  const at = drawing.document[viewId];
  if (at?.type !== 'view') return;
  if (!(await drawing.viewsThere(at.sheet))) {
    notify('trouble', 'The balloons stay as they are: a view of the sheet could not be drawn.');
    return;
  }
  const view = drawing.document[viewId];
  const result = drawing.results.get(viewId);
  if (view?.type !== 'view' || !result) return;
  const steps = arrangeBalloons(drawing.document, view, result, drawing.items, drawing.components, balloonArea(drawing, view));
  // What stays where it was put ends on its part all the same.
  const placed = new Set(steps.flatMap((s) => (s.op === 'put' ? [s.record.id] : [])));
  const strays = strayBalloons(drawing.document, drawing.components, new Map([[viewId, result]])).filter((s) => !placed.has(s.balloon.id));
  const all = [...steps, ...reaimSteps(strays)];
  if (all.length) drawing.edit('Arrange balloons', all);
}
