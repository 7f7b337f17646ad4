import { Floats, Ints } from '../base/buffers.ts';
import { arcPoint } from '../outline/arcs.ts';
import { ARC_STRIDE, type Linework } from '../outline/linework.ts';
import type { Region } from './region.ts';

/** Pieces shorter than this share of what they were cut from are dust. */
const DUST = 1e-9;
/** Points on a piece of an arc stand this far apart, rad. */
const ARC_STEP = Math.PI / 36;

/**
 * The lines of a view inside a region. Arcs stay arcs; a line that leaves the region and comes back is several.
 * @param lines view space, model mm
 */
export function clipLines(lines: Linework, region: Region): Linework {
  const xy = new Floats(lines.xy.length + 64);
  const arc = new Floats(lines.arc.length + 64);
  const start = new Ints(lines.start.length + 16);
  const source = new Ints(lines.start.length + 16);
  const begin = (i: number) => {
    start.push(xy.length / 2);
    source.push(i);
  };
  const noArc = () => {
    for (let k = 0; k < ARC_STRIDE; k++) arc.push(0);
  };
  const whole = (i: number) => {
    begin(i);
    for (let p = lines.start[i]! * 2; p < lines.start[i + 1]! * 2; p++) xy.push(lines.xy[p]!);
    for (let k = i * ARC_STRIDE; k < (i + 1) * ARC_STRIDE; k++) arc.push(lines.arc[k]!);
  };
  const cuts: number[] = [];

  const clipArc = (i: number) => {
    const [cx, cy, rx, ry, turn, t0, t1] = Array.from(lines.arc.subarray(i * ARC_STRIDE, (i + 1) * ARC_STRIDE)) as [
      number,
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    const circle = { cx, cy, rx, ry, turn };
    cuts.length = 0;
    region.cutsOfArc(circle, t0, t1, cuts);
    const sense = t1 > t0 ? 1 : -1;
    const stops = [t0, ...cuts.sort((a, b) => (a - b) * sense), t1];
    let from: number | undefined;
    const close = (to: number) => {
      if (from === undefined) return;
      begin(i);
      const n = Math.max(1, Math.ceil(Math.abs(to - from) / ARC_STEP));
      for (let k = 0; k <= n; k++) {
        const [x, y] = arcPoint(circle, from + ((to - from) * k) / n);
        xy.push(x);
        xy.push(y);
      }
      for (const v of [cx, cy, rx, ry, turn, from, to]) arc.push(v);
      from = undefined;
    };
    for (let k = 0; k + 1 < stops.length; k++) {
      const [a, b] = [stops[k]!, stops[k + 1]!];
      if (Math.abs(b - a) <= DUST * Math.abs(t1 - t0)) continue;
      const [x, y] = arcPoint(circle, (a + b) / 2);
      if (region.keeps(x, y)) from ??= a;
      else close(a);
    }
    close(t1);
  };

  const clipPolyline = (i: number) => {
    let open = false;
    const close = () => {
      if (open) noArc();
      open = false;
    };
    for (let p = lines.start[i]! * 2; p < lines.start[i + 1]! * 2 - 2; p += 2) {
      const [ax, ay, bx, by] = [lines.xy[p]!, lines.xy[p + 1]!, lines.xy[p + 2]!, lines.xy[p + 3]!];
      cuts.length = 0;
      region.cutsOfSegment(ax, ay, bx, by, cuts);
      cuts.sort((a, b) => a - b);
      cuts.push(1);
      let t = 0;
      for (const next of cuts) {
        if (next - t <= DUST) continue;
        const middle = (t + next) / 2;
        if (region.keeps(ax + (bx - ax) * middle, ay + (by - ay) * middle)) {
          if (!open) {
            begin(i);
            xy.push(ax + (bx - ax) * t);
            xy.push(ay + (by - ay) * t);
          }
          open = true;
          xy.push(next === 1 ? bx : ax + (bx - ax) * next);
          xy.push(next === 1 ? by : ay + (by - ay) * next);
        } else close();
        t = next;
      }
    }
    close();
  };

  for (let i = 0; i < lines.kind.length; i++) {
    let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let p = lines.start[i]! * 2; p < lines.start[i + 1]! * 2; p += 2) {
      x0 = Math.min(x0, lines.xy[p]!);
      x1 = Math.max(x1, lines.xy[p]!);
      y0 = Math.min(y0, lines.xy[p + 1]!);
      y1 = Math.max(y1, lines.xy[p + 1]!);
    }
    const isArc = lines.arc[i * ARC_STRIDE + 2]! > 0;
    // The points of an arc lie on it: between them it reaches a little farther.
    const pad = isArc ? 0.05 * (x1 - x0 + y1 - y0) : 0;
    if (region.misses(x0 - pad, y0 - pad, x1 + pad, y1 + pad)) continue;
    if (!region.touches(x0 - pad, y0 - pad, x1 + pad, y1 + pad)) {
      if (region.keeps(lines.xy[lines.start[i]! * 2]!, lines.xy[lines.start[i]! * 2 + 1]!)) whole(i);
    } else if (isArc) clipArc(i);
    else clipPolyline(i);
  }
  start.push(xy.length / 2);
  const of = source.trimmed();
  return {
    xy: xy.trimmed(),
    start: Uint32Array.from(start.trimmed()),
    kind: Uint8Array.from(of, (i) => lines.kind[i]!),
    component: Uint32Array.from(of, (i) => lines.component[i]!),
    edge: Int32Array.from(of, (i) => lines.edge[i]!),
    arc: arc.trimmed(),
  };
}
