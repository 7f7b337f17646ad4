import { z } from 'zod';
import { number, vector } from '../base/fields.ts';

/**
 * What a cut takes away in front of its plane n·x = d, when it is not everything. Model space, mm.
 * - half: only where `across`·x > `from`; the rest is seen from outside.
 * - stepped: parallel planes; step i lies at `d` where `across`·x is between its `from` and that of the next.
 * - aligned: two planes that meet at the axis where `across`·x = `from`. Beyond it the cut goes on along the plane turned
 *   by `turn` rad about normal × across (right-handed); what is cut there is turned back into the first plane (ISO 128-40).
 * - local: only inside an outline, flat `[x, y, …]` in the view plane; inside each of `more` down to that one's own `d`.
 */
export const cutShape = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('half'), across: vector, from: number }).readonly(),
  z
    .object({
      kind: z.literal('stepped'),
      across: vector,
      steps: z
        .array(z.object({ from: number, d: number }).readonly())
        .min(1)
        .max(50)
        .readonly(),
    })
    .readonly(),
  z.object({ kind: z.literal('aligned'), across: vector, from: number, turn: number }).readonly(),
  z
    .object({
      kind: z.literal('local'),
      outline: z.array(number).min(6).max(2000).readonly(),
      /** Others of the same view, each to a depth of its own. */
      more: z
        .array(z.object({ outline: z.array(number).min(6).max(2000).readonly(), d: number }).readonly())
        .min(1)
        .max(30)
        .readonly()
        .exactOptional(),
    })
    .readonly(),
]);
