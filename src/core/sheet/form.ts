import type { Standard } from './paper.ts';

/** What a sheet has around the drawing: its frame and the marks in its margin (ISO 5457, ASME Y14.1). */
export interface Form {
  /** Distances of the frame from the sides of the trimmed sheet, mm; the left one is the filing edge. */
  readonly edges: { readonly left: number; readonly right: number; readonly top: number; readonly bottom: number };
  /** Fields of the grid reference: 50 mm each from the axes of symmetry (ISO 5457), evenly divided, or none. */
  readonly zones: 'iso' | 'even' | 'none';
  /** Centring marks on the axes of symmetry. */
  readonly centring: boolean;
  /** Where the sheet is folded down to A4, or to letter size. */
  readonly folds: boolean;
  /** Trimming marks in the corners of the sheet. */
  readonly trims: boolean;
  /** It is printed on the next smaller sheet too: its lettering is one step larger. */
  readonly halfSize?: true;
  /** Upper left corner of the place for general notes, on a sheet of the format's own size, paper mm. */
  readonly notes?: readonly [number, number];
}

/** ISO 5457: 20 mm at the filing edge, 10 mm elsewhere. */
export const ISO_FORM: Form = { edges: { left: 20, right: 10, top: 10, bottom: 10 }, zones: 'iso', centring: true, folds: false, trims: false };
/** 12.7 mm all around, fields divided evenly (common practice with inch sheets, no source). */
export const INCH_FORM: Form = { edges: { left: 12.7, right: 12.7, top: 12.7, bottom: 12.7 }, zones: 'even', centring: true, folds: false, trims: false };

export const usualForm = (standard: Standard): Form => (standard === 'iso' ? ISO_FORM : INCH_FORM);
