import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { assign } from '../../../core/base/assignment.ts';
import { random } from '../../../core/testing/random.ts';
import { layoutBalloons, type BalloonRequest } from './layout.ts';
import { spaced } from './parallel.ts';
import { pointToSegment, segmentsCross } from '../../../core/base/rect.ts';

describe('assignment', () => {
  test('finds the cheapest of all orders', () => {
    fc.assert(
      fc.property(fc.array(fc.array(fc.integer({ min: 0, max: 50 }), { minLength: 5, maxLength: 5 }), { minLength: 4, maxLength: 4 }), (cost) => {
        const cols = assign(cost);
        expect(new Set(cols).size).toBe(4);
        const own = cols.reduce((s, c, r) => s + cost[r]![c]!, 0);
        let best = Infinity;
        const walk = (row: number, used: number, sum: number): void => {
          if (row === 4) best = Math.min(best, sum);
          else for (let c = 0; c < 5; c++) if (!(used & (1 << c))) walk(row + 1, used | (1 << c), sum + cost[row]![c]!);
        };
        walk(0, 0, 0);
        expect(own).toBe(best);
      }),
      { numRuns: 100, seed: 3 },
    );
  });

  test('more rows than columns is the caller’s mistake', () => {
    expect(() => assign([[1], [2]])).toThrow(RangeError);
  });
});

// ISO 6433: leaders slanted, not crossing; balloons apart (limits from common practice).
describe('balloons around a view', () => {
  const area = {
    view: { x: 100, y: 80, width: 120, height: 90 },
    allowed: { x: 23, y: 13, width: 374, height: 271 },
    obstacles: [{ x: 230, y: 245, width: 180, height: 42 }],
    diameter: 10,
  };
  const requests = (seed: number, n: number): BalloonRequest[] => {
    let s = seed;
    const random = () => (s = (s * 16807) % 2147483647) / 2147483647;
    return Array.from({ length: n }, (_, i) => ({
      id: `item ${i}`,
      anchors: Array.from({ length: 6 }, () => {
        const a = random() * 2 * Math.PI;
        return { x: 105 + random() * 110, y: 85 + random() * 80, outX: Math.cos(a), outY: Math.sin(a) };
      }),
    }));
  };

  test.each([1, 2, 3, 4, 5, 6])('22 items, sample %i: none crosses, none is level or upright, none touches another or an obstacle', (seed) => {
    const placed = layoutBalloons(requests(seed * 7919, 22), area);
    expect(placed.length).toBe(22);
    placed.forEach((a, i) => {
      const slant = (Math.atan2(Math.abs(a.y - a.anchor.y), Math.abs(a.x - a.anchor.x)) * 180) / Math.PI;
      expect(slant).toBeGreaterThan(8);
      expect(slant).toBeLessThan(82);
      expect(a.x > 225 && a.y > 240).toBe(false);
      for (const b of placed.slice(i + 1)) {
        expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThan(10);
        expect(segmentsCross(a.x, a.y, a.anchor.x, a.anchor.y, b.x, b.y, b.anchor.x, b.anchor.y)).toBe(false);
        expect(pointToSegment(b.x, b.y, a.x, a.y, a.anchor.x, a.anchor.y)).toBeGreaterThan(5);
      }
    });
  });

  test('balloons that stay are kept clear of, and their leaders are not crossed', () => {
    const standing = [
      { x: 87, y: 100, anchor: { x: 150, y: 120 } },
      { x: 233, y: 140, anchor: { x: 190, y: 110 } },
    ];
    const placed = layoutBalloons(requests(15, 14), { ...area, standing });
    expect(placed).toHaveLength(14);
    for (const a of placed)
      for (const b of standing) {
        expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThan(10);
        expect(segmentsCross(a.x, a.y, a.anchor.x, a.anchor.y, b.x, b.y, b.anchor.x, b.anchor.y)).toBe(false);
      }
    // Without them a balloon takes one of these places or a leader crosses one of theirs: the test can fail.
    const free = layoutBalloons(requests(15, 14), area);
    const clash = free.some((a) =>
      standing.some((b) => Math.hypot(a.x - b.x, a.y - b.y) <= 10 || segmentsCross(a.x, a.y, a.anchor.x, a.anchor.y, b.x, b.y, b.anchor.x, b.anchor.y)),
    );
    expect(clash).toBe(true);
  });

  test('places lie on rails 13 mm off the view, and a balloon touches the limit of where it may stand', () => {
    // Room above the view for just a balloon: its upper edge may lie on the limit, no farther.
    const at = (allowedTop: number) =>
      layoutBalloons([{ id: 'a', anchors: [{ x: 150, y: 82, outX: 0.4, outY: -0.92 }] }], {
        ...area,
        allowed: { x: 23, y: allowedTop, width: 374, height: 260 },
      })[0]!;
    expect(at(62).y).toBe(67);
    expect(at(62.1).y).toBeGreaterThan(67);
    const placed = layoutBalloons(requests(99, 20), area);
    for (const b of placed) {
      const [dx, dy] = [Math.max(100 - b.x, b.x - 220), Math.max(80 - b.y, b.y - 170)];
      expect(Math.max(dx, dy)).toBeCloseTo(13, 9);
    }
  });

  test('of two ways that cost the same otherwise, the one that leaves its part at once, and the one over nothing', () => {
    const anchors = [{ x: 160, y: 100, outX: 0.9, outY: -0.44 }];
    const [plain] = layoutBalloons([{ id: 'a', anchors }], area);
    // The way out leads up and to the right.
    expect(plain!.x).toBeGreaterThan(160);
    expect(plain!.y).toBe(67);
    const [left] = layoutBalloons([{ id: 'a', anchors: [{ ...anchors[0]!, outX: -0.9 }] }], area);
    expect(left!.x).toBeLessThan(160);
    // Whatever goes right runs over others.
    const [over] = layoutBalloons([{ id: 'a', anchors, over: (a, x) => (x > a.x ? 200 : 0) }], area);
    expect(over!.x).toBeLessThan(160);
  });

  test('when there is room for none, none is placed', () => {
    expect(layoutBalloons(requests(5, 3), { ...area, allowed: { x: 110, y: 90, width: 100, height: 70 } })).toEqual([]);
  });

  test('items without a visible edge get no balloon', () => {
    expect(layoutBalloons([{ id: 'hidden', anchors: [] }], area)).toEqual([]);
  });
});

