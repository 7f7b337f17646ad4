import type { Assembly, Component } from '../assembly/assembly.ts';
import { applyToPoint } from '../base/placement.ts';
import type { Vec3 } from '../base/vector.ts';
import type { Item } from './items.ts';

export interface WholeMass {
  readonly kg: number;
  /** Centre of the known masses, model mm; undefined when none is known. */
  readonly centre: Vec3 | undefined;
  /** Items whose mass is not known. */
  readonly missing: number;
}

/** Mass of everything and its centre; each part is taken as of one density throughout. */
export function wholeMass(assembly: Assembly, components: readonly Component[], items: readonly Item[]): WholeMass {
  const massOf = new Map(items.flatMap((i) => i.components.map((c) => [c, i.massKg] as const)));
  let kg = 0;
  const sum: [number, number, number] = [0, 0, 0];
  for (const c of components) {
    const m = massOf.get(c.index);
    if (m === undefined) continue;
    kg += m;
    const p = applyToPoint(c.placement, assembly.parts[c.part]!.centroid);
    for (let k = 0; k < 3; k++) sum[k]! += m * p[k]!;
  }
  return { kg, centre: kg > 0 ? [sum[0] / kg, sum[1] / kg, sum[2] / kg] : undefined, missing: items.filter((i) => i.massKg === undefined).length };
}
