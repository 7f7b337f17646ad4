import type { Assembly, Component } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import { checkCancel, type Cancel } from '../base/errors.ts';
import { turnedAxis } from '../cut/turned-axis.ts';
import { add, dot, scale, type Vec3 } from '../base/vector.ts';
import { namedFrame, type ViewFrame } from '../outline/directions.ts';
import { sceneDiagonal, type Body } from '../outline/scene.ts';
import { viewBox } from '../shade/raster.ts';
import { columnGrid, columnsOf, comparePair, type ColumnGrid, type Columns, type PairColumns } from './depth-columns.ts';
import { PaperMap } from './paper-map.ts';
import type { Pull } from './spread.ts';

export interface PlanOptions {
  /** The direction in which the exploded view is drawn: parts are kept apart on that paper. */
  readonly frame: ViewFrame;
  /** Least distance between parts, mm in the model. Default 1.5 % of the diagonal. */
  readonly gapMm?: number;
  readonly cancel?: Cancel;
}

export interface Plan {
  readonly pulls: readonly Pull[];
  /** Components in the order they come off; the last ones stay. */
  readonly order: readonly number[];
  /** Components that nothing frees along the axes; they stay where they are. */
  readonly blocked: readonly number[];
}

/** A set of components that comes off as one: a sub-assembly or a single component. */
interface Unit {
  readonly node: number;
  readonly product: string;
  readonly components: readonly number[];
  readonly volume: number;
  readonly fastener: boolean;
}

interface Removal {
  /** Equal units that come off together. */
  readonly units: readonly Unit[];
  readonly direction: Vec3;
  /** Index of the axis (x, y, z) and its sense. */
  readonly axis: number;
  readonly sense: 1 | -1;
}

/** Frames that look along the axes: depth grows along +x, +y, +z. */
const AXES: readonly ViewFrame[] = [namedFrame('right'), namedFrame('back'), namedFrame('top')];
const DIRECTIONS: readonly Vec3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];
const GRID_SIDE = 600;
/** Walls of holes and shafts coincide; single pixels of them are noise. */
const NOISE_PIXELS = 6;
const NOISE_SHARE = 0.05;
const THREAD_SHARE = 0.35;
const FASTENER = /\b(bolt|screw|nut|washer|pin|key|rivet|circlip|stud|ring|clip|split|cotter|schraube|mutter|scheibe|stift)\b/i;

/**
 * A first plan: what is free along an axis comes off, fasteners and small parts first, sub-assemblies of the tree as
 * units; a sub-assembly that is held is opened. Then the parts are set out from the last one back, each just far
 * enough to be clear of those already placed, in space and on paper.
 */
export function planSpread(assembly: Assembly, bodies: readonly Body[], options: PlanOptions): Plan {
  const components = componentsOf(assembly);
  if (components.length < 2) return { pulls: [], order: components.map((c) => c.index), blocked: [] };
  const peeler = new Peeler(assembly, components, bodies, options.cancel);
  const root = peeler.unit(0);
  const { removals, rest } = peeler.peel(root);
  const gap = options.gapMm ?? 0.015 * sceneDiagonal(bodies);
  const layout = new Layout(peeler, bodies, options.frame, gap, options.cancel);
  const pulls = layout.place(removals, rest);
  const order = [...removals.flatMap((r) => componentsIn(r)), ...rest.flatMap((u) => u.components)];
  return { pulls, order, blocked: rest.length > 1 ? rest.slice(1).flatMap((u) => u.components) : [] };
}

const componentsIn = (r: Removal): number[] => r.units.flatMap((u) => u.components);

class Peeler {
  readonly grids: readonly ColumnGrid[];
  readonly tolerance: number;
  private readonly cache = new Map<number, Columns>();
  private readonly pairs = new Map<number, PairColumns>();
  private readonly peeled = new Map<number, { removals: Removal[]; rest: Unit[] }>();
  private readonly assembly: Assembly;
  private readonly components: readonly Component[];
  private readonly bodies: readonly Body[];
  private readonly cancel: Cancel | undefined;

  constructor(assembly: Assembly, components: readonly Component[], bodies: readonly Body[], cancel: Cancel | undefined) {
    this.assembly = assembly;
    this.components = components;
    this.bodies = bodies;
    this.cancel = cancel;
    this.grids = AXES.map((f) => columnGrid(viewBox(bodies, f), GRID_SIDE));
    this.tolerance = 5e-4 * sceneDiagonal(bodies);
  }

