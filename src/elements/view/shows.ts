import { without } from '../../core/base/without.ts';
import type { Step } from '../../core/document/steps.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { allowedOn } from '../place.ts';
import type { Scene } from '../scene.ts';
import { boxFromParts } from './extent.ts';
import { moveView } from './move.ts';

/** Paths of components that belong together and can be chosen for a view by one name. */
export interface ComponentGroup {
  readonly title: string;
  readonly paths: readonly string[];
}

/** Made, bought, standard …: what the ledger says of where items come from. */
export function groupsBySource(scene: Scene): ComponentGroup[] {
  const groups = new Map<string, string[]>();
  for (const item of scene.items) {
    const source = item.values.source.text || 'source not known';
    groups.set(source, [...(groups.get(source) ?? []), ...item.components.map((c) => scene.components[c]!.path)]);
  }
  return [...groups].map(([title, paths]) => ({ title, paths }));
}

/** Sub-assemblies of the model, each occurrence by itself, in the order of the tree. */
export function groupsByAssembly(scene: Scene): ComponentGroup[] {
  const { nodes } = scene.assembly;
  const below = new Map<number, string[]>();
  for (const c of scene.components) for (let n = nodes[c.node]!.parent; n >= 0; n = nodes[n]!.parent) below.set(n, [...(below.get(n) ?? []), c.path]);
  const names = new Map<string, number>();
  return [...below]
    .filter(([n, paths]) => nodes[n]!.parent >= 0 && paths.length < scene.components.length)
    .sort(([a], [b]) => a - b)
    .map(([n, paths]) => {
      const { name } = nodes[n]!;
      const count = (names.get(name) ?? 0) + 1;
      names.set(name, count);
      return { title: count > 1 ? `${name}, ${count}` : name, paths };
    });
}

/** The view with a choice of components: only these, all but these, or everything. */
export function showing(view: ViewRecord, choice: 'all' | 'only' | 'without', paths: readonly string[] = []): ViewRecord {
  return choice === 'all' ? without(view, 'shows') : { ...view, shows: { only: choice === 'only', of: [...paths] } };
}

/** Does a view show a component, by its choice? */
export const isShown = (view: Pick<ViewRecord, 'shows'>, path: string): boolean => !view.shows || view.shows.of.includes(path) === view.shows.only;

/** The view with components hidden, or shown again. */
export function withShown(view: ViewRecord, scene: Scene, paths: readonly string[], on: boolean): ViewRecord {
  const these = new Set(paths);
  const left = scene.components.map((c) => c.path).filter((p) => (these.has(p) ? !on : !isShown(view, p)));
  return left.length ? showing(view, 'without', left) : showing(view, 'all');
}

/** The view with components faint, or no longer. */
export function withFaint(view: ViewRecord, paths: readonly string[], on: boolean): ViewRecord {
  const these = new Set(paths);
  const faint = [...(view.faint ?? []).filter((p) => !these.has(p)), ...(on ? paths : [])];
  return faint.length ? { ...view, faint } : without(view, 'faint');
}

/**
 * The steps of another choice of components: the view stays where it is by its middle, and inside the frame where it fits there; what
 * is in line with it goes along. One that is in line itself moves along its line only.
 */
export function chosenSteps(scene: Scene, view: ViewRecord, changed: ViewRecord): Step[] {
  const put: Step = { op: 'put', record: changed };
  if (view.detail || view.within) return [put];
  const before = boxFromParts(scene, view, view);
  const after = boxFromParts(scene, changed, changed);
  const k = view.scale;
  /** From a view's place to the middle of what it shows, paper mm. */
  const middle = (b: readonly number[]) => [((b[0]! + b[2]!) / 2 - view.pivot[0]) * k, -((b[1]! + b[3]!) / 2 - view.pivot[1]) * k] as const;
  const [was, is] = [middle(before), middle(after)];
  const allowed = allowedOn(scene, view.sheet);
  const inside = (at: number, size: number, from: number, room: number) => (size > room ? at : Math.min(from + room - size / 2, Math.max(from + size / 2, at)));
  const wanted = [
    inside(view.at[0] + was[0], (after[2] - after[0]) * k, allowed.x, allowed.width),
    inside(view.at[1] + was[1], (after[3] - after[1]) * k, allowed.y, allowed.height),
  ] as const;
  const held = view.parent ? view.align : null;
  const dx = held === 'upright' ? 0 : wanted[0] - view.at[0] - is[0];
  const dy = held === 'level' ? 0 : wanted[1] - view.at[1] - is[1];
  const moved = moveView({ ...scene.document, [view.id]: changed }, view.id, dx, dy);
  return moved.length ? moved : [put];
}
