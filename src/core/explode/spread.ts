import { add, scale, type Vec3 } from '../base/vector.ts';
import { combine, translation } from '../base/placement.ts';
import type { Body } from '../outline/scene.ts';

/** One step of a spread: these components move that far in that direction. */
export interface Pull {
  /** Indices of components. */
  readonly components: readonly number[];
  /** Unit vector, model space. */
  readonly direction: Vec3;
  readonly distanceMm: number;
  /** Nothing is passed through on the way. */
  readonly clear: boolean;
}

/** Where each component ends up, relative to its assembled place; mm. */
export function offsetsOf(pulls: readonly Pull[], componentCount: number): Vec3[] {
  const out: Vec3[] = Array.from({ length: componentCount }, () => [0, 0, 0]);
  for (const p of pulls) for (const c of p.components) out[c] = add(out[c]!, scale(p.direction, p.distanceMm));
  return out;
}

/** The bodies in their exploded places. */
export function explodeBodies(bodies: readonly Body[], offsets: readonly Vec3[]): Body[] {
  return bodies.map((b) => {
    const o = offsets[b.component]!;
    return o[0] === 0 && o[1] === 0 && o[2] === 0 ? b : { ...b, placement: combine(translation(o), b.placement) };
  });
}
