import { add, dot, scale, subtract, type Vec2, type Vec3 } from '../../core/base/vector.ts';
import { applyToPoint } from '../../core/base/placement.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { axesOf, kindOfAxis, type Axis, type OnAxis, type PlacedFeatures } from '../../core/features/axes.ts';
import { isWhole } from '../../core/features/part-features.ts';
import { isHolding } from '../../core/assembly/role.ts';
import type { Scene } from '../scene.ts';
import { viewReach, type Target } from '../target.ts';
import { circlesOf, edgeOf } from '../centre/circles.ts';
import { measured, type DimensionRecord } from './measure.ts';
import { placeRows } from './rows.ts';

/** More axes of one direction than this are a machine's inside, not its connections. */
const MOST_AXES = 6;
/** Shafts thinner than this on paper are small parts, mm. */
const LEAST_PAPER_MM = 2;
/** … and so are those so much thinner than the thickest. */
const SMALL_SHARE = 0.15;
/** Distances shorter than this on paper say nothing, mm. */
const LEAST_STRETCH_MM = 3;
/** Distances that are so much longer one way are measured that way. */
const FLAT = 2;
/** Positions closer than this are one, mm. */
const ONE_MM = 0.01;

export type Draft = Pick<DimensionRecord, 'view' | 'kind' | 'of'> & Pick<Partial<DimensionRecord>, 'text' | 'row' | 'turn'>;

/**
 * What an arrangement says of sizes (common practice): overall length, width and height; distances of its shafts; heights of
 * level axes over the base; holes by which the whole is fixed. Nothing twice over all views, each in the view that shows it
 * best, beside the view where there is room.
 * @param views in which dimensions may stand, the most telling one first; whatever cannot carry them is passed over
 * @param freshId an id for the n-th dimension
 */
export function proposeDimensions(scene: Scene, views: readonly ViewRecord[], freshId: (n: number) => string): DimensionRecord[] {
  const fit = views.filter((v) => carries(scene, v));
  return recordsOf([...overall(scene, fit), ...shafts(scene, fit), ...fixings(scene, fit)], scene, freshId);
}

/** Gives drafts their lines; what says nothing new, or finds no room, is left out. */
export function recordsOf(drafts: readonly Draft[], scene: Scene, freshId: (n: number) => string): DimensionRecord[] {
  const records: DimensionRecord[] = [];
  const known = new Set(scene.all('dimension').flatMap((d) => keysOf(d, scene)));
  for (const d of drafts) {
    const record: DimensionRecord = { type: 'dimension', id: freshId(records.length), away: 0, ...d };
    const keys = keysOf(record, scene);
    if (!keys.length || keys.every((k) => known.has(k))) continue;
    for (const k of keys) known.add(k);
    records.push(record);
  }
  return placeRows(records, scene).map((r) => ({ ...r, seen: (measured(r, scene) ?? []).map((m) => m.value) }));
}

/** Plain views along a main direction of the model: what is measured in them is true. */
export function carries(scene: Scene, v: ViewRecord): boolean {
  const seen = scene.seenAs(v);
  return (
    !v.off &&
    !v.detail &&
    !v.within &&
    !seen.spread &&
    !seen.cut &&
    !v.second &&
    v.toward.some((x) => Math.abs(x) > 1 - 1e-6) &&
    scene.result(v.id) !== undefined
  );
}

/** Where a dimension lies in the model, so that none says what another one says. */
export function keysOf(d: DimensionRecord, scene: Scene): string[] {
  const view = scene.one('view', d.view);
  const all = view && measured(d, scene);
  if (!view || !all) return [];
  const round = (v: number) => Math.round(v / ONE_MM) * ONE_MM + 0;
  return all.map((m) => {
    if (m.shape !== 'stretch') return `${m.kind} ${round(m.value)} ${m.shape === 'round' ? modelPoint(view, m.centre).map(round).join() : ''}`;
    const way = direction(view, m.along);
    const ends = [m.from, m.to].map((p) => round(dot(modelPoint(view, p), way)) * Math.sign(leadOf(way))).sort((a, b) => a - b);
    return `${way.map((v) => Math.round(v * Math.sign(leadOf(way)) * 1e4) + 0).join()} ${ends.join()}`;
  });
}

