import { z } from 'zod';
import { id, number, point, ref, text } from '../../core/document/fields.ts';
import { paperByName } from '../../core/sheet/paper.ts';

/** Name of a sheet size that there is. */
export const sheetSize = z.string().refine((s) => paperByName(s) !== undefined, 'There is no such sheet size.');

const edge = z.number().min(0).max(200);

/** What a sheet has around the drawing; see `core/sheet/form.ts`. */
export const formFields = z
  .object({
    edges: z.object({ left: edge, right: edge, top: edge, bottom: edge }).readonly(),
    zones: z.enum(['iso', 'even', 'none']),
    centring: z.boolean(),
    folds: z.boolean(),
    trims: z.boolean(),
    halfSize: z.literal(true).exactOptional(),
    notes: point.exactOptional(),
    /** Which version of the format that was kept under its name it is. */
    version: z.int().min(1).exactOptional(),
    /** A newer version that was seen, and is not wanted here. */
    stays: z.int().min(1).exactOptional(),
  })
  .readonly();

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
    /** The sheet of a recipe that it was made by, and for what: several small parts stand line by line. */
    from: z
      .object({ recipe: z.string().max(100), sheet: z.int().min(0).max(99), of: z.string().max(5000) })
      .readonly()
      .exactOptional(),
    /** It is no sheet of the set but a format: sheets lie on it, and show what stands on it. */
    form: formFields.exactOptional(),
    /** The format that it lies on; none: the standard's own. */
    format: ref('sheet', 'clear').nullable().exactOptional(),
    /** What its scale cell says instead of the scale of most views: `none`, `1:1 except where noted`. */
    scaleSaid: z.string().min(1).max(60).exactOptional(),
    /** No border; views and lists keep clear of the margin all the same. */
    noFrame: z.literal(true).exactOptional(),
    /** No title block: its corner is free. */
    noTitle: z.literal(true).exactOptional(),
  })
  .readonly();
