import { checkCancel, type Cancel } from '../base/errors.ts';
import { dot, type Vec2, type Vec3 } from '../base/vector.ts';
import type { ViewFrame } from '../outline/directions.ts';
import { sceneDiagonal, type Body } from '../outline/scene.ts';
import { PaperGroups, type Group } from './on-paper.ts';
import { sharedCells, type Silhouette } from './silhouette.ts';
import { Spacing } from './spacing.ts';
import type { Pull } from './spread.ts';

export interface TightenOptions {
  readonly frame: ViewFrame;
  /** Least distance between separately pulled components on paper, mm in the model. */
  readonly gapMm: number;
  /** Pulls whose distance stays as it is, by index. */
  readonly kept?: ReadonlySet<number>;
  /** Directions that each pull may take instead. */
  readonly ways?: readonly (readonly Vec3[])[];
  readonly cancel?: Cancel | undefined;
}

/** What a solution has to keep to, by pull. */
export interface Wish {
  /** At least so far, mm. */
  readonly floors?: ReadonlyMap<number, number>;
  /** In this direction and no other. */
  readonly directions?: ReadonlyMap<number, Vec3>;
}

/** A pull goes at most so many times the diagonal of the whole. */
const REACH = 1.2;
const ROUNDS = 3;
/** Another direction than the first one costs this share of the reach. */
const OTHER_WAY = 0.6;
/** Places are first looked for in steps of so many cells. */
const STRIDE = 3;

/**
 * The shortest distances at which no two separately pulled components touch on paper. Pulls are set from the last to the
 * first, as the assembly grows, each as short as what stands already allows; then each is tried shorter once more.
 * Where there is no room within reach the place with the least overlap is taken.
 * @returns the pulls with their distances, and with another of the directions they may take where the first has no room
 */
export function tighten(bodies: readonly Body[], pulls: readonly Pull[], options: TightenOptions): Pull[] {
  return new Tightener(bodies, pulls, options).solve();
}

/** Tightens the same spread again and again, under other wishes. */
export class Tightener {
  readonly paper: PaperGroups;
  private readonly given: readonly Pull[];
  private readonly options: TightenOptions;
  private readonly spacing: Spacing;
  private readonly reach: number;
  /** First pull of each component. */
  private readonly firstPull = new Map<number, number>();
  private pulls: Pull[] = [];
  private distances: number[] = [];
  private wish: Wish = {};

  /** @param spacing of the same bodies, where there is one already: it remembers much */
  constructor(bodies: readonly Body[], pulls: readonly Pull[], options: TightenOptions, spacing = new Spacing(bodies)) {
    this.paper = new PaperGroups(bodies, pulls, options.frame, options.gapMm);
    this.given = pulls;
    this.options = options;
    this.spacing = spacing;
    this.reach = REACH * sceneDiagonal(bodies);
    pulls.forEach((p, k) => p.components.forEach((c) => !this.firstPull.has(c) && this.firstPull.set(c, k)));
  }

  solve(wish: Wish = {}): Pull[] {
    this.wish = wish;
    this.pulls = [...this.given];
    this.paper.pulls = this.pulls;
    this.distances = this.given.map((p, k) => (this.isFixed(k) ? p.distanceMm : 0));
    for (let k = this.pulls.length - 1; k >= 0; k--) {
      checkCancel(this.options.cancel);
      if (!this.isFixed(k)) this.settle(k);
    }
    for (let round = 0; round < ROUNDS; round++) if (!this.shorten()) break;
    const after = this.overlapOfAll();
    const tight = this.pulls.map((p, k) => ({ ...p, distanceMm: this.distances[k]! }));
    // Whoever found room by hand where there is hardly any does better.
    this.given.forEach((p, k) => {
      this.pulls[k] = p;
      this.distances[k] = p.distanceMm;
    });
    return this.overlapOfAll() < after ? [...this.given] : tight;
  }

  /** Tries each pull shorter where the others are now. @returns whether one was */
  private shorten(): boolean {
    let shorter = false;
    for (let k = 0; k < this.pulls.length; k++) {
      checkCancel(this.options.cancel);
      if (this.isFixed(k)) continue;
      const before = this.distances[k]!;
      const pairs = this.pairs(k, false);
      const after = this.shortest(k, pairs, Math.min(before, this.least(k, pairs)), before);
      if (after < before - 1e-9) shorter = true;
      this.distances[k] = after;
    }
    return shorter;
  }

