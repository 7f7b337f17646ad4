import { z } from 'zod';
import { CHARACTERISTICS } from '../../core/assembly/stated.ts';
import { id, point, ref } from '../../core/document/fields.ts';
import { leaders } from '../../core/features/record.ts';

const word = z.string().max(60);

/** Basic symbols of ISO 2553 (table 1). */
export const WELDS = ['fillet', 'square', 'v', 'bevel', 'v-root', 'bevel-root', 'u', 'j', 'plug', 'spot', 'seam', 'edge', 'surfacing', 'backing'] as const;

const weldSide = z
  .object({
    weld: z.enum(WELDS),
    /** Left of the symbol: `a5`, `z7`, `s8`. */
    size: word,
    /** Right of it: length, `3 × 50 (30)`. */
    length: word,
    contour: z.enum(['flat', 'convex', 'concave']).exactOptional(),
  })
  .readonly();

const weld = z.object({
  sign: z.literal('weld'),
  arrowSide: weldSide.exactOptional(),
  otherSide: weldSide.exactOptional(),
  around: z.literal(true).exactOptional(),
  field: z.literal(true).exactOptional(),
  /** Behind the fork: process, class, electrode. */
  tail: word,
});

const surface = z.object({
  sign: z.literal('surface'),
  removal: z.enum(['any', 'required', 'forbidden']),
  /** Parameter and limit, one or two: `Ra 3,2`. */
  limits: z.array(word).max(2).readonly(),
  process: word,
  lay: z.enum(['', '=', '⊥', 'X', 'M', 'C', 'R', 'P']),
  /** mm, as it is written. */
  allowance: word,
  around: z.literal(true).exactOptional(),
});

const toleranceRow = z
  .object({
    of: z.enum(CHARACTERISTICS),
    /** The zone is a cylinder. */
    round: z.literal(true).exactOptional(),
    zone: word,
    /** Maximum material, least material, free state, projected zone. */
    modifier: z.enum(['M', 'L', 'F', 'P']).exactOptional(),
    datums: z.array(word).max(3).readonly(),
  })
  .readonly();

const frame = z.object({
  sign: z.literal('frame'),
  rows: z.array(toleranceRow).min(1).max(4).readonly(),
  /** Written over the frame: `4×`, `Ø9 H13`. */
  above: word,
});

const datum = z.object({ sign: z.literal('datum'), letter: z.string().min(1).max(4) });
const flag = z.object({ sign: z.literal('flag'), shape: z.enum(['triangle', 'square', 'hexagon', 'circle']), text: z.string().min(1).max(4) });
const projection = z.object({ sign: z.literal('projection') });
const lifting = z.object({ sign: z.literal('lifting'), text: word });
/** Where the mass of what its view shows has its centre. */
const massCentre = z.object({ sign: z.literal('mass-centre'), mass: z.literal(true).exactOptional() });

export const signRecord = z
  .object({
    type: z.literal('sign'),
    id,
    /** The view it belongs to, or the sheet it stands on: one of them. */
    view: ref('view', 'dropWith').nullable(),
    sheet: ref('sheet', 'dropWith').nullable(),
    /** Its reference point: relative to the view's place, or on the sheet; of the centre of mass where its text is. Paper mm, y down. */
    at: point,
    leaders: leaders.exactOptional(),
    is: z.discriminatedUnion('sign', [weld, surface, frame, datum, flag, projection, lifting, massCentre]).readonly(),
  })
  .refine((s) => (s.view === null) !== (s.sheet === null), { message: 'A sign stands on a sheet or belongs to a view.' })
  .refine((s) => s.is.sign !== 'mass-centre' || s.view !== null, { message: 'A centre of mass belongs to a view.' })
  .readonly();
