import type { ListRecord } from '../../../core/document/records';
import type { Face } from '../../face';
import { RegionTool } from './region-tool.svelte';
import { listOffers } from './offers';
import { noRoomFor } from '$lib/shared/no-room';
import { notify } from '$lib/shared/notices.svelte';
import { newList } from '../new-list';
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
          const { record, free } = newList(drawing.scene, drawing.sheetId, drawing.freshId('list'));
          if (!free) notify('trouble', noRoomFor('the parts list'));
          drawing.edit('Another parts list', [{ op: 'put', record }]);
          drawing.select({ kind: 'record', id: record.id });
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
