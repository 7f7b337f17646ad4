import Papa from 'papaparse';
import type { DrawingDocument, PropertyRecord } from '../document/records.ts';
import type { Step } from '../document/steps.ts';
import { accepted, gridText, isGap, type GridColumn } from './columns.ts';
import type { Item } from './items.ts';

/** One cell that gets a text; undefined puts it back to what it was without typing. */
export interface CellChange {
  readonly part: string;
  readonly key: string;
  readonly text: string | undefined;
}

/** A block of cells, both ends included. */
export interface CellRange {
  readonly top: number;
  readonly left: number;
  readonly bottom: number;
  readonly right: number;
}

export interface Planned {
  readonly changes: readonly CellChange[];
  /** What was not taken, and why. */
  readonly refused: readonly string[];
}

/** Steps of changes; those of one part come together. @param now ISO 8601 */
export function stepsOf(doc: DrawingDocument, changes: readonly CellChange[], now: string): Step[] {
  const byPart = new Map<string, CellChange[]>();
  for (const c of changes) byPart.set(c.part, [...(byPart.get(c.part) ?? []), c]);
  return [...byPart].flatMap(([part, list]): Step[] => {
    const id = `property:${part}`;
    const known = doc[id];
    const values: Record<string, string> = known?.type === 'property' ? { ...known.values } : {};
    const when: Record<string, string> = known?.type === 'property' ? { ...known.when } : {};
    for (const { key, text } of list) {
      if (text === undefined) {
        delete values[key];
        delete when[key];
      } else {
        values[key] = text;
        when[key] = now;
      }
    }
    if (Object.keys(values).length === 0) return known ? [{ op: 'drop', id }] : [];
    const record: PropertyRecord = { type: 'property', id, part, values, when };
    return [{ op: 'put', record }];
  });
}

/** Rows and cells of a spreadsheet's clipboard text: tabs between cells, quoted where a cell has tabs, breaks or quotes. */
export function parseBlock(text: string): string[][] {
  const rows = Papa.parse<string[]>(text, { delimiter: '\t' }).data;
  // Spreadsheets end the last row with a break.
  if (rows.length > 1 && rows.at(-1)!.length === 1 && rows.at(-1)![0] === '') rows.pop();
  return rows.length ? rows : [['']];
}

/** A block as clipboard text. */
export const blockText = (rows: readonly (readonly string[])[]): string => Papa.unparse(rows as string[][], { delimiter: '\t', newline: '\n' });

/** Texts of a range. */
export function textsIn(items: readonly Item[], columns: readonly GridColumn[], r: CellRange, massUnit: 'kg' | 'lb'): string[][] {
  return items.slice(r.top, r.bottom + 1).map((i) => columns.slice(r.left, r.right + 1).map((c) => gridText(i, c, massUnit)));
}

/**
 * A block put into the grid from a range's upper left corner; a block of one cell fills the whole range, and one that the
 * range holds several times is repeated.
 */
export function pasteBlock(items: readonly Item[], columns: readonly GridColumn[], range: CellRange, block: readonly (readonly string[])[]): Planned {
  const height = block.length;
  const width = Math.max(...block.map((r) => r.length));
  const [rangeHeight, rangeWidth] = [range.bottom - range.top + 1, range.right - range.left + 1];
  const down = rangeHeight % height === 0 ? rangeHeight : height;
  const across = rangeWidth % width === 0 ? rangeWidth : width;
  const changes: CellChange[] = [];
  const refused = new Set<string>();
  for (let i = 0; i < down; i++)
    for (let j = 0; j < across; j++) {
      const item = items[range.top + i];
      const column = columns[range.left + j];
      const text = block[i % height]![j % width];
      if (!item || !column || text === undefined) continue;
      put(item, column, text, changes, refused);
    }
  return { changes, refused: [...refused] };
}

function put(item: Item, column: GridColumn, text: string, changes: CellChange[], refused: Set<string>): void {
  if (!column.editable) {
    if (text !== gridText(item, column)) refused.add(`${column.title} is not typed: it is kept as it is.`);
    return;
  }
  const r = accepted(column, text);
  if ('wrong' in r) refused.add(r.wrong);
  else if (r.text !== gridText(item, column)) changes.push({ part: item.part, key: column.key, text: r.text });
}

/** The first row of a range written into the others. */
export function fillDown(items: readonly Item[], columns: readonly GridColumn[], r: CellRange): Planned {
  if (r.bottom === r.top) return { changes: [], refused: [] };
  const first = items[r.top];
  if (!first) return { changes: [], refused: [] };
  const row = columns.slice(r.left, r.right + 1).map((c) => (c.editable ? gridText(first, c) : undefined));
  const changes: CellChange[] = [];
  const refused = new Set<string>();
  for (let i = r.top + 1; i <= r.bottom; i++)
    row.forEach((text, j) => {
      const item = items[i];
      if (item && text !== undefined) put(item, columns[r.left + j]!, text, changes, refused);
    });
  return { changes, refused: [...refused] };
}

/** Cells of a range put back to what they were without typing. */
export function putBack(items: readonly Item[], columns: readonly GridColumn[], r: CellRange): CellChange[] {
  return items
    .slice(r.top, r.bottom + 1)
    .flatMap((i) => columns.slice(r.left, r.right + 1).flatMap((c): CellChange[] => (c.editable ? [{ part: i.part, key: c.key, text: undefined }] : [])));
}

/** The next gap after a cell, row by row, from the top again at the end. */
export function nextGap(items: readonly Item[], columns: readonly GridColumn[], row: number, column: number): { row: number; column: number } | undefined {
  const total = items.length * columns.length;
  const from = row * columns.length + column;
  for (let k = 1; k <= total; k++) {
    const at = (from + k) % total;
    const [r, c] = [Math.floor(at / columns.length), at % columns.length];
    if (isGap(items[r]!, columns[c]!.key)) return { row: r, column: c };
  }
  return undefined;
}
