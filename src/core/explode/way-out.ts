import type { Assembly } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import { checkCancel, type Cancel } from '../base/errors.ts';
import { combine, IDENTITY, type Placement } from '../base/placement.ts';
import { normalize, type Vec3 } from '../base/vector.ts';
import { sceneDiagonal, type Body } from '../outline/scene.ts';
import { eroded, LEAST_RAYS, sharedWindow, slackOf } from './blocking.ts';
import { crossingsOf, Sight, type Along, type Crossings } from './columns.ts';
import { isThreaded } from '../assembly/role.ts';
import { applyPull, shareOf, stepOf, type Pull } from './spread.ts';
import { sweep } from './sweep.ts';
import { threadRays } from './threads.ts';

/** Something that a component passes through on its way. */
export interface Hit {
  /** Index of the pull. */
  readonly pull: number;
  readonly component: number;
  /** What it passes through. */
  readonly through: number;
  /** From where to where on the way, mm; of a turn radians. */
  readonly from: number;
  readonly to: number;
  /** Where they meet first, model space, mm. */
  readonly at: Vec3;
}

export interface WayOut {
  /** Per pull: nothing is passed through. */
  readonly clear: readonly boolean[];
  readonly hits: readonly Hit[];
}

/** Positions looked at in a full turn. */
const TURN_STEPS = 120;

/**
 * Checks every pull along its whole way against everything that is still there at that step: what has not been moved, and
 * what was moved together with it so far. Components that were taken off before and only go along are not checked. Ways are swept exactly along the direction, ray by ray; turns are looked at every three degrees.
 * @param from first pull to be checked; those before are only made. Default 0
 * @throws QuarryError CANCELLED
 */
export function checkSpread(assembly: Assembly, bodies: readonly Body[], pulls: readonly Pull[], cancel?: Cancel, from = 0): WayOut {
  const checker = new WayChecker(assembly, bodies);
  const motions = new Array<Placement>(bodies.length).fill(IDENTITY);
  /** The pulls that each component has made: alike for what was moved together. */
  const made = new Array<string>(bodies.length).fill('');
  const hits: Hit[] = [];
  const clear = pulls.map((pull, i) => {
    checkCancel(cancel);
    const found = i < from ? [] : checker.check(pull, i, motions, made);
    hits.push(...found);
    applyPull(motions, pull);
    pull.components.forEach((c, k) => (made[c] += `${i}:${shareOf(pull, k)};`));
    return found.length === 0;
  });
  return { clear, hits };
}

class WayChecker {
  private readonly diagonal: number;
  private readonly bodyOf: readonly (Body | undefined)[];
  private readonly threaded: readonly boolean[];
  private readonly sights = new Map<string, Sight>();

  constructor(assembly: Assembly, bodies: readonly Body[]) {
    this.diagonal = sceneDiagonal(bodies);
    const of: (Body | undefined)[] = [];
    for (const b of bodies) of[b.component] = b;
    this.bodyOf = of;
    this.threaded = componentsOf(assembly).map((c) => isThreaded(c, assembly.parts[c.part]!));
  }

  check(pull: Pull, index: number, motions: readonly Placement[], made: readonly string[]): Hit[] {
    if (pull.components.length === 0) return [];
    const fresh = pull.components.some((c) => made[c] === '');
    const there = (a: number, b: number) => (fresh ? made[a] === '' : true) && (made[b] === '' || made[b] === made[a]);
    return pull.turn ? this.checkTurn(pull, index, motions, there) : this.checkShift(pull, index, motions, there);
  }

  private sight(direction: Vec3): Sight {
    const key = direction.map((v) => Math.round(v * 1e9)).join();
    let s = this.sights.get(key);
    if (!s) this.sights.set(key, (s = new Sight(direction)));
    return s;
  }

  private placed(component: number, motions: readonly Placement[]): Body | undefined {
    const b = this.bodyOf[component];
    const m = motions[component]!;
    return b && (m === IDENTITY ? b : { ...b, placement: combine(m, b.placement) });
  }

