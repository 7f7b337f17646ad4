import type { Rect } from '../../core/base/rect.ts';
import type { RecordOf } from '../../core/document/records.ts';
import type { DisplayItem, Drawn } from '../../core/picture/display-list.ts';
import { wrapText } from '../../core/picture/lettering.ts';
import { line, rectangle, text } from '../../core/picture/shapes.ts';
import type { Scene } from '../scene.ts';

export type TableRecord = RecordOf<'table'>;

/** Air beside a text in its cell, mm. */
const AIR_MM = 1.2;
/** Height of a row of one line, and of each further line, as shares of the height of capitals. */
const ROW = 2.2;
const LINE = 1.6;
const MOST_LINES = 20;

export interface TableLayout {
  /** Height of capitals, mm. */
  readonly size: number;
  readonly box: Rect;
  readonly cells: readonly { readonly row: number; readonly column: number; readonly box: Rect; readonly lines: readonly string[] }[];
  /** Lower edges of the rows, paper mm. */
  readonly edges: readonly number[];
}

/** Height of a row of so many lines, mm. @param size of capitals, mm */
export const rowHeight = (size: number, lines = 1): number => size * (ROW + LINE * (lines - 1));

/** Where everything of a table stands, paper mm; rows are as high as their longest text wants. */
export function layOutTable(table: TableRecord, scene: Scene): TableLayout {
  const size = table.heightMm ?? scene.page(table.sheet).style.text;
  const cells: { row: number; column: number; box: Rect; lines: string[] }[] = [];
  const edges: number[] = [];
  let y = table.at[1];
  table.rows.forEach((row, r) => {
    const lines = table.widths.map((w, c) => (row[c] ?? '').split('\n').flatMap((l) => wrapText(l, size, w - 2 * AIR_MM, MOST_LINES)));
    const height = rowHeight(size, Math.max(1, ...lines.map((l) => l.length)));
    let x = table.at[0];
    table.widths.forEach((width, c) => {
      cells.push({ row: r, column: c, box: { x, y, width, height }, lines: lines[c]! });
      x += width;
    });
    y += height;
    edges.push(y);
  });
  const width = table.widths.reduce((a, b) => a + b, 0);
  return { size, box: { x: table.at[0], y: table.at[1], width, height: y - table.at[1] }, cells, edges };
}

export function drawTable(table: TableRecord, scene: Scene): Drawn[] {
  const { style } = scene.page(table.sheet);
  const { size, box, cells, edges } = layOutTable(table, scene);
  const items: DisplayItem[] = [rectangle(box, style.wide)];
  edges.slice(0, -1).forEach((y, r) => items.push(line(box.x, y, box.x + box.width, y, table.head && r === 0 ? style.wide : style.narrow)));
  let x = box.x;
  for (const w of table.widths.slice(0, -1)) items.push(line((x += w), box.y, x, box.y + box.height, style.narrow));
  for (const c of cells) {
    const anchor = table.aligned?.[c.column] ?? 'start';
    const at = anchor === 'start' ? c.box.x + AIR_MM : anchor === 'end' ? c.box.x + c.box.width - AIR_MM : c.box.x + c.box.width / 2;
    c.lines.forEach((words, i) => {
      const item = text(at, c.box.y + (size * ROW) / 2 + size / 2 + i * LINE * size, words, size, anchor);
      items.push(table.head && c.row === 0 && item.kind === 'text' ? { ...item, bold: true } : item);
    });
  }
  return [
    {
      id: table.id,
      role: 'table',
      label: `Table of ${table.rows.length} rows`,
      box: [box.x, box.y, box.width, box.height],
      items,
      ink: box,
      solid: { rects: [box], segments: [] },
    },
  ];
}
