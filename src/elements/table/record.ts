import { z } from 'zod';
import { id, point, ref } from '../../core/document/fields.ts';

export const MOST_COLUMNS = 40;
export const MOST_ROWS = 500;

export const tableRecord = z
  .object({
    type: z.literal('table'),
    id,
    sheet: ref('sheet', 'dropWith'),
    /** Upper left corner, paper mm. */
    at: point,
    /** Of each column, paper mm. */
    widths: z.array(z.number().min(3).max(1000)).min(1).max(MOST_COLUMNS).readonly(),
    /** Cells row by row; what is missing at the end of a row is empty. */
    rows: z
      .array(z.array(z.string().max(2000)).max(MOST_COLUMNS).readonly())
      .min(1)
      .max(MOST_ROWS)
      .readonly(),
    /** Where the texts of each column stand; absent: at its left. */
    aligned: z
      .array(z.enum(['start', 'middle', 'end']))
      .max(MOST_COLUMNS)
      .readonly()
      .exactOptional(),
    /** The first row is a head. */
    head: z.literal(true).exactOptional(),
    /** Height of capitals, paper mm; absent: by the sheet. */
    heightMm: z.number().min(1).max(50).exactOptional(),
  })
  .readonly();
