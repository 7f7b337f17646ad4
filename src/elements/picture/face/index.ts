import { notify } from '$lib/shared/notices.svelte';
import type { Face } from '../../face';
import type { PictureRecord } from '../kind';
import { readPicture } from './read-picture';
import Slip from './Slip.svelte';

const WIDTH_MM = 50;

export const pictureFace: Face<PictureRecord> = {
  slip: Slip,
  actions: (drawing) => [
    {
      id: 'picture',
      label: 'Picture from a PNG or SVG file',
      short: 'Picture',
      key: '',
      group: 'Draw',
      run: () => {
        const input = document.createElement('input');
        input.type = 'file';
        input.accept = '.png,.svg';
        input.onchange = async () => {
          const [file] = input.files ?? [];
          if (!file) return;
          const read = await readPicture(file);
          if ('wrong' in read) {
            notify('trouble', read.wrong);
            return;
          }
          const { frame } = drawing.scene.page(drawing.sheetId).geometry;
          const record: PictureRecord = {
            type: 'picture',
            id: drawing.freshId('picture'),
            sheet: drawing.sheetId,
            at: [frame.x + 15, frame.y + 15],
            widthMm: WIDTH_MM,
            ...read,
          };
          drawing.edit('Picture', [{ op: 'put', record }]);
          drawing.select({ kind: 'record', id: record.id });
        };
        input.click();
      },
    },
  ],
};
