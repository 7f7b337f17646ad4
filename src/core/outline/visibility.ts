import { Floats } from '../base/buffers.ts';
import { OCCLUDER_STRIDE, type OccluderGrid } from './occluders.ts';

/** How a line stands to the triangles it is tested against. */
export interface LineNature {
  /** How far the line may be off its true curve, mm. */
  readonly deflection: number;
  /** The triangles are the line's own part's. */
  readonly own: boolean;
  /** Traced on the true surface, not along mesh edges. */
  readonly outline: boolean;
}

/** Tells which parts of a segment lie behind triangles. Holds scratch space: not re-entrant. */
export class VisibilityTest {
  /** Hidden intervals gathered since `start`, unsorted pairs in 0…1; the first `2 * count` numbers hold. */
  private raw = new Float64Array(256);
  private count = 0;
  private readonly ownBias: number;

  /** @param ownBias how far behind a triangle a line must lie to be hidden, mm along the triangle's normal */
  constructor(ownBias: number) {
    this.ownBias = ownBias;
  }

  start(): void {
    this.count = 0;
  }

  /** Adds an interval known from elsewhere. */
  add(lo: number, hi: number): void {
    if (this.count * 2 + 2 > this.raw.length) {
      const bigger = new Float64Array(this.raw.length * 2);
      bigger.set(this.raw);
      this.raw = bigger;
    }
    this.raw[this.count * 2] = lo;
    this.raw[this.count * 2 + 1] = hi;
    this.count++;
  }

  /**
   * Adds what the triangles of a grid hide of the segment A → B, given in the grid's space.
   * @returns true when one triangle hides all of it: no need to look further
   */
  against(o: OccluderGrid, ax: number, ay: number, az: number, bx: number, by: number, bz: number, nature: LineNature): boolean {
    if (o.count === 0) return false;
    const far = az < bz ? az : bz;
    if (o.nearest < far) return false;
    const { cell, originX, originY, columns, rows, cellStart, items, data, stamp } = o;
    if ((ax < bx ? ax : bx) > o.maxX || (ay < by ? ay : by) > o.maxY) return false;
    const x0 = ax < bx ? ax : bx;
    const x1 = ax < bx ? bx : ax;
    const y0 = ay < by ? ay : by;
    const y1 = ay < by ? by : ay;
    if (x1 < originX - cell || y1 < originY - cell) return false;
    const mark = ++stamp[o.count]!;
    const inv = 1 / cell;
    // Walk row by row: the columns that the segment touches in each.
    const j0 = clamp(Math.floor((y0 - originY) * inv - 1e-9), rows);
    const j1 = clamp(Math.floor((y1 - originY) * inv + 1e-9), rows);
    const dx = bx - ax;
    const dy = by - ay;
    const steep = dy > 1e-12 || dy < -1e-12;
    for (let j = j0; j <= j1; j++) {
      let xa = x0;
      let xb = x1;
      if (steep) {
        // The rows at the rim take in what lies a hair outside the grid.
        let p = ((j === 0 ? -1e30 : originY + j * cell) - ay) / dy;
        let q = ((j === rows - 1 ? 1e30 : originY + (j + 1) * cell) - ay) / dy;
        if (p > q) {
          const swap = p;
          p = q;
          q = swap;
        }
        const t0 = p - 1e-9 > 0 ? p - 1e-9 : 0;
        const t1 = q + 1e-9 < 1 ? q + 1e-9 : 1;
        if (t0 > t1) continue;
        const u = ax + dx * t0;
        const w = ax + dx * t1;
        xa = u < w ? u : w;
        xb = u < w ? w : u;
      }
      if (xa > o.maxX || xb < originX - cell) continue;
      const i0 = clamp(Math.floor((xa - originX) * inv - 1e-9), columns);
      const i1 = clamp(Math.floor((xb - originX) * inv + 1e-9), columns);
      for (let c = j * columns + i0, last = j * columns + i1; c <= last; c++) {
        for (let k = cellStart[c]!, end = cellStart[c + 1]!; k < end; k++) {
          const t = items[k]!;
          if (data[t * OCCLUDER_STRIDE + 13]! < far) break;
          if (stamp[t] === mark) continue;
          stamp[t] = mark;
          if (this.cover(data, t * OCCLUDER_STRIDE, ax, ay, az, bx, by, bz, nature)) return true;
        }
      }
    }
    return false;
  }