  columns(component: number, axis: number): Columns {
    const key = component * 3 + axis;
    let c = this.cache.get(key);
    if (!c) {
      c = columnsOf(this.bodies[component]!, AXES[axis]!, this.grids[axis]!);
      this.cache.set(key, c);
    }
    return c;
  }

  private pair(a: number, b: number, axis: number): PairColumns {
    const key = (a * this.bodies.length + b) * 3 + axis;
    let p = this.pairs.get(key);
    if (!p) {
      p = comparePair(this.columns(a, axis), this.columns(b, axis), this.tolerance);
      this.pairs.set(key, p);
    }
    return p;
  }

  unit(node: number): Unit {
    const inside = new Set([node]);
    this.assembly.nodes.forEach((n, i) => {
      if (inside.has(n.parent)) inside.add(i);
    });
    const own = this.components.filter((c) => inside.has(c.node));
    return {
      node,
      product: this.assembly.nodes[node]!.product,
      components: own.map((c) => c.index),
      volume: own.reduce((s, c) => s + this.assembly.parts[c.part]!.volumeMm3, 0),
      fastener: own.every((c) => FASTENER.test(c.name)),
    };
  }

  children(u: Unit): Unit[] {
    const out: Unit[] = [];
    this.assembly.nodes.forEach((n, i) => {
      if (n.parent === u.node) out.push(this.unit(i));
    });
    // A level with a single child is no level.
    return out.length === 1 && this.assembly.nodes[out[0]!.node]!.part < 0 ? this.children(out[0]!) : out;
  }

  isLeaf(u: Unit): boolean {
    return this.assembly.nodes[u.node]!.part >= 0;
  }

  /** Takes the children of a unit apart; what stays last is the base. */
  peel(root: Unit): { removals: Removal[]; rest: Unit[] } {
    const known = this.peeled.get(root.node);
    if (known) return known;
    let remaining = this.isLeaf(root) ? [root] : this.children(root);
    const removals: Removal[] = [];
    while (remaining.length > 1) {
      checkCancel(this.cancel);
      const free = this.firstFree(remaining);
      if (free) {
        removals.push(free);
        remaining = remaining.filter((u) => !free.units.includes(u));
        continue;
      }
      // Nothing is free: open the smallest sub-assembly, and its equals, and go on with their parts.
      const held = remaining.filter((u) => !this.isLeaf(u)).sort((a, b) => a.volume - b.volume)[0];
      if (!held) break;
      remaining = remaining.flatMap((u) => (!this.isLeaf(u) && u.product === held.product ? this.children(u) : [u]));
    }
    const result = { removals, rest: [...remaining].sort((a, b) => b.volume - a.volume) };
    this.peeled.set(root.node, result);
    return result;
  }

  private firstFree(remaining: readonly Unit[]): Removal | undefined {
    const largest = remaining.reduce((a, b) => (b.volume > a.volume ? b : a));
    const order = remaining.filter((u) => u !== largest).sort((a, b) => Number(b.fastener) - Number(a.fastener) || a.volume - b.volume);
    // Turned parts wait for the way along their own axis; sideways is the last resort.
    for (const resort of [false, true])
      for (const unit of order) {
        const best = this.freeWays(unit, remaining, resort).sort((a, b) => a.travel - b.travel)[0];
        if (best) return this.withEquals(unit, best, order, remaining);
      }
    return undefined;
  }

  private withEquals(unit: Unit, best: { axis: number; sense: 1 | -1 }, order: readonly Unit[], remaining: readonly Unit[]): Removal {
    const { axis, sense } = best;
    const units = [unit];
    // Its equals at the same height that are free the same way come along.
    for (const other of order) {
      if (other === unit || other.product !== unit.product || Math.abs(this.height(other, axis) - this.height(unit, axis)) > this.tolerance) continue;
      const others = remaining.filter((u) => u !== other && !units.includes(u));
      if (this.isFree(other, others, axis, sense)) units.push(other);
    }
    return { units, axis, sense, direction: scale(DIRECTIONS[axis]!, sense) };
  }

  private height(u: Unit, axis: number): number {
    return Math.min(...u.components.map((c) => this.columns(c, axis).min));
  }

  /** The ways out; a turned part leaves along its own axis unless this is the last resort. */
  private freeWays(unit: Unit, remaining: readonly Unit[], resort: boolean): { axis: number; sense: 1 | -1; travel: number }[] {
    const others = remaining.filter((u) => u !== unit);
    const out: { axis: number; sense: 1 | -1; travel: number }[] = [];
    const own = this.ownAxis(unit);
    for (let axis = 0; axis < 3; axis++) {
      if (own >= 0 && axis !== own && !resort) continue;
      for (const sense of [1, -1] as const)
        if (this.isFree(unit, others, axis, sense)) out.push({ axis, sense, travel: this.travel(unit, others, axis, sense) });
    }
    return out;
  }

