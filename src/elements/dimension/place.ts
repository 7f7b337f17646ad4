import type { Vec2 } from '../../core/base/vector.ts';
import type { Scene } from '../scene.ts';
import { viewRect } from '../view/draw.ts';
import { FIRST_MM, NEXT_MM } from './draw.ts';
import { measured, type DimensionRecord } from './measure.ts';

/** Lines within this of their usual distance are brought onto it, mm. */
const SNAP_MM = 1.8;

/** Brings a line's distance from the view onto 10 mm, and from there 7 mm from line to line. */
export function snapAway(away: number, otherLines: readonly number[] = []): number {
  const usual = Math.max(0, Math.round((away - FIRST_MM) / NEXT_MM)) * NEXT_MM + FIRST_MM;
  const beside = otherLines.flatMap((l) => [l - NEXT_MM, l, l + NEXT_MM]);
  let best = away;
  let least = SNAP_MM;
  for (const v of [usual, ...beside])
    if (Math.abs(v - away) < least) {
      least = Math.abs(v - away);
      best = v;
    }
  return best;
}

/** The dimension with its line through a place on the sheet. @param free nothing is brought into line */
export function placedAt(record: DimensionRecord, at: Vec2, scene: Scene, free = false): DimensionRecord {
  const view = scene.one('view', record.view);
  const m = measured(record, scene)?.[0];
  if (!view || !m) return record;
  const map = scene.map(view);
  if (m.shape === 'stretch') {
    if (record.kind === 'level' || record.kind === 'upright') {
      const [x, y, width, height] = viewRect(view, scene.result(view.id));
      const level = record.kind === 'level';
      const first = level ? at[1] < y + height / 2 : at[0] < x + width / 2;
      const side = level ? (first ? 'top' : 'bottom') : first ? 'left' : 'right';
      const away = level ? (first ? y - at[1] : at[1] - y - height) : first ? x - at[0] : at[0] - x - width;
      return { ...record, side, away: free ? away : snapAway(away, linesBeside(record, side, scene)) };
    }
    const from = map.toPaper(m.from);
    // To the left of the way from the first to the second.
    const away = (at[0] - from[0]) * -m.along[1] - (at[1] - from[1]) * m.along[0];
    return { ...record, away: free ? away : Math.sign(away) * snapAway(Math.abs(away)) };
  }
  if (m.shape === 'corner') {
    const c = map.toPaper(m.centre);
    const d = Math.hypot(at[0] - c[0], at[1] - c[1]);
    return { ...record, away: m.kind === 'arc' ? d - m.reach[0] * map.scale : Math.max(2, d) };
  }
  const c = map.toPaper(m.shape === 'round' ? m.centre : m.at);
  const [dx, dy] = [at[0] - c[0], c[1] - at[1]];
  const d = Math.hypot(dx, dy);
  return { ...record, turn: Math.atan2(dy, dx), away: m.shape === 'round' ? d - m.radius * map.scale : d };
}

/** Distances of other dimensions' lines on the same side of the view. */
function linesBeside(record: DimensionRecord, side: string, scene: Scene): number[] {
  return scene.at(record.view).flatMap((r) => (r.type === 'dimension' && r.id !== record.id && r.side === side && r.kind === record.kind ? [r.away] : []));
}
