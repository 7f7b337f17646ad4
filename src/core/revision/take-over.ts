import type { Assembly, Component } from '../assembly/assembly.ts';
import { uniqueId } from '../assembly/unique-id.ts';
import { componentsOf } from '../assembly/components.ts';
import { applyToPoint } from '../base/placement.ts';
import { dot, subtract } from '../base/vector.ts';
import type { BalloonRecord, DrawingDocument, ModelRecord, NumbersRecord, SpreadRecord } from '../document/records.ts';
import { followed } from '../document/refs.ts';
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

  for (const r of Object.values(doc)) {
    const { record, stale } = followed(r, (reference, value) => {
      if (reference.to !== 'path') return value;
      const to = newPath.get(value);
      // What only points at a component may point at another piece of the same item.
      return to ?? (reference.whenGone === 'stale' ? siblingPath(value, old, fresh, before, assembly) : undefined);
    });
    for (const path of stale) losses.push({ record: r.id, text: `A ${r.type} pointed at “${nameOf(path)}”, which is gone.` });
    if (!record || stale.length) continue;
    const next = record.type === 'balloon' ? aimedAgain(record, r as BalloonRecord, old, fresh, before, assembly, doc) : record;
    if (next !== r) steps.push({ op: 'put', record: next });
    if (r.type === 'spread') {
      const gone = r.pulls.length - (record as SpreadRecord).pulls.length;
      if (gone) losses.push({ record: r.id, text: `${gone === 1 ? 'One pull' : `${gone} pulls`} of ${r.name} moved nothing but parts that are gone.` });
    }
  }
  return { assembly, steps, losses };
}

const pathAt = (list: readonly Component[], i: number) => (i >= 0 ? list[i]!.path : undefined);

function siblingPath(path: string, old: readonly Component[], fresh: readonly Component[], before: Assembly, after: Assembly): string | undefined {
  const component = old.find((c) => c.path === path);
  const id = component && before.parts[component.part]!.id;
  return fresh.find((c) => after.parts[c.part]!.id === id)?.path;
}

/** The leader of a balloon whose component has moved ends as far beside the old place as the component's centroid went, in the view. */
function aimedAgain(
  to: BalloonRecord,
  from: BalloonRecord,
  old: readonly Component[],
  fresh: readonly Component[],
  before: Assembly,
  after: Assembly,
  doc: DrawingDocument,
): BalloonRecord {
  const [was, is] = [old.find((c) => c.path === from.component), fresh.find((c) => c.path === to.component)];
  const view = doc[to.view];
  if (!was || !is || view?.type !== 'view') return to;
  const [p, q] = [applyToPoint(was.placement, before.parts[was.part]!.centroid), applyToPoint(is.placement, after.parts[is.part]!.centroid)];
  const d = subtract(q, p);
  const [dx, dy] = [dot(d, view.right), dot(d, view.up)];
  return Math.hypot(dx, dy) < 1e-6 ? to : { ...to, anchor: [to.anchor[0] + dx, to.anchor[1] + dy] };
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
