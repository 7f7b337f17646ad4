import type { Action } from '$lib/shared/action';
import { arrangeAnew } from '$lib/shared/balloons';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Tools } from '$lib/sheets/tools.svelte';
import { without } from '../../../core/base/without';
import type { BalloonRecord, ViewRecord } from '../../../core/document/records';
import { identifyOnSheet, identifyRest, identifyView, withSecond } from '../place/add';
import { renumbered } from '../../../core/ledger/numbering';
import { RAIL_NAMES, type Rail } from '../rail';
import { runningOrder } from '../running-order';
import { fastenedWith, stacked, stackedAll } from '../stack';

/** Balloons for every item that has none yet and can be seen in the view. */
export function identify(drawing: Drawing, view: ViewRecord): void {
  if (drawing.results.has(view.id))
    putBalloons(
      drawing,
      identifyRest(drawing.scene, view, (part) => drawing.freshId(`balloon:${part}`)),
    );
}

/** Balloons for all that a view shows; those that are there stay. */
export function identifyAll(drawing: Drawing, view: ViewRecord): void {
  if (drawing.results.has(view.id))
    putBalloons(
      drawing,
      identifyView(drawing.scene, view, (part) => drawing.freshId(`balloon:${part}`)),
    );
}

function putBalloons(drawing: Drawing, { records, open }: { readonly records: readonly BalloonRecord[]; readonly open: number }): void {
  if (records.length)
    drawing.edit(
      `Identify ${records.length} items`,
      records.map((record) => ({ op: 'put', record })),
    );
  else if (open) notify('trouble', 'No further item can be identified here: none has a visible edge with room for a balloon.');
  else notify('good', 'Every item has its balloon.');
}

export function balloonActions(drawing: Drawing, tools: Tools): Action[] {
  const view = tools.activeView;
  return [
    tools.action('balloon', { label: 'Balloon for a component', short: 'Balloon', key: 'B', group: 'Balloon' }),
    {
      id: 'identify',
      label: 'Balloons for all in this view',
      short: 'Balloons for all',
      key: 'I',
      group: 'Balloon',
      disabled: !view,
      run: () => view && identifyAll(drawing, view),
    },
    {
      id: 'identify-sheet',
      label: 'Balloons for all that have none, each where it is seen best',
      key: '',
      group: 'Balloon',
      run: () => identifySheet(drawing),
    },
    tools.action('balloon-window', { label: 'Balloons for what a window takes in', key: '', group: 'Balloon' }),
    {
      id: 'stack-all',
      label: 'Stack what is fastened together in this view',
      key: '',
      group: 'Balloon',
      disabled: !view,
      run: () => view && stackAll(drawing, view),
    },
    ...(['rectangle', 'ring', 'rows', 'columns', 'top', 'foot', 'left', 'right'] as const).map((rail): Action => ({
      id: `rail-${rail}`,
      label: `Balloons of this view ${rail === 'ring' ? 'on a ring' : RAIL_NAMES[rail]}`,
      key: '',
      disabled: !view,
      run: () => view && putRail(drawing, view, rail === 'rectangle' ? undefined : rail),
    })),
    {
      id: 'running-order',
      label: 'Number the items in running order around this view',
      key: '',
      disabled: !view,
      run: () => view && numberAround(drawing, view),
    },
    {
      id: 'parallel',
      label: view?.parallel ? 'Leaders of this view the shortest way' : 'Parallel leaders in this view',
      key: '',
      disabled: !view,
      run: () => view && setParallel(drawing, view, !view.parallel),
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

/** The rails of a view; its balloons go there at once. */
export function putRail(drawing: Drawing, view: ViewRecord, rail: Rail | undefined): void {
  drawing.edit('Rails of the balloons', [{ op: 'put', record: rail ? { ...view, rail } : (without(view, 'rail') as ViewRecord) }]);
  void arrangeAnew(drawing, view.id);
}

/** Gives numbers anew as a reader goes around the view; items that have no balloon there follow. */
function numberAround(drawing: Drawing, view: ViewRecord): void {
  const { scene } = drawing;
  const order = runningOrder(scene, view);
  if (order.length > 1) drawing.edit('Numbers in running order', renumbered(scene.document, scene.items, order));
  else notify('trouble', 'This view has no two balloons to go by.');
}

/** Leaders that share a slant, or go the shortest way; its balloons are arranged at once. */
export function setParallel(drawing: Drawing, view: ViewRecord, on: boolean): void {
  drawing.edit('Parallel leaders', [{ op: 'put', record: on ? { ...view, parallel: true } : (without(view, 'parallel') as ViewRecord) }]);
  void arrangeAnew(drawing, view.id);
}

/** Balloons for all items that have none, each in the view of the sheet where most of it is seen. */
export function identifySheet(drawing: Drawing): void {
  const records = identifyOnSheet(drawing.scene, drawing.sheetId, (part) => drawing.freshId(`balloon:${part}`));
  if (records.length)
    drawing.edit(
      `Identify ${records.length} items`,
      records.map((record) => ({ op: 'put', record })),
    );
  else notify('trouble', 'No further item can be identified on this sheet.');
}

/** Bolts of a view with their washers and nuts, as stacks. */
function stackAll(drawing: Drawing, view: ViewRecord): void {
  const steps = stackedAll(drawing.scene, view);
  if (steps.length) drawing.edit('Stack what is fastened together', steps);
  else notify('trouble', 'Nothing in this view is fastened together and numbered apart.');
}

function addSecond(drawing: Drawing, b: BalloonRecord): void {
  const record = withSecond(b, drawing.scene);
  if (record) drawing.edit('Second leader', [{ op: 'put', record }]);
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
      b.second
        ? {
            id: 'second',
            label: 'Take the second leader off',
            key: '',
            run: () => drawing.edit('One leader', [{ op: 'put', record: without(b, 'second') as BalloonRecord }]),
          }
        : { id: 'second', label: 'A second leader to another piece', key: '', disabled: !withSecond(b, drawing.scene), run: () => addSecond(drawing, b) },
      ...(item ? [{ id: 'item', label: `Properties of item ${item.number}`, key: '', run: () => drawing.select({ kind: 'item', part: item.part }) }] : []),
    ],
  };
}
