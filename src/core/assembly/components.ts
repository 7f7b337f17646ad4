import { applyToPoint, combine, IDENTITY, type Placement } from '../base/placement.ts';
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

/** The leaves, in the order of the tree. */
export function componentsOf(assembly: Assembly): Component[] {
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

/** Axis-parallel box around the part boxes' corners, mm. Slightly loose for turned parts; `exactBox` in outline is tight. */
export function looseBox(assembly: Assembly): number[] {
  const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (const c of componentsOf(assembly)) {
    const b = assembly.parts[c.part]!.box;
    for (let i = 0; i < 8; i++) {
      const p = applyToPoint(c.placement, [b[i & 1 ? 3 : 0]!, b[i & 2 ? 4 : 1]!, b[i & 4 ? 5 : 2]!]);
      for (let k = 0; k < 3; k++) {
        box[k] = Math.min(box[k]!, p[k]!);
        box[k + 3] = Math.max(box[k + 3]!, p[k]!);
      }
    }
  }
  return box;
}
