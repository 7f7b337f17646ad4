import type { Assembly, Component } from '../assembly/assembly.ts';
import { applyToPoint } from '../base/placement.ts';
import { isFastener } from '../assembly/role.ts';
import { takenOff, type Pull } from './spread.ts';

type Box = readonly [number, number, number, number, number, number];

/** Box of a component in the model, mm. */
export function componentBox(assembly: Assembly, c: Component): Box {
  const b = assembly.parts[c.part]!.box;
  const out: [number, number, number, number, number, number] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (let i = 0; i < 8; i++) {
    const p = applyToPoint(c.placement, [b[i & 1 ? 3 : 0]!, b[i & 2 ? 4 : 1]!, b[i & 4 ? 5 : 2]!]);
    for (let k = 0; k < 3; k++) {
      out[k] = Math.min(out[k]!, p[k]!);
      out[k + 3] = Math.max(out[k + 3]!, p[k]!);
    }
  }
  return out;
}

/** Every component of the items that the chosen ones are of. */
export function ofSameItems(components: readonly Component[], chosen: ReadonlySet<number>): Set<number> {
  const parts = new Set([...chosen].map((c) => components[c]!.part));
  return new Set(components.filter((c) => parts.has(c.part)).map((c) => c.index));
}

function isUnder(assembly: Assembly, node: number, top: number): boolean {
  for (let n = node; n >= 0; n = assembly.nodes[n]!.parent) if (n === top) return true;
  return false;
}

/** The sub-assemblies that the chosen components are in: one level up, each time it is asked for. */
export function oneLevelUp(assembly: Assembly, components: readonly Component[], chosen: ReadonlySet<number>): Set<number> {
  const parentOf = (node: number) => assembly.nodes[node]!.parent;
  const under = (top: number) => components.filter((c) => isUnder(assembly, c.node, top)).map((c) => c.index);
  const out = new Set<number>();
  for (const c of chosen) {
    // Up to the first level that holds more than what is chosen already, but not the whole.
    let node = components[c]!.node;
    let found = [c];
    while (parentOf(node) > 0) {
      node = parentOf(node);
      found = under(node);
      if (found.some((f) => !chosen.has(f))) break;
    }
    for (const f of found) out.add(f);
  }
  return out;
}

/** The sub-assembly that a choice is, all of it and nothing else: the innermost one. Undefined for a part alone and for the whole. */
export function subAssemblyOf(assembly: Assembly, components: readonly Component[], chosen: ReadonlySet<number>): { readonly name: string } | undefined {
  if (chosen.size < 2 || chosen.size === components.length) return undefined;
  const [first] = chosen;
  for (let top = assembly.nodes[components[first!]!.node]!.parent; top > 0; top = assembly.nodes[top]!.parent) {
    const under = components.filter((c) => isUnder(assembly, c.node, top));
    if (under.length > chosen.size) return undefined;
    if (under.length === chosen.size && under.every((c) => chosen.has(c.index))) return assembly.nodes[top];
  }
  return undefined;
}

/** Every component that lies on a level of the tree: 1 is right under the whole. */
export function onLevel(assembly: Assembly, components: readonly Component[], level: number): Set<number> {
  return new Set(components.filter((c) => levelOf(assembly, c) === level).map((c) => c.index));
}

/** How many nodes stand above a component. */
export function levelOf(assembly: Assembly, c: Component): number {
  let level = 0;
  for (let n = assembly.nodes[c.node]!.parent; n >= 0; n = assembly.nodes[n]!.parent) level++;
  return level;
}

/** Fasteners that stand in or against the chosen components. */
export function fastenedTo(assembly: Assembly, components: readonly Component[], chosen: ReadonlySet<number>): Set<number> {
  const boxes = components.map((c) => componentBox(assembly, c));
  const size = Math.max(1e-9, ...[0, 1, 2].map((k) => Math.max(...boxes.map((b) => b[k + 3]!)) - Math.min(...boxes.map((b) => b[k]!))));
  const near = 5e-4 * size;
  const meet = (a: Box, b: Box) => [0, 1, 2].every((k) => a[k]! <= b[k + 3]! + near && b[k]! <= a[k + 3]! + near);
  const out = new Set<number>();
  for (const c of components) {
    if (chosen.has(c.index) || !isFastener(c, assembly.parts[c.part]!)) continue;
    if ([...chosen].some((x) => meet(boxes[c.index]!, boxes[x]!))) out.add(c.index);
  }
  return out;
}

/** Components that no pull takes off: they have none, or only go along with larger ones. */
export function withoutOwnPull(assembly: Assembly, components: readonly Component[], pulls: readonly Pull[]): Set<number> {
  const partOf = (c: number) => components[c]!.part;
  const moved = new Set<number>();
  const own = new Set<number>();
  for (const pull of pulls) {
    for (const c of takenOff(pull, moved, (c) => assembly.parts[partOf(c)]!.volumeMm3, partOf)) own.add(c);
    for (const c of pull.components) moved.add(c);
  }
  return new Set(components.map((c) => c.index).filter((c) => !own.has(c)));
}
