import { z } from 'zod';
import { text } from '../document/fields.ts';
import { blockRecord } from '../../elements/block/record.ts';
import { figureRecord } from '../../elements/figure/record.ts';
import { noteRecord } from '../../elements/note/record.ts';
import { pictureRecord } from '../../elements/picture/record.ts';
import { revisionsRecord } from '../../elements/revisions/record.ts';
import { formFields, sheetSize } from '../../elements/sheet/record.ts';
import { signRecord } from '../../elements/sign/record.ts';
import { tableRecord } from '../../elements/table/record.ts';

/** Counts up when formats are written another way. */
export const FORMAT_FILE = 1;

/** What every record of a format's file stands on. */
export const FORMAT_SHEET = 'format';

/** Elements that can stand on a format: what says something of its own, and needs no view. */
export const formatElement = z.discriminatedUnion('type', [blockRecord, figureRecord, noteRecord, pictureRecord, revisionsRecord, signRecord, tableRecord]);

/** A sheet format as it is kept under its name, and given away. */
export const sheetFormat = z
  .object({
    format: z.literal(FORMAT_FILE),
    name: z.string().min(1).max(100),
    /** What it is for, one or two sentences. */
    words: z.string().max(1000),
    /** The sheet that it was made on; on others its elements keep to the nearest side or corner of the frame. */
    size: sheetSize,
    landscape: z.boolean(),
    noFrame: z.literal(true).exactOptional(),
    /** Which version it is of what was kept under its name. */
    version: z.int().min(1).exactOptional(),
    form: formFields.unwrap().omit({ version: true, stays: true }).readonly(),
    elements: z
      .array(formatElement)
      .max(500)
      .refine((list) => list.every((e) => 'sheet' in e && e.sheet === FORMAT_SHEET && !('view' in e && e.view)), {
        message: `Everything of a format stands on “${FORMAT_SHEET}”, and belongs to no view.`,
      })
      .refine((list) => new Set(list.map((e) => e.id)).size === list.length, { message: 'Two elements of a format have the same id.' })
      .readonly(),
    /** Fields of one's own that its texts show, with what they say until someone writes something else. */
    fields: z.record(z.string().min(1).max(80), text).readonly().exactOptional(),
  })
  .readonly();

export type SheetFormat = z.infer<typeof sheetFormat>;
export type FormatElement = SheetFormat['elements'][number];
export const FORMAT_TYPES: ReadonlySet<string> = new Set(['block', 'figure', 'note', 'picture', 'revisions', 'sign', 'table']);
