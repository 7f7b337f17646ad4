import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { rotationAbout } from '../explode/spread.ts';
import { bentStrip, type Leg } from '../testing/bent.ts';
import { box, cylinder, joined, moved, prism } from '../testing/shapes.ts';
import { neutralFibre, unfold, type FlatPattern } from './unfold.ts';

const flatOf = (g: Parameters<typeof unfold>[0], k?: number): FlatPattern => {
  const r = unfold(g, k);
  if (!('flat' in r)) throw new Error(r.why);
  return r.flat;
};
const DEG = Math.PI / 180;

describe('bend allowance', () => {
  test('an angle of 90°: legs plus π/2 × (Ri + K t), by hand', () => {
    const f = flatOf(bentStrip([{ length: 50, angle: 90 * DEG, radius: 3 }, { length: 30 }], 2, 100), 0.44);
    const allowance = (Math.PI / 2) * (3 + 0.44 * 2);
    expect(f.thicknessMm).toBeCloseTo(2, 9);
    expect(f.sizeMm[0]).toBeCloseTo(100, 6);
    expect(f.sizeMm[1]).toBeCloseTo(50 + 30 + allowance, 6);
    expect(f.areaMm2).toBeCloseTo(100 * (80 + allowance), 3);
    expect(f.bends).toHaveLength(1);
    expect(f.bends[0]!.angle / DEG).toBeCloseTo(90, 6);
    expect([f.bends[0]!.radiusMm, f.bends[0]!.lengthMm, f.bends[0]!.allowanceMm].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([
      3,
      100,
      Math.round(allowance * 1e6) / 1e6,
    ]);
  });
  // DIN 6935: correction factor k of half the thickness, from memory: 0.65 at r = s, 0.8 at r = 2 s, 1 from r = 5 s on.
  test.each([
    [1, 0.65],
    [2, 0.8],
    [3, 0.89],
    [5, 1],
    [10, 1],
  ])('r/s = %d: k = %d', (ratio, k) => {
    expect(2 * neutralFibre(ratio * 2, 2)).toBeCloseTo(k, 2);
  });
  test('without a K of one’s own it is DIN 6935’s', () => {
    const f = flatOf(bentStrip([{ length: 50, angle: 90 * DEG, radius: 2 }, { length: 30 }], 2, 60));
    expect(f.bends[0]!.allowanceMm).toBeCloseTo((Math.PI / 2) * (2 + 0.325 * 2), 6);
  });
});

test('any strip: as long as its legs and allowances, as wide as it was, its middle surface times its thickness is its volume; however it lies in space', () => {
  const leg = fc.record({
    length: fc.double({ min: 15, max: 60, noNaN: true }),
    angle: fc.double({ min: 15, max: 150, noNaN: true }),
    left: fc.boolean(),
    ratio: fc.double({ min: 0.5, max: 4, noNaN: true }),
  });
  fc.assert(
    fc.property(
      fc.array(leg, { minLength: 1, maxLength: 8 }),
      fc.double({ min: 0.8, max: 4, noNaN: true }),
      fc.double({ min: 20, max: 300, noNaN: true }),
      fc.double({ min: 0, max: 6, noNaN: true }),
      (list, t, width, turn) => {
        const legs: Leg[] = [...list.map((l) => ({ length: l.length, angle: l.angle * DEG * (l.left ? 1 : -1), radius: l.ratio * t })), { length: 25 }];
        const g = moved(bentStrip(legs, t, width), rotationAbout([0.6, 0, 0.8], [1, 2, 3], turn));
        // At the middle of the thickness nothing is stretched.
        const f = flatOf(g, 0.5);
        const along = legs.reduce((s, l) => s + l.length + Math.abs(l.angle ?? 0) * ((l.radius ?? 0) + t / 2), 0);
        const size = [Math.max(along, width), Math.min(along, width)];
        expect(Math.abs(f.sizeMm[0] - size[0]!)).toBeLessThan(1e-4 * along);
        expect(Math.abs(f.sizeMm[1] - size[1]!)).toBeLessThan(1e-4 * along);
        expect(Math.abs(f.areaMm2 * t - g.volumeMm3)).toBeLessThan(1e-3 * g.volumeMm3);
        expect(f.bends).toHaveLength(list.length);
        const angles = f.bends.map((b) => b.angle / DEG).sort((a, b) => a - b);
        const wanted = list.map((l) => l.angle).sort((a, b) => a - b);
        angles.forEach((a, i) => expect(a).toBeCloseTo(wanted[i]!, 3));
        // One way or the other: as many to each side as there were.
        const lefts = list.filter((l) => l.left).length;
        const ups = f.bends.filter((b) => b.up).length;
        expect([lefts, list.length - lefts]).toContain(ups);
        // Bend lines lie on the pattern, from edge to edge.
        for (const b of f.bends)
          for (const [x, y] of b.line) expect([x >= -1e-6, y >= -1e-6, x <= f.sizeMm[0] + 1e-6, y <= f.sizeMm[1] + 1e-6]).toEqual([true, true, true, true]);
      },
    ),
    { numRuns: 60, seed: 8 },
  );
});

describe('what is no bent sheet is not laid flat, and it is said why', () => {
  const why = (g: Parameters<typeof unfold>[0]) => {
    const r = unfold(g);
    return 'flat' in r ? 'FLAT' : r.why;
  };
  test.each([
    ['a block', box([0, 0, 0], [60, 40, 30])],
    ['a flat plate', box([0, 0, 0], [200, 100, 3])],
    [
      'a plate with a window',
      prism(
        [
          [
            [0, 0],
            [90, 0],
            [90, 60],
            [0, 60],
          ],
          [
            [20, 20],
            [20, 40],
            [60, 40],
            [60, 20],
          ],
        ],
        4,
      ),
    ],
    ['a shaft', cylinder(12, 80, 64)],
    ['a ring', cylinder(20, 10, 64, 12)],
    [
      'a milled angle with a sharp corner',
      prism(
        [
          [
            [0, 0],
            [50, 0],
            [50, 5],
            [5, 5],
            [5, 50],
            [0, 50],
          ],
        ],
        80,
      ),
    ],
    ['a stepped shaft', joined([cylinder(10, 20)], [cylinder(15, 8), [0, 0, 20]])],
  ])('%s', (_, g) => {
    expect(why(g)).toMatch(/^It has no (bends|flat side)\.$/);
  });
  test('a strip that is thicker than its faces say', () => {
    const g = bentStrip([{ length: 50, angle: 1, radius: 3 }, { length: 30 }], 2, 100);
    expect(why({ ...g, volumeMm3: g.volumeMm3 * 1.2 })).toBe('It is not of one thickness everywhere.');
    expect(why({ ...g, closed: false })).toBe('Its surface is open.');
  });
});
