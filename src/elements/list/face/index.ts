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
    ];
  },
};
