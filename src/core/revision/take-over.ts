import { changeOf, shifted } from '../../elements/change.ts';
import { isElement, kindOf } from '../../elements/kinds.ts';
import type { Assembly, Component } from '../assembly/assembly.ts';
import { uniqueId } from '../assembly/unique-id.ts';
import { componentsOf } from '../assembly/components.ts';
import { applyToPoint } from '../base/placement.ts';
import { dot, subtract, type Vec2 } from '../base/vector.ts';
import { recordsOf, type DrawingDocument, type DrawingDocumentRecord, type ModelRecord, type NumbersRecord, type SpreadRecord } from '../document/records.ts';
import type { EdgeReference, FaceReference } from '../document/fields.ts';
import type { Finder } from './edges.ts';
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
  /** Which edge or face of the newer geometry one of the older geometry is; without it those of changed parts are lost. */
  readonly edges?: Finder;
  readonly faces?: Finder;
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

  const oldAt = new Map(old.map((c) => [c.path, c]));
  const freshAt = new Map(fresh.map((c) => [c.path, c]));
  // What only points at a component may point at another piece of the same item.
  const target = (path: string) => newPath.get(path) ?? siblingPath(path, old, fresh, before, assembly);
  /** How far the centroid of a component went, in a view. */
  const shift = (id: string, path: string): Vec2 | undefined => {
    const [view, was, is] = [doc[id], oldAt.get(path), freshAt.get(target(path) ?? '')];
    if (view?.type !== 'view' || !was || !is) return undefined;
    const [p, q] = [applyToPoint(was.placement, before.parts[was.part]!.centroid), applyToPoint(is.placement, assembly.parts[is.part]!.centroid)];
    const d = subtract(q, p);
    const by = [dot(d, view.right), dot(d, view.up)] as const;
    return Math.hypot(...by) < 1e-6 ? undefined : by;
  };
  const moved = changeOf({ point: shifted(shift, () => 1).point });
  /** The same edge or face of the same component, or of another piece of its item, in its newer shape. */
  const refound = (r: EdgeReference | FaceReference, index: number, find: Finder | undefined) => {
    const [was, is] = [oldAt.get(r.component), freshAt.get(target(r.component) ?? '')];
    if (!was || !is || r.lost) return undefined;
    const [from, to] = [before.parts[was.part]!.geometryKey, assembly.parts[is.part]!.geometryKey];
    const found = from !== r.geometry ? undefined : from === to ? index : find?.(from, to, index);
    return found === undefined ? undefined : { component: is.path, geometry: to, index: found };
  };
  const edge = (e: EdgeReference): EdgeReference | undefined => {
    const found = refound(e, e.edge, options.edges);
    return found && { component: found.component, geometry: found.geometry, edge: found.index };
  };
  const face = (f: FaceReference): FaceReference | undefined => {
    const found = refound(f, f.face, options.faces);
    return found && { component: found.component, geometry: found.geometry, face: found.index };
  };
  for (const r of Object.values(doc)) {
    const { record, stale } = followed((isElement(r) && kindOf(r).follow?.(r, moved)) || r, {
      path: (path, { whenGone }) => (whenGone === 'stale' ? target(path) : newPath.get(path)),
      edge,
      face,
    });
    for (const path of stale)
      losses.push({
        record: r.id,
        text:
          target(path) === undefined
            ? `A ${titleOf(r)} pointed at “${nameOf(path)}”, which is gone.`
            : `A ${titleOf(r)} lost its edge of “${nameOf(path)}”, which has another shape now.`,
      });
    // A component that is gone leaves its path: the next model may bring it back.
    const same = record === r || (stale.length > 0 && r.type === 'balloon');
    if (record && !same) steps.push({ op: 'put', record });
    if (r.type === 'spread') {
      const gone = r.pulls.length - (record as SpreadRecord).pulls.length;
      if (gone) losses.push({ record: r.id, text: `${gone === 1 ? 'One pull' : `${gone} pulls`} of ${r.name} moved nothing but parts that are gone.` });
    }
  }
  return { assembly, steps, losses };
}

const titleOf = (r: DrawingDocumentRecord) => (isElement(r) ? kindOf(r).title : r.type);

const pathAt = (list: readonly Component[], i: number) => (i >= 0 ? list[i]!.path : undefined);

function siblingPath(path: string, old: readonly Component[], fresh: readonly Component[], before: Assembly, after: Assembly): string | undefined {
  const component = old.find((c) => c.path === path);
  const id = component && before.parts[component.part]!.id;
  return fresh.find((c) => after.parts[c.part]!.id === id)?.path;
}

/** Numbers of the items that are there, and the next ones for those that are new. */
function numbersAfter(before: Assembly, after: Assembly, doc: DrawingDocument, reuse: boolean): NumbersRecord {
  const known = doc['numbers']?.type === 'numbers' ? doc['numbers'] : undefined;
  const now = itemsOf(before, doc);
  const of: Record<string, number> = { ...known?.of };
  for (const i of now) if (!i.unnumbered) of[i.part] = i.number;
  let last = Math.max(known?.last ?? 0, ...Object.values(of));
  // Rows of one's own are of no model, and stay.
  const used = new Set([...componentsOf(after).map((c) => after.parts[c.part]!.id), ...recordsOf(doc, 'row').map((r) => r.id)]);
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
  return { ...(known ?? { type: 'numbers', id: 'numbers' }), of, last };
}
