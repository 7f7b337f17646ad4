import type { Vec2 } from '../base/vector.ts';
import type { FlatBend } from './unfold.ts';

/** A bend as it is written: its letter, and when it is bent. */
export interface ListedBend extends FlatBend {
  readonly letter: string;
  /** From 1. */
  readonly order: number;
}

export const BEND_COLUMNS = ['Bend', 'Order', 'Direction', 'Angle', 'Inner radius', 'Allowance'] as const;

/**
 * Bends with their letters and a proposed order: those with the shorter flange first, so that what stands up already is out of the
 * way of the next (a simple check, common practice; no tool is looked at).
 * @param sizeMm of the pattern, whose corner is at 0, 0
 */
export function listedBends(bends: readonly FlatBend[], sizeMm: Vec2): ListedBend[] {
  const flange = (b: FlatBend): number => {
    const [[x0, y0], [x1, y1]] = b.line;
    const l = Math.hypot(x1 - x0, y1 - y0) || 1;
    const [nx, ny] = [(y0 - y1) / l, (x1 - x0) / l];
    const off = [
      [0, 0],
      [sizeMm[0], 0],
      [0, sizeMm[1]],
      [sizeMm[0], sizeMm[1]],
    ].map(([x, y]) => (x! - x0) * nx + (y! - y0) * ny);
    return Math.min(Math.max(...off), -Math.min(...off));
  };
  const order = bends.map((_, i) => i).sort((a, b) => flange(bends[a]!) - flange(bends[b]!) || a - b);
  return bends.map((b, i) => ({ ...b, letter: letterOf(i), order: order.indexOf(i) + 1 }));
}

const LETTERS = 'ABCDEFGHJKLMNPRSTUVWXYZ';
const letterOf = (i: number): string => LETTERS[i % LETTERS.length]! + (i >= LETTERS.length ? String(Math.floor(i / LETTERS.length) + 1) : '');

const plain = (v: number): string => String(Math.round(v * 100) / 100);

/** `A up 90°`: what stands beside a bend line. */
export const bendMark = (b: ListedBend): string => `${b.letter} ${b.up ? 'up' : 'down'} ${plain((b.angle * 180) / Math.PI)}°`;

/** Rows of the table with its head; angles in degrees away from flat, lengths in mm. */
export function bendRows(bends: readonly ListedBend[]): string[][] {
  const rows = [...bends].sort((a, b) => a.order - b.order);
  return [
    [...BEND_COLUMNS],
    ...rows.map((b) => [b.letter, String(b.order), b.up ? 'up' : 'down', `${plain((b.angle * 180) / Math.PI)}°`, plain(b.radiusMm), plain(b.allowanceMm)]),
  ];
}
