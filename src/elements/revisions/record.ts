import { z } from 'zod';
import { id, point, ref } from '../../core/document/fields.ts';

/** The revision table: what was issued, when, by whom, and what changed. Its rows are records of the drawing. */
export const revisionsRecord = z
  .object({
    type: z.literal('revisions'),
    id,
    sheet: ref('sheet', 'dropWith'),
    /** Its upper left corner, paper mm; absent: beside the title block, at the foot of the frame. */
    at: point.exactOptional(),
    /** Only so many of the latest; absent: 6. */
    most: z.int().min(1).max(50).exactOptional(),
  })
  .readonly();
