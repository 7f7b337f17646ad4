import type { Action } from '$lib/shared/action';
import { arrangeAnew } from '$lib/shared/balloons';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Tools } from '$lib/sheets/tools.svelte';
import { without } from '../../../core/base/without';
import type { BalloonRecord, ViewRecord } from '../../../core/document/records';
import { identifyRest } from '../place/add';
import { fastenedWith, stacked } from '../stack';

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
    tools.action('balloon', { label: 'Balloon for a component', short: 'Balloon', key: 'B', group: 'Balloon' }),
    {
      id: 'identify',
      label: 'Identify the rest in this view',
      short: 'Identify',
      key: 'I',
      group: 'Balloon',
      disabled: !view,
      run: () => view && identify(drawing, view),
    },
    {
      id: 'arrange',
      label: 'Arrange the balloons of this view anew',
      short: 'Arrange',
      key: 'R',
      group: 'Balloon',
      disabled: !view,
      run: () => view && void arrangeAnew(drawing, view.id),
    },
  ];
}

/** What can be done with one balloon. */
export function balloonOffers(b: BalloonRecord, _: unknown, drawing: Drawing): { readonly title: string; readonly offers: readonly Action[] } {
  const item = drawing.itemOfPath(b.component);
  const dot = b.end === 'dot';
  const stack = fastenedWith(b, drawing.scene);
  return {
    title: `Balloon ${item?.number ?? '?'}  ${item?.values.description.text ?? ''}`,
    offers: [
      {
        id: 'end',
        label: dot ? 'End the leader with an arrow on an edge' : 'End the leader with a dot inside the face',
        key: '',
        run: () => drawing.edit(dot ? 'Leader ends with an arrow' : 'Leader ends with a dot', [{ op: 'put', record: { ...b, end: dot ? 'arrow' : 'dot' } }]),
      },
      {
        id: 'stay',
        label: b.byHand ? 'May be arranged' : 'Stays where it was put',
        key: '',
        run: () =>
          drawing.edit(b.byHand ? 'Balloon may be arranged' : 'Balloon stays', [
            { op: 'put', record: b.byHand ? without(b, 'byHand') : { ...b, byHand: true } },
          ]),
      },
      ...(stack.length && !b.stack?.length
        ? [{ id: 'stack', label: 'Stack with what is fastened with it', key: '', run: () => drawing.edit('Stack', stacked(b, stack, drawing.scene)) }]
        : []),
      ...(item ? [{ id: 'item', label: `Properties of item ${item.number}`, key: '', run: () => drawing.select({ kind: 'item', part: item.part }) }] : []),
    ],
  };
}