// Neighbouring leaders are roughly parallel (common practice).
describe('parallel leaders', () => {
  const area = {
    view: { x: 100, y: 80, width: 120, height: 90 },
    allowed: { x: 23, y: 13, width: 374, height: 271 },
    obstacles: [],
    diameter: 10,
  };
  const requests = (seed: number, n: number): BalloonRequest[] => {
    const next = random(seed);
    return Array.from({ length: n }, (_, i) => ({
      id: `item ${i}`,
      anchors: Array.from({ length: 8 }, () => {
        const a = next() * 2 * Math.PI;
        return { x: 105 + next() * 110, y: 85 + next() * 80, outX: Math.cos(a), outY: Math.sin(a) };
      }),
    }));
  };
  const slantOf = (p: { x: number; y: number; anchor: { x: number; y: number } }) =>
    ((Math.atan2(p.anchor.y - p.y, p.x - p.anchor.x) * 180) / Math.PI + 360) % 180;
  /** Mean distance of leaders from the slant that most of them have, degrees. */
  const spread = (placed: ReturnType<typeof layoutBalloons>) => {
    const slants = placed.map(slantOf);
    const off = (a: number, b: number) => Math.min(Math.abs(a - b), 180 - Math.abs(a - b));
    return Math.min(...slants.map((s) => slants.reduce((sum, t) => sum + off(s, t), 0) / slants.length));
  };

  test.each([1, 2, 3, 4, 5])('sample %i of 12: far more alike than the shortest ones, none crosses, all slanted and apart', (seed) => {
    const [short, parallel] = [false, true].map((p) => layoutBalloons(requests(seed * 31, 12), { ...area, parallel: p }));
    expect(spread(parallel!)).toBeLessThan(Math.max(6, spread(short!) / 2));
    parallel!.forEach((a, i) => {
      expect(slantOf(a) % 90).toBeGreaterThan(8);
      for (const b of parallel!.slice(i + 1)) {
        expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThan(10);
        expect(segmentsCross(a.x, a.y, a.anchor.x, a.anchor.y, b.x, b.y, b.anchor.x, b.anchor.y)).toBe(false);
      }
    });
  });

  test('with room they are exactly parallel: few parts, on one side', () => {
    const few = [110, 140, 170, 200].map((x, i): BalloonRequest => ({ id: String(i), anchors: [{ x, y: 90 + 5 * i, outX: 0, outY: -1 }] }));
    const slants = layoutBalloons(few, { ...area, rail: 'top', parallel: true }).map(slantOf);
    expect(Math.max(...slants) - Math.min(...slants)).toBeLessThan(0.01);
  });

  test('places keep their pitch and come as near to where they want to be as that allows', () => {
    expect(spaced([10, 30, 50], 12, 0, 100)).toEqual([10, 30, 50]);
    // Two that want the same place share the way.
    expect(spaced([30, 30], 12, 0, 100)).toEqual([24, 36]);
    expect(spaced([-5, 98, 99], 12, 0, 100)).toEqual([0, 88, 100]);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 100 }), { minLength: 1, maxLength: 8 }), (t) => {
        const sorted = [...t].sort((a, b) => a - b);
        const got = spaced(sorted, 10, 0, 100);
        got.forEach((v, i) => i > 0 && expect(v - got[i - 1]!).toBeGreaterThanOrEqual(10 - 1e-9));
        expect(Math.min(...got)).toBeGreaterThanOrEqual(-1e-9);
        expect(Math.max(...got)).toBeLessThanOrEqual(100 + 1e-9);
      }),
    );
  });
});
