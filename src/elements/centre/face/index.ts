import type { Face } from '../../face';
import type { CentreRecord } from '../kind';
import { toggleAll } from '../toggle';
import Slip from './Slip.svelte';
import { CentreTool } from './tool.svelte';

export const centreFace: Face<CentreRecord> = {
  slip: Slip,
  actions(drawing, tools) {
    const view = tools.activeView;
    const on = view !== undefined && drawing.scene.all('centre').some((c) => c.view === view.id && !c.circle);
    return [
      tools.action('centre', { label: 'Centre mark: press a circle', short: 'Centre', key: 'M' }),
      {
        id: 'centres',
        label: on ? 'Centre marks of this view off' : 'Centre marks of all circles in this view',
        key: 'K',
        disabled: !view,
        run: () => view && drawing.edit(on ? 'Centre marks off' : 'Centre marks', toggleAll(drawing.scene, view, drawing.freshId('centre'))),
      },
    ];
  },
  tools: (drawing) => [new CentreTool(drawing)],
};
