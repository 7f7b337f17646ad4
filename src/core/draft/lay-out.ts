import type { Rect } from '../base/rect.ts';

/** Something that is put on a sheet as a whole: a view, or views in line with each other. */
export interface Body {
  readonly id: string;
  /** What it covers when its own pieces stand so far apart, mm from its upper left corner. */
  rects(gap: number): readonly Rect[];
}

export interface Layout {
  /** Distance of the pieces of a body, and at least so much between bodies, mm. */
  readonly gap: number;
  /** Upper left corner of each body. */
  readonly at: ReadonlyMap<string, readonly [number, number]>;
}

/** Least distance between views, and between a view and the frame; mm. */
export const LEAST_GAP_MM = 18;

/** White space that is tried, the widest first, mm. */
const GAPS = [70, 60, 52, 45, 39, 34, 29, 25, 21, LEAST_GAP_MM, 15] as const;
/** To the frame it may be less than to a neighbour. */
const TO_FRAME = 0.55;
/** Steps of the search, mm. */
const STEP = 7;
const ROUNDS = 3;
/** A millimetre of room is worth so many off the middle. */
const TO_MIDDLE = 1e-3;

/**
 * Spreads bodies over a room: with the widest white space that can be had everywhere alike, between them, to obstacles and
 * (a little less) to the edge. The same input gives the same layout.
 * @param least white space that there must be, mm
 * @returns undefined when they do not fit
 */
export function layOut(bodies: readonly Body[], room: Rect, obstacles: readonly Rect[], least: number = LEAST_GAP_MM): Layout | undefined {
  for (const gap of GAPS) {
    if (gap < least - 1e-9) break;
    const found = placed(bodies, room, obstacles, gap);
    if (found) return { gap, at: found };
  }
  return undefined;
}

interface Sized {
  readonly id: string;
  readonly rects: readonly Rect[];
  readonly width: number;
  readonly height: number;
}

function placed(bodies: readonly Body[], room: Rect, obstacles: readonly Rect[], gap: number): Map<string, readonly [number, number]> | undefined {
  const sized = bodies.map((b): Sized => {
    const rects = b.rects(gap);
    return { id: b.id, rects, width: Math.max(...rects.map((r) => r.x + r.width)), height: Math.max(...rects.map((r) => r.y + r.height)) };
  });
  const edge = TO_FRAME * gap;
  const inner: Rect = { x: room.x + edge, y: room.y + edge, width: room.width - 2 * edge, height: room.height - 2 * edge };
  const covered = sized.reduce((s, b) => s + b.rects.reduce((t, r) => t + r.width * r.height, 0), 0);
  if (covered > inner.width * inner.height || sized.some((b) => b.width > inner.width || b.height > inner.height)) return undefined;
  const [first, ...rest] = [...sized].sort((a, b) => b.width * b.height - a.width * a.height);
  if (!first) return new Map();
  for (const order of orders(rest))
    for (const [kx, ky] of ANCHORS) {
      const start = [inner.x + (inner.width - first.width) * kx, inner.y + (inner.height - first.height) * ky] as const;
      const taken = moved(first.rects, start);
      if (clearance(taken, obstacles) < gap) continue;
      const at = new Map<string, readonly [number, number]>([[first.id, start]]);
      const all = [...taken];
      for (const b of order) {
        const place = roomiest(b, inner, [...obstacles, ...all], gap);
        if (!place) break;
        at.set(b.id, place);
        all.push(...moved(b.rects, place));
      }
      if (at.size === sized.length) return polished(sized, at, room, inner, obstacles, gap);
    }
  return undefined;
}

const ANCHORS = [0.5, 0, 1].flatMap((y) => [0.5, 0, 1].map((x) => [x, y] as const));

const orders = <T>(list: readonly T[]): T[][] =>
  list.length < 2 ? [[...list]] : list.flatMap((x, i) => orders(list.filter((_, k) => k !== i)).map((o) => [x, ...o]));

const moved = (rects: readonly Rect[], [x, y]: readonly [number, number]): Rect[] => rects.map((r) => ({ ...r, x: r.x + x, y: r.y + y }));

/** Least distance between rectangles of two sets, the larger of the two axes' distances; negative where they overlap. */
function clearance(a: readonly Rect[], b: readonly Rect[]): number {
  let least = Infinity;
  for (const p of a)
    for (const q of b) {
      const dx = Math.max(q.x - p.x - p.width, p.x - q.x - q.width);
      const dy = Math.max(q.y - p.y - p.height, p.y - q.y - q.height);
      const d = Math.max(dx, dy);
      if (d < least) least = d;
    }
  return least;
}

/** Where a body has most room around it; undefined where there is less than `gap` everywhere. */
function roomiest(b: Sized, inner: Rect, others: readonly Rect[], gap: number, edge?: Rect): readonly [number, number] | undefined {
  const [freeX, freeY] = [inner.width - b.width, inner.height - b.height];
  if (freeX < 0 || freeY < 0) return undefined;
  const [nx, ny] = [Math.ceil(freeX / STEP), Math.ceil(freeY / STEP)];
  let best: readonly [number, number] | undefined;
  const least = gap - 1e-9;
  const middle = [inner.x + inner.width / 2, inner.y + inner.height / 2] as const;
  let most = -Infinity;
  for (let j = 0; j <= ny; j++)
    for (let i = 0; i <= nx; i++) {
      const at = [inner.x + (nx ? (freeX * i) / nx : 0), inner.y + (ny ? (freeY * j) / ny : 0)] as const;
      let c = clearance(moved(b.rects, at), others);
      if (c <= least) continue;
      if (edge) {
        const off = Math.min(at[0] - edge.x, at[1] - edge.y, edge.x + edge.width - at[0] - b.width, edge.y + edge.height - at[1] - b.height);
        c = Math.min(c, off / TO_FRAME);
        if (c <= least) continue;
      }
      // Of places with as much room the one nearest to the middle.
      const score = Math.min(c, 1e4) - TO_MIDDLE * Math.hypot(at[0] + b.width / 2 - middle[0], at[1] + b.height / 2 - middle[1]);
      if (score <= most) continue;
      most = score;
      best = at;
    }
  return best;
}

/** Each body in turn takes the place with most room around it, the edge counted too. */
function polished(
  bodies: readonly Sized[],
  start: ReadonlyMap<string, readonly [number, number]>,
  room: Rect,
  inner: Rect,
  obstacles: readonly Rect[],
  gap: number,
): Map<string, readonly [number, number]> {
  const at = new Map(start);
  for (let round = 0; round < ROUNDS; round++)
    for (const b of bodies) {
      const others = bodies.flatMap((o) => (o === b ? [] : moved(o.rects, at.get(o.id)!)));
      const place = roomiest(b, inner, [...obstacles, ...others], gap, room);
      if (place) at.set(b.id, place);
    }
  return at;
}
