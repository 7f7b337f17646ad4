export type FindingCode =
  'NOT_IDENTIFIED' | 'SEEN_NOWHERE' | 'OVERLAP' | 'OUTSIDE_FRAME' | 'LEADERS_CROSS' | 'LEADER_SLANT' | 'LIST_GAP' | 'NOT_CUT' | 'NOT_HATCHED' | 'OFF_TARGET';

/** One thing that a checker would mark. */
export interface Finding {
  readonly code: FindingCode;
  readonly severity: 'trouble' | 'look';
  /** The sheet it is on; null: it is about the drawing as a whole. */
  readonly sheet: string | null;
  /** Records or parts concerned. */
  readonly about: readonly string[];
  readonly text: string;
}
