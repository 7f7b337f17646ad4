import type { BalloonRecord, ViewRecord } from '../../core/document/records.ts';
import type { Item } from '../../core/ledger/items.ts';
import type { Scene } from '../scene.ts';
import { viewRect } from '../view/draw.ts';
import { itemsOfBalloon } from './says.ts';

/** Items as a reader meets them going around a view with the clock, from its upper left corner on; those of a stack one after the other. */
export function runningOrder(scene: Scene, view: ViewRecord): Item[] {
  const [x, y, w, h] = viewRect(view, scene.result(view.id));
  const [cx, cy] = [x + w / 2, y + h / 2];
  const start = Math.atan2(-h, -w);
  const turn = ({ offset }: BalloonRecord) => {
    const a = Math.atan2(view.at[1] + offset[1] - cy, view.at[0] + offset[0] - cx) - start;
    return ((a % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
  };
  const balloons = scene.at(view.id).filter((r): r is BalloonRecord => r.type === 'balloon');
  return [...new Set([...balloons].sort((a, b) => turn(a) - turn(b)).flatMap((b) => itemsOfBalloon(b, scene)))];
}