const leadOf = (v: Vec3) => v.find((x) => Math.abs(x) > 1e-6) ?? 1;
const direction = (view: ViewRecord, [x, y]: Vec2): Vec3 => add(scale(view.right, x), scale(view.up, y));
const modelPoint = (view: ViewRecord, at: Vec2): Vec3 => direction(view, at);

/** Length, width and height: each once, in the first view that shows it. */
export function overall(scene: Scene, views: readonly ViewRecord[]): Draft[] {
  const out: Draft[] = [];
  const done = new Set<string>();
  for (const v of views) {
    const round = roundWhole(scene, v);
    const [across, upwards] = [wayOf(v.right), wayOf(v.up)];
    if (!round || done.has(across) || done.has(upwards)) continue;
    done.add(across).add(upwards);
    out.push({ view: v.id, kind: 'diameter', of: [round], turn: Math.PI / 4 });
  }
  for (const v of views) {
    const box = viewReach(scene, v);
    if (!box) continue;
    for (const [kind, way, sides] of [
      ['level', v.right, ['left', 'right']],
      ['upright', v.up, ['bottom', 'top']],
    ] as const) {
      const axis = wayOf(way);
      if (done.has(axis)) continue;
      done.add(axis);
      const middle: Vec2 = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2];
      const at = (side: string): Vec2 =>
        side === 'left' ? [box[0], middle[1]] : side === 'right' ? [box[2], middle[1]] : side === 'bottom' ? [middle[0], box[1]] : [middle[0], box[3]];
      out.push({ view: v.id, kind, of: sides.map((side): Target => ({ side, at: at(side) })) });
    }
  }
  return out;
}

/** A direction, whichever way along it. */
function wayOf(v: Vec3): string {
  const k = Math.sign(leadOf(v));
  return v.map((x) => Math.round(x * k * 1e4) + 0).join();
}

/** What is as wide as it is high because it is round has a diameter. */
function roundWhole(scene: Scene, view: ViewRecord): Target | undefined {
  const box = viewReach(scene, view);
  if (!box) return undefined;
  const [x, y, r] = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2, (box[2] - box[0]) / 2];
  if (Math.abs(box[3] - box[1] - 2 * r) > ONE_MM) return undefined;
  const rim = circlesOf(scene.result(view.id)!).find((c) => c.edge >= 0 && Math.abs(c.radius - r) < ONE_MM && Math.hypot(c.x - x, c.y - y) < ONE_MM);
  const edge = rim && edgeOf(scene, view, rim);
  return edge && { edge, at: [rim.x, rim.y] };
}

/** Every component's features in the assembled model. */
function placedFeatures(scene: Scene): PlacedFeatures[] {
  return scene.components.flatMap((c) => {
    const features = scene.features(c.index);
    return features ? [{ component: c.index, features, placement: c.placement }] : [];
  });
}

/** Holds others together; a pin may as well carry a wheel. */
const holds = (scene: Scene, c: number): boolean => isHolding(scene.components[c]!, scene.assembly.parts[scene.components[c]!.part]!);

/**
 * Axes of shafts: a round component that is no fastener, in a hole of another one. What is held by nuts at both ends and
 * carries nothing that turns (a wheel, a drum, a bush: bored, and round outside about the same axis) is a tie rod: those are
 * meant only where there is nothing else.
 */
function mainAxes(scene: Scene, all: readonly Axis[]): Axis[] {
  const componentsOn = (a: Axis, inward: boolean) => new Set(a.on.filter((o) => o.inward === inward && !holds(scene, o.component)).map((o) => o.component));
  const shafts = all.filter((a) => {
    const [round, bored] = [componentsOn(a, false), componentsOn(a, true)];
    return [...round].some((s) => [...bored].some((h) => h !== s));
  });
  const meant = shafts.filter((a) => {
    const [round, bored] = [componentsOn(a, false), componentsOn(a, true)];
    const turns = [...bored].some((c) => round.has(c)) && round.size > 1;
    const nuts = new Set(a.on.filter((o) => o.inward && holds(scene, o.component)).map((o) => o.component));
    return turns || nuts.size < 2;
  });
  return meant.length ? meant : shafts;
}