  /** Four linear inequalities in the segment's parameter: inside three edges and behind the plane. */
  private cover(d: Float64Array, o: number, ax: number, ay: number, az: number, bx: number, by: number, bz: number, nature: LineNature): boolean {
    let lo = 0;
    let hi = 1;
    let p = d[o]! * ax + d[o + 1]! * ay + d[o + 2]!;
    let q = d[o]! * bx + d[o + 1]! * by + d[o + 2]!;
    if (p < 0) {
      if (q <= 0) return false;
      lo = p / (p - q);
    } else if (q < 0) hi = p / (p - q);
    p = d[o + 3]! * ax + d[o + 4]! * ay + d[o + 5]!;
    q = d[o + 3]! * bx + d[o + 4]! * by + d[o + 5]!;
    if (p < 0) {
      if (q <= 0) return false;
      const s = p / (p - q);
      if (s > lo) lo = s;
    } else if (q < 0) {
      const s = p / (p - q);
      if (s < hi) hi = s;
    }
    p = d[o + 6]! * ax + d[o + 7]! * ay + d[o + 8]!;
    q = d[o + 6]! * bx + d[o + 7]! * by + d[o + 8]!;
    if (p < 0) {
      if (q <= 0) return false;
      const s = p / (p - q);
      if (s > lo) lo = s;
    } else if (q < 0) {
      const s = p / (p - q);
      if (s < hi) hi = s;
    }
    if (lo >= hi) return false;
    const curved = d[o + 14]!;
    // Edges of a part lie on its mesh. Its outlines lie on the true surface, where triangles of a saddle stand out before them.
    const bias = curved === 0 || (nature.own && !nature.outline) ? this.ownBias : (nature.own ? 2 * curved : curved) + nature.deflection;
    const depth = d[o + 12]! - bias;
    p = depth - (d[o + 9]! * ax + d[o + 10]! * ay + d[o + 11]! * az);
    q = depth - (d[o + 9]! * bx + d[o + 10]! * by + d[o + 11]! * bz);
    if (p < 0) {
      if (q <= 0) return false;
      const s = p / (p - q);
      if (s > lo) lo = s;
    } else if (q < 0) {
      const s = p / (p - q);
      if (s < hi) hi = s;
    }
    if (hi - lo <= 1e-12) return false;
    this.add(lo, hi);
    return lo === 0 && hi === 1;
  }

  /** Appends the gathered intervals, sorted and merged, as pairs. */
  merged(out: Floats): void {
    const { raw, count: n } = this;
    if (n === 0) return;
    // Few intervals: insertion sort in place.
    for (let i = 1; i < n; i++) {
      const a = raw[i * 2]!;
      const b = raw[i * 2 + 1]!;
      let j = i - 1;
      for (; j >= 0 && raw[j * 2]! > a; j--) {
        raw[j * 2 + 2] = raw[j * 2]!;
        raw[j * 2 + 3] = raw[j * 2 + 1]!;
      }
      raw[j * 2 + 2] = a;
      raw[j * 2 + 3] = b;
    }
    let lo = raw[0]!;
    let hi = raw[1]!;
    for (let i = 1; i < n; i++) {
      const a = raw[i * 2]!;
      if (a <= hi + 1e-9) {
        if (raw[i * 2 + 1]! > hi) hi = raw[i * 2 + 1]!;
      } else {
        out.push(lo);
        out.push(hi);
        lo = a;
        hi = raw[i * 2 + 1]!;
      }
    }
    out.push(lo);
    out.push(hi);
  }
}

const clamp = (i: number, n: number) => (i < 0 ? 0 : i >= n ? n - 1 : i);
