import type { ListRecord } from '../../../core/document/records';
import type { Face } from '../../face';
import { listOffers } from './offers';
import Slip from './Slip.svelte';

export const listFace: Face<ListRecord> = {
  slip: Slip,
  offers: listOffers,
  actions(drawing) {
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
