import { z } from 'zod';
import { id, ref, text } from '../../core/document/fields.ts';

export const listColumn = z.object({ key: z.string().max(200), title: text, widthMm: z.number().positive().max(400) }).readonly();

export const listRecord = z
  .object({
    type: z.literal('list'),
    id,
    sheet: ref('sheet', 'dropWith'),
    columns: z.array(listColumn).min(1).max(50).readonly(),
    /** A long list goes over several sheets: which part of it this is, from 1. */
    share: z
      .object({ part: z.int().min(1).max(100), of: z.int().min(1).max(100) })
      .readonly()
      .exactOptional(),
  })
  .readonly();
