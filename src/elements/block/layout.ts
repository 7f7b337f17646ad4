import type { Rect } from '../../core/base/rect.ts';
import type { RecordOf } from '../../core/document/records.ts';
import { fitText, textWidth, wrapText } from '../../core/picture/lettering.ts';
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
/** Words that are broken fill their lines unevenly: two lines hold so much. */
const TWO_LINES = 1.9;

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

/** A value's lines, and the height they are written in. */
function fitted(words: string, cell: BlockCell, room: number, high: number, style: SheetStyle): { lines: readonly string[]; size: number } {
  const wanted = cell.heightMm ?? style.text;
  if (words === '') return { lines: [], size: wanted };
  const typed = words.split('\n');
  if (cell.long === 'grow') return { lines: typed.flatMap((l) => wrapText(l, wanted, room, MOST_LINES)), size: wanted };
  const least = Math.min(wanted, style.caption);
  const heights = [wanted, ...HEIGHTS.filter((h) => h < wanted && h >= least)];
  const holds = (size: number) => {
    const most = cell.long === 'wrap' ? Math.max(1, Math.floor((high - size) / (LINE * size) + 1 + 1e-9)) : 1;
    return typed.every((l) => textWidth(l, size) <= room * (most > 1 ? TWO_LINES : 1)) && typed.length <= Math.max(most, 1);
  };
  const size = heights.find(holds) ?? heights.at(-1)!;
  if (typed.length > 1) return { lines: typed.map((l) => fitText(l, size, room)), size };
  const twice = cell.long === 'wrap' && textWidth(words, size) > room && high >= size * (LINE + 1);
  return { lines: twice ? wrapText(words, size, room, 2) : [fitText(words, size, room)], size };
}
