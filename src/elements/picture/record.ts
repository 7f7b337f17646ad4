import { z } from 'zod';
import { id, point, ref } from '../../core/document/fields.ts';

/** A picture is kept in the drawing: at most so many characters of base64, 1 MB of file. */
export const MOST_CHARACTERS = 1_400_000;

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
    png: z
      .string()
      .max(MOST_CHARACTERS)
      .regex(/^iVBORw0KGgo[A-Za-z0-9+/]*={0,2}$/, 'A picture is a PNG file.'),
  })
  .readonly();
