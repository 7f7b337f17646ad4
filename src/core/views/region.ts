import type { ProjectedCircle } from '../outline/arcs.ts';
import { gapsAlong, type Gap } from './outline.ts';

/** Rows into which the edges of an outline are sorted. */
const BANDS = 64;
/** A point this near to the border, as a share of the outline's size, lies on it. */
const ON_BORDER = 1e-9;

/**
 * The part of a view plane that is shown: inside a closed outline, outside the gaps. Its border belongs to it. View space,
 * model mm; the outline counts by the even-odd rule.
 */
export class Region {
  readonly ring: Float64Array | undefined;
  readonly gaps: { readonly x: readonly Gap[]; readonly y: readonly Gap[] };
  /** minX minY maxX maxY of the outline; infinite without one. */
  readonly box: readonly [number, number, number, number];
  private readonly bands: readonly (readonly number[])[];
  private readonly eps: number;

  constructor(ring: Float64Array | undefined, gaps: readonly Gap[]) {
    this.ring = ring;
    this.gaps = { x: gapsAlong(gaps, 'x'), y: gapsAlong(gaps, 'y') };
    const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = 0; ring && i < ring.length; i += 2) {
      box[0] = Math.min(box[0], ring[i]!);
      box[1] = Math.min(box[1], ring[i + 1]!);
      box[2] = Math.max(box[2], ring[i]!);
      box[3] = Math.max(box[3], ring[i + 1]!);
    }
    this.box = ring ? box : [-Infinity, -Infinity, Infinity, Infinity];
    this.eps = ring ? ON_BORDER * Math.max(box[2] - box[0], box[3] - box[1]) : 0;
    const bands: number[][] = Array.from({ length: ring ? BANDS : 0 }, () => []);
    for (let i = 0; ring && i < ring.length; i += 2) {
      const j = (i + 2) % ring.length;
      const [first, last] = [this.band(Math.min(ring[i + 1]!, ring[j + 1]!)), this.band(Math.max(ring[i + 1]!, ring[j + 1]!))];
      for (let b = first; b <= last; b++) bands[b]!.push(i);
    }
    this.bands = bands;
  }

  private band(y: number): number {
    const share = (y - this.box[1]) / (this.box[3] - this.box[1]);
    return Math.min(BANDS - 1, Math.max(0, Math.floor(share * BANDS)));
  }

  /** Does a point lie in the region or on its border? */
  keeps(x: number, y: number): boolean {
    return this.betweenGaps(x, y) && this.inside(x, y);
  }

  private betweenGaps(x: number, y: number): boolean {
    for (const g of this.gaps.x) if (x > g.from && x < g.to) return false;
    for (const g of this.gaps.y) if (y > g.from && y < g.to) return false;
    return true;
  }

  private inside(x: number, y: number): boolean {
    const { ring, box, eps } = this;
    if (!ring) return true;
    if (x < box[0] - eps || y < box[1] - eps || x > box[2] + eps || y > box[3] + eps) return false;
    let odd = false;
    for (const i of this.bands[this.band(y)]!) {
      const j = (i + 2) % ring.length;
      const [ax, ay, bx, by] = [ring[i]!, ring[i + 1]!, ring[j]!, ring[j + 1]!];
      const [dx, dy] = [bx - ax, by - ay];
      const l2 = dx * dx + dy * dy;
      const t = l2 > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / l2)) : 0;
      if (Math.abs(x - ax - t * dx) <= eps && Math.abs(y - ay - t * dy) <= eps) return true;
      if (ay > y !== by > y && x < ax + (dx * (y - ay)) / dy) odd = !odd;
    }
    return odd;
  }

  /** Is no point of a box in the region for sure? */
  misses(x0: number, y0: number, x1: number, y1: number): boolean {
    const { box } = this;
    return x1 < box[0] || y1 < box[1] || x0 > box[2] || y0 > box[3];
  }

  /** May the border run through a box? */
  touches(x0: number, y0: number, x1: number, y1: number): boolean {
    for (const g of this.gaps.x) if (x1 >= g.from && x0 <= g.to) return true;
    for (const g of this.gaps.y) if (y1 >= g.from && y0 <= g.to) return true;
    const { ring } = this;
    if (!ring || this.misses(x0, y0, x1, y1)) return false;
    for (let b = this.band(y0); b <= this.band(y1); b++)
      for (const i of this.bands[b]!) {
        const j = (i + 2) % ring.length;
        const apart =
          Math.max(ring[i]!, ring[j]!) < x0 ||
          Math.min(ring[i]!, ring[j]!) > x1 ||
          Math.max(ring[i + 1]!, ring[j + 1]!) < y0 ||
          Math.min(ring[i + 1]!, ring[j + 1]!) > y1;
        if (!apart) return true;
      }
    return false;
  }

  /** Parameters 0…1 at which a segment meets the border, added to `out` in no order. */
  cutsOfSegment(ax: number, ay: number, bx: number, by: number, out: number[]): void {
    const [dx, dy] = [bx - ax, by - ay];
    const add = (...at: readonly number[]) => {
      for (const t of at) if (t > 0 && t < 1) out.push(t);
    };
    if (dx !== 0) for (const g of this.gaps.x) add((g.from - ax) / dx, (g.to - ax) / dx);
    if (dy !== 0) for (const g of this.gaps.y) add((g.from - ay) / dy, (g.to - ay) / dy);
    const { ring } = this;
    if (!ring || this.misses(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by))) return;
    for (let b = this.band(Math.min(ay, by)); b <= this.band(Math.max(ay, by)); b++)
      for (const i of this.bands[b]!) {
        const j = (i + 2) % ring.length;
        const [px, py] = [ring[i]!, ring[i + 1]!];
        const [ex, ey] = [ring[j]! - px, ring[j + 1]! - py];
        const across = dx * ey - dy * ex;
        if (across === 0) {
          // Along an edge: from its one end to the other it may be on the border.
          const l2 = dx * dx + dy * dy;
          if (l2 > 0) add(((px - ax) * dx + (py - ay) * dy) / l2, ((px + ex - ax) * dx + (py + ey - ay) * dy) / l2);
          continue;
        }
        const s = ((px - ax) * dy - (py - ay) * dx) / across;
        if (s < -1e-12 || s > 1 + 1e-12) continue;
        add(((px - ax) * ey - (py - ay) * ex) / across);
      }
  }

  /** Parameters between t0 and t1 at which an arc meets the border, added to `out` in no order. */
  cutsOfArc(c: ProjectedCircle, t0: number, t1: number, out: number[]): void {
    const [cos, sin] = [Math.cos(c.turn), Math.sin(c.turn)];
    const [low, high] = [Math.min(t0, t1), Math.max(t0, t1)];
    const add = (t: number) => {
      for (let k = Math.ceil((low - t) / (2 * Math.PI)); t + 2 * Math.PI * k < high; k++) if (t + 2 * Math.PI * k > low) out.push(t + 2 * Math.PI * k);
    };
    /** Where a line meets the ellipse: in its own frame, both axes made 1. @param bounded only between the two points */
    const meet = (ax: number, ay: number, bx: number, by: number, bounded: boolean) => {
      const local = (x: number, y: number): [number, number] => [((x - c.cx) * cos + (y - c.cy) * sin) / c.rx, ((y - c.cy) * cos - (x - c.cx) * sin) / c.ry];
      const [p, q] = [local(ax, ay), local(bx, by)];
      const [dx, dy] = [q[0] - p[0], q[1] - p[1]];
      const [a, b, d] = [dx * dx + dy * dy, p[0] * dx + p[1] * dy, p[0] * p[0] + p[1] * p[1] - 1];
      const root = b * b - a * d;
      if (a === 0 || root < 0) return;
      for (const s of [(-b - Math.sqrt(root)) / a, (-b + Math.sqrt(root)) / a])
        if (!bounded || (s >= 0 && s <= 1)) add(Math.atan2(p[1] + s * dy, p[0] + s * dx));
    };
    for (const g of this.gaps.x) for (const x of [g.from, g.to]) meet(x, 0, x, 1, false);
    for (const g of this.gaps.y) for (const y of [g.from, g.to]) meet(0, y, 1, y, false);
    const { ring } = this;
    for (let i = 0; ring && i < ring.length; i += 2) {
      const j = (i + 2) % ring.length;
      meet(ring[i]!, ring[i + 1]!, ring[j]!, ring[j + 1]!, true);
    }
  }
}
