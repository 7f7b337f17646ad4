import type { Assembly } from '../assembly/assembly.ts';
import type { Cancel } from '../base/errors.ts';
import { add, dot, scale, subtract, type Vec3 } from '../base/vector.ts';
import type { ViewFrame } from '../outline/directions.ts';
import { sceneDiagonal, type Body } from '../outline/scene.ts';
import { rounded } from './fit.ts';
import { Peeler, type Held, type Removal } from './peel.ts';
import type { Pull } from './spread.ts';
import { tighten } from './tighten.ts';
import type { Unit } from './units.ts';
import { checkSpread, type Hit } from './way-out.ts';

export interface PlanOptions {
  /** The direction in which the exploded view is drawn: parts are kept apart on that paper. */
  readonly frame: ViewFrame;
  /** Least distance between parts, mm in the model. Default 1.5 % of the diagonal. */
  readonly gapMm?: number;
  /** Components that hold together. */
  readonly together?: readonly (readonly number[])[];
  /** Only these are taken apart. Default: all */
  readonly only?: ReadonlySet<number>;
  readonly cancel?: Cancel | undefined;
  /** Is told how far it is, 0…1. */
  readonly onProgress?: ((share: number) => void) | undefined;
  /** Is given from time to time what is planned so far; not tightened or checked yet. */
  readonly onPartial?: ((pulls: readonly Pull[]) => void) | undefined;
  /** Milliseconds of some clock, to tell when; the core has none. */
  readonly now?: (() => number) | undefined;
}

/** A component that nothing frees. */
export interface Stuck {
  readonly components: readonly number[];
  /** What holds it on the way on which least does. */
  readonly by: readonly number[];
  readonly direction: Vec3;
}

export interface PlannedPull extends Pull {
  /** Other directions in which it would have been free. */
  readonly ways: readonly Vec3[];
  /** Nothing is passed through on the way. */
  readonly clear: boolean;
}

export interface Plan {
  readonly pulls: readonly PlannedPull[];
  readonly hits: readonly Hit[];
  /** Components in the order they come off; the last ones stay. */
  readonly order: readonly number[];
  readonly stuck: readonly Stuck[];
}

/**
 * A first plan: an order and directions in which everything comes off without passing through anything, made of ordinary
 * pulls, tightened on paper and checked along every way.
 * @throws QuarryError CANCELLED
 */
export function planSpread(assembly: Assembly, bodies: readonly Body[], options: PlanOptions): Plan {
  if (bodies.length < 2) return { pulls: [], hits: [], order: bodies.map((b) => b.component), stuck: [] };
  const { onProgress } = options;
  const peeler: Peeler = new Peeler(assembly, bodies, {
    ...options,
    onProgress: (share) => onProgress?.(0.8 * share),
    onRemoval: interim(options, (removals, left) => new Composer(peeler, true).compose(removals, left)),
  });
  const { removals, rest, held } = peeler.peelAll();
  const composer = new Composer(peeler);
  const pulls = composer.compose(removals, rest);
  const gapMm = options.gapMm ?? 0.015 * sceneDiagonal(bodies);
  const tight = tighten(bodies, pulls, {
    frame: options.frame,
    gapMm,
    ways: pulls.map((p) => p.ways),
    cancel: options.cancel,
  }).map(plain);
  const way = checkSpread(assembly, bodies, tight, options.cancel);
  return {
    pulls: tight.map((p, k) => ({ ...p, ways: pulls[k]!.ways, clear: way.clear[k]! })),
    hits: way.hits,
    order: [...removals.flatMap((r) => componentsIn(r)), ...rest.flatMap((u) => u.components)],
    stuck: [...held, ...composer.held].map((h) => ({ components: h.unit.components, by: h.by, direction: peeler.ways.direction(h.way) })),
  };
}

/** A partial plan is made this long after the last one, and takes at most this share of the time. */
const PARTIAL_AFTER_MS = 3000;
const PARTIAL_SHARE = 0.1;

function interim({ onPartial, now }: PlanOptions, compose: (removals: readonly Removal[], left: readonly Unit[]) => readonly OpenPull[]) {
  if (!onPartial || !now) return undefined;
  let next = now() + PARTIAL_AFTER_MS;
  return (removals: readonly Removal[], left: readonly Unit[]): void => {
    const start = now();
    if (start < next) return;
    onPartial(compose(removals, left).map(plain));
    next = now() + Math.max(PARTIAL_AFTER_MS, (now() - start) / PARTIAL_SHARE);
  };
}

const plain = ({ components, direction, distanceMm, leg }: Pull): Pull => ({
  components,
  direction,
  distanceMm: rounded(distanceMm),
  ...(leg ? { leg } : {}),
});

const componentsIn = (r: Removal): number[] => r.units.flatMap((u) => [...u.components]);

interface OpenPull {
  components: number[];
  /** Other directions in which it could go as well. */
  readonly ways: readonly Vec3[];
  readonly direction: Vec3;
  readonly distanceMm: number;
  readonly leg?: true;
}

