import type { ViewRecord } from '$core/document/records';
import { showSpread, viewsShowing } from '$core/explode/edits';
import { notify } from '../shared/notices.svelte';
import type { Explode } from './explode.svelte';

export function newSpread(explode: Explode): void {
  const id = explode.drawing.freshId(`spread:${explode.spreads.length + 1}`);
  explode.drawing.edit('New spread', [{ op: 'put', record: { type: 'spread', id, name: `Spread ${explode.spreads.length + 1}`, pulls: [] } }]);
  explode.open(id);
}

export function duplicate(explode: Explode): void {
  if (!explode.spread) return;
  const id = explode.drawing.freshId(`spread:${explode.spreads.length + 1}`);
  explode.drawing.edit('Duplicate spread', [{ op: 'put', record: { ...explode.spread, id, name: `${explode.spread.name} copy` } }]);
  explode.open(id);
}

export function removeSpread(explode: Explode): void {
  const { drawing, spread } = explode;
  if (!spread) return;
  const users = viewsShowing(drawing.document, spread.id);
  const steps = users.flatMap((v) => showSpread(drawing.document, drawing.assembly, drawing.components, v, null));
  drawing.edit('Remove spread', [...steps, { op: 'drop', id: spread.id }]);
  if (users.length)
    notify('good', `${users.map((v) => v.name).join(', ')} ${users.length > 1 ? 'show' : 'shows'} the parts together now. Undo brings the spread back.`);
  explode.open(explode.spreads[0]?.id ?? '');
}

export function showIn(explode: Explode, view: ViewRecord, on: boolean): void {
  const { drawing, spread } = explode;
  if (!spread) return;
  drawing.edit(on ? 'Show spread' : 'Show together', showSpread(drawing.document, drawing.assembly, drawing.components, view, on ? spread.id : null));
}
