import type { Solid, Solids } from './solids.ts';

/** Hexagon heads: across flats and head height by ISO 4017, nut height by ISO 4032, washer by ISO 7089; from memory. */
const SIZES = {
  8: { flats: 13, head: 5.3, nut: 6.8, washer: [8.4, 16, 1.6] },
  10: { flats: 16, head: 6.4, nut: 8.4, washer: [10.5, 20, 2] },
} as const;
export type Size = keyof typeof SIZES;

/** Head above z = 0, shank below. */
export function hexBolt(s: Solids, size: Size, length: number): Solid {
  const { flats, head } = SIZES[size];
  const cone = s.turned([
    [0, 0],
    [flats * 0.5 + 0.75, 0],
    [flats * 0.5 + 0.75, head - 0.9],
    [flats * 0.475, head],
    [0, head],
  ]);
  const body = s.common(s.hexagon(flats, head), cone);
  const r = size / 2;
  const shank = s.turned([
    [0, 0.5],
    [r, 0.5],
    [r, -length + 1],
    [r - 1, -length],
    [0, -length],
  ]);
  return s.fuse(body, shank);
}

/** From z = 0 up. */
export function hexNut(s: Solids, size: Size): Solid {
  const { flats, nut } = SIZES[size];
  return s.cut(s.hexagon(flats, nut), s.cylinder([0, 0, -1], 'z', size, nut + 2));
}

export function washer(s: Solids, size: Size): Solid {
  const [hole, outer, thick] = SIZES[size].washer;
  return s.turned([
    [hole / 2, 0],
    [outer / 2, 0],
    [outer / 2, thick],
    [hole / 2, thick],
  ]);
}

/** Open ring for a shaft, in the plane z = 0 up. */
export function circlip(s: Solids, shaft: number): Solid {
  const ring = s.turned([
    [shaft / 2 - 0.3, 0],
    [shaft / 2 + 3, 0],
    [shaft / 2 + 3, 1],
    [shaft / 2 - 0.3, 1],
  ]);
  return s.cut(ring, s.box([0, -1.5, -1], [shaft, 1.5, 2]));
}

export const washerThickness = (size: Size) => SIZES[size].washer[2];
export const nutHeight = (size: Size) => SIZES[size].nut;
