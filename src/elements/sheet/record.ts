import { z } from 'zod';
import { id, number, text } from '../../core/document/fields.ts';
import { formatByName } from '../../core/sheet/formats.ts';

/** Name of a sheet size that there is. */
export const sheetSize = z.string().refine((s) => formatByName(s) !== undefined, 'There is no such sheet size.');

export const sheetRecord = z
  .object({
    type: z.literal('sheet'),
    id,
    /** Place in the set, ascending. */
    order: number,
    name: text,
    size: sheetSize,
    landscape: z.boolean(),
    /** No border; views and lists keep clear of the margin all the same. */
    noFrame: z.literal(true).exactOptional(),
    /** No title block: its corner is free. */
    noTitle: z.literal(true).exactOptional(),
  })
  .readonly();
