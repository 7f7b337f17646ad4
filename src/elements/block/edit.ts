import { without } from '../../core/base/without.ts';
import type { BlockCell, BlockRecord } from './layout.ts';

const LEAST_MM = 3;

const endColumn = (c: BlockCell) => c.column + (c.columns ?? 1);
const endRow = (c: BlockCell) => c.row + (c.rows ?? 1);

/** The block with a cell changed; keys that are undefined are taken out of it. */
export function withCellChanged(block: BlockRecord, index: number, change: { readonly [K in keyof BlockCell]?: BlockCell[K] | undefined }): BlockRecord {
  const cells = block.cells.map((c, i) => {
    if (i !== index) return c;
    const all = { ...c, ...change };
    return Object.fromEntries(Object.entries(all).filter(([, v]) => v !== undefined)) as BlockCell;
  });
  return { ...block, cells };
}

/** Moves the edge at the right of a column, or at the foot of a row: what follows keeps its size, the block its corner. */
export function withEdgeMoved(block: BlockRecord, kind: 'column' | 'row', index: number, by: number): BlockRecord {
  const list = kind === 'column' ? block.columns : block.rows;
  const next = list[index + 1];
  const most = next === undefined ? Infinity : next - LEAST_MM;
  const step = Math.round(Math.max(LEAST_MM - list[index]!, Math.min(most, by)) * 2) / 2;
  // An inner edge is between two: what one wins the other gives.
  const moved = list.map((v, i) => (i === index ? v + step : i === index + 1 ? v - step : v));
  return kind === 'column' ? { ...block, columns: moved } : { ...block, rows: moved };
}

/** Makes the whole block wider or higher by its first column or row. */
export function withOuterEdge(block: BlockRecord, kind: 'column' | 'row', by: number): BlockRecord {
  const grow = (list: readonly number[]) => list.map((v, i) => (i === 0 ? Math.max(LEAST_MM, Math.round((v + by) * 2) / 2) : v));
  return kind === 'column' ? { ...block, columns: grow(block.columns) } : { ...block, rows: grow(block.rows) };
}

/** Splits a cell in two, beside or under each other. The edge between them is a new one, or one that others have there. */
export function withCellSplit(block: BlockRecord, index: number, kind: 'column' | 'row'): BlockRecord {
  const cell = block.cells[index];
  if (!cell) return block;
  const [from, count] = kind === 'column' ? [cell.column, cell.columns ?? 1] : [cell.row, cell.rows ?? 1];
  const list = kind === 'column' ? block.columns : block.rows;
  let base = block;
  let own = cell;
  let first = Math.ceil(count / 2);
  if (count === 1) {
    if (list[from]! < 2 * LEAST_MM || list.length >= 40) return block;
    base = withLine(block, kind, from);
    own = base.cells[index]!;
    first = 1;
  }
  const second = (kind === 'column' ? (own.columns ?? 1) : (own.rows ?? 1)) - first;
  const blank: BlockCell = {
    column: own.column,
    row: own.row,
    text: '',
    ...(own.columns ? { columns: own.columns } : {}),
    ...(own.rows ? { rows: own.rows } : {}),
  };
  const part = (of: BlockCell, at: number, n: number): BlockCell =>
    kind === 'column' ? { ...of, column: own.column + at, columns: n } : { ...of, row: own.row + at, rows: n };
  const cells = base.cells.flatMap((c, i) => (i === index ? [part(own, 0, first), part(blank, first, second)] : [c]));
  return { ...base, cells };
}

/** A new edge through the middle of a column or row: every cell across it goes on over both. */
function withLine(block: BlockRecord, kind: 'column' | 'row', at: number): BlockRecord {
  const halve = (list: readonly number[]) => list.flatMap((v, i) => (i === at ? [v / 2, v / 2] : [v]));
  const cells = block.cells.map((c): BlockCell => {
    const [from, end] = kind === 'column' ? [c.column, endColumn(c)] : [c.row, endRow(c)];
    const moved = from > at ? from + 1 : from;
    const count = end - from + (from <= at && at < end ? 1 : 0);
    return kind === 'column' ? { ...c, column: moved, columns: count } : { ...c, row: moved, rows: count };
  });
  return kind === 'column' ? { ...block, columns: halve(block.columns), cells } : { ...block, rows: halve(block.rows), cells };
}

/** Joins a cell with the one to its right, or under it, where both are as high or as wide; the same block where they are not. */
export function withCellJoined(block: BlockRecord, index: number, kind: 'column' | 'row'): BlockRecord {
  const cell = block.cells[index];
  const other = cell && block.cells.findIndex((c) => isNext(cell, c, kind));
  if (!cell || other === undefined || other < 0) return block;
  const next = block.cells[other]!;
  const joined: BlockCell = kind === 'column' ? { ...cell, columns: endColumn(next) - cell.column } : { ...cell, rows: endRow(next) - cell.row };
  const cells = block.cells.flatMap((c, i) => (i === other ? [] : i === index ? [joined] : [c]));
  return { ...block, cells };
}

const isNext = (a: BlockCell, b: BlockCell, kind: 'column' | 'row'): boolean =>
  kind === 'column'
    ? b.column === endColumn(a) && b.row === a.row && endRow(b) === endRow(a)
    : b.row === endRow(a) && b.column === a.column && endColumn(b) === endColumn(a);

/** One more row at the top, or column at the left, with one cell over all of it. */
export function withRowAdded(block: BlockRecord): BlockRecord {
  const cells = block.cells.map((c) => ({ ...c, row: c.row + 1 }));
  return {
    ...block,
    rows: [Math.max(LEAST_MM, block.rows[0]!), ...block.rows],
    cells: [{ column: 0, row: 0, columns: block.columns.length, text: '' }, ...cells],
  };
}

/** Takes a cell away; rows and columns that nothing stands in any more go with it. */
export function withoutCell(block: BlockRecord, index: number): BlockRecord {
  let next: BlockRecord = { ...block, cells: block.cells.filter((_, i) => i !== index) };
  for (const kind of ['row', 'column'] as const)
    for (let i = (kind === 'row' ? next.rows : next.columns).length - 1; i >= 0; i--) {
      const list = kind === 'row' ? next.rows : next.columns;
      const taken = next.cells.some((c) => (kind === 'row' ? c.row <= i && i < endRow(c) : c.column <= i && i < endColumn(c)));
      if (taken || list.length === 1) continue;
      const rest = list.filter((_, k) => k !== i);
      const cells = next.cells.map((c) => (kind === 'row' ? (c.row > i ? { ...c, row: c.row - 1 } : c) : c.column > i ? { ...c, column: c.column - 1 } : c));
      next = kind === 'row' ? { ...next, rows: rest, cells } : { ...next, columns: rest, cells };
    }
  return next;
}

/** Puts a block into a corner of the frame. */
export const docked = (block: BlockRecord, corner: NonNullable<BlockRecord['corner']>): BlockRecord => ({ ...without(block, 'at'), corner });
