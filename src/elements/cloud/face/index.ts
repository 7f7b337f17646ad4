import type { Face } from '../../face';
import type { CloudRecord } from '../kind';
import Slip from './Slip.svelte';

export const cloudFace: Face<CloudRecord> = {
  slip: Slip,
  actions: (drawing) => [
    {
      id: 'cloud',
      label: 'Revision cloud',
      short: 'Cloud',
      key: '',
      group: 'Draw',
      run: () => {
        const { frame } = drawing.scene.page(drawing.sheetId).geometry;
        const [x, y] = [frame.x + frame.width / 2, frame.y + frame.height / 3];
        const record: CloudRecord = {
          type: 'cloud',
          id: drawing.freshId('cloud'),
          sheet: drawing.sheetId,
          at: [x - 25, y - 15],
          to: [x + 25, y + 15],
          revision: drawing.scene.drawing.revision || 'A',
        };
        drawing.edit('Revision cloud', [{ op: 'put', record }]);
        drawing.select({ kind: 'record', id: record.id });
      },
    },
  ],
};
