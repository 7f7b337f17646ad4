import type { ViewRecord } from '../../../core/document/records.ts';
import { inflate, pointToSegment, segmentsCross, type Rect } from '../../../core/base/rect.ts';
import { isFree } from './free.ts';
import { offSlant, shifted, SLANTS } from './parallel.ts';
import { assign } from '../../../core/base/assignment.ts';

/** A place for a leader's end, paper mm, y down. */
export interface PaperAnchor {
  readonly x: number;
  readonly y: number;
  /** The way out of the component there, paper, unit. */
  readonly outX: number;
  readonly outY: number;
}

export interface BalloonRequest {
  readonly id: string;
  readonly anchors: readonly PaperAnchor[];
  /** How much of a leader from an anchor to a place lies over other components, mm; absent: none does. */
  readonly over?: (anchor: PaperAnchor, x: number, y: number) => number;
}

export interface PlacedBalloon {
  readonly id: string;
  readonly x: number;
  readonly y: number;
  readonly anchor: PaperAnchor;
}

/** Centre of a balloon and the end of its leader, paper mm, y down. */
export interface StandingBalloon {
  readonly x: number;
  readonly y: number;
  readonly anchor: { readonly x: number; readonly y: number };
}

export interface LayoutArea {
  /** The view's box: balloons stand around it. */
  readonly view: Rect;
  /** Where balloons may be. */
  readonly allowed: Rect;
  /** Lists, title block and other views. */
  readonly obstacles: readonly Rect[];
  /** Balloons that stay where they are. */
  readonly standing?: readonly StandingBalloon[];
  /** Diameter of a balloon. */
  readonly diameter: number;
  /** Which sides of the view; absent: all. */
  readonly rail?: ViewRecord['rail'] | undefined;
  /** Leaders share a slant where there is room. */
  readonly parallel?: boolean;
}

/** Distance of the balloons' centres from the view's box, and between rails. */
const OFF_VIEW_MM = 13;
const LEAST_SLANT = (15 * Math.PI) / 180;
const MOST_SLANT = (75 * Math.PI) / 180;

/**
 * Places balloons on rails around a view so that leaders are short, slanted between 15° and 75°, and do not cross each
 * other or run through balloons (ISO 6433; the limits are common practice). Shortest total first, then crossings are
 * taken out by swaps, moves and other anchors.
 * @returns one per request with anchors, in the order given, as many as there is room for
 */
export function layoutBalloons(requests: readonly BalloonRequest[], area: LayoutArea): PlacedBalloon[] {
  const all = requests.filter((r) => r.anchors.length > 0);
  if (all.length === 0) return [];
  let slots: Slot[] = [];
  for (const pitch of [1.6, 1.35, 1.15]) {
    slots = slotsAround(area, area.diameter * pitch);
    if (slots.length >= all.length * 1.5) break;
  }
  if (slots.length < all.length) slots = [...slots, ...slotsAround({ ...area, view: inflate(area.view, area.diameter * 1.3) }, area.diameter * 1.15)];
  // Where there is no room for all the first ones are placed.
  const wanted = all.slice(0, slots.length);
  if (wanted.length === 0) return [];
  if (!area.parallel || area.rail === 'ring') return placedAt(wanted, slots, area).placed;
  // Each shared slant is tried: the one that comes out cheapest is taken.
  const tried = SLANTS.map((slant) => ({ slant, ...placedAt(wanted, slots, area, slant) })).reduce((a, b) => (b.cost < a.cost ? b : a));
  return shifted(tried.placed, inflate(area.view, OFF_VIEW_MM), area, tried.slant);
}

/** The cheapest places found. @param slant that leaders should have, rad */
function placedAt(
  wanted: readonly BalloonRequest[],
  slots: readonly Slot[],
  area: LayoutArea,
  slant?: number,
): { readonly placed: PlacedBalloon[]; readonly cost: number } {
  const leaders = wanted.map((r) => new Leaders(r, slots, slant));
  const best = leaders.map((l) => slots.map((_, s) => l.cheapest(s)));
  const chosen = assign(best.map((row) => row.map((b) => b.cost)));
  const state = new Arrangement(
    wanted,
    leaders,
    slots,
    area.diameter,
    chosen,
    best.map((row, i) => row[chosen[i]!]!.anchor),
    area.standing ?? [],
  );
  state.improve();
  const placed = wanted.map((r, i) => ({ id: r.id, x: slots[state.slot[i]!]!.x, y: slots[state.slot[i]!]!.y, anchor: r.anchors[state.anchor[i]!]! }));
  return { placed, cost: state.total() };
}

