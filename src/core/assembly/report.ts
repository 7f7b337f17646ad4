import type { Notice } from '../base/errors.ts';
import type { Assembly } from './assembly.ts';
import { componentsOf, depthOf } from './components.ts';

/** What was brought in, for the user. */
export interface ImportReport {
  readonly components: number;
  readonly parts: number;
  readonly levels: number;
  readonly schema: string;
  readonly unit: string;
  /** Parts that carry each kind of data. */
  readonly colors: number;
  readonly materials: number;
  readonly withProperties: number;
  /** Bodies left out, open surfaces and the like. */
  readonly notices: readonly Notice[];
  /** Volumes that the file states, against ours. */
  readonly volumes: readonly { readonly product: string; readonly statedMm3: number; readonly ownMm3: number; readonly agrees: boolean }[];
}

/** Writers state volumes to six figures or so. */
const AGREES = 1e-4;

export function importReport(assembly: Assembly): ImportReport {
  const components = componentsOf(assembly);
  const painted = new Set(components.filter((c) => assembly.nodes[c.node]!.color ?? assembly.parts[c.part]!.color).map((c) => c.part));
  return {
    components: components.length,
    parts: assembly.parts.length,
    levels: depthOf(assembly),
    schema: assembly.schema,
    unit: assembly.unit,
    colors: painted.size,
    materials: assembly.parts.filter((p) => p.material).length,
    withProperties: assembly.parts.filter((p) => Object.keys(p.properties).length > 0).length,
    notices: assembly.notices,
    volumes: Object.entries(assembly.statedVolumes ?? {}).flatMap(([product, statedMm3]) => {
      const ownMm3 = volumeOf(assembly, product);
      return ownMm3 === undefined ? [] : [{ product, statedMm3, ownMm3, agrees: Math.abs(ownMm3 / statedMm3 - 1) < AGREES }];
    }),
  };
}

/** Volume of a part, or of everything below the first node of a product. */
function volumeOf(assembly: Assembly, product: string): number | undefined {
  const part = assembly.parts.find((p) => p.name === product);
  if (part) return part.volumeMm3;
  const top = assembly.nodes.findIndex((n) => n.product === product);
  if (top < 0) return undefined;
  const below = new Set([top]);
  let sum = 0;
  assembly.nodes.forEach((n, i) => {
    if (!below.has(n.parent)) return;
    below.add(i);
    if (n.part >= 0) sum += assembly.parts[n.part]!.volumeMm3;
  });
  return sum;
}
