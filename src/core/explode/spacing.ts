import { normalize, type Vec3 } from '../base/vector.ts';
import { sceneDiagonal, type Body } from '../outline/scene.ts';
import { standoff } from './blocking.ts';
import { Sight, type Along } from './columns.ts';

/** Sideways places are told apart in steps of this share of the whole. */
const STEP = 0.002;
/** … up to so many steps to either side. */
const MOST_STEPS = 2047;

/** Bodies seen along one direction, and what is known of pairs of them. */
interface Seen {
  readonly sight: Sight;
  readonly bodies: readonly Along[];
  readonly known: Map<number, number>;
}

/**
 * How far components that are pulled in one direction must be ahead of others, so that they stand behind each other in
 * the order in which they come off.
 */
export class Spacing {
  private readonly diagonal: number;
  private readonly bodies: readonly Body[];
  private readonly byText = new Map<string, Seen>();
  private readonly byDirection = new Map<Vec3, Seen>();

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
    const { sight, bodies, known } = this.along(direction);
    const [p, q] = [bodies[a]!.box, bodies[b]!.box];
    // What stands ahead of it in the assembly is not to be passed.
    if (q[2]! > p[5]! + 1e-4 * this.diagonal) return -Infinity;
    const x = sight.across(offsetA) - sight.across(offsetB);
    const y = sight.upwards(offsetA) - sight.upwards(offsetB);
    const step = STEP * this.diagonal;
    const [i, j] = [Math.round(x / step), Math.round(y / step)];
    const [dx, dy] = [i * step, j * step];
    if (p[0]! + dx > q[3]! || q[0]! > p[3]! + dx || p[1]! + dy > q[4]! || q[1]! > p[4]! + dy) return -Infinity;
    const far = Math.abs(i) > MOST_STEPS || Math.abs(j) > MOST_STEPS;
    const key = far ? -1 : ((a * this.bodies.length + b) * (2 * MOST_STEPS + 1) + i + MOST_STEPS) * (2 * MOST_STEPS + 1) + j + MOST_STEPS;
    let need = known.get(key);
    if (need === undefined) {
      need = standoff(bodies[a]!, bodies[b]!, this.diagonal, [dx, dy]);
      if (!far) known.set(key, need);
    }
    return need === -Infinity ? need : need + sight.depth(offsetB);
  }

  private along(direction: Vec3): Seen {
    // Pulls share few directions, mostly the very same ones.
    let seen = this.byDirection.get(direction);
    if (seen) return seen;
    const text = direction.map((v) => Math.round(v * 1e6)).join();
    seen = this.byText.get(text);
    if (!seen) {
      const sight = new Sight(normalize(direction));
      seen = { sight, bodies: this.bodies.map((body) => sight.of(body)), known: new Map() };
      this.byText.set(text, seen);
    }
    this.byDirection.set(direction, seen);
    return seen;
  }
}
