import type { Assembly, Component } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import { checkCancel, type Cancel } from '../base/errors.ts';
import { turnedAxis } from '../cut/turned-axis.ts';
import { dot } from '../base/vector.ts';
import type { Body } from '../outline/scene.ts';
import { Corners, type Corner } from './corners.ts';
import { isFastener, isThreaded } from '../assembly/role.ts';
import { Level } from './level.ts';
import { unite, type Unit } from './units.ts';
import { ownDirections, Ways, type WayIndex } from './ways.ts';

/** Equal units that come off together. */
export interface Removal {
  readonly units: readonly Unit[];
  readonly way: WayIndex;
  /** Every way on which all of them are free, the chosen one first. */
  readonly free: readonly WayIndex[];
  /** They go round a corner first. */
  readonly corner?: Corner;
}

/** What nothing frees, and what holds it on the way on which least does. */
export interface Held {
  readonly unit: Unit;
  readonly by: readonly number[];
  readonly way: WayIndex;
}

export interface Peeled {
  readonly removals: readonly Removal[];
  /** What stays: the base first. */
  readonly rest: readonly Unit[];
  readonly held: readonly Held[];
}

export interface PeelOptions {
  /** Components that hold together in one unit each, whatever the tree says. */
  readonly together?: readonly (readonly number[])[];
  /** Only these are taken apart; the others are there but stay. Default: all */
  readonly only?: ReadonlySet<number>;
  readonly cancel?: Cancel | undefined;
  /** Is told how far it is, 0…1. */
  readonly onProgress?: ((share: number) => void) | undefined;
  /** Is told after each removal of the whole what came off so far, and what is still there. */
  readonly onRemoval?: ((removals: readonly Removal[], left: readonly Unit[]) => void) | undefined;
}

/** So many pairs are tried at most when single units are stuck. */
const MOST_PAIRS = 300;
/** So many stuck units are tried for a way with a corner. */
const MOST_CORNERS = 60;
/** Share of the work that goes into who is in whose way. */
const LOOKING = 0.7;
/** A direction that nothing uses yet costs this much more travel, as a share of the whole. */
const NEW_DIRECTION = 0.01;
/** Being on that side of the base already saves this share of the distance. */
const AWAY = 0.2;
/** Going along the axis of all that fastened it saves this share of the whole: then it stays in line with its bolts (common practice). */
const FASTENED = 0.3;

/**
 * Takes an assembly apart: what is free comes off, fasteners and small parts first, sub-assemblies of the tree as units.
 * Where nothing is free along the model's axes, axes of holes and shafts and normals of faces are tried, then
 * sub-assemblies are opened, then pairs that move together, then ways with a corner.
 */
export class Peeler {
  readonly ways: Ways;
  readonly components: readonly Component[];
  private readonly assembly: Assembly;
  private readonly bodies: readonly Body[];
  private readonly options: PeelOptions;
  private readonly peeled = new Map<Unit, Peeled>();
  private readonly used = new Set<WayIndex>();
  /** How many fasteners that sat on a component came off along each axis. */
  private readonly fastenedAlong = new Map<number, Map<number, number>>();
  private readonly axisOf: (number | undefined)[] = [];
  private readonly corners: Corners;
  private done = 0;

  constructor(assembly: Assembly, bodies: readonly Body[], options: PeelOptions = {}) {
    this.assembly = assembly;
    this.components = componentsOf(assembly);
    this.bodies = bodies;
    this.options = options;
    const threaded = this.components.map((c) => isThreaded(c, assembly.parts[c.part]!));
    this.ways = new Ways(bodies, threaded, options.cancel);
    this.corners = new Corners(this.ways, bodies, threaded, options.cancel);
  }

  /** Takes the whole apart. */
  peelAll(): Peeled {
    for (const axis of [0, 1, 2]) this.ways.obstacles(axis * 2, (share) => this.options.onProgress?.((LOOKING * (axis + share)) / 3));
    return this.take(this.root().parts, this.options.onRemoval);
  }

