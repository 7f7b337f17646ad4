/** Standard screw threads: ISO 261 (metric) and ASME B1.1 (unified), from memory of their tables. Diameters and pitches in mm. */

export interface ThreadSize {
  /** As it is written: `M8`, `M8 × 1`, `1/2-13 UNC`. */
  readonly designation: string;
  readonly majorMm: number;
  readonly pitchMm: number;
  readonly coarse: boolean;
}

/** Diameter, coarse pitch, fine pitches. */
const METRIC: readonly (readonly [number, number, ...number[]])[] = [
  [1, 0.25],
  [1.2, 0.25],
  [1.4, 0.3],
  [1.6, 0.35],
  [2, 0.4],
  [2.5, 0.45],
  [3, 0.5],
  [3.5, 0.6],
  [4, 0.7],
  [5, 0.8],
  [6, 1, 0.75],
  [7, 1, 0.75],
  [8, 1.25, 1, 0.75],
  [10, 1.5, 1.25, 1, 0.75],
  [12, 1.75, 1.5, 1.25, 1],
  [14, 2, 1.5, 1.25, 1],
  [16, 2, 1.5, 1],
  [18, 2.5, 2, 1.5, 1],
  [20, 2.5, 2, 1.5, 1],
  [22, 2.5, 2, 1.5, 1],
  [24, 3, 2, 1.5, 1],
  [27, 3, 2, 1.5, 1],
  [30, 3.5, 3, 2, 1.5, 1],
  [33, 3.5, 3, 2, 1.5],
  [36, 4, 3, 2, 1.5],
  [39, 4, 3, 2, 1.5],
  [42, 4.5, 4, 3, 2, 1.5],
  [45, 4.5, 4, 3, 2, 1.5],
  [48, 5, 4, 3, 2, 1.5],
  [52, 5, 4, 3, 2, 1.5],
  [56, 5.5, 4, 3, 2, 1.5],
  [60, 5.5, 4, 3, 2, 1.5],
  [64, 6, 4, 3, 2, 1.5],
];

/** Size as it is written, and threads per inch: UNC, UNF. */
const UNIFIED: readonly (readonly [string, number | undefined, number | undefined])[] = [
  ['#0', undefined, 80],
  ['#1', 64, 72],
  ['#2', 56, 64],
  ['#3', 48, 56],
  ['#4', 40, 48],
  ['#5', 40, 44],
  ['#6', 32, 40],
  ['#8', 32, 36],
  ['#10', 24, 32],
  ['#12', 24, 28],
  ['1/4', 20, 28],
  ['5/16', 18, 24],
  ['3/8', 16, 24],
  ['7/16', 14, 20],
  ['1/2', 13, 20],
  ['9/16', 12, 18],
  ['5/8', 11, 18],
  ['3/4', 10, 16],
  ['7/8', 9, 14],
  ['1', 8, 12],
  ['1 1/8', 7, 12],
  ['1 1/4', 7, 12],
  ['1 3/8', 6, 12],
  ['1 1/2', 6, 12],
  ['1 3/4', 5, undefined],
  ['2', 4.5, undefined],
];

const MM_PER_INCH = 25.4;

/** Inches of a size as it is written: numbers are 0.060 in and 0.013 in more for each (ASME B1.1). */
export function inchesOf(size: string): number {
  if (size.startsWith('#')) return 0.06 + 0.013 * Number(size.slice(1));
  return size.split(' ').reduce((sum, part) => {
    const [over, under] = part.split('/').map(Number);
    return sum + over! / (under ?? 1);
  }, 0);
}

const metricText = (d: number, pitch: number, coarse: boolean) => (coarse ? `M${d}` : `M${d} × ${pitch}`);

export const THREADS: readonly ThreadSize[] = [
  ...METRIC.flatMap(([d, ...pitches]) =>
    pitches.map((pitchMm, i): ThreadSize => ({ designation: metricText(d, pitchMm, i === 0), majorMm: d, pitchMm, coarse: i === 0 })),
  ),
  ...UNIFIED.flatMap(([size, unc, unf]) =>
    (
      [
        [unc, 'UNC'],
        [unf, 'UNF'],
      ] as const
    ).flatMap(([perInch, series]): ThreadSize[] =>
      perInch === undefined
        ? []
        : [{ designation: `${size}-${perInch} ${series}`, majorMm: inchesOf(size) * MM_PER_INCH, pitchMm: MM_PER_INCH / perInch, coarse: series === 'UNC' }],
    ),
  ),
];

/** Basic minor diameter: d1 = d − 1.082532 P, the same for the 60° profile of ISO 724 and of ASME B1.1. */
export const minorOf = ({ majorMm, pitchMm }: Pick<ThreadSize, 'majorMm' | 'pitchMm'>): number => majorMm - 1.082532 * pitchMm;

/** Minor diameter of external threads at the root: d3 = d − 1.226869 P (ISO 724). */
export const rootOf = ({ majorMm, pitchMm }: Pick<ThreadSize, 'majorMm' | 'pitchMm'>): number => majorMm - 1.226869 * pitchMm;
