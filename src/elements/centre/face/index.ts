import type { Face } from '../../face';
import type { CentreRecord } from '../kind';
import { marksAll, toggleAll } from '../toggle';
import Slip from './Slip.svelte';
import { CentreLineTool } from './line-tool.svelte';
import { CentreTool } from './tool.svelte';

export const centreFace: Face<CentreRecord> = {
  slip: Slip,
  actions(drawing, tools) {
    const view = tools.activeView;
    const on = view !== undefined && drawing.scene.all('centre').some((c) => c.view === view.id && marksAll(c));
    const [first] = drawing.chosen;
    const selected = drawing.scene.one('centre', first);
    return [
      tools.action('centre', { label: 'Centre mark: press a circle', short: 'Centre', key: 'M', group: 'Centreline' }),
      {
        id: 'centres',
        label: on ? 'Centrelines of this view off' : 'Centrelines of all circles and axes in this view',
        short: 'All axes',
        key: 'K',
        group: 'Centreline',
        disabled: !view,
        run: () => view && drawing.edit(on ? 'Centrelines off' : 'Centrelines', toggleAll(drawing.scene, view, drawing.freshId('centre'))),
      },
      tools.action('centre-line', { label: 'Centreline: press an axis, two edges, or three centres', short: 'Centreline', key: '3', group: 'Centreline' }),
      {
        id: 'centre-extend',
        label: 'Extend the centreline to what is pressed next',
        key: '',
        disabled: !selected?.of,
        run: () => {
          const tool = tools.byNameOf('centre-line') as CentreLineTool | undefined;
          if (!selected || !tool) return;
          tools.take('centre-line');
          tool.extend(selected);
        },
      },
    ];
  },
  menu: ['centre-extend'],
  tools: (drawing) => [new CentreTool(drawing), new CentreLineTool(drawing)],
};
