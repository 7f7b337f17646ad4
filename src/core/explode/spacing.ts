import { normalize, subtract, type Vec3 } from '../base/vector.ts';
import { sceneDiagonal, type Body } from '../outline/scene.ts';
import { standoff } from './blocking.ts';
import { Sight, type Along } from './columns.ts';

/**
 * How far components that are pulled in one direction must be ahead of others, so that they stand behind each other in
 * the order in which they come off.
 */
export class Spacing {
  private readonly diagonal: number;
  private readonly bodies: readonly Body[];
  private readonly sights = new Map<string, { sight: Sight; seen: Along[] }>();
  private readonly known = new Map<string, number>();

  /** @param bodies assembled, one per component, in their order */
  constructor(bodies: readonly Body[]) {
    this.bodies = bodies;
    this.diagonal = sceneDiagonal(bodies);
  }

  /**
   * Least offset of `a`, counted along the direction from its assembled place, that brings it past `b`; -Infinity when
   * they pass each other.
   * @param offsetA what `a` is moved besides
   * @param offsetB where `b` is
   */
  least(a: number, b: number, direction: Vec3, offsetA: Vec3, offsetB: Vec3): number {
    const key = direction.map((v) => Math.round(v * 1e6)).join();
    let s = this.sights.get(key);
    if (!s) {
      const sight = new Sight(normalize(direction));
      this.sights.set(key, (s = { sight, seen: this.bodies.map((body) => sight.of(body)) }));
    }
    const [x, y] = s.sight.axes(subtract(offsetA, offsetB));
    // What stands ahead of it in the assembly is not to be passed.
    if (s.seen[b]!.box[2]! > s.seen[a]!.box[5]! + 1e-4 * this.diagonal) return -Infinity;
    const step = 0.002 * this.diagonal;
    const [i, j] = [Math.round(x / step), Math.round(y / step)];
    const name = `${key}/${a}/${b}/${i}/${j}`;
    let need = this.known.get(name);
    if (need === undefined) {
      need = standoff(s.seen[a]!, s.seen[b]!, this.diagonal, [i * step, j * step]);
      this.known.set(name, need);
    }
    return need === -Infinity ? need : need + s.sight.axes(offsetB)[2];
  }
}
