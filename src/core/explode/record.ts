import { z } from 'zod';
import { id, length, paths, text, vector } from '../document/fields.ts';

export const pullRecord = z
  .object({
    /** Components that move; a pull that moves nothing is left out. */
    components: paths({ least: 1, beside: ['ranks'] }),
    direction: vector,
    distanceMm: length,
    /** The components turn about an axis instead; radians. */
    turn: z
      .object({ axis: vector, through: vector, angle: z.number().min(-100).max(100) })
      .readonly()
      .exactOptional(),
    /** Evenly spaced: the place of each component in the row, from 1; the last goes the whole distance. */
    ranks: z.array(z.int().min(1)).max(100_000).readonly().exactOptional(),
    /** The first leg of a way round a corner: tightening leaves it. */
    leg: z.literal(true).exactOptional(),
    /** The distance was chosen by someone: tightening leaves it too. */
    typed: z.boolean().exactOptional(),
    /** It is kept, but not made. */
    off: z.boolean().exactOptional(),
    name: text.exactOptional(),
  })
  .readonly();

export const spreadRecord = z
  .object({
    type: z.literal('spread'),
    id,
    name: text,
    pulls: z.array(pullRecord).max(10_000).readonly(),
    /** Sets of components that move as one. */
    together: z
      .array(paths({ least: 2 }))
      .max(10_000)
      .readonly()
      .exactOptional(),
    /** No pull lines in any view. */
    noLines: z.boolean().exactOptional(),
    /** Components whose pull line is not drawn. */
    linesOff: paths().exactOptional(),
  })
  .readonly();
