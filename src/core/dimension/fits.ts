/**
 * Limits and fits by ISO 286 for sizes up to 500 mm. Tables from memory of ISO 286-1 and 286-2; their test holds them against
 * the formulas from which the standard derives them. Micrometres inside, mm outside.
 */

/** Upper ends of the ranges of size of the tolerance grades, mm; the lower end does not belong to a range. */
const RANGES = [3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500] as const;
/** … and of those deviations that go in finer ranges. */
const FINE = [3, 6, 10, 14, 18, 24, 30, 40, 50, 65, 80, 100, 120, 140, 160, 180, 200, 225, 250, 280, 315, 355, 400, 450, 500] as const;

/** µm, from grade 1 to 18. */
const GRADES: readonly (readonly number[])[] = [
  [0.8, 1, 1, 1.2, 1.5, 1.5, 2, 2.5, 3.5, 4.5, 6, 7, 8],
  [1.2, 1.5, 1.5, 2, 2.5, 2.5, 3, 4, 5, 7, 8, 9, 10],
  [2, 2.5, 2.5, 3, 4, 4, 5, 6, 8, 10, 12, 13, 15],
  [3, 4, 4, 5, 6, 7, 8, 10, 12, 14, 16, 18, 20],
  [4, 5, 6, 8, 9, 11, 13, 15, 18, 20, 23, 25, 27],
  [6, 8, 9, 11, 13, 16, 19, 22, 25, 29, 32, 36, 40],
  [10, 12, 15, 18, 21, 25, 30, 35, 40, 46, 52, 57, 63],
  [14, 18, 22, 27, 33, 39, 46, 54, 63, 72, 81, 89, 97],
  [25, 30, 36, 43, 52, 62, 74, 87, 100, 115, 130, 140, 155],
  [40, 48, 58, 70, 84, 100, 120, 140, 160, 185, 210, 230, 250],
  [60, 75, 90, 110, 130, 160, 190, 220, 250, 290, 320, 360, 400],
  [100, 120, 150, 180, 210, 250, 300, 350, 400, 460, 520, 570, 630],
  [140, 180, 220, 270, 330, 390, 460, 540, 630, 720, 810, 890, 970],
  [250, 300, 360, 430, 520, 620, 740, 870, 1000, 1150, 1300, 1400, 1550],
  [400, 480, 580, 700, 840, 1000, 1200, 1400, 1600, 1850, 2100, 2300, 2500],
  [600, 750, 900, 1100, 1300, 1600, 1900, 2200, 2500, 2900, 3200, 3600, 4000],
  [1000, 1200, 1500, 1800, 2100, 2500, 3000, 3500, 4000, 4600, 5200, 5700, 6300],
  [1400, 1800, 2200, 2700, 3300, 3900, 4600, 5400, 6300, 7200, 8100, 8900, 9700],
];

/** Of shafts, µm: the upper deviation of c to h, the lower one of k to s. Thirteen values are by RANGES, others by FINE. */
const SHAFTS: Readonly<Record<string, readonly number[]>> = {
  c: [-60, -70, -80, -95, -95, -110, -110, -120, -130, -140, -150, -170, -180, -200, -210, -230, -240, -260, -280, -300, -330, -360, -400, -440, -480],
  d: [-20, -30, -40, -50, -65, -80, -100, -120, -145, -170, -190, -210, -230],
  e: [-14, -20, -25, -32, -40, -50, -60, -72, -85, -100, -110, -125, -135],
  f: [-6, -10, -13, -16, -20, -25, -30, -36, -43, -50, -56, -62, -68],
  g: [-2, -4, -5, -6, -7, -9, -10, -12, -14, -15, -17, -18, -20],
  h: [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0],
  k: [0, 1, 1, 1, 2, 2, 2, 3, 3, 4, 4, 4, 5],
  m: [2, 4, 6, 7, 8, 9, 11, 13, 15, 17, 20, 21, 23],
  n: [4, 8, 10, 12, 15, 17, 20, 23, 27, 31, 34, 37, 40],
  p: [6, 12, 15, 18, 22, 26, 32, 37, 43, 50, 56, 62, 68],
  r: [10, 15, 19, 23, 23, 28, 28, 34, 34, 41, 43, 51, 54, 63, 65, 68, 77, 80, 84, 94, 98, 108, 114, 126, 132],
  s: [14, 19, 23, 28, 28, 35, 35, 43, 43, 53, 59, 71, 79, 92, 100, 108, 122, 130, 140, 158, 170, 190, 208, 232, 252],
};

