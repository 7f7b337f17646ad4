import { z } from 'zod';
import { id, png, point, ref } from '../../core/document/fields.ts';

export const pictureRecord = z
  .object({
    type: z.literal('picture'),
    id,
    sheet: ref('sheet', 'dropWith'),
    /** Upper left corner, paper mm. */
    at: point,
    widthMm: z.number().min(1).max(2000),
    /** Height over width. */
    ratio: z.number().min(0.01).max(100),
    /** What is seen, for those who cannot see it. */
    name: z.string().max(200),
    /** The file, PNG, base64. */
    png,
  })
  .readonly();
