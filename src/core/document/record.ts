import { z } from 'zod';
import { text } from './fields.ts';

export const drawingRecord = z
  .object({
    type: z.literal('drawing'),
    id: z.literal('drawing'),
    standard: z.enum(['iso', 'asme']),
    title: text,
    number: text,
    revision: text,
    date: text,
    drawnBy: text,
    checkedBy: text,
    approvedBy: text,
    owner: text,
    quantity: z.int().min(1).max(1_000_000),
    /** What someone said of a size that could not be: files of the job that state this unit mean so many mm by it. */
    unit: z
      .object({ stated: z.string().max(40), mm: z.number().positive().max(1e7) })
      .readonly()
      .exactOptional(),
  })
  .readonly();

/** Which model the drawing shows; without it the one it was first made from. */
export const modelRecord = z
  .object({
    type: z.literal('model'),
    id: z.literal('model'),
    /** Id of the stored assembly. */
    model: z.uuid(),
    /** File it came from. */
    name: text,
    /** Changes of the report that someone has looked at and accepted, as `changeId` names them. */
    accepted: z.array(text).max(20_000).readonly().exactOptional(),
  })
  .readonly();
