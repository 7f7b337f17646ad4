import type { SheetRecord } from '../../../core/document/records';
import { removed } from '../../remove';
import type { Drawing } from '$lib/shared/drawing.svelte';
import type { Face } from '../../face';
import { addSheet, blankLike, duplicateSheet, reorderSheet } from '../sheets';
import { titleOffers } from './offers';
import type { Action } from '$lib/shared/action';
import { changeFormat, leaveFormat } from './format-actions';
import Slip from './Slip.svelte';
import { addTitlePage } from './title-page';

export const sheetFace: Face<SheetRecord> = {
  slip: Slip,
  offers: titleOffers,
  actions(drawing, tools) {
    if (drawing.openFormat) return onFormat(drawing, tools);
    const index = drawing.sheets.findIndex((s) => s.id === drawing.sheetId);
    const open = drawing.sheets[index];
    const go = (i: number) => {
      const sheet = drawing.sheets[i];
      if (sheet) drawing.sheetId = sheet.id;
    };
    return [
      { id: 'title', label: 'Title block', key: 'T', run: () => drawing.select({ kind: 'field', field: 'title' }) },
      {
        id: 'format-change',
        label: 'Change the format of this sheet: frame, title block, logo',
        key: '',
        disabled: !open,
        run: () => open && changeFormat(drawing, open.id, false),
      },
      { id: 'title-page', label: 'Add a title page before all sheets', key: '', disabled: !open, run: () => addTitlePage(drawing) },
      { id: 'sheet', label: 'Sheet size and standard', key: 'S', run: () => drawing.select({ kind: 'none' }) },
      {
        id: 'sheet-add',
        label: 'Add a sheet after this one',
        key: 'Insert',
        disabled: !open,
        run: () => open && add(drawing, open),
      },
      { id: 'sheet-copy', label: 'Duplicate this sheet', key: '', disabled: !open, run: () => open && duplicate(drawing, open.id) },
      { id: 'sheet-earlier', label: 'Move this sheet forward', key: 'Alt PageUp', disabled: index <= 0, run: () => place(drawing, index - 1) },
      {
        id: 'sheet-later',
        label: 'Move this sheet back',
        key: 'Alt PageDown',
        disabled: index >= drawing.sheets.length - 1,
        run: () => place(drawing, index + 1),
      },
      {
        id: 'sheet-remove',
        label: 'Remove this sheet with everything on it',
        key: '',
        disabled: drawing.sheets.length < 2,
        run: () => drawing.edit('Remove sheet', removed(drawing.scene, [drawing.sheetId])),
      },
      { id: 'next', label: 'Next sheet', key: 'PageDown', disabled: index >= drawing.sheets.length - 1, run: () => go(index + 1) },
      { id: 'previous', label: 'Previous sheet', key: 'PageUp', disabled: index <= 0, run: () => go(index - 1) },
    ];
  },
};

/** What can be done while a format's canvas is open. */
const onFormat = (drawing: Drawing, tools: { formats: boolean }): readonly Action[] => [
  { id: 'format-back', label: 'Back to the sheets', short: 'Sheets', key: '', shelf: true, run: () => leaveFormat(drawing) },
  { id: 'format-keep', label: 'Keep this format under its name, put it on sheets', short: 'Keep', key: '', shelf: true, run: () => (tools.formats = true) },
  { id: 'sheet', label: 'Margins, marks and size of the format', key: 'S', run: () => drawing.select({ kind: 'none' }) },
];

function add(drawing: Drawing, like: SheetRecord): void {
  const id = drawing.freshId('sheet');
  drawing.edit('Add sheet', addSheet(drawing.scene, id, like.id, blankLike(like)));
  drawing.sheetId = id;
}

function duplicate(drawing: Drawing, sheet: string): void {
  const { steps, id } = duplicateSheet(drawing.scene, sheet, (base) => drawing.freshId(base));
  drawing.edit('Duplicate sheet', steps);
  drawing.sheetId = id;
}

/** Puts the open sheet at a place in the set. */
function place(drawing: Drawing, to: number): void {
  drawing.edit('Order of sheets', reorderSheet(drawing.scene, drawing.sheetId, to));
}
