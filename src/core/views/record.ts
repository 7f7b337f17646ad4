import { z } from 'zod';
import { number, point } from '../base/fields.ts';

/** A closed outline in view space, model mm: what a detail or a partial view shows lies inside. */
export const outlineShape = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('circle'), at: point, radius: z.number().positive().max(1e9) }).readonly(),
  /** Two opposite corners. */
  z.object({ kind: z.literal('box'), from: point, to: point }).readonly(),
  z.object({ kind: z.literal('free'), points: z.array(point).min(3).max(1000).readonly() }).readonly(),
]);

/** A stretch that an interrupted view leaves out: between two places along x or y of view space, model mm. */
export const gapShape = z
  .object({ axis: z.enum(['x', 'y']), from: number, to: number })
  .refine((g) => g.to > g.from, { path: ['to'], message: 'A gap ends after it begins.' })
  .readonly();
