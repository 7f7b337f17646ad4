import type { ViewRecord } from '../../core/document/records.ts';
import { boxInFrame } from '../../core/draft/new-view.ts';
import { pullsOf } from '../../core/explode/records.ts';
import { motionsOf } from '../../core/explode/spread.ts';
import type { ViewFrame } from '../../core/outline/directions.ts';
import type { Scene } from '../scene.ts';

/** What of the model counts for how large a view is. */
export type Shown = Pick<ViewRecord, 'spread'> & Pick<Partial<ViewRecord>, 'shows'>;

/**
 * Box of a view before it is computed, by the boxes of the parts that it shows: minX minY maxX maxY, view space, model mm.
 * At least as large as what will be drawn.
 */
export function boxFromParts(scene: Scene, frame: ViewFrame, { spread, shows }: Shown): readonly [number, number, number, number] {
  const record = scene.one('spread', spread);
  const of = new Set(shows?.of);
  const shown = shows ? scene.components.filter((c) => of.has(c.path) === shows.only) : scene.components;
  const motions = motionsOf(record ? pullsOf(record, scene.components) : [], scene.components.length);
  return boxInFrame(scene.assembly, shown.length ? shown : scene.components, frame, motions);
}
