import { circleThrough } from '../../core/assembly/fit.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import type { Circle } from './circles.ts';

/** A circle on which centres lie. View space, model mm. */
export interface PitchCircle {
  readonly at: Vec2;
  readonly radius: number;
}

/** At most so many holes of one size in a component are looked at. */
const MOST = 60;
const ONE_MM = 0.02;

/**
 * Circles of holes: three or more circles of one size of a component, evenly spaced about the centre of another circle of it.
 * Rows and rectangles of holes that have nothing in their middle are none.
 */
export function pitchCirclesOf(circles: readonly Circle[]): PitchCircle[] {
  const out: PitchCircle[] = [];
  const groups = new Map<string, Circle[]>();
  for (const c of circles) {
    const key = `${c.component} ${Math.round(c.radius * 100)}`;
    groups.set(key, [...(groups.get(key) ?? []), c]);
  }
  for (const all of groups.values()) {
    const group = unique(all);
    if (group.length < 3 || group.length > MOST) continue;
    const middles = unique(circles.filter((c) => c.component === group[0]!.component && Math.abs(c.radius - group[0]!.radius) > ONE_MM));
    for (const m of middles) {
      // By distance from the middle: each ring of holes is one.
      const rings = new Map<number, Circle[]>();
      for (const c of group) {
        const d = Math.round(Math.hypot(c.x - m.x, c.y - m.y) * 20);
        if (d > 0) rings.set(d, [...(rings.get(d) ?? []), c]);
      }
      for (const ring of rings.values())
        if (isEven(ring, m) && !out.some((p) => same(p, m, ring))) out.push({ at: [m.x, m.y], radius: Math.hypot(ring[0]!.x - m.x, ring[0]!.y - m.y) });
    }
  }
  return out;
}

const same = (p: PitchCircle, m: Circle, ring: readonly Circle[]) =>
  Math.hypot(p.at[0] - m.x, p.at[1] - m.y) < ONE_MM && Math.abs(p.radius - Math.hypot(ring[0]!.x - m.x, ring[0]!.y - m.y)) < ONE_MM;

const unique = (list: readonly Circle[]): Circle[] => {
  const out: Circle[] = [];
  for (const c of list) if (!out.some((o) => Math.hypot(o.x - c.x, o.y - c.y) < ONE_MM)) out.push(c);
  return out;
};

function isEven(ring: readonly Circle[], m: Circle): boolean {
  if (ring.length < 3) return false;
  const angles = ring.map((c) => Math.atan2(c.y - m.y, c.x - m.x)).sort((a, b) => a - b);
  const step = (2 * Math.PI) / ring.length;
  return angles.every((a, i) => Math.abs((i + 1 < angles.length ? angles[i + 1]! : angles[0]! + 2 * Math.PI) - a - step) < 1e-3);
}

/** The circle through three points or more, by the first, the middle and the last; undefined when they are in line. */
export function circleThroughPoints(points: readonly Vec2[]): PitchCircle | undefined {
  if (points.length < 3) return undefined;
  const [a, b, c] = [points[0]!, points[points.length >> 1]!, points.at(-1)!];
  const found = circleThrough([...a, 0], [...b, 0], [...c, 0]);
  return found && { at: [found.centre[0], found.centre[1]], radius: found.radius };
}
