import type { Assembly } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import type { Group } from './groups.ts';
import type { Item } from './items.ts';

/** A row of a parts list before it is drawn. */
export interface ListRow {
  readonly item: Item;
  /** Of this row: per one of the sub-assembly above it where levels are shown. */
  readonly quantity: number;
  /** 0 at the left; what belongs to a sub-assembly stands one further in. */
  readonly level: number;
}

/** Parts below a node with how many of each are in one of it, in the order of the tree. */
export function partRows(assembly: Assembly, items: readonly Item[], node: number): ListRow[] {
  const counts = new Map<Item, number>();
  const itemOf = itemByComponent(items);
  for (const c of componentsOf(assembly)) {
    let n = c.node;
    while (n >= 0 && n !== node) n = assembly.nodes[n]!.parent;
    const item = n === node ? itemOf.get(c.index) : undefined;
    if (item) counts.set(item, (counts.get(item) ?? 0) + 1);
  }
  return [...counts].map(([item, quantity]) => ({ item, quantity, level: 0 }));
}

/** What stands directly under a node: parts and sub-assemblies, each once with how often it is there. */
export function topRows(assembly: Assembly, items: readonly Item[], groups: readonly Group[], node: number): ListRow[] {
  return childrenOf(assembly, items, groups, node).map(({ item, quantity }) => ({ item, quantity, level: 0 }));
}

/**
 * All levels under a node: under each sub-assembly what one of it holds, a step further in.
 * @param bare sub-assemblies have no rows of their own: their parts stand a step further in all the same
 */
export function indentedRows(assembly: Assembly, items: readonly Item[], groups: readonly Group[], node: number, bare = false): ListRow[] {
  const out: ListRow[] = [];
  const visit = (at: number, level: number): void => {
    for (const child of childrenOf(assembly, items, groups, at)) {
      if (child.inside === undefined || !bare) out.push({ item: child.item, quantity: child.quantity, level });
      if (child.inside !== undefined) visit(child.inside, level + 1);
    }
  };
  visit(node, 0);
  return out;
}

interface Child {
  readonly item: Item;
  readonly quantity: number;
  /** A node to look into: one place of the sub-assembly. */
  readonly inside?: number;
}

function childrenOf(assembly: Assembly, items: readonly Item[], groups: readonly Group[], node: number): Child[] {
  const itemOf = itemByComponent(items);
  const groupOf = new Map(groups.flatMap((g) => g.nodes.map((n) => [n, g] as const)));
  const at = new Map(componentsOf(assembly).map((c) => [c.node, c.index]));
  const out = new Map<string, Child>();
  assembly.nodes.forEach((n, i) => {
    if (n.parent !== node) return;
    const item = n.part < 0 ? groupOf.get(i)?.item : itemOf.get(at.get(i)!);
    if (!item) return;
    const known = out.get(item.part);
    out.set(item.part, known ? { ...known, quantity: known.quantity + 1 } : { item, quantity: 1, ...(n.part < 0 ? { inside: i } : {}) });
  });
  return [...out.values()];
}

const byItems = new WeakMap<readonly Item[], Map<number, Item>>();
function itemByComponent(items: readonly Item[]): Map<number, Item> {
  let map = byItems.get(items);
  if (!map) byItems.set(items, (map = new Map(items.flatMap((i) => i.components.map((c) => [c, i] as const)))));
  return map;
}
