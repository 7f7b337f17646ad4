import type { ViewRecord } from '../../core/document/records.ts';
import type { Knob } from '../kind.ts';
import type { Scene } from '../scene.ts';
import { viewRect } from './draw.ts';
import type { WayOut } from './neighbour.ts';

/** Knobs stand this far off the view, mm. */
const OFF_MM = 7;
const LABEL_MM = 8;

const WAYS: readonly WayOut[] = [
  [1, 0],
  [0, 1],
  [-1, 0],
  [0, -1],
  [1, 1],
  [1, -1],
  [-1, 1],
  [-1, -1],
];

/** Knobs around a view out of which its neighbours are pulled. */
export function projectKnobs(view: ViewRecord, scene: Scene): Knob[] {
  const result = scene.result(view.id);
  if (!result || view.detail || view.spread) return [];
  const [x, y, width, height] = viewRect(view, result);
  return WAYS.map((way) => ({
    tool: 'project',
    name: `pull-${way.join('-')}`,
    way,
    // Below, the label stands first.
    at: [x + width / 2 + way[0] * (width / 2 + OFF_MM), y + height / 2 + way[1] * (height / 2 + OFF_MM) + (way[1] > 0 ? LABEL_MM : 0)],
  }));
}
