import type { Rect } from '../base/rect.ts';
import { usualForm, type Form } from './form.ts';
export type Standard = 'iso' | 'asme';

export interface PaperSize {
  readonly name: string;
  /** Taken where a size is chosen by itself; the others only when asked for. */
  readonly usual: boolean;
  readonly standard: Standard;
  /** Longer and shorter side, mm. */
  readonly long: number;
  readonly short: number;
}

const INCH = 25.4;

const iso = (name: string, long: number, short: number, usual: boolean): PaperSize => ({ name, standard: 'iso', long, short, usual });
const inch = (name: string, long: number, short: number, usual: boolean): PaperSize => ({
  name,
  standard: 'asme',
  long: long * INCH,
  short: short * INCH,
  usual,
});

/** Trimmed sizes of ISO 5457, table 1, and of ASME Y14.1, flat sheets (from memory of the standards). */
const FLAT: readonly PaperSize[] = [
  iso('A0', 1189, 841, true),
  iso('A1', 841, 594, true),
  iso('A2', 594, 420, true),
  iso('A3', 420, 297, true),
  iso('A4', 297, 210, true),
  inch('A', 11, 8.5, true),
  inch('B', 17, 11, true),
  inch('C', 22, 17, true),
  inch('D', 34, 22, true),
  inch('E', 44, 34, true),
  inch('F', 40, 28, false),
];

/** Elongated sizes of ISO 5457: the short side of one size with the long side of a larger one, named after both: `A3.1`. */
const ELONGATED: readonly PaperSize[] = [4, 3, 2]
  .flatMap((of) => Array.from({ length: of }, (_, with_) => iso(`A${of}.${with_}`, FLAT[with_]!.long, FLAT[of]!.short, false)))
  .sort((a, b) => a.short - b.short || a.long - b.long);

/** Every size that has a name. */
export const PAPER_SIZES: readonly PaperSize[] = [...FLAT, ...ELONGATED];
/** Those that are taken by themselves. */
export const USUAL_SIZES: readonly PaperSize[] = PAPER_SIZES.filter((p) => p.usual);

/** Sides of a sheet of one's own, mm: from a label to a roll. */
const LEAST_SIDE_MM = 100;
const MOST_SIDE_MM = 5000;
const OWN_SIZE = /^(\d{2,4}(?:\.\d{1,2})?) ?[x×] ?(\d{2,4}(?:\.\d{1,2})?)$/;

/** Name of a size of one's own, `600x400`: the longer side first, mm; undefined for a side under 100 or over 5000 mm. */
export function ownSizeName(a: number, b: number): string | undefined {
  const [long, short] = [Math.max(a, b), Math.min(a, b)].map((v) => Math.round(v * 100) / 100);
  return short! >= LEAST_SIDE_MM && long! <= MOST_SIDE_MM ? `${long}x${short}` : undefined;
}

/** A size by its name, or one of one's own: `600x400`. Undefined where there is no such sheet. */
export function paperByName(name: string): PaperSize | undefined {
  const known = PAPER_SIZES.find((f) => f.name === name);
  if (known) return known;
  const [, a, b] = OWN_SIZE.exec(name) ?? [];
  const own = a && b && ownSizeName(Number(a), Number(b));
  if (!own) return undefined;
  const [long, short] = own.split('x').map(Number);
  return iso(own, long!, short!, false);
}

/** Page and frame of a sheet, mm, y down from the top left corner of the trimmed sheet. */
export interface SheetGeometry {
  /** Of its size. */
  readonly standard: Standard;
  readonly width: number;
  readonly height: number;
  readonly frame: Rect;
  /** Its title block, in the lower right corner of the frame. */
  readonly title: Rect;
}

/** Width and height of the title blocks that come with the application, mm: ISO 7200 wants 180 mm; 6.25 in with inch sheets (ASME Y14.1, from memory). */
export const USUAL_BLOCK: Readonly<Record<Standard, readonly [number, number]>> = { iso: [180, 42], asme: [158.75, 53] };

/** @param form frame and marks; absent: the standard's @param block width and height of the title block, mm */
export function sheetGeometry(
  paper: PaperSize,
  landscape: boolean,
  form: Form = usualForm(paper.standard),
  [wide, high]: readonly [number, number] = USUAL_BLOCK[paper.standard],
): SheetGeometry {
  const width = landscape ? paper.long : paper.short;
  const height = landscape ? paper.short : paper.long;
  const { left, right, top, bottom } = form.edges;
  const frame = { x: left, y: top, width: width - left - right, height: height - top - bottom };
  const across = Math.min(wide, frame.width);
  return {
    standard: paper.standard,
    width,
    height,
    frame,
    title: { x: frame.x + frame.width - across, y: frame.y + frame.height - high, width: across, height: high },
  };
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

/**
 * A scale as it is typed and read: `1:2`, `5:1`, `1:2.5`, `1.25:1`, `0.7:1`, `3:8`. Where several ways of writing one scale are
 * right, it is the one with a 1 in it (common practice, no source).
 */
export function scaleText(scale: number): string {
  if (isShort(scale, 0) || (scale > 1 && isShort(scale, 2))) return `${trim(scale)}:1`;
  if (isShort(1 / scale, 2)) return `1:${trim(1 / scale)}`;
  if (isShort(scale, 1)) return `${trim(scale)}:1`;
  for (const d of [4, 8, 16, 32, 64, 1000]) if (isShort(scale * d, 0)) return `${trim(scale * d)}:${d}`;
  return scale >= 1 ? `${trim(scale)}:1` : `1:${trim(1 / scale)}`;
}

/** Is it written with so many decimals, and more than nothing? */
function isShort(v: number, decimals: number): boolean {
  const n = v * 10 ** decimals;
  return Math.abs(n - Math.round(n)) < 1e-9 * Math.max(1, n) && Math.round(n) >= 1;
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
  /** What the cells of a title block say of themselves. */
  readonly caption: number;
}

/** @param halfSize it is printed on the next smaller sheet too: 1/√2, one step of ISO 3098 */
export function styleFor(paper: PaperSize, halfSize = false): SheetStyle {
  const large = paper.short > 560;
  const caption = halfSize ? 2.5 : 1.8;
  if (large && halfSize) return { wide: 1, narrow: 0.5, text: 5, item: 7, balloon: 16, letter: 10, caption };
  return large || halfSize
    ? { wide: 0.7, narrow: 0.35, text: 3.5, item: 5, balloon: 12, letter: 7, caption }
    : { wide: 0.5, narrow: 0.25, text: 2.5, item: 3.5, balloon: 10, letter: 5, caption };
}
