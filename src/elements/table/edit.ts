import Papa from 'papaparse';
import type { TableRecord } from './draw.ts';
import { MOST_COLUMNS, MOST_ROWS } from './record.ts';

/** The table with another text in a cell. */
export function withCell(table: TableRecord, row: number, column: number, words: string): TableRecord {
  const wide = table.widths.map((_, c) => table.rows[row]?.[c] ?? '');
  wide[column] = words;
  return { ...table, rows: table.rows.map((r, i) => (i === row ? wide : r)) };
}

/** The table with rows that were copied from a spreadsheet or typed with tabs, commas or semicolons between their cells; undefined when they are too many. */
export function withPasted(table: TableRecord, pasted: string): TableRecord | undefined {
  const rows = Papa.parse<string[]>(pasted.trim(), { skipEmptyLines: true }).data;
  const columns = Math.max(table.widths.length, ...rows.map((r) => r.length));
  if (rows.length === 0 || rows.length > MOST_ROWS || columns > MOST_COLUMNS) return undefined;
  const last = table.widths.at(-1)!;
  const kept = table.head ? table.rows.slice(0, 1) : [];
  return { ...table, rows: [...kept, ...rows].slice(0, MOST_ROWS), widths: Array.from({ length: columns }, (_, c) => table.widths[c] ?? last) };
}

/** One row more under the last, one column more to the right, or one less; a table keeps one of each. */
export const withRow = (t: TableRecord): TableRecord => (t.rows.length < MOST_ROWS ? { ...t, rows: [...t.rows, t.widths.map(() => '')] } : t);
export const withoutRow = (t: TableRecord): TableRecord => (t.rows.length > 1 ? { ...t, rows: t.rows.slice(0, -1) } : t);
export const withColumn = (t: TableRecord): TableRecord => (t.widths.length < MOST_COLUMNS ? { ...t, widths: [...t.widths, t.widths.at(-1)!] } : t);
export const withoutColumn = (t: TableRecord): TableRecord => {
  const n = t.widths.length - 1;
  return n < 1 ? t : { ...t, widths: t.widths.slice(0, n), rows: t.rows.map((r) => r.slice(0, n)), ...(t.aligned ? { aligned: t.aligned.slice(0, n) } : {}) };
};
