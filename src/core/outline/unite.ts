import Flatbush from 'flatbush';
import { Floats, Ints } from '../base/buffers.ts';
import { ARC_STRIDE, HIDDEN, LineClass, type Linework } from './linework.ts';
import { checkCancel, type Cancel } from '../base/errors.ts';
import { arcPoint, type ArcPiece } from './arcs.ts';
import type { Run } from './runs.ts';

/** What is kept where lines coincide: visible before hidden, cut before sharp before outline before tangent. */
const RANK: readonly number[] = (() => {
  const rank: number[] = [];
  rank[LineClass.cut] = 0;
  rank[LineClass.sharp] = 1;
  rank[LineClass.outline] = 2;
  rank[LineClass.tangent] = 3;
  for (let k = 0; k < 4; k++) rank[k | HIDDEN] = rank[k]! + 4;
  return rank;
})();

/** Fitted circles of one true circle differ by about this share of the radius. */
const ARC_MATCH = 2e-4;

/**
 * Removes what lies under a line of higher rank, so that every line is there once.
 * @param tolerance lines closer than this are one line, mm
 */
export function uniteLines(runs: readonly Run[], tolerance: number, cancel?: Cancel): Linework {
  // Arcs before polylines: they are exact.
  const arcFirst = (i: number) => (runs[i]!.arc ? 0 : 1);
  const order = runs.map((_, i) => i).sort((a, b) => RANK[runs[a]!.kind]! - RANK[runs[b]!.kind]! || arcFirst(a) - arcFirst(b) || a - b);
  const writer = new LineworkWriter();
  const arcs = new ArcIndex(runs, order, tolerance);
  const straight = new SegmentIndex(runs, order, tolerance, arcs);
  let n = 0;
  for (const i of order) {
    if ((n++ & 255) === 0) checkCancel(cancel);
    const run = runs[i]!;
    if (run.arc) {
      for (const [t0, t1] of arcs.uncovered(i)) writer.arc(run, { ...run.arc, t0, t1 });
      continue;
    }
    straight.uncovered(i, (points) => writer.polyline(run, points, tolerance));
  }
  return writer.finish();
}

const WHOLE: readonly [number, number][] = [[0, 1]];

class SegmentIndex {
  private readonly tree: Flatbush | undefined;
  /** x0 y0 x1 y1 per segment, in rank order. */
  private readonly ends: number[] = [];
  private readonly firstOf = new Map<number, number>();
  private readonly runs: readonly Run[];
  private readonly tolerance: number;

  private readonly arcs: ArcIndex;

  constructor(runs: readonly Run[], order: readonly number[], tolerance: number, arcs: ArcIndex) {
    this.runs = runs;
    this.tolerance = tolerance;
    this.arcs = arcs;
    for (const i of order) {
      const { xy, arc } = runs[i]!;
      if (arc) continue;
      this.firstOf.set(i, this.ends.length / 4);
      for (let p = 0; p < xy.length - 2; p += 2) this.ends.push(xy[p]!, xy[p + 1]!, xy[p + 2]!, xy[p + 3]!);
    }
    const count = this.ends.length / 4;
    if (count === 0) return;
    this.tree = new Flatbush(count);
    for (let s = 0; s < count; s++) {
      const e = this.ends;
      this.tree.add(
        Math.min(e[s * 4]!, e[s * 4 + 2]!),
        Math.min(e[s * 4 + 1]!, e[s * 4 + 3]!),
        Math.max(e[s * 4]!, e[s * 4 + 2]!),
        Math.max(e[s * 4 + 1]!, e[s * 4 + 3]!),
      );
    }
    this.tree.finish();
  }

