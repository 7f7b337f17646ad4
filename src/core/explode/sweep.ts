import { eroded, LEAST_RAYS, sharedWindow, slackOf, type Slack } from './blocking.ts';
import { crossingsOf, reachOf, type Along } from './columns.ts';
import { threadRays } from './threads.ts';

/** Where a body on its way goes through another. */
export interface Swept {
  /** On the way, mm. */
  readonly from: number;
  readonly to: number;
  /** Where they meet first, in the axes of the sight. */
  readonly at: [number, number, number];
}

/**
 * One body on its way along the sight against one that stands, exact ray by ray.
 * @param way how far it goes, mm
 * @param threaded one of them has a thread: overlap in place that looks like one is nothing to go through
 * @returns undefined when it goes by
 */
export function sweep(a: Along, b: Along, way: number, diagonal: number, threaded: boolean): Swept | undefined {
  const slack = slackOf(a, b, diagonal);
  const w = sharedWindow(a, b, slack.across);
  if (!w || !mayMeet(a, b, way, slack)) return undefined;
  const [p, q] = [crossingsOf(a, w), crossingsOf(b, w)];
  const cells = w.width * w.height;
  const mask = new Uint8Array(cells);
  const first = new Float64Array(cells).fill(Infinity);
  let last = 0;
  const screwed = threaded ? threadRays(p, q, w, slack.along) : undefined;
  let blocked = 0;
  for (let i = 0; i < cells; i++) {
    const [p0, p1, q0, q1] = [p.start[i]!, p.start[i + 1]!, q.start[i]!, q.start[i + 1]!];
    if (p0 === p1 || q0 === q1) continue;
    if (screwed?.[i]) continue;
    let [enter, leave] = [Infinity, 0];
    for (let j = p0; j + 1 < p1; j += 2)
      for (let k = q0; k + 1 < q1; k += 2) {
        // The first meets the second while it is shifted by more than this and less than that.
        const t0 = Math.max(0, q.z[k]! - p.z[j + 1]! + slack.along);
        const t1 = Math.min(way, q.z[k + 1]! - p.z[j]! - slack.along);
        if (t1 <= t0) continue;
        if (t0 < enter) enter = t0;
        if (t1 > leave) leave = t1;
      }
    if (enter === Infinity) continue;
    mask[i] = 1;
    blocked++;
    first[i] = enter;
    if (leave > last) last = leave;
  }
  if (blocked < LEAST_RAYS) return undefined;
  if (eroded(mask, w.width, w.height, slack.across / w.dx, slack.across / w.dy) < LEAST_RAYS) return undefined;
  let at = -1;
  for (let i = 0; i < cells; i++) if (mask[i] && (at < 0 || first[i]! < first[at]!)) at = i;
  const [x, y] = [w.minX + ((at % w.width) + 0.5) * w.dx, w.minY + (Math.floor(at / w.width) + 0.5) * w.dy];
  const depth = q.z[q.start[at]!]!;
  return { from: first[at]!, to: last, at: [x, y, depth] };
}

/** Rays on a side of a first look: most pairs share no ray on which they could meet. */
const FIRST_LOOK = 56;

/** Is there a ray on which the whole of one could meet the whole of the other? */
function mayMeet(a: Along, b: Along, way: number, slack: Slack): boolean {
  const w = sharedWindow(a, b, slack.across, [0, 0], FIRST_LOOK);
  if (!w) return false;
  const [p, q] = [reachOf(a, w), reachOf(b, w)];
  for (let i = 0; i < FIRST_LOOK * FIRST_LOOK; i++) if (p.high[i]! + way > q.low[i]! + slack.along && q.high[i]! > p.low[i]! + slack.along) return true;
  return false;
}