  /** The whole as a unit of units. */
  private root(): Unit {
    const children: number[][] = this.assembly.nodes.map(() => []);
    this.assembly.nodes.forEach((n, i) => n.parent >= 0 && children[n.parent]!.push(i));
    const componentAt = new Map(this.components.map((c) => [c.node, c]));
    const groupOf = new Map<number, number>();
    this.options.together?.forEach((set, g) => set.forEach((c) => groupOf.set(c, g)));
    const leaf = (c: Component): Unit => ({
      product: this.assembly.nodes[c.node]!.product,
      components: [c.index],
      volume: this.assembly.parts[c.part]!.volumeMm3,
      fastener: isFastener(c, this.assembly.parts[c.part]!),
      parts: [],
    });
    const gathered = new Map<number, Unit[]>();
    const build = (node: number): Unit | undefined => {
      const c = componentAt.get(node);
      if (c) {
        const g = groupOf.get(c.index);
        if (g === undefined) return leaf(c);
        gathered.set(g, [...(gathered.get(g) ?? []), leaf(c)]);
        return undefined;
      }
      const parts = children[node]!.flatMap((i) => build(i) ?? []);
      // A level with a single child is no level.
      return parts.length === 0 ? undefined : parts.length === 1 ? parts[0] : unite(this.assembly.nodes[node]!.product, parts);
    };
    const top = build(0);
    const own = top ? (top.parts.length ? [...top.parts] : [top]) : [];
    for (const parts of gathered.values()) own.push({ ...unite('', parts), parts: [] });
    return unite(this.assembly.name, own);
  }

  /** Takes the parts of a unit apart; what stays last is its base. */
  peel(unit: Unit): Peeled {
    let p = this.peeled.get(unit);
    if (!p) {
      p = this.take(unit.parts.length ? unit.parts : [unit]);
      this.peeled.set(unit, p);
    }
    return p;
  }

  private take(units: readonly Unit[], onRemoval?: PeelOptions['onRemoval']): Peeled {
    const level = new Level(this.ways, units);
    const removals: Removal[] = [];
    const { only } = this.options;
    while (level.units.length > 1) {
      checkCancel(this.options.cancel);
      if (removals.length) onRemoval?.(removals, level.units);
      const free = this.firstFree(level) ?? this.freeElsewhere(level);
      if (free) {
        removals.push(free);
        for (const u of free.units) level.remove(u);
        this.noteFasteners(free, level);
        this.used.add(free.way);
        this.done += free.units.length;
        this.options.onProgress?.(LOOKING + (1 - LOOKING) * Math.min(1, this.done / this.components.length));
        continue;
      }
      // Nothing is free: open the smallest sub-assembly, and its equals, and go on with their parts.
      const held = level.units.filter((u) => u.parts.length > 0 && (!only || u.components.some((c) => only.has(c)))).sort((a, b) => a.volume - b.volume)[0];
      if (held) {
        level.open(held.product);
        continue;
      }
      const pair = this.freePair(level);
      if (pair) {
        removals.push(pair);
        for (const u of pair.units) for (const part of u.parts) level.remove(part);
        continue;
      }
      const around = this.aroundCorner(level);
      if (!around) break;
      removals.push(around);
      for (const u of around.units) level.remove(u);
    }
    const base = this.baseOf(level);
    const rest = [...level.units].sort((a, b) => Number(b === base) - Number(a === base) || b.volume - a.volume);
    const stuck = rest.slice(1).filter((u) => !only || u.components.some((c) => only.has(c)));
    return { removals, rest, held: stuck.map((u) => this.heldBy(u, level)) };
  }

  /** What may come off: not the base, and not what the caller wants left. */
  private movable(level: Level): Unit[] {
    const { only } = this.options;
    const base = this.baseOf(level);
    return level.units.filter((u) => u !== base && (!only || u.components.every((c) => only.has(c))));
  }

