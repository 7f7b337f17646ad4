import { z } from 'zod';
import { id, point, ref } from '../../core/document/fields.ts';

/** A QR code (ISO/IEC 18004): what it says is read by a camera. */
export const codeRecord = z
  .object({
    type: z.literal('code'),
    id,
    sheet: ref('sheet', 'dropWith'),
    /** Upper left corner, paper mm. */
    at: point,
    /** Side of the square, mm. */
    sizeMm: z.number().min(8).max(100),
    /** An address or other words; absent: the address of the build guide of this issue. */
    says: z.string().min(1).max(500).exactOptional(),
  })
  .readonly();
