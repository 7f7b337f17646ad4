import type { Assembly } from '../core/assembly/assembly.ts';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';

/** What files hold, read as one assembly. */
export interface Model {
  readonly assembly: Assembly;
  readonly geometries: ReadonlyMap<string, PartGeometry>;
  readonly read: { readonly times: { readonly kernel: number; readonly read: number } };
}
