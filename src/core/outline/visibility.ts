import { OCCLUDER_STRIDE, type Occluders } from './occluders.ts';

/** Tells which parts of a segment lie behind the occluders. Holds scratch space: one per view, not re-entrant. */
export class VisibilityTest {
  /** Hidden intervals of the last segment, `[t0, t1, …]` in 0…1, sorted and merged. */
  readonly hidden: number[] = [];
  private readonly o: Occluders;
  private readonly stamp: Uint32Array;
  private mark = 0;
  private readonly ownBias: number;
  private readonly raw: number[] = [];

  /** @param ownBias how far behind a triangle of its own component a line must lie to be hidden, mm along the triangle's normal */
  constructor(occluders: Occluders, ownBias: number) {
    this.o = occluders;
    this.stamp = new Uint32Array(occluders.count);
    this.ownBias = ownBias;
  }

  /**
   * Fills `hidden` for the segment A → B in view space.
   * @param component whose line it is; @param deflection how far the line may be off its true curve, mm
   * @param outline the line is an outline, traced on the true surface
   */
  test(ax: number, ay: number, az: number, bx: number, by: number, bz: number, component: number, deflection: number, outline: boolean): void {
    const { o, raw } = this;
    raw.length = 0;
    this.hidden.length = 0;
    this.mark++;
    const far = Math.min(az, bz);
    const { cell, originX, originY, columns, rows } = o;
    // Walk row by row: the columns that the segment touches in each.
    const y0 = Math.min(ay, by);
    const y1 = Math.max(ay, by);
    const j0 = clamp(Math.floor((y0 - originY) / cell - 1e-9), rows);
    const j1 = clamp(Math.floor((y1 - originY) / cell + 1e-9), rows);
    const dy = by - ay;
    for (let j = j0; j <= j1; j++) {
      let t0 = 0;
      let t1 = 1;
      if (Math.abs(dy) > 1e-12) {
        const p = (originY + j * cell - ay) / dy;
        const q = (originY + (j + 1) * cell - ay) / dy;
        t0 = Math.max(0, Math.min(p, q) - 1e-9);
        t1 = Math.min(1, Math.max(p, q) + 1e-9);
        if (t0 > t1) continue;
      }
      const xa = ax + (bx - ax) * t0;
      const xb = ax + (bx - ax) * t1;
      const i0 = clamp(Math.floor((Math.min(xa, xb) - originX) / cell - 1e-9), columns);
      const i1 = clamp(Math.floor((Math.max(xa, xb) - originX) / cell + 1e-9), columns);
      for (let i = i0; i <= i1; i++) {
        const c = j * columns + i;
        for (let k = o.cellStart[c]!, end = o.cellStart[c + 1]!; k < end; k++) {
          const t = o.items[k]!;
          if (o.data[t * OCCLUDER_STRIDE + 13]! < far) break;
          if (this.stamp[t] === this.mark) continue;
          this.stamp[t] = this.mark;
          this.cover(t, ax, ay, az, bx, by, bz, component, deflection, outline);
        }
      }
    }
    if (raw.length) this.merge();
  }

  /** Four linear inequalities in the segment's parameter: inside three edges and behind the plane. */
  private cover(
    t: number,
    ax: number,
    ay: number,
    az: number,
    bx: number,
    by: number,
    bz: number,
    component: number,
    deflection: number,
    outline: boolean,
  ): void {
    const d = this.o.data;
    const o = t * OCCLUDER_STRIDE;
    let lo = 0;
    let hi = 1;
    for (let e = o; e < o + 9; e += 3) {
      const p = d[e]! * ax + d[e + 1]! * ay + d[e + 2]!;
      const q = d[e]! * bx + d[e + 1]! * by + d[e + 2]!;
      if (p < 0) {
        if (q <= 0) return;
        const s = p / (p - q);
        if (s > lo) lo = s;
      } else if (q < 0) {
        const s = p / (p - q);
        if (s < hi) hi = s;
      }
    }
    if (lo >= hi) return;
    const own = this.o.component[t] === component;
    const curved = d[o + 14]!;
    // Edges of a part lie on its mesh; its outlines lie on the true surface, and their chords a little inside.
    const bias = curved === 0 || (own && !outline) ? this.ownBias : curved + deflection;
    const p = d[o + 12]! - bias - (d[o + 9]! * ax + d[o + 10]! * ay + d[o + 11]! * az);
    const q = d[o + 12]! - bias - (d[o + 9]! * bx + d[o + 10]! * by + d[o + 11]! * bz);
    if (p < 0) {
      if (q <= 0) return;
      const s = p / (p - q);
      if (s > lo) lo = s;
    } else if (q < 0) {
      const s = p / (p - q);
      if (s < hi) hi = s;
    }
    if (hi - lo > 1e-12) this.raw.push(lo, hi);
  }

  private merge(): void {
    const { raw, hidden } = this;
    const n = raw.length / 2;
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
        hidden.push(lo, hi);
        lo = a;
        hi = raw[i * 2 + 1]!;
      }
    }
    hidden.push(lo, hi);
  }
}

const clamp = (i: number, n: number) => (i < 0 ? 0 : i >= n ? n - 1 : i);
