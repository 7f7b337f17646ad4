import { z } from 'zod';
import { id, path, paths, point, ref } from '../../core/document/fields.ts';

/** What a balloon can say: `number`, or whatever a parts list can have a column of, by its key. */
const word = z.string().min(1).max(200);

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
    /** Absent: a circle. `split`: a circle with a second word in its lower half. */
    shape: z.enum(['hexagon', 'underline', 'none', 'split']).exactOptional(),
    /** Absent: the item number. */
    says: word.exactOptional(),
    /** In the lower half; absent: the quantity. */
    lower: word.exactOptional(),
    /** In front of it: `4×`. */
    before: z.string().min(1).max(20).exactOptional(),
    /** Components whose numbers stand with it, one after the other: a bolt with its washer and nut. */
    stack: paths().exactOptional(),
    /** Which way they follow; absent: to the right. */
    stackWay: z.enum(['left', 'up', 'down']).exactOptional(),
    /** The leader leaves level for so far before it slants, paper mm. */
    jogMm: z.number().min(1).max(50).exactOptional(),
    /** A second leader, to another piece of the same item. */
    second: z.object({ component: path(), anchor: point }).readonly().exactOptional(),
    noLeader: z.literal(true).exactOptional(),
    color: z
      .string()
      .regex(/^#[0-9a-f]{6}$/)
      .exactOptional(),
  })
  .readonly();
