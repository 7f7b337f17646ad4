import type { Crossings, RayWindow } from './columns.ts';

/**
 * A thread modelled at its full diameter overlaps its partner by a ring around the core; of coarse threads the core is
 * 0.77 (M3) to 0.85 of it (ISO 724). Meshed circles and rays leave some doubt.
 */
const LEAST_CORE = 0.65;
/** Height and width of a ring differ by no more than this factor. */
const ROUND = 1.25;
/** Fewer rays than this are what is left of a noisy wall. */
const NOISE = 3;

/**
 * Rays on which two bodies overlap in place, or on which flanks of a true thread lie between each other, when these form
 * a ring as a thread leaves it, or several; undefined when they overlap otherwise: from the side, or a pin that goes
 * through a wall without a hole.
 * @param along overlap that does not count, mm
 */
export function threadRays(p: Crossings, q: Crossings, w: RayWindow, along: number): Uint8Array | undefined {
  const cells = w.width * w.height;
  const rays = new Uint8Array(cells);
  const list: number[] = [];
  for (let i = 0; i < cells; i++) {
    if (p.start[i] === p.start[i + 1] || q.start[i] === q.start[i + 1]) continue;
    if (overlapOn(p, q, i) <= along && !interleaved(p, q, i)) continue;
    rays[i] = 1;
    list.push(i);
  }
  return list.length < NOISE || isRing(list, w) || piecesOf(rays, list, w).every((piece) => piece.length < NOISE || isRing(piece, w)) ? rays : undefined;
}

/** A thread as it really is: either body is entered at least three times. */
const interleaved = (p: Crossings, q: Crossings, ray: number): boolean => p.start[ray + 1]! - p.start[ray]! >= 6 && q.start[ray + 1]! - q.start[ray]! >= 6;

/** How long both bodies have material on a ray, mm. */
function overlapOn(p: Crossings, q: Crossings, ray: number): number {
  let sum = 0;
  for (let i = p.start[ray]!; i + 1 < p.start[ray + 1]!; i += 2)
    for (let j = q.start[ray]!; j + 1 < q.start[ray + 1]!; j += 2) sum += Math.max(0, Math.min(p.z[i + 1]!, q.z[j + 1]!) - Math.max(p.z[i]!, q.z[j]!));
  return sum;
}

/** As wide as high, and empty up to the core. */
function isRing(cells: readonly number[], w: RayWindow): boolean {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const i of cells) {
    const [x, y] = [i % w.width, Math.floor(i / w.width)];
    x0 = Math.min(x0, x);
    x1 = Math.max(x1, x + 1);
    y0 = Math.min(y0, y);
    y1 = Math.max(y1, y + 1);
  }
  const [wide, high] = [(x1 - x0) * w.dx, (y1 - y0) * w.dy];
  if (wide > ROUND * high || high > ROUND * wide) return false;
  const outer = (wide + high) / 4;
  // A cell counts where its far corner is inside.
  const core = LEAST_CORE * outer - Math.hypot(w.dx, w.dy) / 2;
  return cells.every((i) => {
    const dx = ((i % w.width) + 0.5 - (x0 + x1) / 2) * w.dx;
    const dy = (Math.floor(i / w.width) + 0.5 - (y0 + y1) / 2) * w.dy;
    return Math.hypot(dx, dy) > core;
  });
}

/** Cells that hang together, corners too. */
function piecesOf(set: Uint8Array, cells: readonly number[], w: RayWindow): number[][] {
  const left = Uint8Array.from(set);
  const pieces: number[][] = [];
  for (const first of cells) {
    if (!left[first]) continue;
    left[first] = 0;
    const piece = [first];
    for (let k = 0; k < piece.length; k++) {
      const [x, y] = [piece[k]! % w.width, Math.floor(piece[k]! / w.width)];
      for (let v = Math.max(0, y - 1); v <= Math.min(w.height - 1, y + 1); v++)
        for (let u = Math.max(0, x - 1); u <= Math.min(w.width - 1, x + 1); u++) {
          const i = v * w.width + u;
          if (!left[i]) continue;
          left[i] = 0;
          piece.push(i);
        }
    }
    pieces.push(piece);
  }
  return pieces;
}
