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

export interface Rect {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** A box `[x, y, width, height]` as a rectangle. */
export const rectOf = (b: readonly [number, number, number, number]): Rect => ({ x: b[0], y: b[1], width: b[2], height: b[3] });

/** A rectangle grown on every side, mm; less than nought shrinks it. */
export const inflate = (r: Rect, by: number): Rect => ({ x: r.x - by, y: r.y - by, width: r.width + 2 * by, height: r.height + 2 * by });

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

/** Reduction scales of ISO 5455, largest first, as paper mm per model mm. */
export const ISO_SCALES: readonly number[] = [50, 20, 10, 5, 2, 1, 1 / 2, 1 / 5, 1 / 10, 1 / 20, 1 / 50, 1 / 100, 1 / 200, 1 / 500, 1 / 1000];
/** Inch practice (common practice, no source). */
export const INCH_SCALES: readonly number[] = [4, 2, 1, 1 / 2, 3 / 8, 1 / 4, 1 / 8, 1 / 16, 1 / 32, 1 / 64];

export function standardScales(standard: Standard): readonly number[] {
  return standard === 'iso' ? ISO_SCALES : INCH_SCALES;
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
