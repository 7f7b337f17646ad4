import type { Assembly } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import type { Cancel } from '../base/errors.ts';
import { recordsOf, type DrawingDocument } from '../document/records.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { plainPull, pullsOf } from './records.ts';
import { checkSpread, type Hit } from './way-out.ts';

/** What the pulls of each spread of a drawing pass through, by id of the spread. @throws QuarryError CANCELLED */
export function spreadHits(
  document: DrawingDocument,
  assembly: Assembly,
  geometries: ReadonlyMap<string, PartGeometry>,
  cancel?: Cancel,
): ReadonlyMap<string, readonly Hit[]> {
  const bodies = sceneOf(assembly, geometries);
  const components = componentsOf(assembly);
  return new Map(recordsOf(document, 'spread').map((s) => [s.id, checkSpread(assembly, bodies, pullsOf(s, components).map(plainPull), cancel).hits]));
}