  /** Index of the model axis about which a unit's largest component is turned, or -1. */
  private ownAxis(unit: Unit): number {
    const largest = unit.components.reduce((a, b) => (this.volume(b) > this.volume(a) ? b : a));
    const turned = turnedAxis(this.bodies[largest]!);
    return turned && turned.share > 0.4 ? turned.axis.findIndex((v) => Math.abs(v) > 0.999) : -1;
  }

  private volume(component: number): number {
    return this.assembly.parts[this.components[component]!.part]!.volumeMm3;
  }

  private isFree(unit: Unit, others: readonly Unit[], axis: number, sense: 1 | -1): boolean {
    let blocked = 0;
    let smaller = unit.components.reduce((s, c) => s + this.columns(c, axis).count, 0);
    for (const o of others)
      for (const b of o.components)
        for (const a of unit.components) {
          const p = this.pair(a, b, axis);
          const n = sense > 0 ? p.up : p.down;
          // A screw modelled with its full diameter overlaps its thread: a ring around the shank.
          if (!((unit.fastener || o.fastener) && n < THREAD_SHARE * p.shared)) blocked += n;
          if (p.shared) smaller = Math.min(smaller, this.columns(b, axis).count);
        }
    return blocked <= Math.max(NOISE_PIXELS, NOISE_SHARE * smaller);
  }

  /** How far the unit has to go until it is past everything in its way or around it, mm. */
  private travel(unit: Unit, others: readonly Unit[], axis: number, sense: 1 | -1): number {
    let need = 0;
    for (const o of others)
      for (const b of o.components)
        for (const a of unit.components) {
          const p = this.pair(a, b, axis);
          const own = this.columns(a, axis);
          // What it only slides along is left behind when it is past its whole length.
          const other = this.columns(b, axis);
          const [top, bottom] = p.shared ? [p.top, p.bottom] : this.touches([a], b) ? [other.max, other.min] : [-Infinity, Infinity];
          need = Math.max(need, sense > 0 ? top - own.min : own.max - bottom);
        }
    return need;
  }

  /** Do the boxes of a unit and a component meet? */
  touches(unit: readonly number[], other: number): boolean {
    return unit.some((c) => {
      for (let axis = 0; axis < 3; axis++) {
        const [a, b] = [this.columns(c, axis), this.columns(other, axis)];
        if (a.min > b.max + this.tolerance || b.min > a.max + this.tolerance) return false;
      }
      return true;
    });
  }
}

interface OpenPull {
  components: number[];
  readonly direction: Vec3;
  readonly distanceMm: number;
}

/** Sets the parts out, from the base to what comes off first. */
class Layout {
  private readonly offsets: Vec3[];
  private readonly placed: number[] = [];
  private readonly pulls: OpenPull[] = [];
  private readonly paper: PaperMap;
  private readonly peeler: Peeler;
  private readonly gap: number;
  private readonly cancel: Cancel | undefined;
  private readonly reach: number;

  constructor(peeler: Peeler, bodies: readonly Body[], frame: ViewFrame, gap: number, cancel: Cancel | undefined) {
    this.peeler = peeler;
    this.gap = gap;
    this.cancel = cancel;
    this.offsets = bodies.map(() => [0, 0, 0]);
    this.paper = new PaperMap(bodies, frame, gap);
    this.reach = 0.8 * sceneDiagonal(bodies);
  }

  /** @returns pulls in the order in which parts come off */
  place(removals: readonly Removal[], rest: readonly Unit[]): Pull[] {
    for (const u of rest) this.settle(u, [0, 0, 0]);
    for (let i = removals.length - 1; i >= 0; i--) {
      checkCancel(this.cancel);
      this.placeRemoval(removals[i]!, [0, 0, 0]);
    }
    return this.pulls.reverse().map((p) => ({ ...p, clear: true }));
  }

  /** Puts down a unit that has its place; a sub-assembly is opened around its base. */
  private settle(u: Unit, offset: Vec3): void {
    if (this.peeler.isLeaf(u)) {
      for (const c of u.components) this.put(c, offset);
      return;
    }
    const inner = this.peeler.peel(u);
    for (const r of inner.rest) this.settle(r, offset);
    for (let i = inner.removals.length - 1; i >= 0; i--) this.placeRemoval(inner.removals[i]!, offset);
  }

