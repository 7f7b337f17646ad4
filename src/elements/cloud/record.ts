import { z } from 'zod';
import { id, point, ref } from '../../core/document/fields.ts';

/** A revision cloud: a scalloped line around what changed, with the letter of the revision in a flag. */
export const cloudRecord = z
  .object({
    type: z.literal('cloud'),
    id,
    sheet: ref('sheet', 'dropWith'),
    /** Upper left and lower right corner of what it goes around, paper mm. */
    at: point,
    to: point,
    /** Of the revision that it belongs to. */
    revision: z.string().min(1).max(12),
  })
  .readonly();
