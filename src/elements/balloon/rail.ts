import type { Vec2 } from '../../core/base/vector.ts';
import type { BalloonRecord, ViewRecord } from '../../core/document/records.ts';
import type { Step } from '../../core/document/steps.ts';
import type { Scene } from '../scene.ts';

export type Rail = NonNullable<ViewRecord['rail']>;

export const RAIL_NAMES: Readonly<Record<Rail | 'rectangle', string>> = {
  rectangle: 'all around',
  ring: 'ring',
  rows: 'above and below',
  columns: 'left and right',
  top: 'above',
  foot: 'below',
  left: 'left',
  right: 'right',
};

/** Balloons whose centres are so near to one line stand on one rail, mm. */
const SAME_MM = 0.05;
/** Fewer than this are no rail. */
const LEAST = 3;

/**
 * Steps of a balloon that is dragged along with its rail: across the rail all of them go, along it this one alone. Undefined
 * when it stands on none: the view has no rails, or it was put where it is by hand.
 */
export function draggedOnRail(b: BalloonRecord, by: Vec2, scene: Scene): Step[] | undefined {
  const view = scene.one('view', b.view);
  if (!view?.rail || b.byHand) return undefined;
  const others = scene.at(b.view).filter((r): r is BalloonRecord => r.type === 'balloon' && !r.byHand);
  if (view.rail === 'ring') return others.length < LEAST ? undefined : onRing(b, by, others);
  const along = (k: 0 | 1) => others.filter((o) => Math.abs(o.offset[1 - k]! - b.offset[1 - k]!) < SAME_MM);
  const [level, upright] = [along(0), along(1)];
  const k = level.length >= upright.length ? 0 : 1;
  const rail = k === 0 ? level : upright;
  if (rail.length < LEAST) return undefined;
  return rail.map((o): Step => {
    const offset: [number, number] = [o.offset[0], o.offset[1]];
    offset[1 - k] = offset[1 - k]! + by[1 - k]!;
    if (o.id === b.id) offset[k] = offset[k]! + by[k]!;
    return { op: 'put', record: { ...o, offset } };
  });
}

/** On a ring: it goes round with the hand, and all keep the new distance from the middle. */
function onRing(b: BalloonRecord, by: Vec2, others: readonly BalloonRecord[]): Step[] {
  const middle = [0, 1].map((k) => others.reduce((s, o) => s + o.offset[k]!, 0) / others.length) as unknown as Vec2;
  const away = (v: Vec2) => Math.hypot(v[0] - middle[0], v[1] - middle[1]) || 1;
  const to: Vec2 = [b.offset[0] + by[0], b.offset[1] + by[1]];
  const k = away(to) / away(b.offset);
  return others.map((o): Step => {
    if (o.id === b.id) return { op: 'put', record: { ...o, offset: to } };
    return { op: 'put', record: { ...o, offset: [middle[0] + (o.offset[0] - middle[0]) * k, middle[1] + (o.offset[1] - middle[1]) * k] } };
  });
}
