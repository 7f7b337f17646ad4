import type { Vec2 } from '../../../core/base/vector.ts';
import type { DisplayItem } from '../../../core/picture/display-list.ts';
import { textWidth } from '../../../core/picture/lettering.ts';
import { circlePath, line, num, rectangle, text } from '../../../core/picture/shapes.ts';
import type { SignRecord } from '../draw.ts';
import { arcPoints, strokes, type SignPen, type SignPicture } from './picture.ts';

type Frame = Extract<SignRecord['is'], { sign: 'frame' }>;
type Row = Frame['rows'][number];

/** Lines of each characteristic about its middle, y upwards, half a height of capitals as 1 (ISO 1101, table 2; ISO 7083 for proportions). */
const LINES: Readonly<Record<Row['of'], readonly (readonly Vec2[])[]>> = {
  straightness: [seg(-1.2, 0, 1.2, 0)],
  flatness: [
    [
      [-1.4, -0.7],
      [0.7, -0.7],
      [1.4, 0.7],
      [-0.7, 0.7],
      [-1.4, -0.7],
    ],
  ],
  roundness: [circle(1)],
  cylindricity: [circle(0.75), seg(-1.35, -1, -0.35, 1), seg(0.35, -1, 1.35, 1)],
  'line-profile': [arcPoints(0, -0.6, 1.2, 1.2, 0, 180)],
  'surface-profile': [[...arcPoints(0, -0.6, 1.2, 1.2, 0, 180), [1.2, -0.6]]],
  parallelism: [seg(-1, -1, 0, 1), seg(0, -1, 1, 1)],
  perpendicularity: [seg(-1.1, -1, 1.1, -1), seg(0, -1, 0, 1)],
  angularity: [
    [
      [1.2, -0.8],
      [-1.2, -0.8],
      [0.9, 0.9],
    ],
  ],
  position: [circle(0.75), seg(-1.2, 0, 1.2, 0), seg(0, -1.2, 0, 1.2)],
  coaxiality: [circle(1), circle(0.5)],
  symmetry: [seg(-0.7, 0.5, 0.7, 0.5), seg(-1.2, 0, 1.2, 0), seg(-0.7, -0.5, 0.7, -0.5)],
  'run-out': [seg(-0.8, -1, 0.8, 1), seg(0.8, 1, 0.72, 0.35), seg(0.8, 1, 0.22, 0.72)],
  'total-run-out': [
    seg(-1.2, -1, 0.2, -1),
    seg(-1.2, -1, 0, 0.9),
    seg(0.2, -1, 1.3, 0.9),
    seg(0, 0.9, 0, 0.3),
    seg(0, 0.9, -0.5, 0.6),
    seg(1.3, 0.9, 1.3, 0.3),
    seg(1.3, 0.9, 0.8, 0.6),
  ],
};

function seg(x0: number, y0: number, x1: number, y1: number): readonly Vec2[] {
  return [
    [x0, y0],
    [x1, y1],
  ];
}
function circle(r: number): readonly Vec2[] {
  return arcPoints(0, 0, r, r, 0, 360);
}

/** Frames of geometrical tolerances: boxes twice as high as letters, one row under the other. Reference point: the middle of the left side of the first. */
export function framePicture(f: Frame, { at: [x, y], h, width, side }: SignPen): SignPicture {
  const high = 2 * h;
  const items: DisplayItem[] = [];
  const cellsOf = (row: Row) => {
    const zone = `${row.round ? 'Ø' : ''}${row.zone}`;
    return [high, textWidth(zone, h) + (row.modifier ? 2.4 * h : 0) + h, ...row.datums.filter(Boolean).map((d) => Math.max(high, textWidth(d, h) + h))];
  };
  const total = Math.max(...f.rows.map((r) => cellsOf(r).reduce((a, b) => a + b, 0)));
  const left = side === 'left' ? x : x - total;
  const top = y - high / 2;
  f.rows.forEach((row, i) => {
    const cells = cellsOf(row);
    const [upper, middle] = [top + i * high, top + i * high + high / 2];
    items.push(rectangle({ x: left, y: upper, width: cells.reduce((a, b) => a + b, 0), height: high }, width));
    const unit = h * 0.62;
    items.push(strokes(width, ...LINES[row.of].map((l) => l.map(([px, py]): Vec2 => [left + high / 2 + px * unit, middle - py * unit]))));
    let at = left + cells[0]!;
    const foot = middle + h / 2;
    const zone = `${row.round ? 'Ø' : ''}${row.zone}`;
    items.push(line(at, upper, at, upper + high, width), text(at + h / 2, foot, zone, h, 'start'));
    if (row.modifier) {
      const cx = at + h / 2 + textWidth(zone, h) + 1.4 * h;
      items.push({ kind: 'stroke', d: circlePath(cx, middle, 0.85 * h), width }, text(cx, middle + 0.4 * h, row.modifier, 0.8 * h, 'middle'));
    }
    at += cells[1]!;
    row.datums.filter(Boolean).forEach((d, k) => {
      const w = cells[k + 2]!;
      items.push(line(at, upper, at, upper + high, width), text(at + w / 2, foot, d, h, 'middle'));
      at += w;
    });
  });
  if (f.above) items.push(text(left, top - 0.5 * h, f.above, h, 'start'));
  return { items, left: [left, y], right: [left + cellsOf(f.rows[0]!).reduce((a, b) => a + b, 0), y], shelfMm: 2 };
}

/** The letter of a datum in its box; the triangle belongs to the leader (ISO 5459). */
export function datumPicture(letter: string, { at: [x, y], h, width, side }: SignPen): SignPicture {
  const size = Math.max(2 * h, textWidth(letter, h) + h);
  const left = side === 'left' ? x : x - size;
  return {
    items: [rectangle({ x: left, y: y - h, width: size, height: 2 * h }, width), text(left + size / 2, y + h / 2, letter, h, 'middle')],
    left: [left, y],
    right: [left + size, y],
    shelfMm: 0,
  };
}

/** Numbers of revisions and of general notes in a shape of their own, about the reference point. */
export function flagPicture(shape: 'triangle' | 'square' | 'hexagon' | 'circle', letter: string, { at: [x, y], h, width }: SignPen): SignPicture {
  const r = Math.max(1.3 * h, textWidth(letter, h) / 2 + 0.6 * h);
  const corners = { triangle: 3, square: 4, hexagon: 6, circle: 0 }[shape];
  const reach = shape === 'triangle' ? 1.7 * r : shape === 'square' ? r * Math.SQRT2 : r * 1.1;
  const first = shape === 'square' ? 45 : shape === 'hexagon' ? 0 : 90;
  const points = Array.from({ length: corners }, (_, i) => {
    const a = ((first + (360 / corners) * i) * Math.PI) / 180;
    return `${num(x + reach * Math.cos(a))} ${num(y - reach * Math.sin(a))}`;
  });
  const d = corners ? `M${points.join('L')}Z` : circlePath(x, y, r);
  const half = shape === 'triangle' ? reach * 0.6 : r;
  return { items: [{ kind: 'stroke', d, width }, text(x, y + h / 2, letter, h, 'middle')], left: [x - half, y], right: [x + half, y], shelfMm: 0 };
}
