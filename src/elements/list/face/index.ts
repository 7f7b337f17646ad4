import type { ListRecord } from '../../../core/document/records';
import type { Face } from '../../face';
import { RegionTool } from './region-tool.svelte';
import { listOffers } from './offers';
import { listColumnsFor } from '../../../core/ledger/list-rows';
import Slip from './Slip.svelte';

export const listFace: Face<ListRecord> = {
  slip: Slip,
  offers: listOffers,
  menu: ['list-region'],
  tools: (drawing, tools) => [new RegionTool(drawing, () => tools.take('pick'))],
  actions(drawing, tools) {
    const list = drawing.scene.all('list')[0];
    return [
      {
        id: 'list',
        label: 'Columns of the parts list',
        short: 'List',
        key: 'L',
        shelf: true,
        disabled: !list,
        run: () => list && ((drawing.sheetId = list.sheet), drawing.select({ kind: 'record', id: list.id })),
      },
      {
        id: 'list-add',
        label: 'Another parts list on this sheet',
        key: '',
        run: () => {
          const { frame } = drawing.scene.page(drawing.sheetId).geometry;
          const there = drawing.scene.all('list').some((l) => l.sheet === drawing.sheetId);
          const id = drawing.freshId('list');
          const columns = listColumnsFor(drawing.scene.drawing.standard);
          drawing.edit('Another parts list', [
            { op: 'put', record: { type: 'list', id, sheet: drawing.sheetId, columns, ...(there ? { at: [frame.x + 10, frame.y + 10] } : {}) } },
          ]);
          drawing.select({ kind: 'record', id });
        },
      },
      { ...tools.action('list-region', { label: 'Region for the parts list', key: '' }), shelf: false, disabled: !list },
      {
        id: 'row-add',
        label: 'Row of your own in the parts list',
        key: '',
        run: () => {
          const rows = drawing.scene.all('row');
          const id = drawing.freshId('row');
          drawing.edit('Row of one’s own', [{ op: 'put', record: { type: 'row', id, quantity: '1', order: Math.max(-1, ...rows.map((r) => r.order)) + 1 } }]);
          drawing.select({ kind: 'item', part: id });
        },
      },
    ];
  },
};
