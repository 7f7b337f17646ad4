import type { Assembly, Component } from '../assembly/assembly.ts';
import { applyToPoint } from '../base/placement.ts';
import { cornersOf } from '../base/corners.ts';
import { dot } from '../base/vector.ts';
import type { HeldRecord, PullRecord, SpreadRecord } from '../document/records.ts';
import type { Stuck } from './plan.ts';

/** What is drawn away all the same goes past what holds it by this share of its own length, and at least so far, mm. */
const PAST = 0.3;
const LEAST_PAST_MM = 5;

/** What nothing frees, as it is kept in the drawing. */
export function heldRecord({ components: of, by, direction }: Stuck, components: readonly Component[]): HeldRecord {
  const path = (c: number) => components[c]!.path;
  return { components: of.map(path), by: by.map(path), direction };
}

/** What a spread leaves held: that which no pull that is made takes away all the same. */
export function stillHeld(spread: Pick<SpreadRecord, 'pulls' | 'held'>): readonly HeldRecord[] {
  if (!spread.held?.length) return [];
  const by = new Map<string, number[]>();
  spread.pulls.forEach((p, i) => p.off || p.components.forEach((c) => by.set(c, [...(by.get(c) ?? []), i])));
  const moves = (path: string | undefined) => (path === undefined ? '' : (by.get(path) ?? []).join());
  return spread.held.filter((h) => moves(h.components[0]) === moves(h.by[0]));
}

/** A pull through what holds it, as if that could open: someone chose it, so tightening leaves it. */
export function drawnAway({ components: of, by, direction }: HeldRecord, assembly: Assembly, components: readonly Component[]): PullRecord {
  const reach = (paths: readonly string[]): readonly [number, number] => {
    const at = components
      .filter((c) => paths.includes(c.path))
      .flatMap((c) => cornersOf(assembly.parts[c.part]!.box).map((p) => dot(applyToPoint(c.placement, p), direction)));
    return at.length ? [Math.min(...at), Math.max(...at)] : [0, 0];
  };
  const [low, high] = reach(of);
  const distanceMm = Math.max(0, reach(by)[1] - low) + Math.max(LEAST_PAST_MM, PAST * (high - low));
  return { components: of, direction, distanceMm, typed: true };
}
