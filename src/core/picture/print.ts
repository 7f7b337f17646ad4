import type { Rect } from '../base/rect.ts';
import type { DisplayItem, DisplayList } from './display-list.ts';
import { line, text } from './shapes.ts';

/** `true`: as large as it is; `half`: half as large; `fit`: as large as the printer's paper allows; `tiles`: true size, over several papers. */
export const PRINT_MODES = ['true', 'half', 'fit', 'tiles'] as const;
export type PrintMode = (typeof PRINT_MODES)[number];

/** What a print may be marked as, across every page. */
export const PRINT_MARKS = ['DRAFT', 'FOR REVIEW', 'ISSUED', 'SUPERSEDED'] as const;

/** Pixels per inch of pictures of sheets. */
export const PNG_DPI = { least: 36, usual: 200, most: 1200 } as const;

/** How a drawing is given out. */
export interface SheetFileOptions {
  readonly print?: PrintOptions;
  readonly grey?: boolean;
  readonly layers?: boolean;
  /** Large words across every page. */
  readonly watermark?: string;
  /** Indices of the sheets that are wanted; absent: all. */
  readonly only?: readonly number[];
}

export interface PrintOptions {
  readonly mode: PrintMode;
  /** Of `fit` and `tiles`: the paper in the printer, mm; either way up. Absent: A4. */
  readonly paper?: readonly [number, number];
  /** A bar of 100 mm at the foot, to be checked with a ruler. */
  readonly bar?: boolean;
  /** Of `fit`: as large as the paper is, larger than it is too, to its very edge. */
  readonly grow?: boolean;
}

/** What of a sheet comes onto one page. */
export interface PrintPage {
  /** Paper mm. */
  readonly width: number;
  readonly height: number;
  /** Index of the sheet. */
  readonly sheet: number;
  /** Paper mm per mm of the sheet. */
  readonly scale: number;
  /** What of the sheet is shown, mm on the sheet, and where its upper left corner goes on the page. */
  readonly window: Rect;
  readonly at: readonly [number, number];
  /** Bar, marks and words around it, in page mm. */
  readonly marks: readonly DisplayItem[];
  /** `A2` of a tile: its row and column. */
  readonly tile?: string;
}

export const A4 = [210, 297] as const;
/** What office printers leave white, mm. */
const MARGIN_MM = 8;
/** Neighbouring tiles show the same stretch, to be cut and glued, mm. */
const OVERLAP_MM = 10;
/** Room at the foot of a tile for bar and words, mm. */
const FOOT_MM = 9;
const BAR_MM = 100;

/** How sheets lie on the pages of a print. Sizes in mm. */
export function printPages(sheets: readonly DisplayList[], options: PrintOptions): PrintPage[] {
  return sheets.flatMap((s, sheet): PrintPage[] => {
    switch (options.mode) {
      case 'true':
        return [whole(s, sheet, 1, [s.width, s.height], options.bar ? bar(25, s.height - 4, '') : [])];
      case 'half':
        return [whole(s, sheet, 0.5, [s.width / 2, s.height / 2], options.bar ? bar(14, s.height / 2 - 1.2, 'half size: scales are halved') : [])];
      case 'fit':
        return [fitted(s, sheet, options)];
      case 'tiles':
        return tiled(s, sheet, options.paper ?? A4);
    }
  });
}

function whole(s: DisplayList, sheet: number, scale: number, [width, height]: readonly [number, number], marks: readonly DisplayItem[]): PrintPage {
  return { width, height, sheet, scale, window: { x: 0, y: 0, width: s.width, height: s.height }, at: [0, 0], marks };
}

/** The paper with its longer side the same way as the sheet's. */
const turned = ([a, b]: readonly [number, number], s: DisplayList): [number, number] =>
  s.width >= s.height ? [Math.max(a, b), Math.min(a, b)] : [Math.min(a, b), Math.max(a, b)];

