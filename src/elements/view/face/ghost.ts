import type { Rect } from '$core/base/rect';
import type { ViewRecord } from '$core/document/records';
import { pullsOf } from '$core/explode/records';
import { motionsOf } from '$core/explode/spread';
import { boxEdges } from '$elements/view/box-edges';
import { isShown } from '$elements/view/shows';
import type { Scene } from '$elements/scene';
import type { Sketch } from '$lib/sheets/tool';

/** A view that is about to be made: its room, the boxes of its parts, its name. */
export function ghostOf(scene: Scene, record: ViewRecord, rect: Rect): Sketch[] {
  const spread = scene.one('spread', record.spread);
  const motions = motionsOf(spread ? pullsOf(spread, scene.components) : [], scene.components.length);
  const shown = scene.components.filter((c) => isShown(record, c.path));
  const map = scene.map(record);
  const segments = boxEdges(scene.assembly, shown, record, motions).map((v, i) => (i % 2 ? map.y(v) : map.x(v)));
  return [
    { kind: 'window', box: rect, touches: false },
    { kind: 'lines', segments },
    { kind: 'text', at: [rect.x + rect.width / 2, rect.y + rect.height + 6], text: record.name },
  ];
}
