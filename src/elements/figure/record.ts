import { z } from 'zod';
import { id, point, ref } from '../../core/document/fields.ts';
import { target } from '../../core/features/record.ts';

export const figureRecord = z
  .object({
    type: z.literal('figure'),
    id,
    sheet: ref('sheet', 'dropWith'),
    /** Line: both ends. Rectangle: two corners. Circle: centre and a point of it. Arc: start, a point of it, end. Curve: through all. */
    shape: z.enum(['line', 'rectangle', 'circle', 'arc', 'curve']),
    /** Paper mm from the upper left corner of the sheet, y down. */
    points: z.array(point).min(2).max(500).readonly(),
    /** How a line, or the size of a circle, goes by another figure or by an edge of a view: it stays so when either moves. */
    ties: z
      .array(
        z
          .object({
            is: z.enum(['level', 'upright', 'parallel', 'square', 'inline', 'equal', 'tangent']),
            to: ref('figure', 'clear').nullable().exactOptional(),
            on: z
              .object({ view: ref('view', 'clear').nullable(), of: target })
              .readonly()
              .exactOptional(),
          })
          .readonly(),
      )
      .min(1)
      .max(8)
      .readonly()
      .exactOptional(),
    /** As wide as outlines; absent: narrow. */
    wide: z.literal(true).exactOptional(),
    dash: z.enum(['dashed', 'chain', 'phantom']).exactOptional(),
    color: z
      .string()
      .regex(/^#[0-9a-f]{6}$/)
      .exactOptional(),
  })
  .refine((f) => (f.shape === 'arc' ? f.points.length === 3 : f.shape === 'curve' || f.points.length === 2), {
    message: 'A figure has the points of its shape.',
  })
  .readonly();
