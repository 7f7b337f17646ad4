import type { Face } from '../../face';
import type { RevisionsRecord } from '../kind';
import Slip from './Slip.svelte';

export const revisionsFace: Face<RevisionsRecord> = {
  slip: Slip,
  actions: (drawing) => [
    {
      id: 'revisions',
      label: 'Revision table on this sheet',
      key: '',
      group: 'Draw',
      run: () => {
        const record: RevisionsRecord = { type: 'revisions', id: drawing.freshId('revisions'), sheet: drawing.sheetId };
        drawing.edit('Revision table', [{ op: 'put', record }]);
        drawing.select({ kind: 'record', id: record.id });
      },
    },
  ],
};
