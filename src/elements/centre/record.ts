import { z } from 'zod';
import { edge, edges, id, ref } from '../../core/document/fields.ts';

export const centreRecord = z
  .object({
    type: z.literal('centre'),
    id,
    view: ref('view', 'dropWith'),
    /** The circle that is marked; null: all circles of the view. */
    circle: edge().nullable(),
    /** Circles that are not, where all are. */
    off: edges(),
  })
  .readonly();