/** What the whole stands on: the lowest component that is no fastener. */
function baseOf(scene: Scene, all: readonly PlacedFeatures[]): { readonly component: number; readonly z: number } | undefined {
  let best: { component: number; z: number } | undefined;
  for (const p of all) {
    const z = lowest(p);
    if (!holds(scene, p.component) && (!best || z < best.z - ONE_MM)) best = { component: p.component, z };
  }
  return best;
}

/** Heights of level axes over the base, and distances from axis to axis. */
function shafts(scene: Scene, views: readonly ViewRecord[]): Draft[] {
  const out: Draft[] = [];
  const groups = new Map<string, Axis[]>();
  const all = placedFeatures(scene);
  const base = baseOf(scene, all);
  for (const a of mainAxes(scene, axesOf(all))) {
    const key = a.way.map((v) => Math.round(v * 1e4)).join();
    groups.set(key, [...(groups.get(key) ?? []), a]);
  }
  for (const group of groups.values()) {
    const way = group[0]!.way;
    const endOn = views.find((v) => Math.abs(dot(v.toward, way)) > 1 - 1e-6);
    const along = views.find((v) => Math.abs(dot(v.up, way)) < 1e-6 && Math.abs(v.up[2]) > 1 - 1e-6 && Math.abs(dot(v.toward, way)) < 1e-6);
    const view = endOn ?? along;
    if (!view) continue;
    const widest = Math.max(...group.map(radiusOf));
    const wide = group.filter((a) => 2 * radiusOf(a) * view.scale >= LEAST_PAPER_MM && radiusOf(a) >= SMALL_SHARE * widest);
    const shown = wide.sort((a, b) => radiusOf(b) - radiusOf(a)).slice(0, MOST_AXES);
    const targets = shown.flatMap((axis) => {
      const target = targetOn(scene, view, axis);
      return target ? [{ axis, target }] : [];
    });
    const box = viewReach(scene, view);
    if (Math.abs(way[2]) < 1e-6 && Math.abs(view.up[2]) > 1 - 1e-6 && box) {
      const heights = distinct(targets, (t) => dot(t.axis.foot, view.up));
      const ground: Target = {
        side: 'bottom',
        at: [(box[0] + box[2]) / 2, base?.z ?? box[1]],
        ...(base ? { of: scene.components[base.component]!.path } : {}),
      };
      for (const { target } of heights) out.push({ view: view.id, kind: 'upright', of: [ground, target] });
    }
    if (!endOn) continue;
    const inRow = [...targets].sort((a, b) => dot(subtract(a.axis.foot, b.axis.foot), endOn.right) || dot(subtract(a.axis.foot, b.axis.foot), endOn.up));
    for (let i = 1; i < inRow.length; i++) {
      const d = subtract(inRow[i]!.axis.foot, inRow[i - 1]!.axis.foot);
      const [dx, dy] = [Math.abs(dot(d, endOn.right)), Math.abs(dot(d, endOn.up))];
      if (Math.hypot(dx, dy) * endOn.scale < LEAST_STRETCH_MM) continue;
      // Where one way is much the longer the other is in the heights; wheels that mesh are measured straight across.
      const kind = dx > FLAT * dy ? 'level' : dy > FLAT * dx ? 'upright' : 'aligned';
      out.push({ view: endOn.id, kind, of: [inRow[i - 1]!.target, inRow[i]!.target], text: { after: 'C-C' } });
    }
  }
  return out;
}

const radiusOf = (a: Axis): number => Math.max(...a.on.map((o) => o.radius));

/** Of several that measure the same only the first. */
function distinct<T>(list: readonly T[], value: (t: T) => number): T[] {
  const seen: number[] = [];
  return list.filter((t) => {
    const v = value(t);
    if (seen.some((s) => Math.abs(s - v) < ONE_MM)) return false;
    seen.push(v);
    return true;
  });
}

