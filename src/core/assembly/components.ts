import { combine, IDENTITY, type Placement } from '../base/placement.ts';
import type { Assembly, Component } from './assembly.ts';

/** Path of every node: names from below the root, the second `Nut` under the same parent being `Nut:2`. */
export function nodePaths(assembly: Assembly): string[] {
  const used = new Map<string, number>();
  const paths: string[] = [];
  assembly.nodes.forEach((node, i) => {
    if (node.parent < 0) {
      paths[i] = '';
      return;
    }
    const base = (paths[node.parent] ? paths[node.parent] + '/' : '') + node.name.replaceAll('/', '∕');
    const n = (used.get(base) ?? 0) + 1;
    used.set(base, n);
    paths[i] = n === 1 ? base : `${base}:${n}`;
  });
  return paths;
}

/** Place of every node in the whole. */
export function worldPlacements(assembly: Assembly): Placement[] {
  const world: Placement[] = [];
  assembly.nodes.forEach((node, i) => {
    world[i] = node.parent < 0 ? node.placement : combine(world[node.parent] ?? IDENTITY, node.placement);
  });
  return world;
}

const known = new WeakMap<Assembly, readonly Component[]>();

/** The leaves, in the order of the tree. An assembly never changes: they are read once. */
export function componentsOf(assembly: Assembly): readonly Component[] {
  let components = known.get(assembly);
  if (!components) known.set(assembly, (components = read(assembly)));
  return components;
}

function read(assembly: Assembly): readonly Component[] {
  const paths = nodePaths(assembly);
  const world = worldPlacements(assembly);
  const out: Component[] = [];
  assembly.nodes.forEach((node, i) => {
    if (node.part < 0) return;
    const part = assembly.parts[node.part]!;
    out.push({ index: out.length, node: i, part: node.part, path: paths[i] || part.name, name: part.name, placement: world[i]! });
  });
  return out;
}

/** Levels below the root: 0 for a single part. */
export function depthOf(assembly: Assembly): number {
  const level: number[] = [];
  assembly.nodes.forEach((n, i) => (level[i] = n.parent < 0 ? 0 : level[n.parent]! + 1));
  return level.reduce((a, b) => Math.max(a, b), 0);
}
