import { aligned, distributed, type Edge } from '$elements/together';
import { facesOn } from '$elements/faces';
import { KINDS, type ElementType } from '$elements/kinds';
import type { Action } from '../shared/action';
import type { Drawing } from '../shared/drawing.svelte';
import type { Tools } from './tools.svelte';

/** Everything that can be done in the Sheets stage as things stand. */
export function actionsOf(drawing: Drawing, tools: Tools): Action[] {
  const download = (name: string) => () => {
    location.href = `/api/jobs/${drawing.id}/files/${name}`;
  };
  return [
    tools.action('pick', { label: 'Pick', key: 'V' }),
    ...facesOn(drawing.scene.one('sheet', drawing.sheetId)?.form !== undefined).flatMap((f) => f.actions?.(drawing, tools) ?? []),
    { id: 'fit', label: 'Fit the sheet', short: 'Fit', key: 'F', shelf: true, run: () => tools.fit() },
    { id: 'in', label: 'Zoom in', key: '+', run: () => tools.zoomBy(1.25) },
    { id: 'out', label: 'Zoom out', key: '-', run: () => tools.zoomBy(0.8) },
    ...choosing(drawing, tools),
    ...arranging(drawing),
    { id: 'undo', label: 'Undo', key: 'Ctrl Z', disabled: !drawing.canUndo, run: () => drawing.undo() },
    { id: 'redo', label: 'Redo', key: 'Ctrl Shift Z', disabled: !drawing.canRedo, run: () => drawing.redo() },
    { id: 'ledger', label: tools.ledger ? 'Fold the ledger away' : 'Show the ledger', key: '[', run: () => (tools.ledger = !tools.ledger) },
    { id: 'slip', label: tools.slip ? 'Fold the slip away' : 'Show the slip', key: ']', run: () => (tools.slip = !tools.slip) },
    { id: 'print', label: 'Print and files: size, tiles, grey, pictures', key: 'Ctrl P', run: () => (tools.print = true) },
    { id: 'pdf', label: 'PDF of all sheets', key: 'P', run: download('drawing.pdf') },
    { id: 'csv', label: 'Parts list as CSV', key: 'C', run: download('parts-list.csv') },
    { id: 'formats', label: 'Sheet formats: frame, title block, logo', key: '', run: () => (tools.formats = true) },
    { id: 'recipes', label: 'Recipes: sheets made again, kept, given out', key: '', run: () => (tools.recipes = true) },
    { id: 'quick', label: 'Do anything', key: 'Ctrl K', run: () => (tools.quickBar = true) },
  ];
}

const ELEMENT_TYPES = Object.keys(KINDS) as ElementType[];

/** What is done with whatever is selected. */
function choosing(drawing: Drawing, tools: Tools): Action[] {
  const { clipboard } = tools;
  const none = clipboard.taken.length === 0;
  const at = drawing.sheets.findIndex((s) => s.id === drawing.sheetId);
  const [next, previous] = [drawing.sheets[at + 1], drawing.sheets[at - 1]];
  return [
    { id: 'edit', label: 'Edit the text of what is selected', key: 'F2', run: () => tools.editSelected() },
    { id: 'select-all', label: 'Select everything on this sheet', key: 'Ctrl A', run: () => tools.selectWhere(() => true) },
    ...ELEMENT_TYPES.filter((t) => t !== 'sheet').map((type): Action => ({
      id: `select-${type}`,
      label: `Select every ${KINDS[type].title} of this sheet`,
      key: '',
      run: () => tools.selectWhere((r) => r.type === type),
    })),
    { id: 'cut', label: 'Cut', key: 'Ctrl X', disabled: none, run: () => clipboard.cut() },
    { id: 'copy', label: 'Copy', key: 'Ctrl C', disabled: none, run: () => clipboard.copy() },
    { id: 'paste', label: 'Paste', key: 'Ctrl V', disabled: clipboard.empty, run: () => clipboard.paste(tools.activeView?.id) },
    { id: 'duplicate', label: 'Duplicate', key: 'Ctrl D', disabled: none, run: () => clipboard.duplicate() },
    { id: 'to-next', label: 'Move to the next sheet', key: '', disabled: none || !next, run: () => clipboard.moveTo(next!.id) },
    { id: 'to-previous', label: 'Move to the sheet before', key: '', disabled: none || !previous, run: () => clipboard.moveTo(previous!.id) },
    { id: 'to-new', label: 'Move to a new sheet', key: '', disabled: none, run: () => clipboard.moveTo(undefined) },
    { id: 'remove', label: 'Remove', key: 'Delete', disabled: none, run: () => tools.remove() },
  ];
}

const EDGES: readonly (readonly [Edge, string])[] = [
  ['left', 'Align left edges'],
  ['centre', 'Align centres, one below the other'],
  ['right', 'Align right edges'],
  ['top', 'Align top edges'],
  ['middle', 'Align middles, side by side'],
  ['bottom', 'Align bottom edges'],
];

/** What is done with several. */
function arranging(drawing: Drawing): Action[] {
  const { chosen } = drawing;
  return [
    ...EDGES.map(([edge, label]): Action => ({
      id: `align-${edge}`,
      label,
      key: '',
      disabled: chosen.length < 2,
      run: () => drawing.edit(label, aligned(drawing.scene, chosen, edge)),
    })),
    ...(['across', 'down'] as const).map((direction): Action => ({
      id: `spread-${direction}`,
      label: direction === 'across' ? 'Space evenly, side by side' : 'Space evenly, one below the other',
      key: '',
      disabled: chosen.length < 3,
      run: () => drawing.edit('Space evenly', distributed(drawing.scene, chosen, direction)),
    })),
  ];
}