  /** Calls `emit` with the points of every stretch of the run that no earlier segment covers. */
  uncovered(i: number, emit: (points: number[]) => void): void {
    const { xy, slack, kind } = this.runs[i]!;
    const first = this.firstOf.get(i)!;
    let open: number[] = [];
    // A crumb of a line that is covered elsewhere is the same line, a little off.
    let broken = false;
    const flush = () => {
      // A step from a vertex to one that is as good as the same is no line.
      if (open.length >= 4 && polylineLength(open) > (broken ? Math.max(2 * slack, this.tolerance) : this.tolerance)) emit(open);
      open = [];
    };
    for (let p = 0; p < xy.length - 2; p += 2) {
      const [ax, ay, bx, by] = [xy[p]!, xy[p + 1]!, xy[p + 2]!, xy[p + 3]!];
      const covered = this.arcs.covers(ax, ay, bx, by, kind, this.tolerance + slack) ? WHOLE : this.coveredParts(first + p / 2, slack);
      if (covered.length) broken = true;
      let t = 0;
      const piece = (a: number, b: number) => {
        if (open.length === 0) open.push(ax + (bx - ax) * a, ay + (by - ay) * a);
        open.push(ax + (bx - ax) * b, ay + (by - ay) * b);
      };
      // What is left between two covered stretches by less than the slack is not a line of its own.
      const least = covered.length ? Math.max(1e-9, slack / Math.hypot(bx - ax, by - ay)) : 1e-9;
      for (const [lo, hi] of covered) {
        if (lo > t + least) piece(t, lo);
        if (hi > t) {
          flush();
          t = hi;
        }
      }
      if (t < 1 - (t > 0 ? least : 1e-9)) piece(t, 1);
    }
    flush();
  }

  private coveredParts(s: number, slack: number): [number, number][] {
    const e = this.ends;
    const tol = this.tolerance + slack;
    const [ax, ay, bx, by] = [e[s * 4]!, e[s * 4 + 1]!, e[s * 4 + 2]!, e[s * 4 + 3]!];
    const length = Math.hypot(bx - ax, by - ay);
    if (length < 1e-12) return [[0, 1]];
    const [ux, uy] = [(bx - ax) / length, (by - ay) / length];
    const out: [number, number][] = [];
    const near = this.tree!.search(Math.min(ax, bx) - tol, Math.min(ay, by) - tol, Math.max(ax, bx) + tol, Math.max(ay, by) + tol, (o) => o < s);
    for (const o of near) {
      const [cx, cy, dx, dy] = [e[o * 4]!, e[o * 4 + 1]!, e[o * 4 + 2]!, e[o * 4 + 3]!];
      const other = Math.hypot(dx - cx, dy - cy);
      if (other < 1e-12) continue;
      // The longer of the two is the base line; both ends of the other must lie on it.
      if (length >= other) {
        if (Math.abs((cx - ax) * uy - (cy - ay) * ux) > tol || Math.abs((dx - ax) * uy - (dy - ay) * ux) > tol) continue;
      } else {
        const [vx, vy] = [(dx - cx) / other, (dy - cy) / other];
        if (Math.abs((ax - cx) * vy - (ay - cy) * vx) > tol || Math.abs((bx - cx) * vy - (by - cy) * vx) > tol) continue;
      }
      // Short ones may lie within the tolerance of a line that they only meet.
      if (Math.min(length, other) < 4 * tol && Math.abs((dx - cx) * uy - (dy - cy) * ux) > 0.3 * other) continue;
      const p = ((cx - ax) * ux + (cy - ay) * uy) / length;
      const q = ((dx - ax) * ux + (dy - ay) * uy) / length;
      const lo = Math.max(0, Math.min(p, q));
      const hi = Math.min(1, Math.max(p, q));
      if (hi - lo > 1e-9) out.push([lo, hi]);
    }
    return mergeIntervals(out);
  }
}

class ArcIndex {
  private readonly tree: Flatbush | undefined;
  private readonly boxes: Flatbush | undefined;
  private readonly list: number[] = [];
  private readonly rankOf = new Map<number, number>();
  private readonly runs: readonly Run[];
  private readonly tolerance: number;

