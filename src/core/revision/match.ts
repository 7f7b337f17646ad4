import type { Assembly, Part } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import { saysNothing } from '../assembly/naming.ts';
import type { Placement } from '../base/placement.ts';
import { matchComponents } from './match-components.ts';
import type { PartPair, Trust } from './part-pair.ts';
import { isStill, motionBetween } from './motion.ts';
import { sameMeasures, type ShapeTeller } from './same-shape.ts';

/** Two parts that may be the same: the drafter decides. */
export interface DoubtfulPair {
  readonly before: number;
  readonly after: number;
  readonly why: string;
  /** Until then they count as the same. */
  readonly assumed: boolean;
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

/** Below this likeness parts are not worth a question. */
const WORTH_ASKING = 0.62;
/** Measures that agree this well, at the same place: the part was changed and renamed, until the drafter says otherwise. */
const LIKELY_SHAPE = 0.85;
/** Parts of one name whose measures agree no better than this are not the same where there are several. */
const SAME_NAME_SHAPE = 0.6;

const byMeasures: ShapeTeller = (a, b) => (a.geometryKey === b.geometryKey || sameMeasures(a, b) ? { same: true } : { same: false, mirrored: false });

/**
 * Which parts and components of a newer model are those of the older one. Parts: by part number, by name, by shape; among
 * several of one name the shape decides, then the place, never the order in the file. What is only alike, or mirrored, is asked.
 * @param tell compares shapes; by itself the measures do
 */
export function matchAssemblies(before: Assembly, after: Assembly, decisions: readonly Decision[] = [], tell: ShapeTeller = byMeasures): Matching {
  return new Matcher(before, after, decisions, tell).match();
}

class Matcher {
  private readonly open: { before: Set<number>; after: Set<number> };
  private readonly parts: PartPair[] = [];
  private readonly doubtful: DoubtfulPair[] = [];
  private readonly apart = new Set<string>();
  private readonly together = new Set<string>();
  private readonly places: { before: Placement[][]; after: Placement[][] };
  private readonly before: Assembly;
  private readonly after: Assembly;
  private readonly tell: ShapeTeller;

  constructor(before: Assembly, after: Assembly, decisions: readonly Decision[], tell: ShapeTeller) {
    this.before = before;
    this.after = after;
    this.tell = tell;
    this.open = { before: new Set(before.parts.keys()), after: new Set(after.parts.keys()) };
    this.places = { before: placesOf(before), after: placesOf(after) };
    for (const d of decisions) {
      const [a, b] = [before.parts.findIndex((p) => p.id === d.before), after.parts.findIndex((p) => p.id === d.after)];
      if (a < 0 || b < 0) continue;
      (d.same ? this.together : this.apart).add(`${a}/${b}`);
    }
  }

  match(): Matching {
    for (const key of this.together) {
      const [a, b] = key.split('/').map(Number) as [number, number];
      this.pair(a, b, 'decided');
    }
    for (const group of this.groups(partNumberOf)) this.settle(group, 'part number');
    for (const group of this.groups((p) => (saysNothing(p.name) ? undefined : p.name.toLowerCase().replace(/\s+/g, ' ')))) this.settle(group, 'name');
    this.settleShapes({ before: [...this.open.before], after: [...this.open.after] }, 'shape');
    this.ask();
    const [old, fresh] = [componentsOf(this.before), componentsOf(this.after)];
    return { parts: this.parts, doubtful: this.doubtful, components: matchComponents(this.before, this.after, old, fresh, this.parts) };
  }

  private verdict(a: number, b: number) {
    return this.tell(this.before.parts[a]!, this.after.parts[b]!);
  }

  private pair(a: number, b: number, trust: Trust): void {
    if (!this.open.before.has(a) || !this.open.after.has(b)) return;
    this.open.before.delete(a);
    this.open.after.delete(b);
    const v = this.verdict(a, b);
    const shift = v.same ? v.shift : undefined;
    // A shape that fits itself turned, such as a plate whose hole went to the other side, did not turn: it was changed.
    const turnedOnly = shift !== undefined && sameBox(this.before.parts[a]!, this.after.parts[b]!) && this.placesInCommon(a, b, shift) === 0;
    const sameShape = v.same && !turnedOnly;
    const mirrored = !v.same && v.mirrored;
    this.parts.push({ before: a, after: b, trust, sameShape, mirrored, ...(shift && sameShape ? { shift } : {}) });
    if (mirrored && trust !== 'decided') this.doubtful.push({ before: a, after: b, why: 'The newer one is its mirror image.', assumed: true });
  }

  /** Open parts that share a key: what is alone on both sides, or several on either. */
  private groups(keyOf: (p: Part) => string | undefined): Group[] {
    const all = new Map<string, { before: number[]; after: number[] }>();
    for (const side of ['before', 'after'] as const)
      for (const i of this.open[side]) {
        const key = keyOf(this[side].parts[i]!);
        if (!key) continue;
        const g = all.get(key) ?? { before: [], after: [] };
        g[side].push(i);
        all.set(key, g);
      }
    return [...all.values()].filter((g) => g.before.length && g.after.length);
  }

  /** Pairs a group by shape; what is left of it by place and likeness of measures. */
  private settle(group: Group, trust: 'part number' | 'name'): void {
    this.settleShapes(group, trust === 'name' ? 'name and shape' : trust);
    const [a, b] = [group.before.filter((i) => this.open.before.has(i)), group.after.filter((i) => this.open.after.has(i))];
    const alone = group.before.length === 1 && group.after.length === 1;
    const ranked = a
      .flatMap((x) => b.map((y) => ({ x, y, places: this.placesInCommon(x, y), like: measureLikeness(this.before.parts[x]!, this.after.parts[y]!) })))
      .filter((r) => !this.apart.has(`${r.x}/${r.y}`) && (alone || r.places > 0 || r.like >= SAME_NAME_SHAPE))
      .sort((p, q) => q.places - p.places || q.like - p.like);
    for (const { x, y } of ranked) this.pair(x, y, trust);
  }

