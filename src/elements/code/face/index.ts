import type { Face } from '../../face';
import type { CodeRecord } from '../kind';
import { newCode } from '../place';
import Slip from './Slip.svelte';

export const codeFace: Face<CodeRecord> = {
  slip: Slip,
  actions: (drawing) => [
    {
      id: 'code',
      label: 'QR code that leads to the build guide',
      short: 'QR code',
      key: '',
      group: 'Note',
      run: () => {
        const record = newCode(drawing.scene, drawing.sheetId, drawing.freshId('code'));
        drawing.edit('QR code', [{ op: 'put', record }]);
        drawing.select({ kind: 'record', id: record.id });
      },
    },
  ],
};
