/** Words in capitals: each kind of element has its own. */
export type FindingCode = Uppercase<string>;

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
