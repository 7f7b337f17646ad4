import type { Vec2 } from '../../core/base/vector.ts';
import type { Step } from '../../core/document/steps.ts';
import type { Kind } from '../kind.ts';
import type { Scene } from '../scene.ts';
import { drawFigure, type FigureRecord } from './draw.ts';
import { asTied, JOINED_MM, RELATIONS, tiedPoints } from './ties.ts';

/** Lines on the sheet: for boxes, tables, signs of the drafter's own. */
export const figureKind: Kind<FigureRecord> = {
  title: 'line',
  layer: 4.2,
  draw: drawFigure,

  handles: (record, scene) => tiedPoints(record, scene).map((at, i) => ({ name: String(i), at })),

  signs: (record, scene) => {
    const [a, b] = tiedPoints(record, scene) as [Vec2, Vec2];
    return (record.ties ?? []).map((t, i) => ({ at: [(a[0] + b[0]) / 2 + 2 + 5 * i, (a[1] + b[1]) / 2 - 2] as const, text: RELATIONS[t.is].sign }));
  },

  drag(stored, by, scene, handle) {
    const record = asTied(stored, scene);
    const moved = (p: Vec2): Vec2 => [p[0] + by[0], p[1] + by[1]];
    if (handle === undefined) return [{ op: 'put', record: { ...record, points: record.points.map(moved) } }];
    const index = Number(handle);
    const from = record.points[index];
    if (!from) return [];
    return [
      { op: 'put', record: { ...record, points: record.points.map((p, i) => (i === index ? moved(p) : p)) } },
      ...together(record, from, moved(from), scene),
    ];
  },
};

/** Ends of other lines that are joined to a point go along with it. */
function together(record: FigureRecord, from: Vec2, to: Vec2, scene: Scene): Step[] {
  return scene.all('figure').flatMap((o): Step[] => {
    if (o.id === record.id || o.sheet !== record.sheet) return [];
    const points = o.points.map((p) => (Math.hypot(p[0] - from[0], p[1] - from[1]) < JOINED_MM ? to : p));
    return points.some((p, i) => p !== o.points[i]) ? [{ op: 'put', record: { ...o, points } }] : [];
  });
}

/** A point brought onto an end of another line near it, or level with or upright over the point before. @param reach mm */
export function joinedPoint(scene: Scene, sheet: string, at: Vec2, before: Vec2 | undefined, reach: number): Vec2 {
  let best: Vec2 | undefined;
  let least = reach;
  for (const f of scene.all('figure')) {
    if (f.sheet !== sheet) continue;
    for (const p of endsOf(f)) {
      const d = Math.hypot(p[0] - at[0], p[1] - at[1]);
      if (d < least) [best, least] = [p, d];
    }
  }
  if (best) return best;
  if (!before) return at;
  const [dx, dy] = [Math.abs(at[0] - before[0]), Math.abs(at[1] - before[1])];
  if (dy < reach && dy < dx / 4) return [at[0], before[1]];
  return dx < reach && dx < dy / 4 ? [before[0], at[1]] : at;
}

/** Points of a figure that others can be joined to: all four corners of a rectangle too. */
function endsOf(f: FigureRecord): readonly Vec2[] {
  const [a, b] = f.points as [Vec2, Vec2];
  return f.shape === 'rectangle' ? [a, b, [a[0], b[1]], [b[0], a[1]]] : f.points;
}