interface Slot {
  readonly x: number;
  readonly y: number;
}

function slotsAround(area: LayoutArea, pitch: number): Slot[] {
  const { view, diameter } = area;
  const r = inflate(view, OFF_VIEW_MM);
  const slots: Slot[] = [];
  const put = (x: number, y: number) => {
    if (isFree(x, y, area)) slots.push({ x, y });
  };
  const { rail } = area;
  if (rail === 'ring') {
    const [cx, cy] = [r.x + r.width / 2, r.y + r.height / 2];
    const radius = Math.hypot(view.width, view.height) / 2 + diameter * 0.75;
    const count = Math.max(3, Math.floor((2 * Math.PI * radius) / pitch));
    for (let i = 0; i < count; i++) put(cx + radius * Math.sin((i * 2 * Math.PI) / count), cy - radius * Math.cos((i * 2 * Math.PI) / count));
    return slots;
  }
  const on = (...names: readonly NonNullable<ViewRecord['rail']>[]) => rail === undefined || names.includes(rail);
  const columns = Math.max(1, Math.floor(r.width / pitch));
  const rows = Math.max(1, Math.floor((r.height - pitch) / pitch));
  for (let i = 0; i <= columns; i++) {
    const x = r.x + (r.width * i) / columns;
    if (on('top', 'rows')) put(x, r.y);
    if (on('foot', 'rows')) put(x, r.y + r.height);
  }
  for (let j = 1; j <= rows; j++) {
    const y = r.y + (r.height * j) / (rows + 1);
    if (on('left', 'columns')) put(r.x, y);
    if (on('right', 'columns')) put(r.x + r.width, y);
  }
  return slots;
}

/** What a radian off the shared slant costs, mm. */
const OFF_SLANT = 80;

/** Cost of one leader by itself: its length, and what its slant and its start are worth. */
function leaderCost(a: PaperAnchor, s: Slot, shared?: number): number {
  const dx = s.x - a.x;
  const dy = s.y - a.y;
  const length = Math.hypot(dx, dy);
  const slant = Math.atan2(Math.abs(dy), Math.abs(dx));
  let cost = length;
  if (slant < LEAST_SLANT || slant > MOST_SLANT) cost += 400 + 200 * Math.max(LEAST_SLANT - slant, slant - MOST_SLANT);
  if (shared !== undefined) cost += OFF_SLANT * offSlant(dx, dy, shared);
  // A leader should leave the component at once, not run over it.
  const leaving = (dx * a.outX + dy * a.outY) / (length || 1);
  if (leaving < 0.2) cost += 30 * (0.2 - leaving) + 15;
  return cost;
}

/** A leader that runs over other components seems to point at them: each millimetre counts as so many. */
const OVER_OTHERS = 2;

/** What each leader of a balloon would cost by itself, computed once. */
class Leaders {
  private readonly request: BalloonRequest;
  private readonly slots: readonly Slot[];
  private readonly known: Float64Array;
  private readonly slant: number | undefined;

  constructor(request: BalloonRequest, slots: readonly Slot[], slant?: number) {
    this.slant = slant;
    this.request = request;
    this.slots = slots;
    this.known = new Float64Array(request.anchors.length * slots.length).fill(NaN);
  }

  cost(anchor: number, slot: number): number {
    const i = anchor * this.slots.length + slot;
    if (Number.isNaN(this.known[i])) {
      const [a, s] = [this.request.anchors[anchor]!, this.slots[slot]!];
      this.known[i] = leaderCost(a, s, this.slant) + OVER_OTHERS * (this.request.over?.(a, s.x, s.y) ?? 0);
    }
    return this.known[i]!;
  }

  cheapest(slot: number): { cost: number; anchor: number } {
    let cost = Infinity;
    let anchor = 0;
    for (let a = 0; a < this.request.anchors.length; a++) {
      // What lies under a leader takes longest to find out, and only adds to its cost.
      if (leaderCost(this.request.anchors[a]!, this.slots[slot]!, this.slant) >= cost) continue;
      const c = this.cost(a, slot);
      if (c < cost) [cost, anchor] = [c, a];
    }
    return { cost, anchor };
  }
}

const CROSSING = 1000;
const THROUGH = 700;

class Arrangement {
  readonly slot: number[];
  readonly anchor: number[];
  private readonly requests: readonly BalloonRequest[];
  private readonly leaders: readonly Leaders[];
  private readonly slots: readonly Slot[];
  private readonly diameter: number;
  private readonly standing: readonly StandingBalloon[];

