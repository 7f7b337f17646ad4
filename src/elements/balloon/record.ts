import { z } from 'zod';
import { id, path, point, ref } from '../../core/document/fields.ts';

export const balloonRecord = z
  .object({
    type: z.literal('balloon'),
    id,
    view: ref('view', 'dropWith'),
    /** The component it points at. */
    component: path(),
    /** End of the leader in view space, model mm. */
    anchor: point,
    /** Centre of the circle relative to the view's place on the sheet, paper mm, y down. */
    offset: point,
    end: z.enum(['arrow', 'dot']),
    /** Someone put it there: arranging leaves it. */
    byHand: z.literal(true).exactOptional(),
  })
  .readonly();
