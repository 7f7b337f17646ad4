import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Press } from '$lib/sheets/tool';
import { viewUnder } from '../../view/face/under';
import { newBalloon } from '../place/add';
import { numberText } from '../../../core/ledger/items';

/** A balloon for an item in the view at a place: on its piece that is seen best there. Another one of the same item is on purpose. */
export function balloonForDropped(drawing: Drawing, part: string, p: Press): void {
  const { scene } = drawing;
  const item = scene.items.find((i) => i.part === part);
  const view = viewUnder(drawing, p.at);
  if (!item || !view) {
    notify('trouble', 'Drop the row onto a view that shows its part.');
    return;
  }
  const areas = scene.result(view.id)?.visibleArea;
  const [best] = areas ? [...item.components].sort((a, b) => areas[b]! - areas[a]!) : [];
  const record = best === undefined ? undefined : newBalloon(scene, view, best, p.at, drawing.freshId(`balloon:${part}`));
  if (!record) {
    notify('trouble', `Item ${numberText(item)} shows no edge in ${view.name}.`);
    return;
  }
  drawing.edit(`Balloon for item ${numberText(item)}`, [{ op: 'put', record }]);
  drawing.select({ kind: 'record', id: record.id });
}
