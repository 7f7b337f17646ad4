import { shifted } from '../../elements/change.ts';
import { followAll } from '../../elements/follow.ts';
import type { Assembly, Component } from '../assembly/assembly.ts';
import { applyToPoint, combine } from '../base/placement.ts';
import { dot, scale, subtract, type Vec2, type Vec3 } from '../base/vector.ts';
import { without } from '../base/without.ts';
import { recordsOf, type DrawingDocument, type PullRecord, type SpreadRecord, type ViewRecord } from '../document/records.ts';
import type { Step } from '../document/steps.ts';
import { pullRecord, pullsOf } from './records.ts';
import { motionsOf, type Pull } from './spread.ts';

/**
 * The steps that change a spread: what points at components of the views that show it goes along.
 * @param after the spread as it shall be
 */
export function changeSpread(doc: DrawingDocument, assembly: Assembly, components: readonly Component[], after: SpreadRecord): Step[] {
  const before = doc[after.id];
  const steps: Step[] = [{ op: 'put', record: after }];
  const was = motionsOf(before?.type === 'spread' ? pullsOf(before, components) : [], components.length);
  const is = motionsOf(pullsOf(after, components), components.length);
  return [...steps, ...along(doc, assembly, components, viewsShowing(doc, after.id), was, is)];
}

/** The steps that make a view show a spread, or none. */
export function showSpread(doc: DrawingDocument, assembly: Assembly, components: readonly Component[], view: ViewRecord, spread: string | null): Step[] {
  const motions = (id: string | null) => {
    const s = id === null ? undefined : doc[id];
    return motionsOf(s?.type === 'spread' ? pullsOf(s, components) : [], components.length);
  };
  const record: ViewRecord = { ...view, spread, pullLines: spread !== null };
  return [{ op: 'put', record }, ...along(doc, assembly, components, [view], motions(view.spread), motions(spread))];
}

export const viewsShowing = (doc: DrawingDocument, spread: string): ViewRecord[] => recordsOf(doc, 'view').filter((v) => v.spread === spread);

/** What points at components of the views goes along with them. */
function along(
  doc: DrawingDocument,
  assembly: Assembly,
  components: readonly Component[],
  views: readonly ViewRecord[],
  was: readonly (readonly number[])[],
  is: readonly (readonly number[])[],
): Step[] {
  const byPath = new Map(components.map((c) => [c.path, c]));
  const byId = new Map(views.map((v) => [v.id, v]));
  const shift = (id: string, path: string): Vec2 | undefined => {
    const [view, c] = [byId.get(id), byPath.get(path)];
    if (!view || !c) return undefined;
    const middle = assembly.parts[c.part]!.centroid;
    const at = (m: readonly number[]) => applyToPoint(combine(m, c.placement), middle);
    const d = subtract(at(is[c.index]!), at(was[c.index]!));
    const by = [dot(d, view.right), dot(d, view.up)] as const;
    return Math.hypot(...by) < 1e-9 ? undefined : by;
  };
  return followAll(
    doc,
    shifted(shift, (id) => byId.get(id)!.scale),
  );
}

/** A pull for each item that moves in a pull; they go the same way. */
export function splitPull(pull: PullRecord, itemOf: (path: string) => string): PullRecord[] {
  const groups = new Map<string, string[]>();
  for (const path of pull.components) groups.set(itemOf(path), [...(groups.get(itemOf(path)) ?? []), path]);
  const rest = without(without(pull, 'ranks'), 'name');
  return [...groups.values()].map((components) => ({ ...rest, components }));
}

/** Two pulls as one, in the direction and over the distance of the first. */
export function mergePulls(first: PullRecord, second: PullRecord): PullRecord {
  return { ...without(first, 'ranks'), components: [...new Set([...first.components, ...second.components])] };
}

/**
 * The same pull on the other side of a plane through a point: components are those that stand where the mirror image
 * of each would be. @returns undefined when there are none
 * @param normal of the plane, unit vector
 */
