import { crosses, overlaps, type Rect, type Segment } from '../base/rect.ts';

/** What others keep clear of, paper mm. Its box may be empty in places: a view's is. */
export interface Solid {
  readonly rects: readonly Rect[];
  readonly segments: readonly Segment[];
  /** Does it really show something inside a rectangle? Asked for rectangles that meet one of `loose`. */
  readonly covers?: (r: Rect) => boolean;
  /** Rectangles in which only what `covers` says counts. */
  readonly loose?: readonly Rect[];
}

export const NOTHING_SOLID: Solid = { rects: [], segments: [] };

/** Do two solids meet? `grace` is how far they may reach into each other, mm. */
export function meet(a: Solid, b: Solid, grace: number): boolean {
  const shrunk = (r: Rect): Rect => ({ x: r.x + grace, y: r.y + grace, width: Math.max(0, r.width - 2 * grace), height: Math.max(0, r.height - 2 * grace) });
  for (const r of a.rects) {
    if (b.rects.some((q) => overlaps(r, q, -grace))) return true;
    if (b.segments.some((s) => crosses(s, shrunk(r)))) return true;
    if (looseCovered(b, r, grace)) return true;
  }
  for (const r of b.rects) {
    if (a.segments.some((s) => crosses(s, shrunk(r)))) return true;
    if (looseCovered(a, r, grace)) return true;
  }
  return looselyMeet(a, b, grace);
}

const looseCovered = (s: Solid, r: Rect, grace: number) => (s.loose ?? []).some((l) => overlaps(l, r, -grace)) && (s.covers?.(r) ?? true);

/** Two things of which only parts count overlap where their boxes do: a checker wants them apart. */
function looselyMeet(a: Solid, b: Solid, grace: number): boolean {
  return (a.loose ?? []).some((l) => (b.loose ?? []).some((m) => overlaps(l, m, -grace)));
}
