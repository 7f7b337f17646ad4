import type { Scene } from '../../elements/scene.ts';
import type { Step } from '../document/steps.ts';
import type { Finding, FindingCode } from './finding.ts';

/** One thing that is checked: what is found on a sheet or of the drawing as a whole, and how it is put right in one press. */
export interface Rule {
  readonly codes: readonly FindingCode[];
  sheet?(scene: Scene, sheet: string): readonly Finding[];
  whole?(scene: Scene): readonly Finding[];
  /** Steps that put a finding right; none when that is no longer possible. @param freshId for records that are made */
  fix?(finding: Finding, scene: Scene, freshId: (type: string) => string): readonly Step[];
}
