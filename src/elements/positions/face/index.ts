import type { Face } from '../../face';
import { viewRect } from '../../view/draw';
import { freeRoom } from '../../place';
import { drawPositions, type PositionsRecord } from '../draw';
import { holesIn } from '../holes-in';
import { noRoomFor } from '$lib/shared/no-room';
import { notify } from '$lib/shared/notices.svelte';
import Slip from './Slip.svelte';
import { ZeroTool } from './zero-tool.svelte';

/** A new table stands so far beside its view, mm. */
const BESIDE_MM = 20;

export const positionsFace: Face<PositionsRecord> = {
  slip: Slip,
  menu: ['positions-zero'],
  actions(drawing, tools) {
    const view = tools.activeView;
    const { scene } = drawing;
    const selected = scene.one('positions', drawing.chosen[0]);
    return [
      {
        id: 'positions',
        label: 'Table of the positions of the holes in this view',
        short: 'Positions',
        key: '7',
        group: 'Dimension',
        disabled: !view,
        run: () => {
          if (!view) return;
          if (!holesIn(scene, view).length) {
            notify('trouble', 'This view sees no hole along its axis. Choose one that does.');
            return;
          }
          const [x, y, width] = viewRect(view, scene.result(view.id));
          const beside = [x + width + BESIDE_MM, y] as const;
          const planned: PositionsRecord = {
            type: 'positions',
            id: drawing.freshId('positions'),
            view: view.id,
            at: [beside[0] - view.at[0], beside[1] - view.at[1]],
          };
          const box = drawPositions(planned, scene)[0]?.box;
          const room = box && freeRoom(scene, view.sheet, [box[2], box[3]], beside);
          if (!room) notify('trouble', noRoomFor('the table of positions'));
          const record: PositionsRecord = room ? { ...planned, at: [room[0] - view.at[0], room[1] - view.at[1]] } : planned;
          drawing.edit('Table of positions', [{ op: 'put', record }]);
          drawing.select({ kind: 'record', id: record.id });
        },
      },
      { ...tools.action('positions-zero', { label: 'Zero of the table of positions that is selected', key: '' }), shelf: false, disabled: !selected },
    ];
  },
  tools: (drawing) => [new ZeroTool(drawing)],
};