  constructor(
    requests: readonly BalloonRequest[],
    leaders: readonly Leaders[],
    slots: readonly Slot[],
    diameter: number,
    slot: readonly number[],
    anchor: readonly number[],
    standing: readonly StandingBalloon[],
  ) {
    this.standing = standing;
    this.requests = requests;
    this.leaders = leaders;
    this.slots = slots;
    this.diameter = diameter;
    this.slot = [...slot];
    this.anchor = [...anchor];
  }

  /** Swaps, moves and other anchors as long as the total falls. */
  improve(): void {
    const n = this.requests.length;
    for (let pass = 0; pass < 25; pass++) {
      let changed = false;
      for (let i = 0; i < n; i++) {
        if (this.tryAnchors(i)) changed = true;
        for (let j = i + 1; j < n; j++) if (this.trySwap(i, j)) changed = true;
        if (this.tryMoves(i)) changed = true;
      }
      if (!changed) return;
    }
  }

  private tryAnchors(i: number): boolean {
    const before = this.costOf(i);
    const old = this.anchor[i]!;
    let best = before;
    let pick = old;
    for (let a = 0; a < this.requests[i]!.anchors.length; a++) {
      this.anchor[i] = a;
      const c = this.costOf(i);
      if (c < best - 1e-6) {
        best = c;
        pick = a;
      }
    }
    this.anchor[i] = pick;
    return pick !== old;
  }

  private trySwap(i: number, j: number): boolean {
    const before = this.costOf(i) + this.costOf(j);
    const old = [this.slot[i]!, this.slot[j]!, this.anchor[i]!, this.anchor[j]!] as const;
    this.slot[i] = old[1];
    this.slot[j] = old[0];
    this.anchor[i] = this.leaders[i]!.cheapest(old[1]).anchor;
    this.anchor[j] = this.leaders[j]!.cheapest(old[0]).anchor;
    if (this.costOf(i) + this.costOf(j) < before - 1e-6) return true;
    [this.slot[i], this.slot[j], this.anchor[i], this.anchor[j]] = old;
    return false;
  }

  private tryMoves(i: number): boolean {
    const taken = new Set(this.slot);
    const before = this.costOf(i);
    const [oldSlot, oldAnchor] = [this.slot[i]!, this.anchor[i]!];
    let best = before;
    let pick = [oldSlot, oldAnchor] as const;
    for (let s = 0; s < this.slots.length; s++) {
      if (taken.has(s)) continue;
      this.slot[i] = s;
      this.anchor[i] = this.leaders[i]!.cheapest(s).anchor;
      const c = this.costOf(i);
      if (c < best - 1e-6) {
        best = c;
        pick = [s, this.anchor[i]!];
      }
    }
    [this.slot[i], this.anchor[i]] = pick;
    return pick[0] !== oldSlot;
  }

  /** What all cost as they stand; trouble between two counts for both. */
  total(): number {
    return this.requests.reduce((sum, _, i) => sum + this.costOf(i), 0);
  }

  /** Everything that changes when balloon i changes. */
  private costOf(i: number): number {
    const a = this.requests[i]!.anchors[this.anchor[i]!]!;
    const s = this.slots[this.slot[i]!]!;
    let cost = this.leaders[i]!.cost(this.anchor[i]!, this.slot[i]!);
    for (let j = 0; j < this.requests.length; j++) {
      if (j === i) continue;
      cost += this.conflict(a, s, this.requests[j]!.anchors[this.anchor[j]!]!, this.slots[this.slot[j]!]!);
    }
    for (const other of this.standing) cost += this.conflict(a, s, other.anchor, other);
    return cost;
  }

  /** What it costs that two balloons are in each other's way. */
  private conflict(a: Slot, s: Slot, b: Slot, t: Slot): number {
    let cost = 0;
    if (segmentsCross(a.x, a.y, s.x, s.y, b.x, b.y, t.x, t.y)) cost += CROSSING;
    if (pointToSegment(t.x, t.y, a.x, a.y, s.x, s.y) < this.diameter * 0.65) cost += THROUGH;
    if (pointToSegment(s.x, s.y, b.x, b.y, t.x, t.y) < this.diameter * 0.65) cost += THROUGH;
    // Arrow tips on one spot cannot be told apart.
    if (Math.hypot(a.x - b.x, a.y - b.y) < 2) cost += 200;
    return cost;
  }
}
