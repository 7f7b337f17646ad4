import { componentAt, type ViewResult } from '../../core/views/compute-view.ts';
import { gapsAlong, outlineBox, ringOf } from '../../core/views/outline.ts';
import type { ViewMap } from '../../core/views/view-map.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { circlePath, line, num } from '../../core/picture/shapes.ts';
import type { SheetStyle } from '../../core/sheet/paper.ts';
import type { Vec2 } from '../../core/base/vector.ts';

/** Borders of what is shown of a view: break lines, outlines, the signs of symmetry. ISO 128-2 and ISO 128-3. */

/** Long-dashed dotted narrow line (ISO 128-2, 04.1), mm. */
const CHAIN = [8, 1.2, 0.8, 1.2] as const;

/** A line along a closed outline, only where it runs over something: narrow, free-hand in nature (ISO 128-2, line type 01.1). */
export function breakAlong(ring: ArrayLike<number>, result: ViewResult, map: ViewMap, style: SheetStyle): DisplayItem[] {
  const grace = 1.5 * result.map.window.pixelMm;
  const step = 2 * result.map.window.pixelMm;
  const shows = (x: number, y: number) => componentAt(result, x, y) >= 0;
  let d = '';
  let pen = false;
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
    const [ax, ay, bx, by] = [ring[j]!, ring[j + 1]!, ring[i]!, ring[i + 1]!];
    const l = Math.hypot(bx - ax, by - ay);
    if (l === 0) continue;
    const n = Math.max(1, Math.ceil(l / step));
    const [nx, ny] = [((by - ay) / l) * grace, ((ax - bx) / l) * grace];
    for (let k = 0; k <= n; k++) {
      const [x, y] = [ax + ((bx - ax) * k) / n, ay + ((by - ay) * k) / n];
      const on = shows(x, y) || (shows(x + nx, y + ny) && shows(x - nx, y - ny));
      if (on && (!pen || k === n || d === '')) d += `${pen ? 'L' : 'M'}${num(map.x(x))} ${num(map.y(y))}`;
      else if (!on && pen) {
        const back = Math.max(0, k - 1) / n;
        d += `L${num(map.x(ax + (bx - ax) * back))} ${num(map.y(ay + (by - ay) * back))}`;
      }
      pen = on;
    }
  }
  return d ? [{ kind: 'stroke', d, width: style.narrow }] : [];
}

/** Signs of symmetry at the ends of the edges that halve what is shown: two short lines across the axis (ISO 128-3). mm */
const SIGN = { past: 3, half: 1.75, apart: 1.4 } as const;

/** The border of a detail or a partial view. @param whole what there would be to see without it */
export function drawBorder(view: ViewRecord, whole: ViewResult, map: ViewMap, style: SheetStyle): DisplayItem[] {
  const { within } = view;
  const look = view.border ?? (view.detail ? 'line' : 'break');
  if (!within || look === 'none') return [];
  if (look === 'symmetry') return halvingEdges(view, whole).flatMap(([a, b]) => symmetryAxis(map.toPaper(a), map.toPaper(b), style));
  if (look === 'break') return breakAlong(ringOf(within), whole, map, style);
  if (within.kind === 'circle' && !view.gaps)
    return [{ kind: 'stroke', d: circlePath(...map.toPaper(within.at), within.radius * map.scale), width: style.narrow }];
  return [{ kind: 'stroke', d: pathOf(ringOf(within), map), width: style.narrow }];
}

/** A closed ring on paper. */
export function pathOf(ring: ArrayLike<number>, map: ViewMap): string {
  let d = '';
  for (let i = 0; i < ring.length; i += 2) d += `${i ? 'L' : 'M'}${num(map.x(ring[i]!))} ${num(map.y(ring[i + 1]!))}`;
  return `${d}Z`;
}

/** Edges of the outline's box that run through the middle of the whole view's, with its length: the view is symmetric about them. */
function halvingEdges(view: ViewRecord, whole: ViewResult): (readonly [Vec2, Vec2])[] {
  const [x0, y0, x1, y1] = whole.box;
  const b = outlineBox(view.within!);
  const [low, high] = [Math.max(y0, b[1]), Math.min(y1, b[3])];
  const [left, right] = [Math.max(x0, b[0]), Math.min(x1, b[2])];
  const inside = (v: number, from: number, to: number) => v > from + 1e-6 && v < to - 1e-6;
  return [
    ...[b[0], b[2]]
      .filter((x) => inside(x, x0, x1))
      .map((x): readonly [Vec2, Vec2] => [
        [x, low],
        [x, high],
      ]),
    ...[b[1], b[3]]
      .filter((y) => inside(y, y0, y1))
      .map((y): readonly [Vec2, Vec2] => [
        [left, y],
        [right, y],
      ]),
  ];
}

function symmetryAxis(a: Vec2, b: Vec2, style: SheetStyle): DisplayItem[] {
  const l = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  const [ux, uy] = [(b[0] - a[0]) / l, (b[1] - a[1]) / l];
  const reach = SIGN.past + 2 * SIGN.apart + 1;
  const at = (p: Vec2, along: number, across: number): Vec2 => [p[0] + ux * along - uy * across, p[1] + uy * along + ux * across];
  const stroke = (p: Vec2, q: Vec2, dash?: readonly number[]) => line(p[0], p[1], q[0], q[1], style.narrow, dash);
  const signs = [a, b].flatMap((p, k) =>
    [0, 1].map((n) => {
      const out = (SIGN.past + n * SIGN.apart) * (k ? 1 : -1);
      return stroke(at(p, out, -SIGN.half), at(p, out, SIGN.half));
    }),
  );
  return [stroke(at(a, -reach, 0), at(b, reach, 0), CHAIN), ...signs];
}