  private checkShift(pull: Pull, index: number, motions: readonly Placement[], there: (a: number, b: number) => boolean): Hit[] {
    if (!(Math.abs(pull.distanceMm) > 0)) return [];
    // Against the direction is along the other one.
    const sense = pull.distanceMm < 0 ? -1 : 1;
    const length = Math.abs(pull.distanceMm);
    const d = normalize(pull.direction);
    const sight = this.sight([d[0] * sense, d[1] * sense, d[2] * sense]);
    const share = new Map(pull.components.map((c, k) => [c, shareOf(pull, k)]));
    const seen = this.bodyOf.map((_, c): Along | undefined => {
      const body = this.placed(c, motions);
      return body && sight.of(body);
    });
    const hits: Hit[] = [];
    for (const [a, own] of share)
      for (let b = 0; b < seen.length; b++) {
        const [p, q] = [seen[a], seen[b]];
        if (!p || !q || a === b || !there(a, b)) continue;
        // Of two that move in one pull the one that goes farther is looked at, as far as it goes beyond the other.
        const way = length * (own - (share.get(b) ?? 0));
        if (way <= 1e-9) continue;
        if (q.box[2]! > p.box[5]! + way || q.box[5]! < p.box[2]!) continue;
        const hit = sweep(p, q, way, this.diagonal, this.threaded[a]! || this.threaded[b]!);
        if (hit) hits.push({ pull: index, component: a, through: b, from: hit.from, to: hit.to, at: sight.inModel(...hit.at) });
      }
    return hits;
  }

  private checkTurn(pull: Pull, index: number, motions: readonly Placement[], there: (a: number, b: number) => boolean): Hit[] {
    const { axis, angle } = pull.turn!;
    const steps = Math.max(1, Math.ceil((Math.abs(angle) / (2 * Math.PI)) * TURN_STEPS));
    const sight = this.sight(axis);
    const before = motions[pull.components[0]!]!;
    const turning = new Set(pull.components);
    const standing = this.bodyOf.flatMap((_, c) => {
      const body = turning.has(c) ? undefined : this.placed(c, motions);
      return body ? [{ c, seen: sight.of(body) }] : [];
    });
    const hits: Hit[] = [];
    pull.components.forEach((a, k) => {
      const open = new Map<number, { from: number; to: number; at: Vec3 }>();
      const body = this.placed(a, motions);
      if (!body) return;
      for (let i = 1; i <= steps; i++) {
        const part = i / steps;
        const seen = sight.of({ ...body, placement: combine(stepOf(pull, k, before, part), body.placement) });
        for (const { c, seen: other } of standing) {
          if (!there(a, c)) continue;
          const at = this.meets(seen, other, this.threaded[a]! || this.threaded[c]!);
          if (!at) continue;
          const known = open.get(c);
          if (known) known.to = Math.abs(angle) * part;
          else open.set(c, { from: Math.abs(angle) * ((i - 1) / steps), to: Math.abs(angle) * part, at: sight.inModel(...at) });
        }
      }
      for (const [through, o] of open) hits.push({ pull: index, component: a, through, ...o });
    });
    return hits;
  }

  /** Do two bodies share material where they are? */
  private meets(a: Along, b: Along, threaded: boolean): [number, number, number] | undefined {
    const slack = slackOf(a, b, this.diagonal);
    if (a.box[2]! > b.box[5]! - slack.along || b.box[2]! > a.box[5]! - slack.along) return undefined;
    const w = sharedWindow(a, b, slack.across);
    if (!w) return undefined;
    const [p, q] = [crossingsOf(a, w), crossingsOf(b, w)];
    const mask = new Uint8Array(w.width * w.height);
    const screwed = threaded ? threadRays(p, q, w, slack.along) : undefined;
    let [blocked, at, depth] = [0, -1, 0];
    for (let i = 0; i < mask.length; i++) {
      if (p.start[i] === p.start[i + 1] || q.start[i] === q.start[i + 1]) continue;
      if (screwed?.[i]) continue;
      const z = commonDepth(p, q, i, slack.along);
      if (z === undefined) continue;
      mask[i] = 1;
      blocked++;
      [at, depth] = [i, z];
    }
    if (blocked < LEAST_RAYS) return undefined;
    if (eroded(mask, w.width, w.height, slack.across / w.dx, slack.across / w.dy) < LEAST_RAYS) return undefined;
    return [w.minX + ((at % w.width) + 0.5) * w.dx, w.minY + (Math.floor(at / w.width) + 0.5) * w.dy, depth];
  }
}

function commonDepth(p: Crossings, q: Crossings, ray: number, slack: number): number | undefined {
  for (let i = p.start[ray]!; i + 1 < p.start[ray + 1]!; i += 2)
    for (let j = q.start[ray]!; j + 1 < q.start[ray + 1]!; j += 2) {
      const from = Math.max(p.z[i]!, q.z[j]!);
      if (Math.min(p.z[i + 1]!, q.z[j + 1]!) - from > slack) return from;
    }
  return undefined;
}
