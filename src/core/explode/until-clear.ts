import { combine, type Placement } from '../base/placement.ts';
import { normalize, type Vec3 } from '../base/vector.ts';
import type { Body } from '../outline/scene.ts';
import { reachOf, Sight, type Along, type RayWindow } from './columns.ts';

/** What lies within this share of a component's width around it is beside it. */
const BESIDE = 0.15;
/** Rays on a side. */
const RAYS = 48;

/**
 * How far along a direction components must go until nothing lies beside them or ahead of them any more, plus a gap; mm.
 * Only what is near counts: a pin goes to the top of its hole, not past the whole housing.
 * @param motions where everything is when they begin
 * @param direction need not be a unit vector
 */
export function clearDistance(bodies: readonly Body[], motions: readonly Placement[], moving: readonly number[], direction: Vec3, gapMm: number): number {
  const sight = new Sight(normalize(direction));
  const own = new Set(moving);
  const seen = bodies.map((b) => sight.of({ ...b, placement: combine(motions[b.component]!, b.placement) }));
  const standing = seen.filter((_, i) => !own.has(bodies[i]!.component));
  let need = 0;
  bodies.forEach((b, i) => {
    if (own.has(b.component)) for (const other of standing) need = Math.max(need, past(seen[i]!, other));
  });
  return need + gapMm;
}

/** How far the first has to go to leave behind what the second has near it. */
function past(a: Along, b: Along): number {
  const low = a.box[2]!;
  if (b.box[5]! <= low) return 0;
  const [nearX, nearY] = [BESIDE * (a.box[3]! - a.box[0]!), BESIDE * (a.box[4]! - a.box[1]!)];
  const minX = Math.max(a.box[0]! - nearX, b.box[0]!);
  const minY = Math.max(a.box[1]! - nearY, b.box[1]!);
  const width = Math.min(a.box[3]! + nearX, b.box[3]!) - minX;
  const height = Math.min(a.box[4]! + nearY, b.box[4]!) - minY;
  if (width <= 0 || height <= 0) return 0;
  const window: RayWindow = { minX, minY, dx: width / RAYS, dy: height / RAYS, width: RAYS, height: RAYS };
  const { high } = reachOf(b, window);
  let need = 0;
  for (let i = 0; i < RAYS * RAYS; i++) if (high[i]! > low + need) need = high[i]! - low;
  return need;
}
