import type { Face } from '../../face';
import { noRoomFor } from '$lib/shared/no-room';
import { notify } from '$lib/shared/notices.svelte';
import { freeRoom } from '../../place';
import { rowHeight, type TableRecord } from '../draw';
import Slip from './Slip.svelte';

const COLUMNS_MM = [30, 30, 30];
const ROWS = 4;
const CORNER_MM = 15;

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
        const { geometry, style } = drawing.scene.page(drawing.sheetId);
        const { frame } = geometry;
        const size = [COLUMNS_MM.reduce((a, b) => a + b, 0), ROWS * rowHeight(style.text)] as const;
        const corner = [frame.x + CORNER_MM, frame.y + CORNER_MM] as const;
        const room = freeRoom(drawing.scene, drawing.sheetId, size, corner);
        if (!room) notify('trouble', noRoomFor('the table'));
        const record: TableRecord = {
          type: 'table',
          id: drawing.freshId('table'),
          sheet: drawing.sheetId,
          at: room ?? corner,
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
