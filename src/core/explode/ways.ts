import { faceAreas } from '../assembly/face-areas.ts';
import { FACE_STRIDE, SurfaceKind } from '../assembly/part-geometry.ts';
import { applyToDirection } from '../base/placement.ts';
import { checkCancel, type Cancel } from '../base/errors.ts';
import { anyPerpendicular, cross, dot, scale, type Vec3 } from '../base/vector.ts';
import { sceneDiagonal, type Body } from '../outline/scene.ts';
import { FREE, pairWay, type PairWay } from './blocking.ts';
import { Sight, type Along } from './columns.ts';
import { grown, sharedCells, shrunk, silhouetteOf, type Silhouette } from './silhouette.ts';

/** A way is an axis with a sense: `2 × axis` goes along it, `2 × axis + 1` against it. */
export type WayIndex = number;

const MODEL_AXES: readonly Vec3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];
const PARALLEL = 1 - 1e-6;
/** Cells across the whole in which silhouettes are compared at first. */
const SHADE_CELLS = 1500;
/** Places that differ by less than this share of the whole are one. */
const SAME_PLACE = 1e-8;

/** Who is in whose way, along the model's axes and any others that are added. Pairs are computed when they are asked for. */
export class Ways {
  readonly axes: Vec3[] = [...MODEL_AXES];
  readonly diagonal: number;
  private readonly bodies: readonly Body[];
  private readonly threaded: readonly boolean[];
  private readonly seen: Along[][] = [];
  private readonly pairs: Map<number, PairWay>[] = [];
  /** By what stands how to what: machines repeat themselves. */
  private readonly alike = new Map<string, PairWay>();
  private readonly shapes = new Map<Float64Array, number>();
  private readonly shades: { wide: Silhouette; narrow: Silhouette }[][] = [];
  private readonly lists: (readonly (readonly number[])[])[] = [];
  private readonly cancel: Cancel | undefined;

  /**
   * @param bodies one per component, in their order
   * @param threaded which of them may have a thread
   */
  constructor(bodies: readonly Body[], threaded: readonly boolean[], cancel?: Cancel) {
    this.bodies = bodies;
    this.cancel = cancel;
    this.diagonal = sceneDiagonal(bodies);
    this.threaded = threaded;
  }

  direction(way: WayIndex): Vec3 {
    return scale(this.axes[way >> 1]!, way & 1 ? -1 : 1);
  }

  /** Index of an axis, added when there is none parallel to it. @param direction unit vector */
  axis(direction: Vec3): number {
    const known = this.axes.findIndex((a) => Math.abs(dot(a, direction)) > PARALLEL);
    return known >= 0 ? known : this.axes.push(direction) - 1;
  }

  along(component: number, axis: number): Along {
    let list = this.seen[axis];
    if (!list) {
      const sight = new Sight(this.axes[axis]!);
      this.seen[axis] = list = this.bodies.map((b) => sight.of(b));
    }
    return list[component]!;
  }

  /** How `b` stands in the way of `a` along an axis. */
  pair(a: number, b: number, axis: number): PairWay {
    const known = (this.pairs[axis] ??= new Map<number, PairWay>());
    const key = a * this.bodies.length + b;
    let p = known.get(key);
    if (!p) {
      const [first, second] = [this.along(a, axis), this.along(b, axis)];
      const threaded = this.threaded[a]! || this.threaded[b]!;
      const same = this.standing(first, second, threaded);
      p = this.alike.get(same) ?? pairWay(first, second, { diagonal: this.diagonal, threaded });
      this.alike.set(same, p);
      known.set(key, p);
    }
    return p;
  }

  /** Which shapes, turned how, stand how to each other. */
  private standing(a: Along, b: Along, threaded: boolean): string {
    const shape = ({ xyz }: Along) => this.shapes.get(xyz) ?? this.shapes.set(xyz, this.shapes.size).size - 1;
    const step = SAME_PLACE * this.diagonal;
    const apart = (p: number, q: number) => Math.round((q - p) / step);
    return `${shape(a)} ${shape(b)} ${apart(a.x, b.x)} ${apart(a.y, b.y)} ${apart(a.z, b.z)} ${threaded}`;
  }

  /**
   * Of two that stand one behind the other it is enough to compare silhouettes: where they overlap well inside one is in
   * the other's way, where they are well apart it is not. @returns undefined where that leaves a doubt
   */
  private quickly(a: number, b: number, axis: number): PairWay | undefined {
    const [p, q] = [this.along(a, axis).box, this.along(b, axis).box];
    const slack = 1e-3 * this.diagonal;
    const [below, above] = [p[5]! < q[2]! + slack, q[5]! < p[2]! + slack];
    if (!below && !above) return undefined;
    const [s, t] = [this.shade(a, axis), this.shade(b, axis)];
    if (sharedCells(s.wide, t.wide, 0, 0, 1) === 0) return FREE;
    if (p[5]! > q[2]! && q[5]! > p[2]!) return undefined;
    if (sharedCells(s.narrow, t.narrow, 0, 0, 1) === 0) return undefined;
    return below ? { forward: true, back: false } : { forward: false, back: true };
  }

