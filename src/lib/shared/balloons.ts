import { balloonAreaOf } from '$elements/balloon/place/add';
import { arrangeBalloons } from '$elements/balloon/place/propose';
import { reaimSteps, strayBalloons } from '$elements/balloon/place/stray';
import type { Drawing } from './drawing.svelte';
import { notify } from './notices.svelte';

/** Places the balloons of a view anew, once its lines are there. */
export async function arrangeAnew(drawing: Drawing, viewId: string): Promise<void> {
  const at = drawing.document[viewId];
  if (at?.type !== 'view') return;
  if (!(await drawing.viewsThere(at.sheet))) {
    notify('trouble', 'The balloons stay as they are: a view of the sheet could not be drawn.');
    return;
  }
  const view = drawing.document[viewId];
  const result = drawing.scene.result(viewId);
  if (view?.type !== 'view' || !result) return;
  const steps = arrangeBalloons(drawing.document, view, result, drawing.items, drawing.components, balloonAreaOf(drawing.scene, view));
  // What stays where it was put ends on its part all the same.
  const placed = new Set(steps.flatMap((s) => (s.op === 'put' ? [s.record.id] : [])));
  const strays = strayBalloons(
    drawing.scene,
    drawing.scene.all('balloon').filter((b) => b.view === viewId && !placed.has(b.id)),
  );
  const all = [...steps, ...reaimSteps(strays)];
  if (all.length) drawing.edit('Arrange balloons', all);
}
