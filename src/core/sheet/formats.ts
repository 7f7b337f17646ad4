import type { Rect } from '../base/rect.ts';
export type Standard = 'iso' | 'asme';

export interface SheetFormat {
  readonly name: string;
  readonly standard: Standard;
  /** Longer and shorter side, mm. */
  readonly long: number;
  readonly short: number;
}

const INCH = 25.4;

/** Trimmed sizes by ISO 5457 and ASME Y14.1 (from memory of the standards). */
export const SHEET_FORMATS: readonly SheetFormat[] = [
  { name: 'A0', standard: 'iso', long: 1189, short: 841 },
  { name: 'A1', standard: 'iso', long: 841, short: 594 },
  { name: 'A2', standard: 'iso', long: 594, short: 420 },
  { name: 'A3', standard: 'iso', long: 420, short: 297 },
  { name: 'A4', standard: 'iso', long: 297, short: 210 },
  { name: 'A', standard: 'asme', long: 11 * INCH, short: 8.5 * INCH },
  { name: 'B', standard: 'asme', long: 17 * INCH, short: 11 * INCH },
  { name: 'C', standard: 'asme', long: 22 * INCH, short: 17 * INCH },
  { name: 'D', standard: 'asme', long: 34 * INCH, short: 22 * INCH },
  { name: 'E', standard: 'asme', long: 44 * INCH, short: 34 * INCH },
];

export function formatByName(name: string): SheetFormat | undefined {
  return SHEET_FORMATS.find((f) => f.name === name);
}

/** Page and frame of a sheet, mm, y down from the top left corner of the trimmed sheet. */
export interface SheetGeometry {
  readonly width: number;
  readonly height: number;
  readonly frame: Rect;
}

/** Borders by ISO 5457: 20 mm at the filing edge (left), 10 mm elsewhere. ASME sheets take 12.7 mm all around (common practice). */
export function sheetGeometry(format: SheetFormat, landscape: boolean): SheetGeometry {
  const width = landscape ? format.long : format.short;
  const height = landscape ? format.short : format.long;
  const filing = format.standard === 'iso' ? 20 : 12.7;
  const edge = format.standard === 'iso' ? 10 : 12.7;
  return { width, height, frame: { x: filing, y: edge, width: width - filing - edge, height: height - 2 * edge } };
}

/** 1, 2 and 5 times a power of ten: as paper mm per model mm, without the last digit's noise. */
const isoScale = (step: number): number => {
  const [decade, digit] = [Math.floor(step / 3), [1, 2, 5][((step % 3) + 3) % 3]!];
  // 1/5 and 1/2 rather than 2e-1 and 5e-1: `1:5` is exactly that.
  return decade >= 0 ? digit * 10 ** decade : 1 / ({ 1: 1, 2: 5, 5: 2 }[digit]! * 10 ** (digit === 1 ? -decade : -decade - 1));
};
const row = (from: number, to: number, scale: (step: number) => number) => Array.from({ length: from - to + 1 }, (_, i) => scale(from - i));

/** Scales of ISO 5455, largest first, 1000:1 to 1:10000; the standard lets the row go on both ways. */
export const ISO_SCALES: readonly number[] = row(9, -12, isoScale);
/** Inch practice (common practice, no source): halves and doubles, and 3:8. */
export const INCH_SCALES: readonly number[] = [...row(6, -1, (n) => 2 ** n), 3 / 8, ...row(-2, -10, (n) => 2 ** n)];

export function standardScales(standard: Standard): readonly number[] {
  return standard === 'iso' ? ISO_SCALES : INCH_SCALES;
}

/** Larger than any sheet, and smaller than anything on one, mm. */
const LARGEST_ON_PAPER = 2000;
const SMALLEST_ON_PAPER = 1;

/** The standard's scales, largest first, at which something of this size may stand on a sheet: its row goes on as far as that takes. */
export function scalesFor(standard: Standard, extentMm: number): number[] {
  const sensible = (s: number) => s * extentMm <= LARGEST_ON_PAPER && s * extentMm >= SMALLEST_ON_PAPER;
  const [most, step] = standard === 'iso' ? [3 * 30, isoScale] : [100, (n: number) => 2 ** n];
  const known = standardScales(standard);
  const beyond = row(most, -most, step).filter((s) => s > known[0]! * 1.001 || s < known[known.length - 1]! * 0.999);
  return [...known, ...beyond].filter(sensible).sort((a, b) => b - a);
}

/** `1:2`, `5:1`, `3:8`. */
export function scaleText(scale: number): string {
  for (const d of [1, 2, 4, 5, 8, 10, 16, 20, 32, 50, 64, 100, 200, 500, 1000]) {
    const n = scale * d;
    if (Math.abs(n - Math.round(n)) < 1e-9 && Math.round(n) >= 1) return `${Math.round(n)}:${d}`;
  }
  return scale >= 1 ? `${trim(scale)}:1` : `1:${trim(1 / scale)}`;
}

const trim = (v: number) => String(Math.round(v * 1000) / 1000);

/** Sizes that follow the sheet: ISO 128 line widths, ISO 3098 lettering, ISO 6433 item references; paper mm. */
export interface SheetStyle {
  readonly wide: number;
  readonly narrow: number;
  /** Text of dimensions, lists and notes. */
  readonly text: number;
  /** Item numbers: clearly larger. */
  readonly item: number;
  /** Circle around an item number. */
  readonly balloon: number;
  /** Letters of sections. */
  readonly letter: number;
}

export function styleFor(format: SheetFormat): SheetStyle {
  const large = format.short > 560;
  return large
    ? { wide: 0.7, narrow: 0.35, text: 3.5, item: 5, balloon: 12, letter: 7 }
    : { wide: 0.5, narrow: 0.25, text: 2.5, item: 3.5, balloon: 10, letter: 5 };
}