  /** What the others are built on: large, touched by many, and low (common practice). */
  private baseOf(level: Level): Unit {
    if (level.base && level.units.includes(level.base)) return level.base;
    const volume = Math.max(...level.units.map((u) => u.volume), 1e-9);
    const contacts = level.units.map((u) => level.units.filter((v) => v !== u && this.touching(u, v)).length);
    const most = Math.max(...contacts, 1);
    const bottoms = level.units.map((u) => Math.min(...u.components.map((c) => this.ways.along(c, 2).box[2]!)));
    const [low, high] = [Math.min(...bottoms), Math.max(...bottoms)];
    const score = level.units.map((u, i) => u.volume / volume + (0.5 * contacts[i]!) / most + 0.5 * (1 - (bottoms[i]! - low) / Math.max(1e-9, high - low)));
    return (level.base = level.units[score.indexOf(Math.max(...score))]!);
  }

  private touching(u: Unit, v: Unit): boolean {
    return u.components.some((a) => v.components.some((b) => this.ways.touches(a, b)));
  }

  private inOrder(level: Level): Unit[] {
    return this.movable(level).sort((a, b) => Number(b.fastener) - Number(a.fastener) || a.volume - b.volume);
  }

  private firstFree(level: Level): Removal | undefined {
    const order = this.inOrder(level);
    // Turned parts wait for the way along their own axis; sideways is the last resort.
    for (const resort of [false, true])
      for (const unit of order) {
        const own = this.ownAxis(unit);
        const ways = [0, 1, 2, 3, 4, 5].filter((w) => (own === undefined || w >> 1 === own || resort) && level.isFree(unit, w));
        if (ways.length) return this.withEquals(unit, this.byTravel(unit, ways, level), order, level);
      }
    return undefined;
  }

  /** Ways along the unit's own holes, shafts and faces. */
  private freeElsewhere(level: Level): Removal | undefined {
    for (const unit of this.inOrder(level)) {
      const axes = new Set(unit.components.slice(0, 8).flatMap((c) => ownDirections(this.bodies[c]!).map((d) => this.ways.axis(d))));
      const ways = [...axes].filter((a) => a > 2).flatMap((a) => [a * 2, a * 2 + 1]);
      const free = ways.filter((w) => level.isFreeAlone(unit, w));
      if (free.length) return this.withEquals(unit, this.byTravel(unit, free, level), this.inOrder(level), level);
    }
    return undefined;
  }

  /** Two that hold each other but not the rest. */
  private freePair(level: Level): Removal | undefined {
    const units = this.inOrder(level);
    let tried = 0;
    for (let i = 0; i < units.length; i++)
      for (let j = i + 1; j < units.length; j++) {
        const [a, b] = [units[i]!, units[j]!];
        if (!this.touching(a, b)) continue;
        if (++tried > MOST_PAIRS) return undefined;
        const both = unite('', [a, b]);
        const extra = [...a.components, ...b.components].slice(0, 4).flatMap((c) => ownDirections(this.bodies[c]!, 3).map((d) => this.ways.axis(d)));
        const ways = [...new Set([0, 1, 2, ...extra])].flatMap((k) => [k * 2, k * 2 + 1]);
        const free = ways.filter((w) => level.isFreeAlone(both, w));
        if (free.length) {
          const sorted = this.byTravel(both, free, level);
          return { units: [both], way: sorted[0]!, free: sorted };
        }
      }
    return undefined;
  }

  /** What can be moved some way and then leaves to the side; its equals that can do the same come along. */
  private aroundCorner(level: Level): Removal | undefined {
    const order = this.inOrder(level).slice(0, MOST_CORNERS);
    const others = (units: readonly Unit[]) => level.units.filter((u) => !units.includes(u)).flatMap((u) => u.components);
    for (const unit of order) {
      const corner = this.corners.find(unit.components, others([unit]));
      if (!corner) continue;
      const units = [unit];
      for (const other of order) {
        if (other === unit || other.product === '' || other.product !== unit.product) continue;
        if (Math.abs(this.height(other, corner.first) - this.height(unit, corner.first)) > 5e-4 * this.ways.diagonal) continue;
        if (this.corners.isFree(other.components, others([...units, other]), corner)) units.push(other);
      }
      return { units, way: corner.then, free: [corner.then], corner };
    }
    return undefined;
  }

