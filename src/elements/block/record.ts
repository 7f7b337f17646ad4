import { z } from 'zod';
import { id, point, ref } from '../../core/document/fields.ts';

export const MOST_COLUMNS = 40;
export const MOST_ROWS = 40;
export const MOST_CELLS = 400;

const on = z.literal(true).exactOptional();

/** A cell, over one or several columns and rows. */
export const blockCell = z
  .object({
    column: z
      .int()
      .min(0)
      .max(MOST_COLUMNS - 1),
    row: z
      .int()
      .min(0)
      .max(MOST_ROWS - 1),
    columns: z.int().min(1).max(MOST_COLUMNS).exactOptional(),
    rows: z.int().min(1).max(MOST_ROWS).exactOptional(),
    /** Small letters at its upper edge: what the value is. */
    caption: z.string().max(100).exactOptional(),
    /** Its value, with fields in braces: `{number}`, `Sheet {sheet} of {sheets}`. */
    text: z.string().max(2000),
    /** Height of capitals, paper mm; absent: by the sheet. */
    heightMm: z.number().min(1).max(50).exactOptional(),
    anchor: z.enum(['middle', 'end']).exactOptional(),
    bold: on,
    /** What is too long: absent, smaller letters; on two lines before that; or as many lines as it takes, and the row grows. */
    long: z.enum(['wrap', 'grow']).exactOptional(),
    /** No lines around it. */
    bare: on,
    /** The projection symbol stands in it. */
    symbol: on,
  })
  .readonly();

/** Cells that say what a sheet is: a title block, a block of approvals, a stamp. */
export const blockRecord = z
  .object({
    type: z.literal('block'),
    id,
    sheet: ref('sheet', 'dropWith'),
    /** Corner of the frame that it stands in; lower right, it is the title block. Absent: free. */
    corner: z.enum(['top left', 'top right', 'bottom left', 'bottom right']).exactOptional(),
    /** Its upper left corner where it is free, paper mm. */
    at: point.exactOptional(),
    /** Widths of columns, paper mm. */
    columns: z.array(z.number().min(3).max(1000)).min(1).max(MOST_COLUMNS).readonly(),
    /** Least heights of rows, paper mm. */
    rows: z.array(z.number().min(3).max(500)).min(1).max(MOST_ROWS).readonly(),
    cells: z.array(blockCell).max(MOST_CELLS).readonly(),
  })
  .refine((b) => (b.corner === undefined) !== (b.at === undefined), { message: 'A block stands in a corner of the frame or at a place.' })
  .refine((b) => b.cells.every((c) => c.column + (c.columns ?? 1) <= b.columns.length && c.row + (c.rows ?? 1) <= b.rows.length), {
    path: ['cells'],
    message: 'A cell lies outside the columns and rows of its block.',
  })
  .refine((b) => !overlapping(b.cells), { path: ['cells'], message: 'Two cells of a block lie on each other.' })
  .readonly();

function overlapping(cells: readonly z.infer<typeof blockCell>[]): boolean {
  const taken = new Set<number>();
  for (const c of cells)
    for (let row = c.row; row < c.row + (c.rows ?? 1); row++)
      for (let column = c.column; column < c.column + (c.columns ?? 1); column++) {
        const place = row * MOST_COLUMNS + column;
        if (taken.has(place)) return true;
        taken.add(place);
      }
  return false;
}
