import type { Assembly, Component } from '../assembly/assembly.ts';
import { dropEmptyBranches } from '../assembly/prune.ts';
import type { Stuck } from '../explode/plan.ts';
import type { Pull } from '../explode/spread.ts';
import type { Item } from '../ledger/items.ts';
import type { Body } from '../outline/scene.ts';
import { applyToPoint } from '../base/placement.ts';

/** More items than this around one view are a crowd: their leaders cross, and nobody reads them (measured and common practice). */
export const MOST_TOGETHER = 36;
/** A sub-assembly of fewer items has no view of its own. */
const LEAST_ALONE = 6;

export interface ExplodedGroup {
  readonly name: string;
  readonly components: readonly number[];
  /** Items that have their balloon here. */
  readonly items: readonly Item[];
}

/**
 * What is shown together when one exploded view would be a crowd: the sub-assemblies, what is left over with the small ones, and
 * of what is larger still its own sub-assemblies, or neighbours in space. Every item has its balloon in one of them.
 */
export function explodedGroups(assembly: Assembly, components: readonly Component[], bodies: readonly Body[], items: readonly Item[]): ExplodedGroup[] {
  const itemOf = new Map(items.flatMap((i) => i.components.map((c) => [c, i] as const)));
  const count = (list: readonly number[]) => new Set(list.map((c) => itemOf.get(c))).size;
  const lineOf = (node: number): number[] => {
    const line: number[] = [];
    for (let n = node; n >= 0; n = assembly.nodes[n]!.parent) line.unshift(n);
    return line;
  };
  const lines = new Map(components.map((c) => [c.index, lineOf(c.node)]));
  const split = (name: string, list: readonly number[], depth: number): { name: string; components: number[] }[] => {
    if (count(list) <= MOST_TOGETHER) return [{ name, components: [...list] }];
    const branches = new Map<number, number[]>();
    const rest: number[] = [];
    for (const c of list) {
      const line = lines.get(c)!;
      // The last of the line is the component itself.
      const node = depth < line.length - 1 ? line[depth]! : undefined;
      if (node === undefined) rest.push(c);
      else branches.set(node, [...(branches.get(node) ?? []), c]);
    }
    if (branches.size === 0) return inSpace(name, list, bodies, count);
    const out: { name: string; components: number[] }[] = [];
    for (const [node, of] of branches) {
      if (count(of) < LEAST_ALONE) rest.push(...of);
      else out.push(...split(assembly.nodes[node]!.name, of, depth + 1));
    }
    if (rest.length) out.push(...(count(rest) <= MOST_TOGETHER ? [{ name, components: rest }] : inSpace(name, rest, bodies, count)));
    return out;
  };
  const taken = new Set<Item>();
  return split(
    assembly.name,
    components.map((c) => c.index),
    1,
  ).flatMap((g) => {
    const own = [...new Set(g.components.flatMap((c) => itemOf.get(c) ?? []))].filter((i) => !taken.has(i));
    for (const i of own) taken.add(i);
    // Fasteners alone that have their number elsewhere need no sheet.
    return own.length ? [{ ...g, items: own.sort((a, b) => a.number - b.number) }] : [];
  });
}

/** Neighbours: along the longest extent, in as few parts as it takes. */
function inSpace(
  name: string,
  list: readonly number[],
  bodies: readonly Body[],
  count: (list: readonly number[]) => number,
): { name: string; components: number[] }[] {
  const byComponent = new Map(bodies.map((b) => [b.component, b]));
  const middles = list.map((c) => {
    const body = byComponent.get(c);
    const b = body?.geometry.box ?? [0, 0, 0, 0, 0, 0];
    const middle = [(b[0] + b[3]) / 2, (b[1] + b[4]) / 2, (b[2] + b[5]) / 2] as const;
    return { c, at: body ? applyToPoint(body.placement, middle) : middle };
  });
  const extent = [0, 1, 2].map((k) => Math.max(...middles.map((m) => m.at[k]!)) - Math.min(...middles.map((m) => m.at[k]!)));
  const axis = extent.indexOf(Math.max(...extent));
  const sorted = middles.sort((a, b) => a.at[axis]! - b.at[axis]! || a.c - b.c).map((m) => m.c);
  const parts = Math.ceil(count(list) / MOST_TOGETHER);
  const size = Math.ceil(sorted.length / parts);
  const out = Array.from({ length: parts }, (_, i) => sorted.slice(i * size, (i + 1) * size)).filter((p) => p.length);
  return out.map((components, i) => ({ name: `${name}, part ${i + 1} of ${out.length}`, components }));
}

/** A group as an assembly of its own, its components counted anew. `whole` counts pulls in the whole assembly again, `held` what nothing frees. */
export function partAlone(
  assembly: Assembly,
  components: readonly Component[],
  bodies: readonly Body[],
  of: readonly number[],
): { readonly assembly: Assembly; readonly bodies: readonly Body[]; whole(pulls: readonly Pull[]): Pull[]; held(stuck: readonly Stuck[]): Stuck[] } {
  const own = [...of].sort((a, b) => a - b);
  const nodes = new Set(own.map((c) => components[c]!.node));
  const byComponent = new Map(bodies.map((b) => [b.component, b]));
  return {
    assembly: { ...assembly, nodes: dropEmptyBranches(assembly.nodes.map((n, i) => (n.part < 0 || nodes.has(i) ? n : { ...n, part: -1 }))) },
    bodies: own.map((c, component) => ({ ...byComponent.get(c)!, component })),
    whole: (pulls) => pulls.map((p) => ({ ...p, components: p.components.map((c) => own[c]!) })),
    held: (stuck) => stuck.map((s) => ({ ...s, components: s.components.map((c) => own[c]!), by: s.by.map((c) => own[c]!) })),
  };
}
