import type { Face } from '../../face';
import type { DimensionRecord } from '../measure';
import { proposeDimensions } from '../propose';
import { statedRecords } from '../../stated';
import { seenNow } from '../edit';
import { changedValues } from '../findings';
import { notify } from '$lib/shared/notices.svelte';
import Slip from './Slip.svelte';
import { DimensionTool } from './dimension-tool.svelte';

export const dimensionFace: Face<DimensionRecord> = {
  slip: Slip,
  menu: ['dimension-add', 'dimension-seen'],
  actions(drawing, tools) {
    const { scene } = drawing;
    const view = tools.activeView;
    const [only] = drawing.chosen;
    const selected = drawing.chosen.length === 1 ? scene.one('dimension', only) : undefined;
    const views = view ? [view] : scene.viewsOn(drawing.sheetId);
    const changed = scene.all('dimension').filter((d) => changedValues(d, scene).length > 0);
    const tool = tools.byNameOf('dimension') as DimensionTool | undefined;
    return [
      tools.action('dimension', { label: 'Dimension: press what is measured, then where it goes', short: 'Dimension', key: '1', group: 'Dimension' }),
      {
        id: 'dimensions-propose',
        label: view ? 'Propose dimensions for this view' : 'Propose dimensions for this sheet',
        short: 'Propose',
        key: '2',
        group: 'Dimension',
        run: () => {
          const records = proposeDimensions(scene, views, () => drawing.freshId('dimension'));
          if (records.length)
            drawing.edit(
              'Propose dimensions',
              records.map((record) => ({ op: 'put', record })),
            );
          else notify('good', 'Nothing to add: what an arrangement says is there already, or there is no room beside the views.');
        },
      },
      {
        id: 'dimensions-stated',
        label: 'Sizes and tolerances that came with the model file',
        short: 'From the file',
        key: '',
        group: 'Dimension',
        disabled: !scene.assembly.parts.some((p) => p.stated),
        run: () => {
          const records = statedRecords(scene, views, (type) => drawing.freshId(type));
          if (records.length)
            drawing.edit(
              'Sizes from the file',
              records.map((record) => ({ op: 'put', record })),
            );
          else notify('good', 'Nothing to add: what the file states is on the sheets, or no view here shows it truly.');
        },
      },
      {
        id: 'dimension-add',
        label: 'Add to the running dimension: press more',
        key: '',
        disabled: !selected || selected.of.length < 2,
        run: () => {
          if (!selected || !tool) return;
          tools.take('dimension');
          tool.addTo(selected);
        },
      },
      {
        id: 'dimension-seen',
        label: 'Changed values are seen',
        key: '',
        disabled: changed.length === 0,
        run: () =>
          drawing.edit(
            'Values seen',
            changed.map((d) => ({ op: 'put', record: seenNow(d, scene) })),
          ),
      },
    ];
  },
  tools: (drawing) => [new DimensionTool(drawing)],
};
