import type { Rect } from '../../core/base/rect.ts';
import type { RecordOf } from '../../core/document/records.ts';
import { textWidth, wrapped, wrapText } from '../../core/picture/lettering.ts';
import type { SheetStyle } from '../../core/sheet/paper.ts';
import { fieldsIn } from '../field-values.ts';

export type BlockRecord = RecordOf<'block'>;
export type BlockCell = BlockRecord['cells'][number];

export interface LaidCell {
  readonly cell: BlockCell;
  /** Its place in the block's cells. */
  readonly index: number;
  /** Paper mm. */
  readonly rect: Rect;
  readonly lines: readonly string[];
  /** Height of the value's capitals, mm. */
  readonly size: number;
  /** Something of the value has no room, whatever its size. */
  readonly cut: boolean;
  /** The first field that it shows. */
  readonly field: string | undefined;
}

export interface LaidBlock {
  readonly rect: Rect;
  readonly cells: readonly LaidCell[];
  /** Edges of columns and rows, paper mm, with both ends. */
  readonly columnEdges: readonly number[];
  readonly rowEdges: readonly number[];
}

/** Nominal heights of ISO 3098, mm, that a value goes down through when it is too long. */
const HEIGHTS = [20, 14, 10, 7, 5, 3.5, 2.5, 1.8] as const;
/** Distance of a cell's texts from its sides, mm. */
export const AIR_MM = 1.5;
/** Distance of lines, as a share of the height of capitals (ISO 3098). */
const LINE = 1.5;
const MOST_LINES = 20;

/** Room that a cell's caption takes, mm: none without one. */
export const captionRoom = (cell: BlockCell, { caption }: SheetStyle): number => (cell.caption ? caption + 1.2 : 0);

/**
 * Where everything of a block stands. A block wider than the frame is drawn narrower; rows grow where a cell asks for it.
 * @param frame of the sheet, paper mm @param say a cell's text with its fields put in
 */
export function layOutBlock(block: BlockRecord, frame: Rect, style: SheetStyle, say: (text: string) => string): LaidBlock {
  const wide = block.columns.reduce((a, b) => a + b, 0);
  const k = block.corner && wide > frame.width ? frame.width / wide : 1;
  const heights = [...block.rows];
  const columnsAt = sums(block.columns.map((c) => c * k));
  const widthOf = (c: BlockCell) => columnsAt[c.column + (c.columns ?? 1)]! - columnsAt[c.column]!;
  const texts = block.cells.map((cell) => {
    const room = widthOf(cell) - 2 * AIR_MM + 0.4;
    const high = block.rows.slice(cell.row, cell.row + (cell.rows ?? 1)).reduce((a, b) => a + b, 0);
    return fitted(say(cell.text), cell, room, high - captionRoom(cell, style), style);
  });
  block.cells.forEach((cell, i) => {
    if (cell.long !== 'grow') return;
    const last = cell.row + (cell.rows ?? 1) - 1;
    const has = heights.slice(cell.row, last + 1).reduce((a, b) => a + b, 0);
    const { lines, size } = texts[i]!;
    const wants = captionRoom(cell, style) + size * (LINE * Math.max(1, lines.length) + 0.6);
    if (wants > has) heights[last]! += wants - has;
  });
  const rowsAt = sums(heights);
  const [width, height] = [columnsAt.at(-1)!, rowsAt.at(-1)!];
  const x = block.at?.[0] ?? (block.corner!.endsWith('left') ? frame.x : frame.x + frame.width - width);
  const y = block.at?.[1] ?? (block.corner!.startsWith('top') ? frame.y : frame.y + frame.height - height);
  const cells = block.cells.map((cell, index): LaidCell => {
    const [left, top] = [columnsAt[cell.column]!, rowsAt[cell.row]!];
    return {
      cell,
      index,
      rect: { x: x + left, y: y + top, width: widthOf(cell), height: rowsAt[cell.row + (cell.rows ?? 1)]! - top },
      ...texts[index]!,
      field: cell.symbol ? 'projection' : fieldsIn(cell.text)[0],
    };
  });
  return { rect: { x, y, width, height }, cells, columnEdges: columnsAt.map((v) => x + v), rowEdges: rowsAt.map((v) => y + v) };
}

function sums(list: readonly number[]): number[] {
  let at = 0;
  return [0, ...list.map((v) => (at += v))];
}

/** The least height that a value takes before it is broken into lines, mm: the smallest that ISO 3098 lists for text of drawings of these sizes. */
const EASILY_READ = 2.5;

/**
 * A value's lines, and the height they are written in. What is too long is written smaller down to 2.5 mm,
 * then in as many lines as its cell holds, then smaller still, then with its words broken; only what has no room even then is cut.
 */
function fitted(words: string, cell: BlockCell, room: number, high: number, style: SheetStyle): Pick<LaidCell, 'lines' | 'size' | 'cut'> {
  const wanted = cell.heightMm ?? style.text;
  if (words === '') return { lines: [], size: wanted, cut: false };
  const typed = words.split('\n');
  if (cell.long === 'grow') return { lines: typed.flatMap((l) => wrapText(l, wanted, room, MOST_LINES)), size: wanted, cut: false };
  const least = Math.min(wanted, style.caption);
  const heights = [wanted, ...HEIGHTS.filter((h) => h < wanted && h >= least)];
  const broken = (size: number): Pick<LaidCell, 'lines' | 'size' | 'cut'> => {
    const most = Math.max(typed.length, Math.floor((high - size) / (LINE * size) + 1 + 1e-9));
    const lines: string[] = [];
    let cut = false;
    typed.forEach((l, i) => {
      const part = wrapped(l, size, room, most - lines.length - (typed.length - 1 - i));
      lines.push(...part.lines);
      cut ||= part.cut;
    });
    return { lines, size, cut };
  };
  const easy = cell.long === 'wrap' ? [] : heights.filter((h) => h === wanted || h >= EASILY_READ);
  const onOneLine = easy.find((h) => typed.every((l) => textWidth(l, h) <= room));
  if (onOneLine !== undefined) return { lines: typed, size: onOneLine, cut: false };
  const ways = heights.map(broken);
  const unbroken = typed.join(' ').split(/\s+/).join(' ');
  return ways.find((w) => !w.cut && w.lines.join(' ') === unbroken) ?? ways.find((w) => !w.cut) ?? ways.at(-1)!;
}