/** Lower deviation of j, by grade 5 and 6, and 7. */
const J: Readonly<Record<number, readonly number[]>> = {
  5: [-2, -2, -2, -3, -4, -5, -7, -9, -11, -13, -16, -18, -20],
  6: [-2, -2, -2, -3, -4, -5, -7, -9, -11, -13, -16, -18, -20],
  7: [-4, -4, -5, -6, -8, -10, -12, -15, -18, -21, -26, -28, -32],
};

export interface Deviations {
  /** Upper and lower deviation from the nominal size, mm. */
  readonly upper: number;
  readonly lower: number;
}

const rangeOf = (size: number, ranges: readonly number[]): number => ranges.findIndex((end) => size <= end + 1e-9);

/** Width of a tolerance grade, mm. @returns undefined past 500 mm or for a grade that there is not */
export function toleranceGrade(sizeMm: number, grade: number): number | undefined {
  const range = rangeOf(sizeMm, RANGES);
  const v = range < 0 || !(sizeMm > 0) ? undefined : GRADES[grade - 1]?.[range];
  return v === undefined ? undefined : v / 1000;
}

/**
 * Deviations of a tolerance class such as `H7` (holes, capital letters) or `k6` (shafts).
 * @returns undefined for a class or a size that the tables do not have
 */
export function fitDeviations(sizeMm: number, fit: string): Deviations | undefined {
  const m = /^([A-Za-z]{1,2})(\d{1,2})$/.exec(fit);
  const grade = Number(m?.[2]);
  const width = toleranceGrade(sizeMm, grade);
  if (!m || width === undefined) return undefined;
  const letter = m[1]!;
  const it = Math.round(width * 1e6) / 1000;
  const um = letter === letter.toLowerCase() ? shaft(sizeMm, letter, grade, it) : hole(sizeMm, letter, grade, it);
  return um && { upper: clean(um.upper / 1000), lower: clean(um.lower / 1000) };
}

const clean = (mm: number) => Math.round(mm * 1e7) / 1e7 + 0;

function shaft(size: number, letter: string, grade: number, it: number): Deviations | undefined {
  if (letter === 'js') return { upper: it / 2, lower: -it / 2 };
  if (letter === 'j') {
    const low = J[grade]?.[rangeOf(size, RANGES)];
    return low === undefined ? undefined : { upper: low + it, lower: low };
  }
  const base = shaftBase(size, letter, grade);
  if (base === undefined) return undefined;
  return letter <= 'h' ? { upper: base, lower: base - it } : { upper: base + it, lower: base };
}

function shaftBase(size: number, letter: string, grade: number): number | undefined {
  const list = SHAFTS[letter];
  if (!list) return undefined;
  // Outside grades 4 to 7 k begins at the nominal size.
  if (letter === 'k' && (grade < 4 || grade > 7)) return 0;
  return list[rangeOf(size, list.length === RANGES.length ? RANGES : FINE)];
}

/** Holes mirror the shafts; tight ones of the finer grades are moved so that hole and shaft basis give the same fits. */
function hole(size: number, letter: string, grade: number, it: number): Deviations | undefined {
  if (letter === 'JS') return { upper: it / 2, lower: -it / 2 };
  const base = shaftBase(size, letter.toLowerCase(), letter === 'K' ? 6 : grade);
  if (base === undefined || letter.toLowerCase() === 'j') return undefined;
  if (letter <= 'H') return { upper: it - base, lower: -base + 0 };
  const moved = size > 3 && grade <= (letter <= 'N' ? 8 : 7);
  const delta = moved ? it - (toleranceGrade(size, grade - 1) ?? 0) * 1000 : 0;
  if (letter === 'K' && grade > 8) return undefined;
  // Two exceptions of the standard.
  if (letter === 'N' && grade > 8 && size > 3) return { upper: 0, lower: -it };
  const upper = letter === 'M' && grade === 6 && size > 250 && size <= 315 ? -9 : -base + delta;
  return { upper: upper + 0, lower: upper - it };
}
