import type { Assembly, Component } from '../assembly/assembly.ts';
import { uniqueId } from '../assembly/unique-id.ts';
import { componentsOf } from '../assembly/components.ts';
import { applyToPoint } from '../base/placement.ts';
import { dot, subtract } from '../base/vector.ts';
import {
  recordsOf,
  type BalloonRecord,
  type DrawingDocument,
  type ModelRecord,
  type NumbersRecord,
  type PullRecord,
  type SpreadRecord,
} from '../document/records.ts';
import type { Step } from '../document/steps.ts';
import { itemsOf } from '../ledger/items.ts';
import type { Matching } from './match.ts';

/** What lost what it pointed at. */
export interface Loss {
  readonly record: string;
  readonly text: string;
}

export interface TakeOver {
  /** The new assembly; parts that are still there keep their old ids. */
  readonly assembly: Assembly;
  readonly steps: readonly Step[];
  readonly losses: readonly Loss[];
}

export interface TakeOverOptions {
  /** Numbers of items that are gone are given to new ones, lowest first. Default: they are not given again. */
  readonly reuseNumbers?: boolean;
}

/** The new assembly with the ids of the old one where a part is the same. Ids of new parts stay clear of them. */
export function withOldIds(before: Assembly, after: Assembly, matching: Matching): Assembly {
  const oldId = new Map(matching.parts.map((m) => [m.after, before.parts[m.before]!.id]));
  // An id that was once given is not given to something else.
  const taken = new Set(before.parts.map((p) => p.id));
  return {
    ...after,
    parts: after.parts.map((p, i) => {
      const known = oldId.get(i);
      return { ...p, id: known ?? uniqueId(p.id, taken) };
    }),
  };
}

/**
 * The steps that carry a drawing over to a newer model: balloons, kept-whole choices and pulls follow their components;
 * item numbers stay, new items get the next ones, numbers of removed items are not given again. Typed properties stay
 * with their parts by themselves. One edit: its undo brings the old model back.
 * @param model names the new assembly
 */
export function takeOver(
  before: Assembly,
  after: Assembly,
  doc: DrawingDocument,
  matching: Matching,
  model: ModelRecord,
  options: TakeOverOptions = {},
): TakeOver {
  const assembly = withOldIds(before, after, matching);
  const [old, fresh] = [componentsOf(before), componentsOf(assembly)];
  const newPath = new Map(old.map((c): [string, string | undefined] => [c.path, pathAt(fresh, matching.components[c.index]!)]));
  const steps: Step[] = [
    { op: 'put', record: model },
    { op: 'put', record: numbersAfter(before, assembly, doc, options.reuseNumbers ?? false) },
  ];
  const losses: Loss[] = [];
  const nameOf = (path: string) => old.find((c) => c.path === path)?.name ?? path;

  for (const b of recordsOf(doc, 'balloon')) {
    const to = newPath.get(b.component);
    // Another piece of the same item will do.
    const other = to ?? siblingPath(b.component, old, fresh, before, assembly);
    if (other === undefined) losses.push({ record: b.id, text: `A balloon pointed at “${nameOf(b.component)}”, which is gone.` });
    else {
      const anchor = followed(b, old, fresh, before, assembly, doc, other);
      if (other !== b.component || anchor !== b.anchor) steps.push({ op: 'put', record: { ...b, component: other, anchor } });
    }
  }
  for (const v of recordsOf(doc, 'view')) {
    if (!v.cut) continue;
    const kept = v.cut.keptWhole.flatMap((p) => newPath.get(p) ?? []);
    if (kept.join('\n') !== v.cut.keptWhole.join('\n')) steps.push({ op: 'put', record: { ...v, cut: { ...v.cut, keptWhole: kept } } });
  }
  for (const s of recordsOf(doc, 'spread')) {
    const after = spreadAfter(s, newPath);
    if (JSON.stringify(after) !== JSON.stringify(s)) steps.push({ op: 'put', record: after });
    const gone = s.pulls.filter((p) => p.components.every((c) => newPath.get(c) === undefined)).length;
    if (gone) losses.push({ record: s.id, text: `${gone === 1 ? 'One pull' : `${gone} pulls`} of ${s.name} moved nothing but parts that are gone.` });
  }
  return { assembly, steps, losses };
}

/** A spread with the paths of the newer model: what is gone is left out, everything that runs beside it too. */
function spreadAfter(s: SpreadRecord, newPath: ReadonlyMap<string, string | undefined>): SpreadRecord {
  const follow = (paths: readonly string[]) => paths.flatMap((p) => newPath.get(p) ?? []);
  const pulls = s.pulls.flatMap((p): PullRecord[] => {
    const kept = p.components.flatMap((c, k) => {
      const path = newPath.get(c);
      return path === undefined ? [] : [{ path, rank: p.ranks?.[k] ?? 1 }];
    });
    return kept.length ? [{ ...p, components: kept.map((k) => k.path), ...(p.ranks ? { ranks: kept.map((k) => k.rank) } : {}) }] : [];
  });
  const together = s.together?.map(follow).filter((set) => set.length > 1);
  return { ...s, pulls, ...(together ? { together } : {}), ...(s.linesOff ? { linesOff: follow(s.linesOff) } : {}) };
}

const pathAt = (list: readonly Component[], i: number) => (i >= 0 ? list[i]!.path : undefined);

function siblingPath(path: string, old: readonly Component[], fresh: readonly Component[], before: Assembly, after: Assembly): string | undefined {
  const component = old.find((c) => c.path === path);
  const id = component && before.parts[component.part]!.id;
  return fresh.find((c) => after.parts[c.part]!.id === id)?.path;
}

/** Where a leader ends when its component has moved: as far beside the old place as the component's centroid went, in the view. */
function followed(
  b: BalloonRecord,
  old: readonly Component[],
  fresh: readonly Component[],
  before: Assembly,
  after: Assembly,
  doc: DrawingDocument,
  path: string,
): BalloonRecord['anchor'] {
  const [from, to] = [old.find((c) => c.path === b.component), fresh.find((c) => c.path === path)];
  const view = doc[b.view];
  if (!from || !to || view?.type !== 'view') return b.anchor;
  const [p, q] = [applyToPoint(from.placement, before.parts[from.part]!.centroid), applyToPoint(to.placement, after.parts[to.part]!.centroid)];
  const d = subtract(q, p);
  const [dx, dy] = [dot(d, view.right), dot(d, view.up)];
  return Math.hypot(dx, dy) < 1e-6 ? b.anchor : [b.anchor[0] + dx, b.anchor[1] + dy];
}

/** Numbers of the items that are there, and the next ones for those that are new. */
function numbersAfter(before: Assembly, after: Assembly, doc: DrawingDocument, reuse: boolean): NumbersRecord {
  const known = doc['numbers']?.type === 'numbers' ? doc['numbers'] : undefined;
  const now = itemsOf(before, doc);
  const of: Record<string, number> = { ...known?.of };
  for (const i of now) of[i.part] = i.number;
  let last = Math.max(known?.last ?? 0, ...Object.values(of));
  const used = new Set(componentsOf(after).map((c) => after.parts[c.part]!.id));
  if (reuse) for (const id of Object.keys(of)) if (!used.has(id)) delete of[id];
  const taken = new Set(Object.values(of));
  let free = 1;
  const next = (): number => {
    if (!reuse) return ++last;
    while (taken.has(free)) free++;
    taken.add(free);
    last = Math.max(last, free);
    return free;
  };
  for (const id of used) of[id] ??= next();
  return { type: 'numbers', id: 'numbers', of, last };
}