  /** Cells in which separately pulled components overlap. */
  private overlapOfAll(): number {
    const { groups } = this.paper;
    let n = 0;
    groups.forEach((a, i) => {
      const [ax, ay] = this.paper.cells(a, this.distances);
      for (const b of groups.slice(i + 1)) {
        const [bx, by] = this.paper.cells(b, this.distances);
        n += sharedCells(a.shape, b.shape, ax - bx, ay - by);
      }
    });
    return n;
  }

  /** Sets a pull for the first time, in the direction in which it has the shortest way to a free place. */
  private settle(k: number): void {
    const pairs = this.pairs(k, true);
    const pull = this.given[k]!;
    const wished = this.wish.directions?.get(k);
    let best: { direction: Vec3; distance: number; cost: number } | undefined;
    for (const direction of wished ? [wished] : [pull.direction, ...(this.options.ways?.[k] ?? [])]) {
      this.pulls[k] = { ...pull, direction };
      const least = this.least(k, pairs);
      const distance = this.shortest(k, pairs, least, Math.max(least + this.reach, pull.distanceMm));
      this.distances[k] = distance;
      const cost = distance + (this.overlap(k, pairs) > 0 ? 10 * this.reach : 0) + (direction === pull.direction ? 0 : OTHER_WAY * this.reach);
      if (!best || cost < best.cost) best = { direction, distance, cost };
    }
    this.pulls[k] = { ...pull, direction: best!.direction };
    this.distances[k] = best!.distance;
  }

  private isFixed(k: number): boolean {
    const p = this.given[k]!;
    return p.turn !== undefined || p.leg === true || p.components.length === 0 || (this.options.kept?.has(k) ?? false);
  }

  /** Pairs of groups that the pull moves against each other. @param decided only those that no earlier pull moves apart */
  private pairs(k: number, decided: boolean): [Group, Group][] {
    const out: [Group, Group][] = [];
    const { groups } = this.paper;
    for (const a of groups) {
      if (!(a.shares[k]! > 0)) continue;
      for (const b of groups) if (a.shares[k]! > b.shares[k]! && (!decided || this.alikeBefore(a, b, k))) out.push([a, b]);
    }
    return out;
  }

  /** Do two groups make the same pulls before `k`, those that are fixed not counted? */
  private alikeBefore(a: Group, b: Group, k: number): boolean {
    const [p, q] = [a.made, b.made];
    let [i, j] = [0, 0];
    for (;;) {
      while (i < p.length && p[i]! < k && this.isFixed(p[i]!)) i++;
      while (j < q.length && q[j]! < k && this.isFixed(q[j]!)) j++;
      const [x, y] = [i < p.length && p[i]! < k ? p[i]! : -1, j < q.length && q[j]! < k ? q[j]! : -1];
      if (x !== y) return false;
      if (x < 0) return true;
      if (a.shares[x] !== b.shares[x]) return false;
      i++;
      j++;
    }
  }

  /**
   * How far pull `k` has to go at least so that what it takes off stands, in its direction, beyond everything that comes
   * off later, a gap apart.
   */
  private least(k: number, pairs: readonly (readonly [Group, Group])[]): number {
    const { direction } = this.pulls[k]!;
    const before = this.distances[k]!;
    this.distances[k] = 0;
    let need = Math.max(this.options.gapMm, this.wish.floors?.get(k) ?? 0);
    for (const [a, b] of pairs) {
      const [offA, offB] = [this.paper.offset(a, this.distances), this.paper.offset(b, this.distances)];
      const start = dot(offA, direction);
      for (const c of a.components) {
        // What only goes along has its place by another pull.
        if (this.firstPull.get(c) !== k) continue;
        for (const d of b.components) {
          const along = this.spacing.least(c, d, direction, offA, offB);
          if (along > -Infinity) need = Math.max(need, (along - start + this.options.gapMm) / (a.shares[k]! - b.shares[k]!));
        }
      }
    }
    this.distances[k] = before;
    return need;
  }

