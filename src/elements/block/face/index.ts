import type { Face } from '../../face';
import type { BlockRecord } from '../layout';
import Slip from './Slip.svelte';

/** A new block: four cells of the usual size. */
const COLUMNS_MM = [40, 40];
const ROWS_MM = [9, 9];

export const blockFace: Face<BlockRecord> = {
  slip: Slip,
  actions: (drawing) => [
    {
      id: 'block',
      label: 'Block of cells with fields: title block, approvals, stamp',
      short: 'Block',
      key: '',
      group: 'Draw',
      run: () => {
        const { frame } = drawing.scene.page(drawing.sheetId).geometry;
        const record: BlockRecord = {
          type: 'block',
          id: drawing.freshId('block'),
          sheet: drawing.sheetId,
          at: [frame.x + 15, frame.y + 15],
          columns: COLUMNS_MM,
          rows: ROWS_MM,
          cells: [0, 1].flatMap((row) => [0, 1].map((column) => ({ column, row, text: '' }))),
        };
        drawing.edit('Block', [{ op: 'put', record }]);
        drawing.select({ kind: 'record', id: record.id, part: 'cell-0' });
      },
    },
  ],
};
