import type { WholeStyle } from './value.ts';
import { MM_PER_INCH } from './value.ts';

/** Shorter lengths are measured with a calliper or gauge, longer ones by tape or rule, mm (common practice, no source). */
const BY_TAPE_MM = 50;
/** What a tape tells: millimetres, or sixteenths of an inch (common practice, no source). */
const TAPE_INCH = 1 / 16;
/** Closer than this a value is as good as on its mark, mm. */
const ON_MARK_MM = 0.06;

/**
 * A length that nobody can set or measure in the field.
 * @returns the nearest length that can be, mm; undefined for one that can be
 */
export function sensibleLength(mm: number, style: Pick<WholeStyle, 'unit' | 'standard'>): number | undefined {
  if (!(mm > BY_TAPE_MM)) return undefined;
  const inch = style.unit === 'inch' || (style.unit === 'both' && style.standard === 'asme');
  const mark = inch ? TAPE_INCH * MM_PER_INCH : 1;
  const nearest = Math.round(mm / mark) * mark;
  return Math.abs(nearest - mm) < ON_MARK_MM ? undefined : nearest;
}
