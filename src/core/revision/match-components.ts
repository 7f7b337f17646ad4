import type { Assembly, Component } from '../assembly/assembly.ts';
import { assign } from '../base/assignment.ts';
import { isStill, motionBetween, type Motion } from './motion.ts';
import type { PartPair } from './part-pair.ts';

/** From this share on, names of occurrences that agree where nothing moved are taken to agree where something did. */
const TRUSTED_NAMES = 0.9;
/** More pieces of one part than this go to the nearest one by one: the best assignment of all would take too long. */
const MOST_ASSIGNED = 400;

/**
 * Which component of the newer model each older one is; -1 where it is gone. Of the pieces of one part those go together
 * that stand at the same place; then those whose occurrences have the same name, where such names prove to be kept from
 * one file to the other; then so that the pieces move least altogether. The order in the file says nothing.
 */
export function matchComponents(
  before: Assembly,
  after: Assembly,
  old: readonly Component[],
  fresh: readonly Component[],
  parts: readonly PartPair[],
): number[] {
  const out = old.map(() => -1);
  const named = { before: occurrencePaths(before), after: occurrencePaths(after) };
  const nameOf = { before: (i: number) => named.before[old[i]!.node]!, after: (j: number) => named.after[fresh[j]!.node]! };
  const groups = parts.map((pair) => {
    const part = before.parts[pair.before]!;
    const motion = (i: number, j: number): Motion => motionBetween(old[i]!.placement, fresh[j]!.placement, part, pair.shift);
    return {
      motion,
      before: old.flatMap((c) => (c.part === pair.before ? [c.index] : [])),
      after: fresh.flatMap((c) => (c.part === pair.after ? [c.index] : [])),
    };
  });
  const taken = new Set<number>();
  const take = (i: number, j: number) => {
    out[i] = j;
    taken.add(j);
  };
  let [agree, seen] = [0, 0];
  for (const g of groups)
    for (const i of g.before) {
      const still = g.after.filter((j) => !taken.has(j) && isStill(g.motion(i, j)));
      const j = still.find((k) => nameOf.after(k) === nameOf.before(i)) ?? still[0];
      if (j === undefined) continue;
      take(i, j);
      if (g.before.length === 1 || !nameOf.before(i)) continue;
      seen++;
      if (nameOf.before(i) === nameOf.after(j)) agree++;
    }
  // Where everything moved nothing proves them: names that are mere numbers follow the order in the file.
  const trusted = (name: string) => name !== '' && (seen > 0 ? agree >= TRUSTED_NAMES * seen : !/\d+$/.test(name));
  for (const g of groups) {
    const open = () => ({ before: g.before.filter((i) => out[i]! < 0), after: g.after.filter((j) => !taken.has(j)) });
    const byName = new Map<string, number[]>();
    for (const j of open().after) byName.set(nameOf.after(j), [...(byName.get(nameOf.after(j)) ?? []), j]);
    const once = new Map<string, number>();
    for (const i of open().before) once.set(nameOf.before(i), (once.get(nameOf.before(i)) ?? 0) + 1);
    for (const i of open().before) {
      const name = nameOf.before(i);
      const same = byName.get(name);
      if (trusted(name) && once.get(name) === 1 && same?.length === 1) take(i, same[0]!);
    }
    const rest = open();
    for (const [i, j] of nearest(rest.before, rest.after, g.motion)) take(i, j);
  }
  return out;
}

/** Pairs that move least altogether: squares, so that a row that moved as a whole is not taken for one piece that jumped. */
function nearest(before: readonly number[], after: readonly number[], motion: (i: number, j: number) => Motion): (readonly [number, number])[] {
  if (before.length === 0 || after.length === 0) return [];
  const cost = (i: number, j: number) => {
    const m = motion(i, j);
    // What turns counts a little: of two at one distance the one that did not turn.
    return m.mm ** 2 + (m.degrees / 180) ** 2 + (m.mirrored ? 1e6 : 0);
  };
  if (Math.max(before.length, after.length) > MOST_ASSIGNED) {
    const free = new Set(after);
    return before.flatMap((i): (readonly [number, number])[] => {
      let [best, least] = [-1, Infinity];
      for (const j of free) if (cost(i, j) < least) [best, least] = [j, cost(i, j)];
      free.delete(best);
      return best < 0 ? [] : [[i, best]];
    });
  }
  if (before.length <= after.length) {
    const columns = assign(before.map((i) => after.map((j) => cost(i, j))));
    return before.map((i, k) => [i, after[columns[k]!]!] as const);
  }
  const rows = assign(after.map((j) => before.map((i) => cost(i, j))));
  return after.map((j, k) => [before[rows[k]!]!, j] as const);
}

/** What the file calls each node, with what it calls those above; empty where it says nothing of the node itself. */
function occurrencePaths(assembly: Assembly): string[] {
  const above: string[] = [];
  return assembly.nodes.map((n, i) => {
    above[i] = `${n.parent < 0 ? '' : above[n.parent]!}/${n.occurrence ?? n.name}`;
    return n.occurrence !== undefined && n.occurrence !== n.product ? above[i] : '';
  });
}
