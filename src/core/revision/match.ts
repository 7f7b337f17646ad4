import type { Assembly, Component, Part } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import type { Placement } from '../base/placement.ts';

/** Why two parts are taken for the same, most trusted first. */
export type Trust = 'part number' | 'name and shape' | 'name' | 'shape' | 'likeness' | 'decided';

export interface PartPair {
  /** Index in the old and the new assembly. */
  readonly before: number;
  readonly after: number;
  readonly trust: Trust;
}

/** Two parts that may be the same: the drafter decides. */
export interface DoubtfulPair {
  readonly before: number;
  readonly after: number;
  readonly why: string;
}

export interface Matching {
  readonly parts: readonly PartPair[];
  readonly doubtful: readonly DoubtfulPair[];
  /** New component per old one, -1 where it is gone. */
  readonly components: readonly number[];
}

/** What the drafter said of pairs of part ids: same or not. */
export interface Decision {
  readonly before: string;
  readonly after: string;
  readonly same: boolean;
}

/** Sizes that agree this well belong to one shape, whoever meshed it. */
const SAME_SHAPE = 2e-3;
/** Below this likeness parts are not worth a question. */
const WORTH_ASKING = 0.62;

/**
 * Which parts and components of a newer model are those of the older one: by part number, name and shape, name, shape
 * alone; what is only alike is asked. Components go by path, then by place, then to the nearest of the same part.
 */
export function matchAssemblies(before: Assembly, after: Assembly, decisions: readonly Decision[] = []): Matching {
  const old = new Set(before.parts.keys());
  const fresh = new Set(after.parts.keys());
  const parts: PartPair[] = [];
  const apart = new Set<string>();
  const pair = (a: number, b: number, trust: Trust) => {
    if (!old.has(a) || !fresh.has(b)) return;
    old.delete(a);
    fresh.delete(b);
    parts.push({ before: a, after: b, trust });
  };
  for (const d of decisions) {
    const [a, b] = [before.parts.findIndex((p) => p.id === d.before), after.parts.findIndex((p) => p.id === d.after)];
    if (d.same && a >= 0 && b >= 0) pair(a, b, 'decided');
    else apart.add(`${a}/${b}`);
  }
  const byKey = (key: (p: Part) => string | undefined, trust: Trust) => {
    const index = (list: readonly Part[], open: ReadonlySet<number>) => {
      const m = new Map<string, number[]>();
      for (const i of open) {
        const k = key(list[i]!);
        if (k) m.set(k, [...(m.get(k) ?? []), i]);
      }
      return m;
    };
    const [a, b] = [index(before.parts, old), index(after.parts, fresh)];
    for (const [k, list] of a) {
      const other = b.get(k);
      // Several alike: only when there are as many on both sides does their order tell.
      if (other && (list.length === 1 && other.length === 1 ? !apart.has(`${list[0]}/${other[0]}`) : list.length === other.length))
        list.forEach((x, i) => pair(x, other[i]!, trust));
    }
  };
  byKey(partNumberOf, 'part number');
  byKey((p) => `${p.name}\u0000${p.geometryKey}`, 'name and shape');
  byKey((p) => `${p.name}\u0000${sizesKey(p)}`, 'name and shape');
  byKey((p) => p.name, 'name');
  byKey((p) => p.geometryKey, 'shape');

  const doubtful: DoubtfulPair[] = [];
  const ranked = [...old]
    .flatMap((a) => [...fresh].map((b) => ({ a, b, like: likeness(before.parts[a]!, after.parts[b]!) })))
    .filter((r) => r.like.value >= WORTH_ASKING && !apart.has(`${r.a}/${r.b}`))
    .sort((x, y) => y.like.value - x.like.value);
  for (const { a, b, like } of ranked) {
    if (!old.has(a) || !fresh.has(b) || doubtful.some((d) => d.before === a || d.after === b)) continue;
    if (like.sameShape) pair(a, b, 'likeness');
    else doubtful.push({ before: a, after: b, why: like.why });
  }
  return { parts, doubtful, components: matchComponents(componentsOf(before), componentsOf(after), parts) };
}

/** A part number that the file gives. */
function partNumberOf(p: Part): string | undefined {
  const entry = Object.entries(p.properties).find(([k, v]) => /^part\s*(number|no\.?)$/i.test(k) && v.trim() !== '');
  return entry?.[1].trim();
}

