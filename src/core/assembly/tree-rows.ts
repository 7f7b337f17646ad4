import type { Assembly, Component } from './assembly.ts';

/** A line of the tree as it is shown: a sub-assembly, or equal parts that stand beside each other in it. */
export interface TreeRow {
  readonly key: string;
  /** 1 right under the whole. */
  readonly level: number;
  readonly name: string;
  /** How many equal parts the line stands for. */
  readonly count: number;
  /** Everything it stands for, as indices. */
  readonly components: readonly number[];
  /** Node of a sub-assembly, that may be opened. */
  readonly node: number | undefined;
}

/**
 * The tree as lines: sub-assemblies that are open show what is in them; equal parts of one parent share a line.
 * @param open nodes of sub-assemblies whose parts are shown
 */
export function treeRows(assembly: Assembly, components: readonly Component[], open: (node: number, level: number) => boolean): TreeRow[] {
  const children: number[][] = assembly.nodes.map(() => []);
  assembly.nodes.forEach((n, i) => n.parent >= 0 && children[n.parent]!.push(i));
  const componentAt = new Map(components.map((c) => [c.node, c]));
  const under = new Map<number, readonly number[]>();
  const below = (node: number): readonly number[] => {
    let list = under.get(node);
    if (!list) {
      const own = componentAt.get(node);
      under.set(node, (list = own ? [own.index] : children[node]!.flatMap(below)));
    }
    return list;
  };
  const rows: TreeRow[] = [];
  const walk = (node: number, level: number): void => {
    const shared = new Map<number, { at: number; list: number[] }>();
    for (const child of children[node]!) {
      const { name } = assembly.nodes[child]!;
      const c = componentAt.get(child);
      if (!c) {
        const inside = below(child);
        if (inside.length === 0) continue;
        rows.push({ key: `${child}`, level, name, count: 1, components: inside, node: child });
        if (open(child, level)) walk(child, level + 1);
        continue;
      }
      const known = shared.get(c.part);
      if (known) {
        known.list.push(c.index);
        rows[known.at] = { ...rows[known.at]!, count: known.list.length, components: known.list };
      } else {
        shared.set(c.part, { at: rows.length, list: [c.index] });
        rows.push({ key: `${child}`, level, name: assembly.parts[c.part]!.name, count: 1, components: [c.index], node: undefined });
      }
    }
  };
  walk(0, 1);
  return rows;
}
