import { z } from 'zod';
import { number, text } from '../document/fields.ts';

/** How values are written; what is absent is as the job or its standard has it. */
export const valueStyle = z
  .object({
    unit: z.enum(['mm', 'inch', 'both']).exactOptional(),
    /** At most so many decimals. */
    decimals: z.int().min(0).max(6).exactOptional(),
    /** Zeros at the end are written; absent: as the standard has it. */
    zeros: z.boolean().exactOptional(),
    /** Decimal sign; absent: as the standard has it. */
    sign: z.enum(['point', 'comma']).exactOptional(),
    /** Inches as fractions to this part; 1: decimals after all. */
    fraction: z.union([z.literal(1), z.literal(2), z.literal(4), z.literal(8), z.literal(16), z.literal(32), z.literal(64)]).exactOptional(),
    /** How a fraction stands: one figure over the other, with a slanted stroke, or in one line. */
    stack: z.enum(['level', 'slanted', 'line']).exactOptional(),
    /** Height of the figures of a fraction, as a share of the others. */
    stackShare: z.number().min(0.4).max(1).exactOptional(),
    /** Height of the text, paper mm; absent: by the sheet. */
    heightMm: z.number().min(1).max(30).exactOptional(),
    arrows: z.enum(['arrow', 'dot', 'stroke', 'open']).exactOptional(),
  })
  .readonly();

/** What stands with a value besides. */
export const valueText = z
  .object({
    before: text.exactOptional(),
    after: text.exactOptional(),
    /** Lines over and under the value. */
    above: text.exactOptional(),
    below: text.exactOptional(),
    /** Written instead of the value: a finding says so. */
    typed: text.exactOptional(),
    form: z.enum(['reference', 'basic', 'notToScale']).exactOptional(),
    tolerance: z
      .discriminatedUnion('kind', [
        z.object({ kind: z.literal('equal'), mm: z.number().min(0).max(1e4) }),
        /** Upper and lower deviation, mm; `asSizes`: the two sizes are written instead. */
        z.object({ kind: z.literal('limits'), upper: number, lower: number, asSizes: z.literal(true).exactOptional() }),
        z.object({ kind: z.literal('fit'), fit: z.string().regex(/^[A-Za-z]{1,2}\d{1,2}$/), shows: z.enum(['class', 'deviations', 'both']) }),
      ])
      .exactOptional(),
  })
  .readonly();