export function mirroredPull(pull: PullRecord, assembly: Assembly, components: readonly Component[], normal: Vec3, through: Vec3): PullRecord | undefined {
  const reflect = (p: Vec3): Vec3 => subtract(p, scale(normal, 2 * dot(subtract(p, through), normal)));
  const turn = (d: Vec3): Vec3 => subtract(d, scale(normal, 2 * dot(d, normal)));
  const middle = (c: Component) => applyToPoint(c.placement, assembly.parts[c.part]!.centroid);
  const size = Math.cbrt(Math.max(...assembly.parts.map((p) => p.volumeMm3), 1));
  const found = pull.components.flatMap((path) => {
    const c = components.find((x) => x.path === path);
    if (!c) return [];
    const want = reflect(middle(c));
    const nearest = components
      .filter((x) => Math.abs(assembly.parts[x.part]!.volumeMm3 / assembly.parts[c.part]!.volumeMm3 - 1) < 0.01 && x.index !== c.index)
      .map((x) => ({ x, away: Math.hypot(...subtract(middle(x), want)) }))
      .sort((a, b) => a.away - b.away)[0];
    return nearest && nearest.away < 0.05 * size ? [nearest.x.path] : [];
  });
  if (found.length === 0) return undefined;
  const turning = pull.turn;
  // A turn seen in a mirror turns the other way.
  const other = turning && { axis: scale(turn(turning.axis), -1), through: reflect(turning.through), angle: turning.angle };
  return { ...without(without(pull, 'turn'), 'ranks'), components: found, direction: turn(pull.direction), ...(other ? { turn: other } : {}) };
}

/**
 * A plan of the whole, put into a spread that has some pulls already: only what takes off the given components is taken
 * from it, each where its turn comes.
 * @param planned pulls of the whole plan
 * @param order components in the order they come off in that plan
 * @param rest components that have no pull yet, as indices
 */
export function insertPlanned(
  existing: readonly PullRecord[],
  planned: readonly Pull[],
  order: readonly number[],
  rest: ReadonlySet<number>,
  components: readonly Component[],
): PullRecord[] {
  const rank = new Map(order.map((c, i) => [components[c]!.path, i]));
  const moved = new Set<number>();
  const out = [...existing];
  for (const pull of planned) {
    const fresh = pull.components.filter((c) => !moved.has(c));
    const own = (fresh.length ? fresh : pull.components).filter((c) => rest.has(c));
    for (const c of pull.components) moved.add(c);
    if (own.length === 0) continue;
    const record = pullRecord({ ...pull, components: own }, components);
    const turn = Math.max(...record.components.map((c) => rank.get(c) ?? 0));
    const before = new Set<string>();
    // What only goes along with a pull does not tell when it is made.
    const at = out.findIndex((p) => {
      const lead = p.components.filter((c) => !before.has(c));
      for (const c of p.components) before.add(c);
      return Math.min(...(lead.length ? lead : p.components).map((c) => rank.get(c) ?? Infinity)) > turn;
    });
    out.splice(at < 0 ? out.length : at, 0, record);
  }
  return out;
}

/**
 * Steps that change a spread and give a view that shows it another scale and place. Leaders keep their length and slant
 * on paper: balloons go along with what they point at.
 * @param to scale, a point of view space (model mm), and where it lies on the sheet (mm, y down)
 */
export function fitView(
  doc: DrawingDocument,
  assembly: Assembly,
  components: readonly Component[],
  after: SpreadRecord,
  view: ViewRecord,
  to: Pick<ViewRecord, 'scale' | 'pivot' | 'at'>,
): Step[] {
  const onPaper = (v: Pick<ViewRecord, 'scale' | 'pivot'>, anchor: readonly [number, number]) =>
    [(anchor[0] - v.pivot[0]) * v.scale, -(anchor[1] - v.pivot[1]) * v.scale] as const;
  const steps = changeSpread(doc, assembly, components, after);
  const moved = new Map(steps.flatMap((s) => (s.op === 'put' && s.record.type === 'balloon' ? [[s.record.id, s.record] as const] : [])));
  const balloons = recordsOf(doc, 'balloon').filter((b) => b.view === view.id);
  return [
    ...steps.filter((s) => s.op !== 'put' || s.record.type !== 'balloon' || s.record.view !== view.id),
    { op: 'put', record: { ...view, ...to } },
    ...balloons.map((b): Step => {
      const now = moved.get(b.id) ?? b;
      const [was, is] = [onPaper(view, b.anchor), onPaper(to, now.anchor)];
      return { op: 'put', record: { ...now, offset: [is[0] + b.offset[0] - was[0], is[1] + b.offset[1] - was[1]] } };
    }),
  ];
}
