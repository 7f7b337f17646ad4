import { inchesOf, THREADS, type ThreadSize } from './sizes.ts';

/** A thread as it is written somewhere. */
export interface WrittenThread extends ThreadSize {
  /** Length that is written with it: of the screw or of its thread, mm. */
  readonly lengthMm?: number;
  readonly leftHand?: true;
}

const NUMBER = String.raw`\d+(?:[.,]\d+)?`;
const METRIC = new RegExp(String.raw`(?<![A-Za-z0-9])M\s?(${NUMBER})(?:\s*[xX×*]\s*(${NUMBER}))?(?:\s*[xX×*-]\s*(${NUMBER}))?`);
const UNIFIED =
  /(?<![\w./])(#\d{1,2}|\d+[ -]\d+\/\d+|\d+\/\d+|\d+)\s*(?:"|in\.?)?\s*-\s*(\d+(?:\.5)?)(?![\d/.])\s*(UNC|UNF|UNEF|UN)?(?:[\s-]*\d[AB])?(?:[\s-]*(?:LH))?(?:\s*[xX×]\s*(\d+[ -]\d+\/\d+|\d+\/\d+|\d+\.\d+|\d+))?/i;
const LEFT = /\bLH\b|left[- ]hand/i;

const number = (s: string) => Number(s.replace(',', '.'));

/**
 * Reads a thread from a name or a property: `M8 × 25`, `M10x1.25x40`, `1/2-13 UNC × 2`, `#10-24`.
 * @returns undefined where none is written; sizes that no table has are taken as they are if they say their pitch
 */
export function threadIn(text: string): WrittenThread | undefined {
  const left = LEFT.test(text) ? { leftHand: true as const } : {};
  const metric = METRIC.exec(text);
  if (metric) {
    const d = number(metric[1]!);
    const sizes = THREADS.filter((t) => t.designation.startsWith('M') && t.majorMm === d);
    const [second, third] = [metric[2], metric[3]].map((s) => (s === undefined ? undefined : number(s)));
    // The number after the size is a pitch if there is such a one; else it is how long the screw is.
    const pitched = second === undefined ? undefined : sizes.find((t) => Math.abs(t.pitchMm - second) < 1e-6);
    const coarse = sizes.find((t) => t.coarse);
    if (pitched) return { ...pitched, ...(third ? { lengthMm: third } : {}), ...left };
    if (coarse) return { ...coarse, ...(second ? { lengthMm: second } : {}), ...left };
    if (second !== undefined && second < d / 3)
      return { designation: `M${d} × ${second}`, majorMm: d, pitchMm: second, coarse: false, ...(third ? { lengthMm: third } : {}), ...left };
    return undefined;
  }
  const unified = UNIFIED.exec(text);
  if (!unified) return undefined;
  const size = unified[1]!.replace(/^(\d+)-(\d+\/)/, '$1 $2');
  const [perInch, series] = [Number(unified[2]), unified[3]?.toUpperCase()];
  const known = THREADS.find((t) => t.designation.startsWith(`${size}-${perInch} `));
  const length = unified[4] ? { lengthMm: inchesOf(unified[4].replace('-', ' ')) * 25.4 } : {};
  if (known) return { ...known, ...length, ...left };
  // Two numbers with a dash between are a thread only if someone says so.
  if (!series) return undefined;
  return { designation: `${size}-${perInch} ${series}`, majorMm: inchesOf(size) * 25.4, pitchMm: 25.4 / perInch, coarse: false, ...length, ...left };
}
