import { withinTurn } from '../../core/base/angle.ts';
import { circleThrough } from '../../core/assembly/fit.ts';
import type { Segment } from '../../core/base/rect.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import type { RecordOf } from '../../core/document/records.ts';
import type { Drawn } from '../../core/picture/display-list.ts';
import { segmentsOf } from '../../core/picture/ink.ts';
import { circlePath, num } from '../../core/picture/shapes.ts';
import type { Scene } from '../scene.ts';
import { asTied } from './ties.ts';

export type FigureRecord = RecordOf<'figure'>;

/** Line types 02, 04 and 05 of ISO 128-2, mm. */
const DASHES = { dashed: [3, 1], chain: [8, 1.2, 0.8, 1.2], phantom: [10, 1, 0.8, 1, 0.8, 1] } as const;
/** A curve is drawn in so many pieces from point to point. */
const PIECES = 12;

const at = ([x, y]: Vec2) => `${num(x)} ${num(y)}`;

/** The path of a figure, paper mm; arcs stay arcs. */
export function figurePath({ shape, points }: Pick<FigureRecord, 'shape' | 'points'>): string {
  const [a, b, c] = points as [Vec2, Vec2, Vec2 | undefined];
  switch (shape) {
    case 'line':
      return `M${at(a)}L${at(b)}`;
    case 'rectangle':
      return `M${at(a)}h${num(b[0] - a[0])}v${num(b[1] - a[1])}h${num(a[0] - b[0])}Z`;
    case 'circle':
      return circlePath(a[0], a[1], Math.hypot(b[0] - a[0], b[1] - a[1]));
    case 'arc':
      return arcPath(a, b, c!);
    case 'curve':
      return smooth(points)
        .map((p, i) => `${i ? 'L' : 'M'}${at(p)}`)
        .join('');
  }
}

/** The arc from a start over a point to an end; straight when they are in line. */
function arcPath(a: Vec2, b: Vec2, c: Vec2): string {
  const circle = circleThrough([...a, 0], [...b, 0], [...c, 0]);
  if (!circle) return `M${at(a)}L${at(b)}L${at(c)}`;
  const angle = (p: Vec2) => Math.atan2(p[1] - circle.centre[1], p[0] - circle.centre[0]);
  // With y down growing angles turn with the clock, which is flag 1.
  const turn = withinTurn(angle(c) - angle(a));
  const clockwise = withinTurn(angle(b) - angle(a)) < turn;
  const large = clockwise ? turn > Math.PI : 2 * Math.PI - turn > Math.PI;
  return `M${at(a)}A${num(circle.radius)} ${num(circle.radius)} 0 ${large ? 1 : 0} ${clockwise ? 1 : 0} ${at(c)}`;
}

/** A smooth curve through points (Catmull and Rom 1974), as a fine polyline. */
export function smooth(points: readonly Vec2[]): Vec2[] {
  const out: Vec2[] = [points[0]!];
  for (let i = 0; i + 1 < points.length; i++) {
    const [p, q, r, s] = [points[Math.max(0, i - 1)]!, points[i]!, points[i + 1]!, points[Math.min(points.length - 1, i + 2)]!];
    for (let k = 1; k <= PIECES; k++) {
      const t = k / PIECES;
      const mix = (n: 0 | 1) =>
        0.5 * (2 * q[n] + (r[n] - p[n]) * t + (2 * p[n] - 5 * q[n] + 4 * r[n] - s[n]) * t * t + (3 * q[n] - p[n] - 3 * r[n] + s[n]) * t * t * t);
      out.push([mix(0), mix(1)]);
    }
  }
  return out;
}

export function drawFigure(stored: FigureRecord, scene: Scene): Drawn[] {
  const record = asTied(stored, scene);
  const { style } = scene.page(record.sheet);
  const d = figurePath(record);
  const width = record.wide ? style.wide : style.narrow;
  const lines = segmentsOf(d);
  const [xs, ys] = [extremes(record, lines, 0), extremes(record, lines, 1)];
  const box = { x: xs[0], y: ys[0], width: xs[1] - xs[0], height: ys[1] - ys[0] };
  return [
    {
      id: record.id,
      role: 'figure',
      label: NAMES[record.shape],
      box: [box.x, box.y, box.width, box.height],
      items: [{ kind: 'stroke', d, width, ...(record.dash ? { dash: DASHES[record.dash] } : {}), ...(record.color ? { color: record.color } : {}) }],
      ink: box,
      // Drawn by hand it may run over anything.
      solid: { rects: [], segments: lines },
      // It is taken hold of by its lines: what it goes around stays free.
      grab: { x: box.x, y: box.y, width: 0, height: 0 },
      grabLines: record.shape === 'circle' || record.shape === 'arc' ? chords(record) : lines,
    },
  ];
}

const NAMES: Readonly<Record<FigureRecord['shape'], string>> = { line: 'Line', rectangle: 'Rectangle', circle: 'Circle', arc: 'Arc', curve: 'Curve' };

function extremes(record: FigureRecord, lines: readonly Segment[], k: 0 | 1): readonly [number, number] {
  const values = record.shape === 'arc' ? chords(record).flatMap((s) => [s[k]!, s[k + 2]!]) : lines.flatMap((s) => [s[k]!, s[k + 2]!]);
  if (record.shape === 'circle') {
    const [c, p] = record.points as [Vec2, Vec2];
    const r = Math.hypot(p[0] - c[0], p[1] - c[1]);
    return [c[k] - r, c[k] + r];
  }
  return [Math.min(...values), Math.max(...values)];
}

/** What is round as short straight lines. */
function chords({ shape, points }: FigureRecord): Segment[] {
  const [a, b, c] = points as [Vec2, Vec2, Vec2 | undefined];
  const circle = shape === 'circle' ? { centre: a, radius: Math.hypot(b[0] - a[0], b[1] - a[1]) } : circleThrough([...a, 0], [...b, 0], [...c!, 0]);
  if (!circle)
    return [
      [...a, ...b],
      [...b, ...c!],
    ];
  const [x, y] = circle.centre;
  const angle = (p: Vec2) => Math.atan2(p[1] - y, p[0] - x);
  let [start, turn] = [0, 2 * Math.PI];
  if (shape === 'arc') {
    start = angle(a);
    turn = withinTurn(angle(c!) - start);
    if (withinTurn(angle(b) - start) > turn) turn -= 2 * Math.PI;
  }
  const n = 48;
  const point = (i: number): Vec2 => [x + circle.radius * Math.cos(start + (turn * i) / n), y + circle.radius * Math.sin(start + (turn * i) / n)];
  return Array.from({ length: n }, (_, i): Segment => [...point(i), ...point(i + 1)]);
}
