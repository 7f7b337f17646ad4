import type { Action } from '$lib/shared/action';
import { arrangeAnew } from '$lib/shared/balloons';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Tools } from '$lib/sheets/tools.svelte';
import type { ViewRecord } from '../../../core/document/records';
import { identifyRest } from '../place/add';

/** Balloons for every item that has none yet and can be seen in the view. */
export function identify(drawing: Drawing, view: ViewRecord): void {
  if (!drawing.results.has(view.id)) return;
  const { records, open } = identifyRest(drawing.scene, view, (part) => drawing.freshId(`balloon:${part}`));
  if (records.length)
    drawing.edit(
      `Identify ${records.length} items`,
      records.map((record) => ({ op: 'put', record })),
    );
  else notify('trouble', open ? 'No further item can be identified here: none has a visible edge with room for a balloon.' : 'Every item has its balloon.');
}

export function balloonActions(drawing: Drawing, tools: Tools): Action[] {
  const view = tools.activeView;
  return [
    tools.action('balloon', { label: 'Balloon for a component', short: 'Balloon', key: 'B' }),
    {
      id: 'identify',
      label: 'Identify the rest in this view',
      short: 'Identify',
      key: 'I',
      shelf: true,
      disabled: !view,
      run: () => view && identify(drawing, view),
    },
    { id: 'arrange', label: 'Arrange the balloons of this view anew', key: 'R', disabled: !view, run: () => view && void arrangeAnew(drawing, view.id) },
  ];
}
