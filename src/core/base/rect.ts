/** Rectangles and segments of the plane. */

export interface Rect {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** A box `[x, y, width, height]` as a rectangle. */
export const rectOf = (b: readonly [number, number, number, number]): Rect => ({ x: b[0], y: b[1], width: b[2], height: b[3] });

/** A rectangle grown on every side, mm; less than nought shrinks it. */
export const inflate = (r: Rect, by: number): Rect => ({ x: r.x - by, y: r.y - by, width: r.width + 2 * by, height: r.height + 2 * by });

/** A straight line between two points. */
export type Segment = readonly [x0: number, y0: number, x1: number, y1: number];

/** Does a point lie in a rectangle or on its edge? */
export const contains = (r: Rect, [x, y]: readonly [number, number]): boolean => x >= r.x && y >= r.y && x <= r.x + r.width && y <= r.y + r.height;

/** Do two rectangles come closer than `gap`? */
export function overlaps(a: Rect, b: Rect, gap = 0): boolean {
  return a.x < b.x + b.width + gap && b.x < a.x + a.width + gap && a.y < b.y + b.height + gap && b.y < a.y + a.height + gap;
}

/** Does a segment run through a rectangle? (Liang and Barsky 1984) */
export function crosses([x0, y0, x1, y1]: Segment, r: Rect): boolean {
  if (r.width <= 0 || r.height <= 0) return false;
  let [from, to] = [0, 1];
  const [dx, dy] = [x1 - x0, y1 - y0];
  for (const [p, q] of [
    [-dx, x0 - r.x],
    [dx, r.x + r.width - x0],
    [-dy, y0 - r.y],
    [dy, r.y + r.height - y0],
  ] as const) {
    if (Math.abs(p) < 1e-12) {
      if (q < 0) return false;
      continue;
    }
    const t = q / p;
    if (p < 0) from = Math.max(from, t);
    else to = Math.min(to, t);
    if (from > to) return false;
  }
  return true;
}

/** Do two segments cross or touch? */
export function segmentsCross(ax: number, ay: number, bx: number, by: number, cx: number, cy: number, dx: number, dy: number): boolean {
  const side = (px: number, py: number, qx: number, qy: number, rx: number, ry: number) => (qx - px) * (ry - py) - (qy - py) * (rx - px);
  const a = side(cx, cy, dx, dy, ax, ay);
  const b = side(cx, cy, dx, dy, bx, by);
  const c = side(ax, ay, bx, by, cx, cy);
  const d = side(ax, ay, bx, by, dx, dy);
  return a > 0 !== b > 0 && c > 0 !== d > 0;
}

/** Distance of a point from a segment. */
export function pointToSegment(px: number, py: number, ax: number, ay: number, bx: number, by: number): number {
  const [dx, dy] = [bx - ax, by - ay];
  const l2 = dx * dx + dy * dy;
  const t = l2 > 0 ? Math.max(0, Math.min(1, ((px - ax) * dx + (py - ay) * dy) / l2)) : 0;
  return Math.hypot(px - ax - dx * t, py - ay - dy * t);
}
