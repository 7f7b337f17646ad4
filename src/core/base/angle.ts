const WHOLE = 2 * Math.PI;

/** An angle brought between nought and a whole turn, rad. */
export const withinTurn = (a: number): number => ((a % WHOLE) + WHOLE) % WHOLE;