/** What a dimension takes hold of for an axis: of the round surfaces on it the largest that the view shows. */
function targetOn(scene: Scene, view: ViewRecord, axis: Axis): Target | undefined {
  const visible = new Set(scene.result(view.id)!.lines.component);
  const on = axis.on.filter((o) => visible.has(o.component)).sort((a, b) => b.radius - a.radius)[0];
  return on && faceTarget(scene, view, on, axis);
}

function faceTarget(scene: Scene, view: ViewRecord, on: OnAxis, axis: Axis): Target {
  const component = scene.components[on.component]!;
  const round = scene.features(on.component)!.rounds[on.round]!;
  const middle = add(axis.foot, scale(axis.way, (on.from + on.to) / 2));
  const geometry = scene.assembly.parts[component.part]!.geometryKey;
  return { face: { component: component.path, geometry, face: round.faces[0]! }, at: [dot(middle, view.right), dot(middle, view.up)] };
}

/**
 * Empty holes that go up through what the whole stands on: their distances and, once for those of one size, how many there
 * are. They are measured where they are seen as circles.
 */
function fixings(scene: Scene, views: readonly ViewRecord[]): Draft[] {
  const view = views.find((v) => v.toward[2] > 1 - 1e-6) ?? views.find((v) => v.toward[2] < -1 + 1e-6);
  if (!view) return [];
  const all = placedFeatures(scene);
  const ground = baseOf(scene, all)?.z ?? 0;
  const feet = new Set(all.filter((p) => Math.abs(lowest(p) - ground) < 0.1 && !holds(scene, p.component)).map((p) => p.component));
  const seen = circlesOf(scene.result(view.id)!);
  const holes = axesOf(all).filter((a) => {
    if (Math.abs(a.way[2]) < 1 - 1e-6 || kindOfAxis(a) !== 'hole') return false;
    const through = a.on.filter(
      (o) => feet.has(o.component) && isWhole(scene.features(o.component)!.rounds[o.round]!) && Math.abs(o.from - ground) < 0.1 + chamferOf(o),
    );
    if (!through.length) return false;
    const [x, y] = [dot(a.foot, view.right), dot(a.foot, view.up)];
    return seen.some((c) => Math.hypot(c.x - x, c.y - y) < ONE_MM);
  });
  const out: Draft[] = [];
  const bySize = new Map<number, Axis[]>();
  for (const h of holes) {
    const r = Math.round(Math.min(...h.on.map((o) => o.radius)) * 1e3) / 1e3;
    bySize.set(r, [...(bySize.get(r) ?? []), h]);
  }
  for (const group of bySize.values()) {
    if (group.length < 2) continue;
    const at = group
      .map((axis) => ({ axis, target: targetOn(scene, view, axis)!, x: dot(axis.foot, view.right), y: dot(axis.foot, view.up) }))
      .filter((h) => h.target);
    for (const [kind, of] of [
      ['level', (h: (typeof at)[number]) => h.x],
      ['upright', (h: (typeof at)[number]) => h.y],
    ] as const) {
      const places = distinct(
        [...at].sort((a, b) => of(a) - of(b)),
        of,
      );
      if (places.length < 2) continue;
      const [first, last] = [places[0]!, places.at(-1)!];
      if (places.length > 2 && places.length <= 5) out.push({ view: view.id, kind, of: places.map((p) => p.target), row: 'chain' });
      out.push({ view: view.id, kind, of: [first.target, last.target] });
    }
    const corner = [...at].sort((a, b) => b.x + b.y - a.x - a.y)[0]!;
    const count: Draft = {
      view: view.id,
      kind: 'diameter',
      of: [corner.target],
      turn: Math.PI / 4,
      ...(group.length > 1 ? { text: { before: `${group.length}×` } } : {}),
    };
    out.push(count);
  }
  return out;
}

/** The rim of a hole may be broken: its cylinder begins that much above the ground. */
const chamferOf = (o: OnAxis) => o.radius / 2;

/** The lowest point of a component by the box of its part. */
function lowest({ features, placement }: PlacedFeatures): number {
  const b = features.box;
  let least = Infinity;
  for (let i = 0; i < 8; i++) least = Math.min(least, applyToPoint(placement, [b[i & 1 ? 3 : 0], b[i & 2 ? 4 : 1], b[i & 4 ? 5 : 2]])[2]);
  return least;
}