const sizes = (p: Part) => [0, 1, 2].map((k) => p.box[k + 3]! - p.box[k]!).sort((a, b) => a - b);
const figures = (v: number) => Number(v.toPrecision(4));
const sizesKey = (p: Part) => [figures(p.volumeMm3), figures(p.areaMm2), ...sizes(p).map(figures)].join();

const near = (a: number, b: number) => Math.abs(a - b) <= SAME_SHAPE * Math.max(Math.abs(a), Math.abs(b), 1e-9);

/** Do two parts have the same shape, as far as their measures tell? */
export function sameShape(a: Part, b: Part): boolean {
  if (a.geometryKey === b.geometryKey) return true;
  const [s, t] = [sizes(a), sizes(b)];
  return near(a.volumeMm3, b.volumeMm3) && near(a.areaMm2, b.areaMm2) && s.every((v, i) => near(v, t[i]!));
}

/** How alike two parts are, 0…1, by the words of their names and by their measures. */
function likeness(a: Part, b: Part): { value: number; sameShape: boolean; why: string } {
  if (sameShape(a, b)) return { value: 1, sameShape: true, why: '' };
  const words = (s: string) =>
    new Set(
      s
        .toLowerCase()
        .split(/[^\p{L}\p{N}]+/u)
        .filter(Boolean),
    );
  const [u, v] = [words(a.name), words(b.name)];
  const common = [...u].filter((w) => v.has(w)).length;
  const names = common / Math.max(1, Math.max(u.size, v.size));
  const ratio = (x: number, y: number) => (x > 0 && y > 0 ? Math.min(x, y) / Math.max(x, y) : 0);
  const [s, t] = [sizes(a), sizes(b)];
  const shape = (ratio(a.volumeMm3, b.volumeMm3) + ratio(a.areaMm2, b.areaMm2) + s.reduce((sum, x, i) => sum + ratio(x, t[i]!), 0) / 3) / 3;
  const percent = (x: number) => `${Math.round(100 * x)} %`;
  return {
    value: 0.5 * names + 0.5 * shape,
    sameShape: false,
    why: `${percent(names)} of the words of their names and ${percent(shape)} of their measures agree.`,
  };
}

const distance = (a: Placement, b: Placement) => Math.hypot(a[3]! - b[3]!, a[7]! - b[7]!, a[11]! - b[11]!);
const turn = (a: Placement, b: Placement) => Math.hypot(...[0, 1, 2, 4, 5, 6, 8, 9, 10].map((k) => a[k]! - b[k]!));

/** Places that agree this well are the same. mm, and the difference of the rotation matrices */
const SAME_PLACE_MM = 0.01;
const SAME_TURN = 1e-4;
export const samePlace = (a: Placement, b: Placement) => distance(a, b) < SAME_PLACE_MM && turn(a, b) < SAME_TURN;

function matchComponents(before: readonly Component[], after: readonly Component[], parts: readonly PartPair[]): number[] {
  const newPart = new Map(parts.map((p) => [p.before, p.after]));
  const out = before.map(() => -1);
  const open = new Set(after.keys());
  const ofPart = new Map<number, number[]>();
  after.forEach((c, i) => ofPart.set(c.part, [...(ofPart.get(c.part) ?? []), i]));
  const take = (i: number, j: number | undefined) => {
    if (j === undefined || out[i]! >= 0 || !open.has(j)) return;
    open.delete(j);
    out[i] = j;
  };
  const candidates = (c: Component) => {
    const part = newPart.get(c.part);
    return part === undefined ? [] : (ofPart.get(part) ?? []).filter((j) => open.has(j));
  };
  // The same path and place, the same place, the same path, then the nearest: in this order of trust.
  before.forEach((c, i) =>
    take(
      i,
      candidates(c).find((j) => after[j]!.path === c.path && samePlace(after[j]!.placement, c.placement)),
    ),
  );
  before.forEach(
    (c, i) =>
      out[i]! < 0 &&
      take(
        i,
        candidates(c).find((j) => samePlace(after[j]!.placement, c.placement)),
      ),
  );
  before.forEach(
    (c, i) =>
      out[i]! < 0 &&
      take(
        i,
        candidates(c).find((j) => after[j]!.path === c.path),
      ),
  );
  const rest = before
    .flatMap((c, i) => (out[i]! < 0 ? candidates(c).map((j) => ({ i, j, d: distance(after[j]!.placement, c.placement) })) : []))
    .sort((x, y) => x.d - y.d);
  for (const { i, j } of rest) take(i, j);
  return out;
}
