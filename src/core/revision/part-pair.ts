import type { Placement } from '../base/placement.ts';

/** Why two parts are taken for the same, most trusted first. */
export type Trust = 'part number' | 'name and shape' | 'name' | 'shape' | 'likeness' | 'decided';

export interface PartPair {
  /** Index in the old and the new assembly. */
  readonly before: number;
  readonly after: number;
  readonly trust: Trust;
  /** The newer part has the older one's shape. */
  readonly sameShape: boolean;
  /** It is the older one's mirror image. */
  readonly mirrored: boolean;
  /** From the older part's frame to the newer one's, where one shape lies otherwise in them. */
  readonly shift?: Placement;
}