  private placeRemoval(r: Removal, base: Vec3): void {
    const components = componentsIn(r);
    const lead = r.units.flatMap((u) => this.leadOf(u));
    const carried = this.carry(r, lead, base);
    const at = add(base, carried);
    const distance = this.distanceFor(lead, r, at);
    // Pulls are collected from the last to the first: its own comes before those inside it once reversed.
    const own: OpenPull = { components, direction: r.direction, distanceMm: distance };
    for (const u of r.units) this.settle(u, add(at, scale(r.direction, distance)));
    this.pulls.push(own);
  }

  /** What is set down first of a unit: its base. */
  private leadOf(u: Unit): readonly number[] {
    if (this.peeler.isLeaf(u)) return u.components;
    return this.peeler.peel(u).rest.flatMap((x) => this.leadOf(x));
  }

  /**
   * A part goes along with what it sits in: if that has moved sideways to the part's own way, the part joins those pulls.
   * @returns the sideways offset, relative to `base`
   */
  private carry(r: Removal, lead: readonly number[], base: Vec3): Vec3 {
    let best: Vec3 = [0, 0, 0];
    let host = -1;
    for (const c of this.placed) {
      if (!this.peeler.touches(lead, c)) continue;
      const o = this.offsets[c]!;
      const relative: Vec3 = [o[0] - base[0], o[1] - base[1], o[2] - base[2]];
      const along = dot(relative, r.direction);
      const sideways = add(relative, scale(r.direction, -along));
      if (Math.hypot(...sideways) > Math.hypot(...best) + 1e-9) {
        best = sideways;
        host = c;
      }
    }
    if (host < 0) return best;
    const components = componentsIn(r);
    for (const p of this.pulls)
      if (p.components.includes(host) && !p.components.includes(components[0]!) && Math.abs(dot(p.direction, r.direction)) < 0.5)
        p.components = [...p.components, ...components];
    return best;
  }

  private distanceFor(lead: readonly number[], r: Removal, base: Vec3): number {
    const clear = Math.max(...r.units.map((u) => this.clearDistance(this.leadOf(u), r, base)));
    const step = this.gap / 2;
    let best = clear;
    let least = Infinity;
    for (let extra = 0; extra <= this.reach; extra += step) {
      const overlap = this.paper.overlap(lead, add(base, scale(r.direction, clear + extra)));
      if (overlap < least) {
        least = overlap;
        best = clear + extra;
      }
      if (overlap === 0) break;
    }
    return Math.round(best * 2) / 2;
  }

  /** Just far enough along the direction that nothing placed so far lies beside or beyond it within the gap. */
  private clearDistance(lead: readonly number[], r: Removal, base: Vec3): number {
    const { axis, sense } = r;
    const grid = this.peeler.grids[axis]!;
    const frame = AXES[axis]!;
    const dilate = this.gap / 4 / grid.pixelMm;
    let own = sense > 0 ? Infinity : -Infinity;
    const box = [Infinity, Infinity, -Infinity, -Infinity];
    for (const c of lead) {
      const k = this.peeler.columns(c, axis);
      own = sense > 0 ? Math.min(own, k.min) : Math.max(own, k.max);
      box[0] = Math.min(box[0]!, k.x0 - dilate);
      box[1] = Math.min(box[1]!, k.y0 - dilate);
      box[2] = Math.max(box[2]!, k.x0 + k.width + dilate);
      box[3] = Math.max(box[3]!, k.y0 + k.height + dilate);
    }
    own += dot(base, frame.toward);
    let need = 0;
    for (const c of this.placed) {
      const o = this.offsets[c]!;
      const k = this.peeler.columns(c, axis);
      const dx = (dot(o, frame.right) - dot(base, frame.right)) / grid.pixelMm + k.x0;
      const dy = (dot(o, frame.up) - dot(base, frame.up)) / grid.pixelMm + k.y0;
      const dz = dot(o, frame.toward);
      const xa = Math.max(0, Math.ceil(box[0]! - dx));
      const xb = Math.min(k.width - 1, Math.floor(box[2]! - dx));
      const ya = Math.max(0, Math.ceil(box[1]! - dy));
      const yb = Math.min(k.height - 1, Math.floor(box[3]! - dy));
      for (let y = ya; y <= yb; y++)
        for (let x = xa; x <= xb; x++) {
          const i = y * k.width + x;
          const d = sense > 0 ? k.high[i]! + dz - own : own - (k.low[i]! + dz);
          if (d > need) need = d;
        }
    }
    return need > 0 ? need + this.gap : this.gap;
  }

  private put(component: number, offset: Vec3): void {
    this.offsets[component] = offset;
    this.placed.push(component);
    this.paper.put(component, offset);
  }
}
