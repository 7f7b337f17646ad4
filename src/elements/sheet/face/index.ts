import type { SheetRecord } from '../../../core/document/records';
import type { Face } from '../../face';
import Slip from './Slip.svelte';

export const sheetFace: Face<SheetRecord> = {
  slip: Slip,
  actions(drawing) {
    const index = drawing.sheets.findIndex((s) => s.id === drawing.sheetId);
    const go = (i: number) => {
      const sheet = drawing.sheets[i];
      if (sheet) drawing.sheetId = sheet.id;
    };
    return [
      { id: 'title', label: 'Title block', short: 'Title', key: 'T', shelf: true, run: () => drawing.select({ kind: 'field', field: 'title' }) },
      { id: 'sheet', label: 'Sheet size and standard', short: 'Sheet', key: 'S', shelf: true, run: () => drawing.select({ kind: 'none' }) },
      { id: 'next', label: 'Next sheet', key: 'PageDown', disabled: index >= drawing.sheets.length - 1, run: () => go(index + 1) },
      { id: 'previous', label: 'Previous sheet', key: 'PageUp', disabled: index <= 0, run: () => go(index - 1) },
    ];
  },
};
