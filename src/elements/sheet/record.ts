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
    /** Id of the part that it is the sheet of: the title block speaks of that. */
    part: z.string().max(500).exactOptional(),
    /** The sheet of a recipe that it was made by, and for what. */
    from: z
      .object({ recipe: z.string().max(100), sheet: z.int().min(0).max(99), of: z.string().max(500) })
      .readonly()
      .exactOptional(),
    /** No border; views and lists keep clear of the margin all the same. */
    noFrame: z.literal(true).exactOptional(),
    /** No title block: its corner is free. */
    noTitle: z.literal(true).exactOptional(),
  })
  .readonly();
