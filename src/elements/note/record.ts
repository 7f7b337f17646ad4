import { z } from 'zod';
import { id, point, ref } from '../../core/document/fields.ts';
import { leaders } from '../../core/features/record.ts';

export const noteRecord = z
  .object({
    type: z.literal('note'),
    id,
    /** The view it belongs to, or the sheet it stands on: one of them. */
    view: ref('view', 'dropWith').nullable(),
    sheet: ref('sheet', 'dropWith').nullable(),
    /** Upper left corner of its text: relative to the view's place, or on the sheet; paper mm, y down. */
    at: point,
    /** Lines as they are typed: `*bold*`, `- ` and `1. ` begin a list, `{item}` and the like stand for values. */
    text: z.string().max(20_000),
    /** Height of capitals, paper mm; absent: by the sheet. */
    heightMm: z.number().min(1).max(100).exactOptional(),
    /** Longer lines are broken at this width, paper mm. */
    widthMm: z.number().min(5).max(2000).exactOptional(),
    frame: z.literal(true).exactOptional(),
    /** Where leaders go from it, in its view. */
    leaders: leaders.exactOptional(),
  })
  .refine((n) => (n.view === null) !== (n.sheet === null), { message: 'A note stands on a sheet or belongs to a view.' })
  .readonly();
