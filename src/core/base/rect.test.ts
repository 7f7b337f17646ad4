import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { contains, crosses, inflate, overlaps, pointToSegment, rectOf, segmentsCross, type Rect } from './rect.ts';

const R: Rect = { x: 10, y: 20, width: 30, height: 40 };

describe('rectangles', () => {
  test('points inside, on the edge and outside', () => {
    const points = [
      [10, 20],
      [40, 60],
      [25, 40],
      [9.99, 40],
      [40.01, 40],
      [25, 19.99],
      [25, 60.01],
    ] as const;
    expect(points.map((p) => contains(R, p))).toEqual([true, true, true, false, false, false, false]);
  });
  test.each([
    [40, 20, 0, false],
    [39.9, 20, 0, true],
    [44, 20, 5, true],
    [45, 20, 5, false],
    [10, 60, 0, false],
    [10, 64, 5, true],
    [-20, 20, 0, false],
    [10, -20, 0.1, true],
  ])('one at %d, %d comes closer than %d: %s', (x, y, gap, closer) => {
    const other = { ...R, x, y };
    expect([overlaps(R, other, gap), overlaps(other, R, gap)]).toEqual([closer, closer]);
  });
  test('grow and shrink on every side', () => {
    expect(inflate(R, 2)).toEqual({ x: 8, y: 18, width: 34, height: 44 });
    expect(inflate(rectOf([10, 20, 30, 40]), -5)).toEqual({ x: 15, y: 25, width: 20, height: 30 });
  });
});

describe('segments', () => {
  test('through a rectangle, beside it, ending before it, inside it', () => {
    expect(
      (
        [
          [0, 40, 60, 40],
          [0, 0, 60, 80],
          [0, 60.5, 60, 60.5],
          [0, 40, 9, 40],
          [45, 40, 60, 40],
          [20, 30, 30, 50],
          [25, 0, 25, 19],
          [25, 0, 25, 21],
          [0, 52, 20, 72],
        ] as const
      ).map((s) => crosses(s, R)),
    ).toEqual([true, true, false, false, false, true, false, true, false]);
    expect(crosses([0, 0, 100, 100], { ...R, width: 0 })).toBe(false);
  });
  test('as dense points along them say', () => {
    const n = fc.double({ min: -50, max: 100, noNaN: true });
    fc.assert(
      fc.property(n, n, n, n, (x0, y0, x1, y1) => {
        const inside = Array.from({ length: 400 }, (_, i) => [x0 + ((x1 - x0) * i) / 399, y0 + ((y1 - y0) * i) / 399] as const);
        if (inside.some((p) => contains(inflate(R, -0.01), p))) expect(crosses([x0, y0, x1, y1], R)).toBe(true);
        if (!crosses([x0, y0, x1, y1], R)) expect(inside.some((p) => contains(inflate(R, -1e-6), p))).toBe(false);
      }),
      { seed: 3, numRuns: 500 },
    );
  });
  test('that cross each other, and the distance of a point', () => {
    expect(segmentsCross(0, 0, 10, 10, 0, 10, 10, 0)).toBe(true);
    expect(segmentsCross(0, 0, 4, 4, 0, 10, 10, 0)).toBe(false);
    expect(segmentsCross(0, 0, 10, 0, 0, 1, 10, 1)).toBe(false);
    const d = (x: number, y: number) => pointToSegment(x, y, 2, 3, 8, 11);
    // A segment of length 10 (3-4-5): beside its middle, beyond its ends, on it.
    expect([d(5 - 4, 7 + 3), d(2 - 3, 3 - 4), d(8 + 6, 11 + 8), d(5, 7), d(2, 3)].map((v) => Number(v.toFixed(9)))).toEqual([5, 5, 10, 0, 0]);
    expect(pointToSegment(3, 4, 0, 0, 0, 0)).toBe(5);
  });
});
