import type { Face } from '../../face';
import { viewRect } from '../../view/draw';
import type { PositionsRecord } from '../draw';
import { holesIn } from '../holes-in';
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
          const record: PositionsRecord = {
            type: 'positions',
            id: drawing.freshId('positions'),
            view: view.id,
            at: [x + width + BESIDE_MM - view.at[0], y - view.at[1]],
          };
          drawing.edit('Table of positions', [{ op: 'put', record }]);
          drawing.select({ kind: 'record', id: record.id });
        },
      },
      { ...tools.action('positions-zero', { label: 'Zero of the table of positions that is selected', key: '' }), shelf: false, disabled: !selected },
    ];
  },
  tools: (drawing) => [new ZeroTool(drawing)],
};
