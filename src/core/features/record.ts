import { z } from 'zod';
import { edge, face, path, point } from '../document/fields.ts';

/**
 * What a dimension, a centreline or a leader holds on to in a view: an edge, the face of a round or flat surface, where two
 * edges would meet, how far the view reaches on one side, or a place without anything there.
 */
export const target = z
  .object({
    edge: edge().exactOptional(),
    /** With `edge`: where both meet, extended if need be. */
    with: edge().exactOptional(),
    face: face().exactOptional(),
    /** The outermost point of the view to this side, or of one component. */
    side: z.enum(['left', 'right', 'top', 'bottom']).exactOptional(),
    of: path().exactOptional(),
    /** View space, model mm: the place itself; of other targets where they were picked. */
    at: point.exactOptional(),
    /** Which point of it. Of an edge: all along it, its ends, its middle; of round ones the centre or axis, the nearer or the farther rim. Absent: the line of straight ones, the centre of round ones. */
    as: z.enum(['start', 'middle', 'end', 'near', 'far']).exactOptional(),
  })
  .refine((t) => [t.edge, t.face, t.side].filter((v) => v !== undefined).length === 1 || (t.at !== undefined && !t.edge && !t.face && !t.side), {
    message: 'A target is an edge, a face, a side or a place.',
  })
  .readonly();

/** Lines from a text or a sign to what it speaks of. */
export const leaders = z
  .array(z.object({ to: target, end: z.enum(['arrow', 'dot', 'triangle', 'none']) }).readonly())
  .max(20)
  .readonly();
