import { pointToSegment, segmentsCross, type Rect } from '../../../core/base/rect.ts';
import { isFree } from './free.ts';
import type { LayoutArea, PlacedBalloon } from './layout.ts';

/** Slants that leaders may share, against the level, rad: 45° and 60°, either way (ISO 6433 wants them slanted). */
export const SLANTS = [45, 60, 120, 135].map((d) => (d * Math.PI) / 180);

/** How far a leader is from a slant, rad. */
export function offSlant(dx: number, dy: number, slant: number): number {
  const a = (((Math.atan2(-dy, dx) - slant) % Math.PI) + Math.PI) % Math.PI;
  return Math.min(a, Math.PI - a);
}

type Side = 'top' | 'foot' | 'left' | 'right';

/**
 * Balloons shifted along their rails until their leaders have the slant, as far as neighbours leave room: those of one rail in the order
 * in which parallel leaders come out, so that none crosses another.
 * @param rails the rectangle that the rails are on, paper mm
 */
export function shifted(placed: readonly PlacedBalloon[], rails: Rect, area: LayoutArea, slant: number): PlacedBalloon[] {
  const sides = new Map<Side, PlacedBalloon[]>();
  for (const p of placed) {
    const side = sideOf(p, rails);
    sides.set(side, [...(sides.get(side) ?? []), p]);
  }
  const out = new Map<string, PlacedBalloon>(placed.map((p) => [p.id, p]));
  for (const [side, own] of sides) for (const p of alongSide(own, side, rails, area, slant)) out.set(p.id, p);
  const moved = placed.map((p) => out.get(p.id)!);
  return troubles(moved, area) <= troubles(placed, area) ? moved : [...placed];
}

function sideOf(p: PlacedBalloon, r: Rect): Side {
  const off = { top: Math.abs(p.y - r.y), foot: Math.abs(p.y - r.y - r.height), left: Math.abs(p.x - r.x), right: Math.abs(p.x - r.x - r.width) };
  return (Object.keys(off) as Side[]).reduce((a, b) => (off[b] < off[a] ? b : a));
}

function alongSide(own: readonly PlacedBalloon[], side: Side, r: Rect, area: LayoutArea, slant: number): PlacedBalloon[] {
  const level = side === 'top' || side === 'foot';
  const at = side === 'top' ? r.y : side === 'foot' ? r.y + r.height : side === 'left' ? r.x : r.x + r.width;
  // Where the line of the slant through the leader's end meets the rail.
  const target = ({ anchor }: PlacedBalloon) => (level ? anchor.x - (at - anchor.y) / Math.tan(slant) : anchor.y - (at - anchor.x) * Math.tan(slant));
  const [low, high] = level ? [r.x, r.x + r.width] : [r.y, r.y + r.height];
  const pitch = area.diameter * 1.2;
  const sorted = [...own].sort((a, b) => target(a) - target(b));
  const places = spaced(sorted.map(target), pitch, low, high);
  const moved = sorted.map((p, i) => (level ? { ...p, x: places[i]! } : { ...p, y: places[i]! }));
  return moved.every((p) => isFree(p.x, p.y, area)) ? moved : [...own];
}

/** Places as near to the targets as the pitch between them allows; both ascend. Neighbours that would meet share their mean shift. */
export function spaced(targets: readonly number[], pitch: number, low: number, high: number): number[] {
  // With the pitch taken off they only have to ascend: blocks of neighbours that do not are pooled (isotonic regression).
  const blocks: { sum: number; count: number }[] = [];
  targets.forEach((t, i) => {
    blocks.push({ sum: t - i * pitch, count: 1 });
    for (;;) {
      const [a, b] = [blocks.at(-2), blocks.at(-1)!];
      if (!a || a.sum / a.count <= b.sum / b.count) break;
      blocks.splice(-2, 2, { sum: a.sum + b.sum, count: a.count + b.count });
    }
  });
  const most = high - (targets.length - 1) * pitch;
  const values = blocks.flatMap((b) => new Array<number>(b.count).fill(Math.max(low, Math.min(most, b.sum / b.count))));
  return values.map((v, i) => v + i * pitch);
}

/** Leaders that cross, and balloons that leaders run through. */
function troubles(placed: readonly PlacedBalloon[], { standing = [], diameter }: LayoutArea): number {
  let n = 0;
  const all = [...placed, ...standing];
  placed.forEach((p, i) => {
    all.forEach((q, k) => {
      if (k === i) return;
      if (segmentsCross(p.anchor.x, p.anchor.y, p.x, p.y, q.anchor.x, q.anchor.y, q.x, q.y)) n++;
      if (pointToSegment(q.x, q.y, p.anchor.x, p.anchor.y, p.x, p.y) < diameter * 0.65) n++;
    });
  });
  return n;
}
