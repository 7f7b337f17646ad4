import { z } from 'zod';
import { id, point, ref } from '../../core/document/fields.ts';
import { target } from '../../core/features/record.ts';

export const positionsRecord = z
  .object({
    type: z.literal('positions'),
    id,
    /** The view whose holes are listed. */
    view: ref('view', 'dropWith'),
    /** From where they are measured, across and up; absent: the left and the lower end of the view. */
    zeroX: target.exactOptional(),
    zeroY: target.exactOptional(),
    /** Upper left corner of the table, relative to the view's place, paper mm, y down. */
    at: point,
  })
  .readonly();
