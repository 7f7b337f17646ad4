import type { SheetGeometry } from './paper.ts';

/** Where a sheet is folded: distances from its left and its upper side, mm. */
export interface Folds {
  readonly x: readonly number[];
  readonly y: readonly number[];
}

/** Width and height of a folded A4 sheet, and of the panel that reaches from the filing edge's fold to it (DIN 824, form A). */
const FOLDED = { width: 210, height: 297, panel: 190 } as const;
/** Width of the filing edge, which stays free. */
const FILING_MM = 20;
/** A fold nearer to another one than this is none. */
const LEAST_MM = 40;

/**
 * Folds down to A4 with the filing edge free and the title block on top, DIN 824 form A (from memory): across, 210 mm at the
 * filing edge, then panels of 190 mm from the title block on, what is left between them folded in half; up, 297 mm from the
 * foot. A3 is folded twice: 125, 105, 190.
 */
export function foldsToA4({ width, height }: Pick<SheetGeometry, 'width' | 'height'>): Folds {
  return { x: acrossA4(width), y: upA4(height) };
}

function acrossA4(width: number): number[] {
  const { panel } = FOLDED;
  if (width <= FOLDED.width + LEAST_MM) return [];
  // A3: the middle panel goes back to where the filing edge ends, the block's comes to lie on both.
  if (width < 2 * FOLDED.width + LEAST_MM) return [(width - panel + FILING_MM) / 2, width - panel].map(rounded);
  const left = width - FOLDED.width;
  // A2 leaves two panels: equal ones.
  if (left < 2 * panel + LEAST_MM) return [FOLDED.width, FOLDED.width + left / 2].map(rounded);
  // Larger ones: an even number of folds, so that the block lies on top; what whole panels leave over is folded in two.
  let panels = Math.floor(left / panel);
  if (left - panels * panel < 2 * LEAST_MM) panels--;
  if (panels % 2 === 1) panels--;
  return [FOLDED.width, FOLDED.width + (left - panels * panel) / 2, ...Array.from({ length: panels }, (_, i) => width - panel * (panels - i))].map(rounded);
}

function upA4(height: number): number[] {
  const out: number[] = [];
  for (let y = height - FOLDED.height; y > LEAST_MM; y -= FOLDED.height) out.unshift(rounded(y));
  return out;
}

/** Inch sheets are folded in equal parts no larger than a letter sheet (common practice, no source). */
export function foldsToLetter({ width, height }: Pick<SheetGeometry, 'width' | 'height'>): Folds {
  const equal = (length: number, most: number) => {
    const n = Math.ceil(length / most - 1e-6);
    return Array.from({ length: n - 1 }, (_, i) => rounded((length * (i + 1)) / n));
  };
  const [long, short] = [11 * 25.4, 8.5 * 25.4];
  return { x: equal(width, short), y: equal(height, long) };
}

const rounded = (v: number) => Math.round(v * 100) / 100;