  private shade(component: number, axis: number): { wide: Silhouette; narrow: Silhouette } {
    const list = (this.shades[axis] ??= []);
    let s = list[component];
    if (!s) {
      const toward = this.axes[axis]!;
      const right = anyPerpendicular(toward);
      const shape = silhouetteOf([this.bodies[component]!], { right, up: cross(toward, right), toward }, this.diagonal / SHADE_CELLS);
      list[component] = s = { wide: grown(shape, 1), narrow: shrunk(shape, 1) };
    }
    return s;
  }

  obstructs(a: number, b: number, way: WayIndex): boolean {
    // Moving one forward against the other is moving the other back.
    const p = a < b ? this.pair(a, b, way >> 1) : this.pair(b, a, way >> 1);
    return (way & 1) === (a < b ? 0 : 1) ? p.forward : p.back;
  }

  /** Everything that obstructs each component on a way; computed for the whole axis at once. */
  obstacles(way: WayIndex, onProgress?: (share: number) => void): readonly (readonly number[])[] {
    const known = this.lists[way];
    if (known) return known;
    const axis = way >> 1;
    const n = this.bodies.length;
    const forward: number[][] = Array.from({ length: n }, () => []);
    const back: number[][] = Array.from({ length: n }, () => []);
    // Boxes in the order of their left sides: a body meets only those that begin before it ends.
    const order = Array.from({ length: n }, (_, i) => i).sort((a, b) => this.along(a, axis).box[0]! - this.along(b, axis).box[0]!);
    order.forEach((a, i) => {
      checkCancel(this.cancel);
      if (i % 16 === 0) onProgress?.(i / n);
      const p = this.along(a, axis).box;
      for (let j = i + 1; j < n; j++) {
        const b = order[j]!;
        const q = this.along(b, axis).box;
        if (q[0]! > p[3]!) break;
        if (q[1]! > p[4]! || q[4]! < p[1]!) continue;
        const [lower, higher] = a < b ? [a, b] : [b, a];
        const way = this.quickly(lower, higher, axis) ?? this.pair(lower, higher, axis);
        if (way.forward) {
          forward[lower]!.push(higher);
          back[higher]!.push(lower);
        }
        if (way.back) {
          back[lower]!.push(higher);
          forward[higher]!.push(lower);
        }
      }
    });
    this.lists[axis * 2] = forward;
    this.lists[axis * 2 + 1] = back;
    return this.lists[way]!;
  }

  /** How far `a` has to go on a way until it is past `b`, if that is beside it or in reach of its hands, mm; else 0. */
  travel(a: number, b: number, way: WayIndex): number {
    const axis = way >> 1;
    const [own, other] = [this.along(a, axis).box, this.along(b, axis).box];
    const slack = 1e-4 * this.diagonal;
    if (own[0]! > other[3]! + slack || other[0]! > own[3]! + slack || own[1]! > other[4]! + slack || other[1]! > own[4]! + slack) return 0;
    // What it only stands beside is left behind when it is past its whole length; beyond its own end nothing is.
    if (own[2]! > other[5]! + slack || other[2]! > own[5]! + slack) return 0;
    return Math.max(0, way & 1 ? own[5]! - other[2]! : other[5]! - own[2]!);
  }

  /** Do the boxes of two components meet? */
  touches(a: number, b: number): boolean {
    const [p, q] = [this.along(a, 2).box, this.along(b, 2).box];
    const slack = 5e-4 * this.diagonal;
    for (let k = 0; k < 3; k++) if (p[k]! > q[k + 3]! + slack || q[k]! > p[k + 3]! + slack) return false;
    return true;
  }
}

/** Axes of a body's holes and shafts and normals of its plane faces, those of the largest area first; unit vectors in the model. */
export function ownDirections(body: Body, most = 6): Vec3[] {
  const g = body.geometry;
  const areas = faceAreas(g);
  const found: { d: Vec3; area: number }[] = [];
  for (let f = 0; f < g.faceKind.length; f++) {
    const kind = g.faceKind[f];
    if (kind !== SurfaceKind.cylinder && kind !== SurfaceKind.cone && kind !== SurfaceKind.plane) continue;
    const o = f * FACE_STRIDE + 3;
    const d: Vec3 = [g.faceParams[o]!, g.faceParams[o + 1]!, g.faceParams[o + 2]!];
    const same = found.find((x) => Math.abs(dot(x.d, d)) > PARALLEL);
    if (same) same.area += areas[f]!;
    else found.push({ d, area: areas[f]! });
  }
  return found
    .sort((a, b) => b.area - a.area)
    .slice(0, most)
    .map((x) => applyToDirection(body.placement, x.d));
}
