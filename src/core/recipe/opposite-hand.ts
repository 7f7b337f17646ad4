/** What a sheet says that two parts share, one of them the mirror image of the other (common practice, no source). */
export const oppositeHandText = (drawn: string, mirrored: readonly string[]): string => `As drawn: ${drawn}\nOpposite hand: ${mirrored.join(', ')}`;

/** That text. */
export const OPPOSITE_HAND = /^As drawn: .*\nOpposite hand: /;