  /** Shortest way out first; ways that are in use already are preferred, and those that lead away from the base. */
  private byTravel(unit: Unit, ways: readonly WayIndex[], level: Level): WayIndex[] {
    const base = this.baseOf(level);
    const cost = new Map(
      ways.map((w) => {
        let need = 0;
        for (const a of unit.components)
          for (const u of level.units) if (u !== unit) for (const b of u.components) need = Math.max(need, this.ways.travel(a, b, w));
        const away = this.middle(unit, w >> 1) - this.middle(base, w >> 1);
        const share = (this.used.has(w) ? 0 : NEW_DIRECTION) - FASTENED * this.fastenedShare(unit, w >> 1);
        return [w, need + share * this.ways.diagonal - AWAY * (w & 1 ? -away : away)] as const;
      }),
    );
    return [...ways].sort((a, b) => cost.get(a)! - cost.get(b)! || a - b);
  }

  /** Remembers which way the fasteners of what is still there came off. */
  private noteFasteners({ units, way }: Removal, level: Level): void {
    const fasteners = units.filter((u) => u.fastener).flatMap((u) => u.components);
    for (const f of fasteners)
      for (const u of level.units)
        for (const c of u.components) {
          if (!this.ways.touches(f, c)) continue;
          const along = this.fastenedAlong.get(c) ?? new Map<number, number>();
          this.fastenedAlong.set(c, along.set(way >> 1, (along.get(way >> 1) ?? 0) + 1));
        }
  }

  /** Share of a unit's fasteners that came off along an axis, 0…1. */
  private fastenedShare(unit: Unit, axis: number): number {
    let [own, all] = [0, 0];
    for (const c of unit.components)
      for (const [a, n] of this.fastenedAlong.get(c) ?? []) {
        all += n;
        if (a === axis) own += n;
      }
    return all > 0 ? own / all : 0;
  }

  private middle(u: Unit, axis: number): number {
    let [low, high] = [Infinity, -Infinity];
    for (const c of u.components) {
      const b = this.ways.along(c, axis).box;
      low = Math.min(low, b[2]!);
      high = Math.max(high, b[5]!);
    }
    return (low + high) / 2;
  }

  private withEquals(unit: Unit, free: readonly WayIndex[], order: readonly Unit[], level: Level): Removal {
    const way = free[0]!;
    const units = [unit];
    // Its equals at the same height that are free the same way come along.
    for (const other of order) {
      if (other === unit || other.product === '' || other.product !== unit.product) continue;
      if (Math.abs(this.height(other, way) - this.height(unit, way)) > 5e-4 * this.ways.diagonal) continue;
      if (level.isFreeBeside(other, way, units)) units.push(other);
    }
    return { units, way, free: free.filter((w) => units.every((u) => level.isFreeBeside(u, w, units))) };
  }

  private height(u: Unit, way: WayIndex): number {
    return Math.min(...u.components.map((c) => this.ways.along(c, way >> 1).box[2]!));
  }

  /** Index of the axis about which a component is turned, if it is one of the model's. Sub-assemblies go where it is shortest. */
  private ownAxis(unit: Unit): number | undefined {
    if (unit.components.length > 1) return undefined;
    const own = unit.components[0]!;
    if (!(own in this.axisOf)) {
      const turned = turnedAxis(this.bodies[own]!);
      const axis = turned && turned.share > 0.4 ? this.ways.axes.findIndex((a, i) => i < 3 && Math.abs(dot(a, turned.axis)) > 0.999) : -1;
      this.axisOf[own] = axis < 0 ? undefined : axis;
    }
    return this.axisOf[own];
  }

  volumeOf(component: number): number {
    return this.assembly.parts[this.components[component]!.part]!.volumeMm3;
  }

  private heldBy(unit: Unit, level: Level): Held {
    let best: Held | undefined;
    for (let way = 0; way < this.ways.axes.length * 2; way++) {
      const by = level.obstaclesOf(unit, way);
      if (!best || by.length < best.by.length) best = { unit, by, way };
    }
    return best!;
  }
}