  /** Pairs equal shapes: first those that stand at the same places, then those whose names are alike, then the nearest. */
  private settleShapes(group: Group, trust: Trust): void {
    const candidates: { a: number; b: number; places: number; names: number; far: number }[] = [];
    for (const a of group.before)
      for (const b of group.after) {
        if (this.apart.has(`${a}/${b}`) || !this.open.before.has(a) || !this.open.after.has(b)) continue;
        const v = this.verdict(a, b);
        if (!v.same) continue;
        candidates.push({
          a,
          b,
          places: this.placesInCommon(a, b, v.shift),
          names: nameLikeness(this.before.parts[a]!.name, this.after.parts[b]!.name),
          far: this.distance(a, b),
        });
      }
    candidates.sort((p, q) => q.places - p.places || q.names - p.names || p.far - q.far);
    for (const { a, b } of candidates) this.pair(a, b, trust);
  }

  /** How many components of two parts stand at the same place. */
  private placesInCommon(a: number, b: number, shift?: Placement): number {
    const part = this.before.parts[a]!;
    const free = [...this.places.after[b]!];
    let n = 0;
    for (const p of this.places.before[a]!) {
      const i = free.findIndex((q) => isStill(motionBetween(p, q, part, shift)));
      if (i < 0) continue;
      free.splice(i, 1);
      n++;
    }
    return n;
  }

  /** From the first component of one to the nearest of the other, mm. */
  private distance(a: number, b: number): number {
    const from = this.places.before[a]![0];
    if (!from) return Infinity;
    return Math.min(Infinity, ...this.places.after[b]!.map((to) => motionBetween(from, to, this.before.parts[a]!).mm));
  }

  private ask(): void {
    const ranked = [...this.open.before]
      .flatMap((a) => [...this.open.after].map((b) => ({ a, b, ...this.likeness(a, b) })))
      .filter((r) => r.value >= WORTH_ASKING && !this.apart.has(`${r.a}/${r.b}`))
      .sort((x, y) => y.value - x.value);
    const asked = { before: new Set<number>(), after: new Set<number>() };
    for (const { a, b, why, likely } of ranked) {
      if (asked.before.has(a) || asked.after.has(b)) continue;
      asked.before.add(a);
      asked.after.add(b);
      if (likely) this.pair(a, b, 'likeness');
      this.doubtful.push({ before: a, after: b, why, assumed: likely });
    }
  }

  /** How alike two parts are, 0…1, by the words of their names, by their measures, and by where they stand. */
  private likeness(a: number, b: number): { value: number; why: string; likely: boolean } {
    const [p, q] = [this.before.parts[a]!, this.after.parts[b]!];
    const percent = (x: number) => `${Math.round(100 * x)} %`;
    const [names, shape] = [nameLikeness(p.name, q.name), measureLikeness(p, q)];
    const v = this.verdict(a, b);
    if (!v.same && v.mirrored) return { value: 0.5 + 0.5 * names, why: 'The newer one is its mirror image, under another name.', likely: false };
    const places = this.placesInCommon(a, b);
    const stays = places > 0 && places === this.places.before[a]!.length && places === this.places.after[b]!.length;
    const likely = stays && shape >= LIKELY_SHAPE;
    const why = `${percent(names)} of the words of their names and ${percent(shape)} of their measures agree${stays ? '; they stand at the same place' : ''}.`;
    return { value: likely ? 1 : 0.5 * names + 0.5 * shape, why, likely };
  }
}

interface Group {
  readonly before: readonly number[];
  readonly after: readonly number[];
}

function placesOf(assembly: Assembly): Placement[][] {
  const out: Placement[][] = assembly.parts.map(() => []);
  for (const c of componentsOf(assembly)) out[c.part]!.push(c.placement);
  return out;
}

/** A part number that the file gives. */
function partNumberOf(p: Part): string | undefined {
  const entry = Object.entries(p.properties).find(([k, v]) => /^part[\s_-]*(number|no\.?)$/i.test(k) && v.trim() !== '');
  return entry?.[1].trim();
}

const sameBox = (a: Part, b: Part) => a.box.every((v, i) => Math.abs(v - b.box[i]!) < 0.01);

const words = (s: string) =>
  new Set(
    s
      .toLowerCase()
      .split(/[^\p{L}\p{N}]+/u)
      .filter(Boolean),
  );

/** The share of the words of two names that they have in common. */
function nameLikeness(a: string, b: string): number {
  const [u, v] = [words(a), words(b)];
  return [...u].filter((w) => v.has(w)).length / Math.max(1, u.size, v.size);
}

/** How well volume, area and size agree, 0…1. */
function measureLikeness(a: Part, b: Part): number {
  const ratio = (x: number, y: number) => (x > 0 && y > 0 ? Math.min(x, y) / Math.max(x, y) : 0);
  const sizes = (p: Part) => [0, 1, 2].map((k) => p.box[k + 3]! - p.box[k]!).sort((x, y) => x - y);
  const [s, t] = [sizes(a), sizes(b)];
  return (ratio(a.volumeMm3, b.volumeMm3) + ratio(a.areaMm2, b.areaMm2) + s.reduce((sum, x, i) => sum + ratio(x, t[i]!), 0) / 3) / 3;
}
