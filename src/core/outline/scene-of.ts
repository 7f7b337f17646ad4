import type { Body } from './scene.ts';
import type { Assembly } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';

/** The assembled scene: one body per component. */
export function sceneOf(assembly: Assembly, geometries: ReadonlyMap<string, PartGeometry>): Body[] {
  return componentsOf(assembly).map((c) => ({
    component: c.index,
    geometry: geometries.get(assembly.parts[c.part]!.geometryKey)!,
    placement: c.placement,
  }));
}
