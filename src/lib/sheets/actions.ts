import { ALL_FACES } from '$elements/faces';
import { isElement } from '$elements/kinds';
import type { Action } from '../shared/action';
import type { Drawing } from '../shared/drawing.svelte';
import type { Tools } from './tools.svelte';

/** Everything that can be done in the Sheets stage as things stand. */
export function actionsOf(drawing: Drawing, tools: Tools): Action[] {
  const s = drawing.selection;
  const record = s.kind === 'record' ? drawing.document[s.id] : undefined;
  const download = (name: string) => () => {
    location.href = `/api/jobs/${drawing.id}/files/${name}`;
  };
  return [
    tools.action('pick', { label: 'Pick', key: 'V' }),
    ...ALL_FACES.flatMap((f) => f.actions?.(drawing, tools) ?? []),
    { id: 'fit', label: 'Fit the sheet', short: 'Fit', key: 'F', shelf: true, run: () => tools.fit() },
    { id: 'in', label: 'Zoom in', key: '+', run: () => tools.zoomBy(1.25) },
    { id: 'out', label: 'Zoom out', key: '-', run: () => tools.zoomBy(0.8) },
    {
      id: 'remove',
      label: 'Remove what is selected',
      key: 'Delete',
      disabled: !record || !isElement(record) || record.type === 'list' || record.type === 'sheet',
      run: () => tools.remove(),
    },
    { id: 'undo', label: 'Undo', key: 'Ctrl Z', disabled: !drawing.canUndo, run: () => drawing.undo() },
    { id: 'redo', label: 'Redo', key: 'Ctrl Shift Z', disabled: !drawing.canRedo, run: () => drawing.redo() },
    { id: 'ledger', label: tools.ledger ? 'Fold the ledger away' : 'Show the ledger', key: '[', run: () => (tools.ledger = !tools.ledger) },
    { id: 'slip', label: tools.slip ? 'Fold the slip away' : 'Show the slip', key: ']', run: () => (tools.slip = !tools.slip) },
    { id: 'pdf', label: 'PDF of all sheets', key: 'P', run: download('drawing.pdf') },
    { id: 'csv', label: 'Parts list as CSV', key: 'C', run: download('parts-list.csv') },
    { id: 'quick', label: 'Do anything', key: 'Ctrl K', run: () => (tools.quickBar = true) },
  ];
}
