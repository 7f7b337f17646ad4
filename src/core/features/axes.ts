import { SurfaceKind } from '../assembly/part-geometry.ts';
import { applyToDirection, applyToPoint, type Placement } from '../base/placement.ts';
import { dot, scale, subtract, type Vec3 } from '../base/vector.ts';
import { hasAxis, type PartFeatures, type Round } from './part-features.ts';

/** A round surface of a component on an axis, and where along the axis it is. */
export interface OnAxis {
  readonly component: number;
  /** Index in `rounds` of its part. */
  readonly round: number;
  readonly from: number;
  readonly to: number;
  /** The same along the axis of the round itself. */
  readonly own: readonly [number, number];
  readonly radius: number;
  readonly inward: boolean;
  readonly kind: number;
}

/** An axis of the assembly: all holes and shafts about it, of whatever component. */
export interface Axis {
  /** Unit vector; its largest part looks the positive way. */
  readonly way: Vec3;
  /** The point of the axis nearest to the origin. */
  readonly foot: Vec3;
  readonly on: readonly OnAxis[];
}

export interface PlacedFeatures {
  readonly component: number;
  readonly features: PartFeatures;
  readonly placement: Placement;
}

/** Axes closer than this are one, mm. */
const ONE_MM = 0.01;
const CELL_MM = 0.05;

/** The axes of holes and shafts, coaxial ones as one. @param wanted which rounds count; those with an axis unless said otherwise */
export function axesOf(placed: Iterable<PlacedFeatures>, wanted: (r: Round) => boolean = hasAxis): Axis[] {
  const out: { way: Vec3; foot: Vec3; on: OnAxis[] }[] = [];
  const cells = new Map<string, number[]>();
  for (const { component, features, placement } of placed)
    features.rounds.forEach((r, round) => {
      if (!wanted(r)) return;
      const turned = applyToDirection(placement, r.axis);
      const way = facingUp(turned);
      const at = applyToPoint(placement, r.at);
      const along = dot(at, way);
      const foot = subtract(at, scale(way, along));
      const flip = dot(turned, way) < 0;
      const axis = axisNear(way, foot);
      axis.on.push({
        component,
        round,
        from: along + (flip ? -r.to : r.from),
        to: along + (flip ? -r.from : r.to),
        own: [r.from, r.to],
        radius: r.radius,
        inward: r.inward,
        kind: r.kind,
      });
    });
  return out;

  function axisNear(way: Vec3, foot: Vec3) {
    const [i, j, k] = foot.map((v) => Math.round(v / CELL_MM)) as [number, number, number];
    const key = (x: number, y: number, z: number) => `${way.map((v) => Math.round(v * 1e4)).join()} ${x} ${y} ${z}`;
    for (let x = i - 1; x <= i + 1; x++)
      for (let y = j - 1; y <= j + 1; y++)
        for (let z = k - 1; z <= k + 1; z++)
          for (const n of cells.get(key(x, y, z)) ?? []) {
            const a = out[n]!;
            if (dot(a.way, way) > 1 - 1e-7 && Math.hypot(...subtract(a.foot, foot)) < ONE_MM) return a;
          }
    const made = { way, foot, on: [] as OnAxis[] };
    const n = out.push(made) - 1;
    const list = cells.get(key(i, j, k));
    if (list) list.push(n);
    else cells.set(key(i, j, k), [n]);
    return made;
  }
}

/** The same direction for both ways of an axis: the largest part is positive. */
function facingUp(v: Vec3): Vec3 {
  const clean = v.map((x) => (Math.abs(x) < 1e-12 ? 0 : x)) as unknown as Vec3;
  // Of parts that are as good as equal the first one counts.
  const most = Math.max(...clean.map(Math.abs));
  const lead = clean.find((x) => Math.abs(x) > most - 1e-6)!;
  return lead < 0 ? (scale(clean, -1).map((x) => x + 0) as unknown as Vec3) : clean;
}

/** What is on an axis: holes, shafts, or both. */
export function kindOfAxis(axis: Axis): 'hole' | 'shaft' | 'both' {
  const holes = axis.on.some((o) => o.inward);
  const shafts = axis.on.some((o) => !o.inward);
  return holes && shafts ? 'both' : holes ? 'hole' : 'shaft';
}

/** Radii of the cylinders on an axis, each once, ascending; mm. */
export function radiiOf(axis: Axis): number[] {
  const out: number[] = [];
  for (const r of axis.on
    .filter((o) => o.kind === SurfaceKind.cylinder)
    .map((o) => o.radius)
    .sort((a, b) => a - b))
    if (out.length === 0 || r - out.at(-1)! > 1e-4) out.push(r);
  return out;
}
