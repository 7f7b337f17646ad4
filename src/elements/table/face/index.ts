import type { Face } from '../../face';
import type { TableRecord } from '../draw';
import Slip from './Slip.svelte';

const COLUMNS_MM = [30, 30, 30];
const ROWS = 4;

export const tableFace: Face<TableRecord> = {
  slip: Slip,
  actions: (drawing, tools) => [
    {
      id: 'table',
      label: 'Table of your own cells',
      short: 'Table',
      key: '',
      group: 'Draw',
      run: () => {
        const { frame } = drawing.scene.page(drawing.sheetId).geometry;
        const record: TableRecord = {
          type: 'table',
          id: drawing.freshId('table'),
          sheet: drawing.sheetId,
          at: [frame.x + 15, frame.y + 15],
          widths: COLUMNS_MM,
          rows: Array.from({ length: ROWS }, () => COLUMNS_MM.map(() => '')),
          head: true,
        };
        drawing.edit('Table', [{ op: 'put', record }]);
        drawing.select({ kind: 'record', id: record.id });
        tools.editing = { record: record.id, name: '0/0' };
      },
    },
  ],
};