/** Makes pulls of what came off. Distances are rough: how far a part has to go to be past its neighbours. */
class Composer {
  readonly held: Held[] = [];
  private readonly offsets: Vec3[];
  private readonly placed: number[] = [];
  private readonly pulls: OpenPull[] = [];
  private readonly peeler: Peeler;
  private readonly closed: boolean;

  /** @param closed leaves sub-assemblies together */
  constructor(peeler: Peeler, closed = false) {
    this.peeler = peeler;
    this.closed = closed;
    this.offsets = peeler.components.map(() => [0, 0, 0]);
  }

  /** From the base to what comes off first. @returns pulls in the order in which parts come off */
  compose(removals: readonly Removal[], rest: readonly Unit[]): OpenPull[] {
    const all = new Set(this.offsets.keys());
    for (const u of rest) this.settle(u, [0, 0, 0]);
    for (let i = removals.length - 1; i >= 0; i--) this.place(removals[i]!, [0, 0, 0], all);
    return this.pulls.reverse();
  }

  /** Puts down a unit that has its place; a sub-assembly is opened around its base. */
  private settle(u: Unit, offset: Vec3): void {
    if (u.parts.length === 0 || this.closed) {
      for (const c of u.components) {
        this.offsets[c] = offset;
        this.placed.push(c);
      }
      return;
    }
    const inner = this.peeler.peel(u);
    this.held.push(...inner.held);
    for (const r of inner.rest) this.settle(r, offset);
    const own = new Set(u.components);
    for (let i = inner.removals.length - 1; i >= 0; i--) this.place(inner.removals[i]!, offset, own);
  }

  /** @param within the unit it is a part of: it is left behind by that only */
  private place(r: Removal, base: Vec3, within: ReadonlySet<number>): void {
    const direction = this.peeler.ways.direction(r.way);
    const leg = r.corner && this.peeler.ways.direction(r.corner.first);
    const distanceMm = this.roughDistance(
      r.units.flatMap((u) => this.leadOf(u)),
      r,
      base,
    );
    // Equal parts come off together, unless they go along with different things.
    const groups = new Map<string, { units: Unit[]; carried: Vec3 }>();
    for (const u of r.units) {
      const carried = this.carry(this.leadOf(u), u.components, direction, base, within);
      const known = groups.get(carried.join());
      if (known) known.units.push(u);
      else groups.set(carried.join(), { units: [u], carried });
    }
    for (const { units, carried } of groups.values()) {
      const onWay = leg ? add(scale(leg, r.corner!.distanceMm), carried) : carried;
      for (const u of units) this.settle(u, add(add(base, onWay), scale(direction, distanceMm)));
      // What goes along with something was chosen for this direction: then it keeps it.
      const ways = carried.every((v) => v === 0) ? r.free.slice(1).map((w) => this.peeler.ways.direction(w)) : [];
      // Pulls are collected from the last to the first: its own comes before those inside it once reversed.
      const components = units.flatMap((u) => [...u.components]);
      this.pulls.push({ components, direction, distanceMm, ways });
      if (r.corner) this.pulls.push({ components, direction: leg!, distanceMm: r.corner.distanceMm, ways: [], leg: true });
    }
  }

  /** What is set down first of a unit: its base. */
  private leadOf(u: Unit): readonly number[] {
    return u.parts.length === 0 || this.closed ? u.components : this.peeler.peel(u).rest.flatMap((x) => this.leadOf(x));
  }

  /**
   * A part goes along with what it sits on: the touching part that comes off next after it. If that has moved sideways to
   * the part's own way, the part joins those pulls.
   * @returns the sideways offset, relative to `base`
   */
  private carry(lead: readonly number[], components: readonly number[], direction: Vec3, base: Vec3, within: ReadonlySet<number>): Vec3 {
    const own = Math.max(...lead.map((c) => this.peeler.volumeOf(c)));
    // Nothing goes along with what is smaller than itself: a wheel not with its key.
    const host = this.placed.findLast((c) => within.has(c) && this.peeler.volumeOf(c) >= own / 2 && lead.some((l) => this.peeler.ways.touches(l, c)));
    if (host === undefined) return [0, 0, 0];
    const relative = subtract(this.offsets[host]!, base);
    const sideways = add(relative, scale(direction, -dot(relative, direction)));
    if (Math.hypot(...sideways) < 1e-9) return [0, 0, 0];
    for (const p of this.pulls)
      if (p.components.includes(host) && !p.components.includes(components[0]!) && Math.abs(dot(p.direction, direction)) < 0.5)
        p.components = [...p.components, ...components];
    return sideways;
  }

  /** Past everything placed that it stands beside, seen from where the base of its sub-assembly is. */
  private roughDistance(lead: readonly number[], r: Removal, base: Vec3): number {
    const direction = this.peeler.ways.direction(r.way);
    let need = 0.02 * this.peeler.ways.diagonal;
    for (const a of lead)
      for (const b of this.placed) {
        const o = this.offsets[b]!;
        const ahead = dot([o[0] - base[0], o[1] - base[1], o[2] - base[2]], direction);
        const travel = this.peeler.ways.travel(a, b, r.way);
        if (travel > 0) need = Math.max(need, travel + Math.max(0, ahead));
      }
    return need;
  }
}