  constructor(runs: readonly Run[], order: readonly number[], tolerance: number) {
    this.runs = runs;
    this.tolerance = tolerance;
    for (const i of order)
      if (runs[i]!.arc) {
        this.rankOf.set(i, this.list.length);
        this.list.push(i);
      }
    if (this.list.length === 0) return;
    this.tree = new Flatbush(this.list.length);
    for (const i of this.list) {
      const { cx, cy } = runs[i]!.arc!;
      this.tree.add(cx, cy, cx, cy);
    }
    this.tree.finish();
    this.boxes = new Flatbush(this.list.length);
    for (const i of this.list) {
      const { cx, cy, rx } = runs[i]!.arc!;
      this.boxes.add(cx - rx, cy - rx, cx + rx, cy + rx);
    }
    this.boxes.finish();
  }

  /** Does an arc of the same or a higher rank run along the segment? */
  covers(ax: number, ay: number, bx: number, by: number, kind: number, tol: number): boolean {
    if (!this.boxes) return false;
    const mx = (ax + bx) / 2;
    const my = (ay + by) / 2;
    const rank = RANK[kind]!;
    return this.boxes
      .search(mx - tol, my - tol, mx + tol, my + tol, (k) => RANK[this.runs[this.list[k]!]!.kind]! <= rank)
      .some((k) => {
        const arc = this.runs[this.list[k]!]!.arc!;
        return onArc(arc, ax, ay, tol) && onArc(arc, bx, by, tol) && onArc(arc, mx, my, tol);
      });
  }

  /** Parameter intervals of the run's arc that no earlier arc covers. */
  uncovered(i: number): [number, number][] {
    const a = this.runs[i]!.arc!;
    const rank = this.rankOf.get(i)!;
    const tol = Math.max(this.tolerance, ARC_MATCH * a.rx);
    const lo = Math.min(a.t0, a.t1);
    const hi = Math.max(a.t0, a.t1);
    const covered: [number, number][] = [];
    for (const o of this.tree!.search(a.cx - tol, a.cy - tol, a.cx + tol, a.cy + tol, (k) => k < rank)) {
      const b = this.runs[this.list[o]!]!.arc!;
      if (!sameEllipse(a, b, tol)) continue;
      const [p, q] = [Math.min(b.t0, b.t1), Math.max(b.t0, b.t1)];
      const turn = 2 * Math.PI;
      // The same ellipse may be described half a turn around.
      const shift = a.rx - a.ry > tol && Math.abs(a.turn - b.turn) > Math.PI / 2 ? Math.PI : 0;
      for (let k = Math.floor((lo - q) / turn) - 1; k <= Math.ceil((hi - p) / turn) + 1; k++) {
        const s = Math.max(lo, p + shift + k * turn);
        const e = Math.min(hi, q + shift + k * turn);
        if (e - s > 1e-6) covered.push([s, e]);
      }
    }
    const out: [number, number][] = [];
    let t = lo;
    for (const [s, e] of mergeIntervals(covered)) {
      if (s > t + 1e-6) out.push([t, s]);
      t = Math.max(t, e);
    }
    if (t < hi - 1e-6) out.push([t, hi]);
    return a.t1 >= a.t0 ? out : out.map(([s, e]): [number, number] => [e, s]).reverse();
  }
}

/** Does a point lie on the arc, within the tolerance? */
function onArc(a: ArcPiece, x: number, y: number, tol: number): boolean {
  const cos = Math.cos(a.turn);
  const sin = Math.sin(a.turn);
  const dx = x - a.cx;
  const dy = y - a.cy;
  const u = (dx * cos + dy * sin) / a.rx;
  const v = (dy * cos - dx * sin) / a.ry;
  const r = Math.hypot(u, v);
  // Distance from the ellipse along the ray from its centre, with the slope taken into account.
  const gradient = Math.hypot(u / a.rx, v / a.ry) / (r || 1);
  if (Math.abs(r - 1) > tol * gradient) return false;
  const t = Math.atan2(v, u);
  const lo = Math.min(a.t0, a.t1);
  const turn = 2 * Math.PI;
  const past = (((t - lo) % turn) + turn) % turn;
  const room = tol / a.ry;
  return past <= Math.abs(a.t1 - a.t0) + room || past >= turn - room;
}