function fitted(s: DisplayList, sheet: number, { paper = A4, bar: withBar, grow }: PrintOptions): PrintPage {
  const [width, height] = turned(paper, s);
  if (grow) {
    const most = Math.min(width / s.width, height / s.height);
    return { ...whole(s, sheet, most, [width, height], []), at: [(width - s.width * most) / 2, (height - s.height * most) / 2] };
  }
  const foot = withBar ? FOOT_MM : MARGIN_MM;
  const scale = Math.min(1, (width - 2 * MARGIN_MM) / s.width, (height - MARGIN_MM - foot) / s.height);
  const at: [number, number] = [(width - s.width * scale) / 2, (height - foot + MARGIN_MM - s.height * scale) / 2];
  const words = scale < 0.9995 ? `printed at ${Math.round(scale * 1000) / 10} % of its size` : '';
  const page = whole(s, sheet, scale, [width, height], withBar ? bar(MARGIN_MM, height - 3, words) : []);
  return { ...page, at };
}

/** Letters of the rows of tiles. */
const ROWS = 'ABCDEFGHJKLMNPQRSTUVWXYZ';

function tiled(s: DisplayList, sheet: number, paper: readonly [number, number]): PrintPage[] {
  const layouts = [paper, [paper[1], paper[0]] as const].map(([width, height]) => {
    const [w, h] = [width - 2 * MARGIN_MM, height - MARGIN_MM - FOOT_MM];
    const count = (size: number, room: number) => Math.max(1, Math.ceil((size - OVERLAP_MM) / (room - OVERLAP_MM) - 1e-9));
    return { width, height, w, h, columns: count(s.width, w), rows: count(s.height, h) };
  });
  const { width, height, w, h, columns, rows } = layouts.reduce((a, b) => (b.columns * b.rows < a.columns * a.rows ? b : a));
  return Array.from({ length: rows * columns }, (_, i): PrintPage => {
    const [row, column] = [Math.floor(i / columns), i % columns];
    const x = column * (w - OVERLAP_MM);
    const y = row * (h - OVERLAP_MM);
    const window: Rect = { x, y, width: Math.min(w, s.width - x), height: Math.min(h, s.height - y) };
    const at: [number, number] = [MARGIN_MM, MARGIN_MM];
    const name = `${ROWS[row] ?? row + 1}${column + 1}`;
    const marks = [
      ...bar(MARGIN_MM, height - 3, `sheet ${sheet + 1}, ${name} of ${ROWS[rows - 1] ?? rows}${columns}`),
      ...glueMarks(window, at, { left: column > 0, top: row > 0, right: column < columns - 1, bottom: row < rows - 1 }),
    ];
    return { width, height, sheet, scale: 1, window, at, marks, tile: name };
  });
}

const THIN_MM = 0.13;

/** Where a tile meets its neighbours: a dashed line in the middle of what both show, and a cross at its ends. */
function glueMarks(
  { width, height }: Rect,
  [x, y]: readonly [number, number],
  to: Readonly<Record<'left' | 'top' | 'right' | 'bottom', boolean>>,
): DisplayItem[] {
  const half = OVERLAP_MM / 2;
  const out: DisplayItem[] = [];
  const mark = (x1: number, y1: number, x2: number, y2: number) => {
    out.push({ kind: 'stroke', d: `M${x1} ${y1}L${x2} ${y2}`, width: THIN_MM, dash: [1, 2], color: '#7a7a7a' });
    for (const [cx, cy] of [
      [x1, y1],
      [x2, y2],
    ] as const)
      out.push(line(cx - 2.5, cy, cx + 2.5, cy, THIN_MM), line(cx, cy - 2.5, cx, cy + 2.5, THIN_MM));
  };
  if (to.left) mark(x + half, y, x + half, y + height);
  if (to.right) mark(x + width - half, y, x + width - half, y + height);
  if (to.top) mark(x, y + half, x + width, y + half);
  if (to.bottom) mark(x, y + height - half, x + width, y + height - half);
  return out;
}

/** A bar of 100 mm with a tick each 10: a printer that scales is found out with a ruler. */
function bar(x: number, y: number, words: string): DisplayItem[] {
  const out: DisplayItem[] = [line(x, y, x + BAR_MM, y, 0.25)];
  for (let mm = 0; mm <= BAR_MM; mm += 10) out.push(line(x + mm, y, x + mm, y - (mm % 50 === 0 ? 2 : 1.2), 0.18));
  out.push(text(x + BAR_MM + 2, y, `100 mm${words ? `; ${words}` : ''}`, 1.8, 'start'));
  return out;
}
