import { fingerprint } from '../base/fingerprint.ts';

/** Words in capitals: each kind of element has its own. */
export type FindingCode = Uppercase<string>;

/** It cannot leave so; it should be put right; someone should look. */
export type Severity = 'must' | 'should' | 'look';

/** One thing that a checker would mark. */
export interface Finding {
  readonly code: FindingCode;
  readonly severity: Severity;
  /** The sheet it is on; null: it is about the drawing as a whole. */
  readonly sheet: string | null;
  /** Records or parts concerned. */
  readonly about: readonly string[];
  readonly text: string;
  /** What one press would do; absent: it takes a drafter. */
  readonly fix?: string;
  /** Someone lets it stand. */
  readonly accepted?: { readonly reason: string; readonly when: string };
}

/** What a finding is accepted by: when its cause says something else, it is another one. */
export const findingKey = (f: Finding): string => `${f.code} ${[...f.about].sort().join(' ')} ${fingerprint(f.text)}`.slice(0, 500);
