import { dot, type Vec2 } from '../base/vector.ts';
import type { ViewFrame } from '../outline/directions.ts';
import type { Body } from '../outline/scene.ts';
import { Sight, type Along } from './columns.ts';
import type { PullLine } from './pull-lines.ts';

/** Two pull lines that cross on paper, and where. */
export interface Crossing {
  readonly first: number;
  readonly second: number;
  /** In view space, model mm. */
  readonly at: Vec2;
}

/** Ends of lines meet other lines without crossing them. */
const INSIDE = 0.02;

/**
 * Pull lines of different components that can be seen to cross. Lines that run into each other do not, nor those that
 * lie on each other; where several lie on each other they count once.
 * @param bodies where the lines end: pulled apart
 * @param nearMm crossings closer together are one, model mm
 */
export function crossings(lines: readonly PullLine[], bodies: readonly Body[], frame: ViewFrame, nearMm: number): Crossing[] {
  const sight = new Sight(frame.toward);
  const cover = new Cover(bodies.map((b) => sight.of(b)));
  // In the sight's axes; lines far apart are told apart by their boxes.
  const flat = lines.map((l) => {
    const points = l.points.map((p) => sight.axes(p));
    const along = (k: 0 | 1) => points.map((p) => p[k]);
    return {
      line: l,
      points,
      box: [Math.min(...along(0)), Math.min(...along(1)), Math.max(...along(0)), Math.max(...along(1))] as const,
    };
  });
  const out: Crossing[] = [];
  flat.forEach((a, i) => {
    for (const b of flat.slice(i + 1)) {
      if (a.box[0] > b.box[2] || b.box[0] > a.box[2] || a.box[1] > b.box[3] || b.box[1] > a.box[3]) continue;
      for (const c of crossingsOf(a.points, b.points)) {
        const p = sight.inModel(c.x, c.y, c.z[0]);
        const at: Vec2 = [dot(p, frame.right), dot(p, frame.up)];
        if (out.some((o) => Math.hypot(o.at[0] - at[0], o.at[1] - at[1]) < nearMm)) continue;
        if (cover.over(c.x, c.y, Math.min(...c.z))) continue;
        out.push({ first: a.line.component, second: b.line.component, at });
      }
    }
  });
  return out;
}

type Point = readonly [number, number, number];

/** Where two lines cross, and how high either is there. */
function crossingsOf(a: readonly Point[], b: readonly Point[]): { x: number; y: number; z: readonly [number, number] }[] {
  const out: { x: number; y: number; z: readonly [number, number] }[] = [];
  for (let i = 0; i + 1 < a.length; i++)
    for (let j = 0; j + 1 < b.length; j++) {
      const [p, q, r, s] = [a[i]!, a[i + 1]!, b[j]!, b[j + 1]!];
      const [ux, uy, vx, vy] = [q[0] - p[0], q[1] - p[1], s[0] - r[0], s[1] - r[1]];
      const cross = ux * vy - uy * vx;
      if (Math.abs(cross) < 1e-6 * Math.hypot(ux, uy) * Math.hypot(vx, vy)) continue;
      const t = ((r[0] - p[0]) * vy - (r[1] - p[1]) * vx) / cross;
      const u = ((r[0] - p[0]) * uy - (r[1] - p[1]) * ux) / cross;
      if (t > INSIDE && t < 1 - INSIDE && u > INSIDE && u < 1 - INSIDE)
        out.push({ x: p[0] + t * ux, y: p[1] + t * uy, z: [p[2] + t * (q[2] - p[2]), r[2] + u * (s[2] - r[2])] });
    }
  return out;
}

/** What lies over a point, seen along a direction. */
class Cover {
  private readonly seen: readonly Along[];

  constructor(seen: readonly Along[]) {
    this.seen = seen;
  }

  /** Does anything lie higher than `z` over a place? */
  over(x: number, y: number, z: number): boolean {
    return this.seen.some((a) => {
      const b = a.box;
      if (x < b[0]! || x > b[3]! || y < b[1]! || y > b[4]! || z >= b[5]!) return false;
      const [u, v, w] = [x - a.x, y - a.y, z - a.z];
      let found = false;
      a.bins.within(u, v, u, v, (t) => (found ||= covers(a, t, u, v, w)));
      return found;
    });
  }
}

/** Does a triangle pass over a point? */
function covers(a: Along, t: number, x: number, y: number, z: number): boolean {
  const tri = a.geometry.triangles;
  const v = a.xyz;
  const [i, j, k] = [tri[t]! * 3, tri[t + 1]! * 3, tri[t + 2]! * 3];
  const [ax, ay, bx, by, cx, cy] = [v[i]! - x, v[i + 1]! - y, v[j]! - x, v[j + 1]! - y, v[k]! - x, v[k + 1]! - y];
  const [p, q, r] = [bx * cy - by * cx, cx * ay - cy * ax, ax * by - ay * bx];
  if ((p < 0 || q < 0 || r < 0) && (p > 0 || q > 0 || r > 0)) return false;
  const sum = p + q + r;
  return sum !== 0 && (p * v[i + 2]! + q * v[j + 2]! + r * v[k + 2]!) / sum > z;
}