  /**
   * Shortest distance of pull `k`, from `first` up to `most`, at which none of the pairs touch on paper; where there is
   * none, that of the least overlap.
   */
  private shortest(k: number, pairs: readonly (readonly [Group, Group])[], first: number, most: number): number {
    const { frame, cellMm } = this.paper;
    const { direction } = this.pulls[k]!;
    const seen = Math.hypot(dot(direction, frame.right), dot(direction, frame.up));
    // Seen from its end a pull does nothing on paper.
    if (seen < 0.05) return first;
    const step = cellMm / seen;
    const before = this.distances[k]!;
    const shifts = this.shiftsOf(k, pairs, first - STRIDE * step, most);
    const overlapAt = (d: number, stopAt: number) => overlapOf(shifts, d, stopAt);
    let best = before;
    let least = Infinity;
    for (let n = 0; ; n += STRIDE) {
      const d = Math.min(most, first + n * step);
      const shared = overlapAt(d, least);
      if (shared < least) {
        least = shared;
        best = d;
      }
      if (shared === 0 || d >= most) break;
    }
    // The step before was not free; the cells between may be.
    if (least === 0)
      for (let i = 0; i < STRIDE - 1 && best - step >= first; i++) {
        if (overlapAt(best - step, 1) > 0) break;
        best -= step;
      }
    return best;
  }

  private overlap(k: number, pairs: readonly (readonly [Group, Group])[]): number {
    return overlapOf(this.shiftsOf(k, pairs, this.distances[k]!, this.distances[k]!), this.distances[k]!, Infinity);
  }

  /** How each pair stands to each other on the grid, as far as pull `k` goes; only pairs whose boxes meet between two distances. */
  private shiftsOf(k: number, pairs: readonly (readonly [Group, Group])[], first: number, most: number): Shift[] {
    const { frame, cellMm } = this.paper;
    const { direction } = this.pulls[k]!;
    const [dx, dy] = [dot(direction, frame.right) / cellMm, dot(direction, frame.up) / cellMm];
    const before = this.distances[k]!;
    this.distances[k] = 0;
    const at = new Map<Group, Vec2>();
    const place = (g: Group): Vec2 => {
      let p = at.get(g);
      if (!p) {
        const o = this.paper.offset(g, this.distances);
        at.set(g, (p = [dot(o, frame.right) / cellMm, dot(o, frame.up) / cellMm]));
      }
      return p;
    };
    const out: Shift[] = [];
    for (const [moving, second] of pairs) {
      const [p, q] = [place(moving), place(second)];
      const [a, b] = [moving.grownShape, second.grownShape];
      const share = moving.shares[k]! - second.shares[k]!;
      const [x, y, ux, uy] = [p[0] - q[0], p[1] - q[1], dx * share, dy * share];
      // A cell is added for rounding.
      const [lowX, highX] = [b.x0 - a.width - 1 - a.x0 - x, b.x0 + b.width + 1 - a.x0 - x];
      const [lowY, highY] = [b.y0 - a.height - 1 - a.y0 - y, b.y0 + b.height + 1 - a.y0 - y];
      const from = Math.max(entry(lowX, highX, ux), entry(lowY, highY, uy), first);
      const to = Math.min(exit(lowX, highX, ux), exit(lowY, highY, uy), most);
      if (from <= to) out.push({ a, b, x, y, ux, uy, from, to });
    }
    this.distances[k] = before;
    return out;
  }
}

/** At what distance something that moves from nought comes between two bounds, and when it leaves; cells and cells per mm. */
const entry = (low: number, high: number, speed: number): number =>
  speed > STILL ? low / speed : speed < -STILL ? high / speed : low < 0 && high > 0 ? -Infinity : Infinity;
const exit = (low: number, high: number, speed: number): number =>
  speed > STILL ? high / speed : speed < -STILL ? low / speed : low < 0 && high > 0 ? Infinity : -Infinity;
const STILL = 1e-12;

/** Two silhouettes, and where the first is on the second's grid: at nought, and per mm of a pull. */
interface Shift {
  readonly a: Silhouette;
  readonly b: Silhouette;
  readonly x: number;
  readonly y: number;
  readonly ux: number;
  readonly uy: number;
  /** From where to where on the pull their boxes meet, mm. */
  readonly from: number;
  readonly to: number;
}

function overlapOf(shifts: readonly Shift[], d: number, stopAt: number): number {
  let n = 0;
  for (const s of shifts) {
    if (d < s.from || d > s.to) continue;
    n += sharedCells(s.a, s.b, Math.round(s.x + s.ux * d), Math.round(s.y + s.uy * d));
    if (n >= stopAt) return n;
  }
  return n;
}
