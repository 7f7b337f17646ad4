import { z } from 'zod';
import { edge, edges, faces, id, paths, point, ref } from '../../core/document/fields.ts';
import { target } from '../../core/features/record.ts';

export const centreRecord = z
  .object({
    type: z.literal('centre'),
    id,
    view: ref('view', 'dropWith'),
    /** The circle that is marked; null: all circles and axes of the view, or what `of` says. */
    circle: edge().nullable(),
    /** Circles that are not, where all are. */
    off: edges(),
    /** Axes seen from the side that are not, by a face of what is round. */
    offFaces: faces().exactOptional(),
    /** Components that get none, and kinds of lines that there are none of, where all are. */
    offOf: paths().exactOptional(),
    offKinds: z
      .array(z.enum(['circles', 'axes', 'pitch']))
      .max(3)
      .readonly()
      .exactOptional(),
    /** Drawn by hand: the axis of one, the line midway between two, the circle through the centres of three or more. */
    of: z.array(target).min(1).max(100).readonly().exactOptional(),
    /** How far it runs past what it is the axis of, at its start and end, paper mm; absent: 3. */
    past: point.exactOptional(),
    /** It is extended to this. */
    to: target.exactOptional(),
  })
  .readonly();