/** Waves of a free-hand break line, and of a zigzag, mm. */
const WAVE_MM = 0.9;
const ZIGZAG = { every: 18, wide: 2, high: 3.5, past: 3 } as const;

/** The two break lines of every gap: free-hand, with zigzags (ISO 128-2, 01.1), or bent as for round bars (common practice). */
export function drawGaps(view: ViewRecord, result: ViewResult, map: ViewMap, style: SheetStyle): DisplayItem[] {
  const items: DisplayItem[] = [];
  for (const axis of ['x', 'y'] as const)
    for (const g of gapsAlong(view.gaps ?? [], axis))
      for (const at of [g.from, g.to]) {
        const ends = endsAt(result, axis, at);
        const first = ends[0];
        const last = ends.at(-1);
        if (first === undefined || last === undefined || last - first < 1e-9) continue;
        const paper = (v: number): Vec2 => (axis === 'x' ? map.toPaper([at, v]) : map.toPaper([v, at]));
        const look = view.breaks ?? 'free';
        const d =
          look === 'zigzag' ? zigzag(paper(first), paper(last)) : look === 'round' ? bent(paper(first), paper(last), at === g.from) : wave(ends.map(paper));
        items.push({ kind: 'stroke', d, width: style.narrow });
      }
  return items;
}

/** Where lines of a view end at a border, along it, ascending. */
function endsAt(result: ViewResult, axis: 'x' | 'y', at: number): number[] {
  const { xy, start, kind } = result.lines;
  const k = axis === 'x' ? 0 : 1;
  const eps = 1e-6 * Math.max(1, Math.abs(at));
  const out: number[] = [];
  for (let i = 0; i < kind.length; i++) for (const p of [start[i]! * 2, start[i + 1]! * 2 - 2]) if (Math.abs(xy[p + k]! - at) <= eps) out.push(xy[p + 1 - k]!);
  return out.sort((a, b) => a - b);
}

/** A free-hand line through points: it bulges between them, one way and the other, so that every line ends on it. */
function wave(points: readonly Vec2[]): string {
  const [first, last] = [points[0]!, points.at(-1)!];
  const l = Math.hypot(last[0] - first[0], last[1] - first[1]);
  const [nx, ny] = [-(last[1] - first[1]) / l, (last[0] - first[0]) / l];
  const kept = points.filter((p, i) => i === 0 || i === points.length - 1 || Math.hypot(p[0] - first[0], p[1] - first[1]) > 1.5);
  let d = `M${num(first[0])} ${num(first[1])}`;
  let side = 1;
  for (let i = 1; i < kept.length; i++) {
    const [a, b] = [kept[i - 1]!, kept[i]!];
    const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
    const n = Math.max(1, Math.round(long / 7));
    for (let k = 0; k < n; k++, side = -side)
      for (let s = 1; s <= 6; s++) {
        const t = (k + s / 6) / n;
        const off = side * Math.min(WAVE_MM, long / n / 5) * Math.sin((Math.PI * s) / 6);
        d += `L${num(a[0] + (b[0] - a[0]) * t + nx * off)} ${num(a[1] + (b[1] - a[1]) * t + ny * off)}`;
      }
  }
  return d;
}

/** A straight line past both ends with zigzags in it. */
function zigzag(a: Vec2, b: Vec2): string {
  const l = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const [ux, uy] = [(b[0] - a[0]) / l, (b[1] - a[1]) / l];
  const at = (along: number, across: number) => `${num(a[0] + ux * along - uy * across)} ${num(a[1] + uy * along + ux * across)}`;
  const n = Math.max(1, Math.round(l / ZIGZAG.every));
  let d = `M${at(-ZIGZAG.past, 0)}`;
  for (let k = 0; k < n; k++) {
    const middle = ((k + 0.5) * l) / n;
    const w = Math.min(ZIGZAG.wide, l / n / 3);
    d += `L${at(middle - w, 0)}L${at(middle - w / 2, ZIGZAG.high / 2)}L${at(middle + w / 2, -ZIGZAG.high / 2)}L${at(middle + w, 0)}`;
  }
  return `${d}L${at(l + ZIGZAG.past, 0)}`;
}

/** The bent break of a round bar: a lying S, and at the end that is seen the loop that closes it. */
function bent(a: Vec2, b: Vec2, before: boolean): string {
  const l = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const [ux, uy] = [(b[0] - a[0]) / l, (b[1] - a[1]) / l];
  const at = (along: number, across: number) => `${num(a[0] + ux * along - uy * across)} ${num(a[1] + uy * along + ux * across)}`;
  const bulge = l / 8;
  let d = `M${at(0, 0)}`;
  const half = (from: number, side: number) => {
    for (let s = 1; s <= 10; s++) d += `L${at(from + (l / 2) * (s / 10), side * bulge * Math.sin((Math.PI * s) / 10))}`;
  };
  half(0, 1);
  half(l / 2, -1);
  // The other side of the loop, on the half that faces the gap.
  const from = before ? l / 2 : 0;
  d += `M${at(from, 0)}`;
  half(from, before ? 1 : -1);
  return d;
}
