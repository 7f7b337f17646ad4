import { wholeStyle } from '$core/dimension/value';
import type { Scene } from '$elements/scene';

/** Lengths as people read and type them in a drawing: mm, or inches where its values are inches. */
export interface Lengths {
  readonly unit: 'mm' | 'in';
  /** @param mm a length */
  text(mm: number): string;
  /** @returns mm; NaN for what is no length */
  mm(typed: string): number;
}

const MM_PER_INCH = 25.4;

/** How lengths are written in a drawing. */
export function lengthsOf(scene: Scene): Lengths {
  const inches = wholeStyle(scene.drawing.standard, scene.drawing.values).unit === 'inch';
  const [per, digits] = inches ? [MM_PER_INCH, 1e4] : [1, 1e3];
  return {
    unit: inches ? 'in' : 'mm',
    text: (mm) => String(Math.round((mm / per) * digits) / digits),
    mm: (typed) => (typed.trim() === '' ? NaN : Number(typed.trim().replace(',', '.')) * per),
  };
}
