import type { Rect, Segment } from '../base/rect.ts';
import type { DisplayItem } from './display-list.ts';
import { textWidth } from './lettering.ts';
import type { Solid } from './solid.ts';

/** Lines and texts seen as what they cover, paper mm. */

/** The straight strokes of an SVG path as `shapes.ts` writes it: M, L, A, h, v, Z. Arcs count as their chords. */
export function segmentsOf(d: string): Segment[] {
  const out: Segment[] = [];
  let [x, y, x0, y0] = [0, 0, 0, 0];
  const to = (nx: number, ny: number) => {
    out.push([x, y, nx, ny]);
    [x, y] = [nx, ny];
  };
  for (const m of d.matchAll(/([MLAhvZ])([^MLAhvZ]*)/g)) {
    const v = m[2]!
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    if (m[1] === 'M') [x, y, x0, y0] = [v[0]!, v[1]!, v[0]!, v[1]!];
    else if (m[1] === 'L') to(v[0]!, v[1]!);
    else if (m[1] === 'A') to(v[5]!, v[6]!);
    else if (m[1] === 'h') to(x + v[0]!, y);
    else if (m[1] === 'v') to(x, y + v[0]!);
    else to(x0, y0);
  }
  return out;
}

/** What a text covers; of a turned one the box around it. */
export function textRect(i: Extract<DisplayItem, { kind: 'text' }>): Rect {
  const width = textWidth(i.text, i.height);
  const x = i.anchor === 'start' ? i.x : i.anchor === 'middle' ? i.x - width / 2 : i.x - width;
  if (!i.turn) return { x, y: i.y - i.height, width, height: i.height };
  const [c, s] = [Math.cos((i.turn * Math.PI) / 180), Math.sin((i.turn * Math.PI) / 180)];
  const corners = [x, x + width].flatMap((px) => [i.y, i.y - i.height].map((py): readonly [number, number] => [px - i.x, py - i.y]));
  const xs = corners.map(([dx, dy]) => i.x + dx * c + dy * s);
  const ys = corners.map(([dx, dy]) => i.y - dx * s + dy * c);
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  return { x: left, y: top, width: Math.max(...xs) - left, height: Math.max(...ys) - top };
}

const around = (s: readonly Segment[]): Rect => {
  const [xs, ys] = [s.flatMap((p) => [p[0], p[2]]), s.flatMap((p) => [p[1], p[3]])];
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
};

/** The box of each item. */
export function inkOf(items: readonly DisplayItem[]): Rect[] {
  return items.flatMap((i) => {
    if (i.kind === 'text') return [textRect(i)];
    if (i.kind === 'image') return [{ x: i.x, y: i.y, width: i.width, height: i.height }];
    const s = segmentsOf(i.d);
    return s.length ? [around(s)] : [];
  });
}

/** Strokes as segments, texts and filled shapes as rectangles. */
export function solidOf(items: readonly DisplayItem[]): Solid {
  return {
    rects: inkOf(items.filter((i) => i.kind !== 'stroke')),
    segments: items.flatMap((i) => (i.kind === 'stroke' ? segmentsOf(i.d) : [])),
  };
}

/** The box around boxes. */
export function joined(boxes: readonly Rect[]): Rect {
  return around(boxes.map((b): Segment => [b.x, b.y, b.x + b.width, b.y + b.height]));
}
