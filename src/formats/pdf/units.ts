/** Points of PDF in a millimetre. */
export const POINTS_PER_MM = 72 / 25.4;
