import { z } from 'zod';
import { id, point, ref, text } from '../../core/document/fields.ts';

const textHeight = z.number().min(1).max(20);

export const listColumn = z
  .object({
    key: z.string().max(200),
    title: text,
    widthMm: z.number().positive().max(400),
    /** Absent: figures to the right, words to the left. */
    align: z.enum(['start', 'middle', 'end']).exactOptional(),
    /** What becomes of a text that is too long; absent: it is cut short. */
    long: z.enum(['wrap', 'shrink']).exactOptional(),
    /** Height of capitals, paper mm; absent: as the list's. */
    heightMm: textHeight.exactOptional(),
    bold: z.literal(true).exactOptional(),
  })
  .readonly();

/** A layout of parts lists that is kept under a name. */
export const listStyle = z
  .object({
    name: z.string().trim().min(1, 'A layout wants a name.').max(100),
    columns: z.array(listColumn).min(1).max(50).readonly(),
    rows: z.enum(['top', 'indented', 'indented parts', 'stock']).exactOptional(),
    heightMm: textHeight.exactOptional(),
    rowMm: z.number().min(2).max(60).exactOptional(),
    headMm: textHeight.exactOptional(),
    headBold: z.literal(true).exactOptional(),
  })
  .readonly();
export type ListStyle = z.infer<typeof listStyle>;

export const listRecord = z
  .object({
    type: z.literal('list'),
    id,
    sheet: ref('sheet', 'dropWith'),
    columns: z.array(listColumn).min(1).max(50).readonly(),
    /** Absent: every part. `top`: what stands directly in it; `indented`: all levels; `indented parts`: the same without rows of sub-assemblies; `stock`: a cut list. */
    rows: z.enum(['top', 'indented', 'indented parts', 'stock']).exactOptional(),
    /** Of one sub-assembly alone: its id, `group:` and its name. */
    of: z.string().max(500).exactOptional(),
    /** Only of what this view shows. */
    view: ref('view', 'clear').nullable().exactOptional(),
    /** Ids of parts and rows that are left out. */
    hidden: z.array(z.string().max(500)).max(20_000).readonly().exactOptional(),
    /** Quantities and totals for all that are made, not for one. */
    made: z.literal(true).exactOptional(),
    /** Keys of columns by which rows are put in order, the first one first. */
    sort: z
      .array(z.object({ key: z.string().max(200), down: z.literal(true).exactOptional() }).readonly())
      .max(6)
      .readonly()
      .exactOptional(),
    /** A corner of the frame that it stands in; absent, and without `at`: docked on the title block. */
    corner: z.enum(['top left', 'top right', 'bottom left', 'bottom right']).exactOptional(),
    /** It stands free: its upper left corner, paper mm. */
    at: point.exactOptional(),
    /** With `at`: opposite corner of the region that its blocks fill, paper mm. */
    to: point.exactOptional(),
    /** Which side its head is on; absent: at the foot where it reads upward, else at the top. */
    head: z.enum(['top', 'foot']).exactOptional(),
    /** At least so many blocks beside each other. */
    beside: z.int().min(2).max(20).exactOptional(),
    /** Height of capitals, and of rows of one line, paper mm; absent: by the sheet. */
    heightMm: textHeight.exactOptional(),
    rowMm: z.number().min(2).max(60).exactOptional(),
    headMm: textHeight.exactOptional(),
    headBold: z.literal(true).exactOptional(),
    /** A long list goes over several sheets: which part of it this is, from 1. */
    share: z
      .object({ part: z.int().min(1).max(100), of: z.int().min(1).max(100) })
      .readonly()
      .exactOptional(),
  })
  .readonly();
