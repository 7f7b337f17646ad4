import { componentsOf, depthOf } from '../core/assembly/components.ts';
import { namedFrame } from '../core/outline/directions.ts';
import { sceneOf } from '../core/outline/scene-of.ts';
import { viewBox } from '../core/shade/raster.ts';
import type { Arguments } from './arguments.ts';
import { loadModel } from './load.ts';

/** What a model is made of. */
export async function inspect(args: Arguments): Promise<unknown> {
  const m = await loadModel(args.files, args);
  const components = componentsOf(m.assembly);
  const bodies = sceneOf(m.assembly, m.geometries);
  const top = viewBox(bodies, namedFrame('top'));
  const front = viewBox(bodies, namedFrame('front'));
  const tree = (parent: number): unknown[] =>
    m.assembly.nodes.flatMap((n, i) =>
      n.parent === parent ? [{ name: n.name, ...(n.part >= 0 ? { part: m.assembly.parts[n.part]!.id } : { children: tree(i) }) }] : [],
    );
  return {
    components: components.length,
    uniqueParts: m.assembly.parts.length,
    depth: depthOf(m.assembly),
    boxMm: [top[2] - top[0], top[3] - top[1], front[3] - front[1]],
    volumeMm3: components.reduce((s, c) => s + m.assembly.parts[c.part]!.volumeMm3, 0),
    unit: m.assembly.unit,
    schema: m.assembly.schema,
    tree: tree(-1),
    warnings: m.assembly.notices,
  };
}
