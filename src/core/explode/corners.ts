import { checkCancel, type Cancel } from '../base/errors.ts';
import { scale } from '../base/vector.ts';
import type { Body } from '../outline/scene.ts';
import { pairWay } from './blocking.ts';
import { shifted, Sight, type Along } from './columns.ts';
import { sweep } from './sweep.ts';
import type { Ways, WayIndex } from './ways.ts';

/** A way with a corner: some distance on one way, then off on another one. */
export interface Corner {
  readonly first: WayIndex;
  readonly distanceMm: number;
  readonly then: WayIndex;
}

/** Places on the first leg from which the second one is tried. */
const PLACES = 16;
/** A first leg shorter than this share of the whole is no leg. */
const SHORTEST = 1e-3;
const MODEL_WAYS: readonly WayIndex[] = [4, 5, 0, 1, 2, 3];

/** Looks for ways with a corner, for what has no straight one: a bolt that is lifted out of its hole and taken away to the side. */
export class Corners {
  private readonly ways: Ways;
  private readonly bodies: readonly Body[];
  private readonly threaded: readonly boolean[];
  private readonly cancel: Cancel | undefined;
  private readonly sights = new Map<WayIndex, { sight: Sight; seen: (Along | undefined)[] }>();

  /** @param bodies one per component, in their order */
  constructor(ways: Ways, bodies: readonly Body[], threaded: readonly boolean[], cancel?: Cancel) {
    this.ways = ways;
    this.bodies = bodies;
    this.threaded = threaded;
    this.cancel = cancel;
  }

  /**
   * The first way with a corner on which components are free of others; upwards is tried first.
   * @returns undefined when there is none
   */
  find(own: readonly number[], others: readonly number[]): Corner | undefined {
    for (const first of MODEL_WAYS) {
      checkCancel(this.cancel);
      const room = this.room(own, others, first);
      if (room < SHORTEST * this.ways.diagonal) continue;
      let best: { then: WayIndex; from: number; to: number } | undefined;
      for (const then of MODEL_WAYS) {
        // Along the same axis is no corner.
        if (then >> 1 === first >> 1) continue;
        const span = this.span(own, others, first, then, room);
        if (span && (!best || span.from < best.from)) best = { then, ...span };
      }
      // In the middle of where it is free there is the most room on either side.
      if (best) return { first, distanceMm: (best.from + best.to) / 2, then: best.then };
    }
    return undefined;
  }

  /** Is a way with a corner free for these components too? */
  isFree(own: readonly number[], others: readonly number[], corner: Corner): boolean {
    return this.room(own, others, corner.first) >= corner.distanceMm && this.isFreeFrom(own, others, corner.first, corner.distanceMm, corner.then);
  }

  /** How far components can go on a way before they meet something, mm. */
  private room(own: readonly number[], others: readonly number[], way: WayIndex): number {
    let room = this.ways.diagonal;
    for (const a of own)
      for (const b of others) {
        const [p, q] = [this.along(a, way), this.along(b, way)];
        if (q.box[2]! > p.box[5]! + room || q.box[5]! < p.box[2]!) continue;
        const hit = sweep(p, q, room, this.ways.diagonal, this.threaded[a]! || this.threaded[b]!);
        if (hit) room = Math.min(room, hit.from);
      }
    return room;
  }

  /** The first stretch of a leg from which another way is free, mm. */
  private span(own: readonly number[], others: readonly number[], first: WayIndex, then: WayIndex, room: number): { from: number; to: number } | undefined {
    let from: number | undefined;
    for (let i = 1; i <= PLACES; i++) {
      const at = (room * i) / PLACES;
      const free = this.isFreeFrom(own, others, first, at, then);
      if (free) from ??= at;
      else if (from !== undefined) return { from, to: (room * (i - 1)) / PLACES };
    }
    return from === undefined ? undefined : { from, to: room };
  }

  private isFreeFrom(own: readonly number[], others: readonly number[], first: WayIndex, distanceMm: number, then: WayIndex): boolean {
    const by = this.look(then).sight.axes(scale(this.ways.direction(first), distanceMm));
    return own.every((a) => {
      const p = shifted(this.along(a, then), by);
      return others.every((b) => !pairWay(p, this.along(b, then), { diagonal: this.ways.diagonal, threaded: false }).forward);
    });
  }

  private look(way: WayIndex) {
    let l = this.sights.get(way);
    if (!l) this.sights.set(way, (l = { sight: new Sight(this.ways.direction(way)), seen: [] }));
    return l;
  }

  private along(component: number, way: WayIndex): Along {
    const { sight, seen } = this.look(way);
    return (seen[component] ??= sight.of(this.bodies[component]!));
  }
}