function sameEllipse(a: ArcPiece, b: ArcPiece, tol: number): boolean {
  if (Math.abs(a.rx - b.rx) > tol || Math.abs(a.ry - b.ry) > tol || Math.abs(a.cx - b.cx) > tol || Math.abs(a.cy - b.cy) > tol) return false;
  const d = Math.abs(a.turn - b.turn);
  return a.rx - a.ry <= tol || Math.min(d, Math.PI - d) * a.rx <= tol;
}

function mergeIntervals(list: [number, number][]): [number, number][] {
  list.sort((a, b) => a[0] - b[0]);
  const out: [number, number][] = [];
  for (const [lo, hi] of list) {
    const last = out[out.length - 1];
    if (last && lo <= last[1] + 1e-9) last[1] = Math.max(last[1], hi);
    else out.push([lo, hi]);
  }
  return out;
}

/** Turn between samples of an arc's polyline, rad; the polyline serves boxes and picking, not drawing. */
const ARC_SAMPLE = 0.1;

class LineworkWriter {
  private readonly xy = new Floats();
  private readonly start = new Ints();
  private readonly kind: number[] = [];
  private readonly component: number[] = [];
  private readonly edge: number[] = [];
  private readonly arcs = new Floats();

  polyline(run: Run, points: readonly number[], tolerance: number): void {
    const kept = withoutCollinear(points, tolerance * 0.1);
    if (kept.length < 4) return;
    this.head(run);
    for (const v of kept) this.xy.push(v);
    for (let k = 0; k < ARC_STRIDE; k++) this.arcs.push(0);
  }

  arc(run: Run, a: ArcPiece): void {
    this.head(run);
    const n = Math.max(2, Math.ceil(Math.abs(a.t1 - a.t0) / ARC_SAMPLE));
    for (let k = 0; k <= n; k++) {
      const [x, y] = arcPoint(a, a.t0 + ((a.t1 - a.t0) * k) / n);
      this.xy.push(x);
      this.xy.push(y);
    }
    for (const v of [a.cx, a.cy, a.rx, a.ry, a.turn, a.t0, a.t1]) this.arcs.push(v);
  }

  private head(run: Run): void {
    this.start.push(this.xy.length / 2);
    this.kind.push(run.kind);
    this.component.push(run.component);
    this.edge.push(run.edge);
  }

  finish(): Linework {
    this.start.push(this.xy.length / 2);
    return {
      xy: this.xy.trimmed(),
      start: Uint32Array.from(this.start.trimmed()),
      kind: Uint8Array.from(this.kind),
      component: Uint32Array.from(this.component),
      edge: Int32Array.from(this.edge),
      arc: this.arcs.trimmed(),
    };
  }
}

function polylineLength(p: readonly number[]): number {
  let sum = 0;
  for (let i = 2; i < p.length; i += 2) sum += Math.hypot(p[i]! - p[i - 2]!, p[i + 1]! - p[i - 1]!);
  return sum;
}

/** Drops inner points that lie on the line between their neighbours. */
function withoutCollinear(p: readonly number[], tolerance: number): number[] {
  const out = [p[0]!, p[1]!];
  for (let i = 2; i < p.length - 2; i += 2) {
    const ax = out[out.length - 2]!;
    const ay = out[out.length - 1]!;
    const dx = p[i + 2]! - ax;
    const dy = p[i + 3]! - ay;
    const l = Math.hypot(dx, dy);
    const forward = (p[i]! - ax) * (p[i + 2]! - p[i]!) + (p[i + 1]! - ay) * (p[i + 3]! - p[i + 1]!) >= 0;
    if (l > 0 && forward && Math.abs((p[i]! - ax) * dy - (p[i + 1]! - ay) * dx) / l <= tolerance) continue;
    out.push(p[i]!, p[i + 1]!);
  }
  out.push(p[p.length - 2]!, p[p.length - 1]!);
  return out;
}
