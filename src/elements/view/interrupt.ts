import { HIDDEN, type Linework } from '../../core/outline/linework.ts';
import type { ViewResult } from '../../core/views/compute-view.ts';
import { GAP_MM } from '../../core/views/view-map.ts';
import type { Gap } from '../../core/views/outline.ts';

/** At each end of a gap so much of the unchanging stretch stays, as a share of it. */
const STAYS = 0.12;
/** A gap is worth it when the view becomes shorter by this share. */
export const WORTH = 0.25;

/**
 * The longest stretch along an axis over which a view does not change: only straight lines along it run there. A little
 * stays at both ends.
 * @returns undefined when leaving it out would not make the view much shorter
 */
export function suggestGap(result: ViewResult, axis: Gap['axis']): Gap | undefined {
  const [low, high] = axis === 'x' ? [result.box[0], result.box[2]] : [result.box[1], result.box[3]];
  const busy = changes(result.lines, axis, high - low).sort((a, b) => a[0] - b[0]);
  let best: readonly [number, number] = [0, 0];
  let at = low;
  for (const [from, to] of [...busy, [high, high] as const]) {
    if (from - at > best[1] - best[0]) best = [at, from];
    at = Math.max(at, to);
  }
  const length = best[1] - best[0];
  // At an end of the view itself nothing is left out: it would look cut off.
  const gap: Gap = { axis, from: best[0] + STAYS * length, to: best[1] - STAYS * length };
  return gap.to - gap.from >= WORTH * (high - low) ? gap : undefined;
}

/** Stretches along an axis over which something other than a straight line along it is seen, and the ends of such lines. */
function changes({ xy, start, kind }: Linework, axis: Gap['axis'], size: number): (readonly [number, number])[] {
  const k = axis === 'x' ? 0 : 1;
  const straight = 1e-6 * size;
  const out: (readonly [number, number])[] = [];
  for (let i = 0; i < kind.length; i++) {
    if (kind[i]! & HIDDEN) continue;
    for (let p = start[i]! * 2; p < start[i + 1]! * 2 - 2; p += 2) {
      const [a, b] = [xy[p + k]!, xy[p + 2 + k]!];
      const across = Math.abs(xy[p + 3 - k]! - xy[p + 1 - k]!);
      if (across > straight) out.push([Math.min(a, b), Math.max(a, b)]);
      else out.push([a, a], [b, b]);
    }
  }
  return out;
}

/** Is a gap wider in the model than what is seen of it on paper? Else it would make the view longer. */
export const shortens = (gap: Gap, scale: number, gapMm = GAP_MM): boolean => (gap.to - gap.from) * scale > gapMm;
