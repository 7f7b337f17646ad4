import { describe, expect, test } from 'vitest';
import { namedFrame } from '../outline/directions.ts';
import { random } from '../testing/random.ts';
import { body, box, cylinder } from '../testing/shapes.ts';
import { paperReport } from './on-paper.ts';
import { grown, sharedCells, shrunk, silhouetteOf } from './silhouette.ts';
import type { Pull } from './spread.ts';
import { tighten } from './tighten.ts';

const iso = namedFrame('isometric');

describe('silhouettes', () => {
  const front = namedFrame('front');
  test('have the area of what they show', () => {
    expect(silhouetteOf([body(0, box([0, 0, 0], [50, 9, 20]))], front, 0.5).count * 0.25).toBeCloseTo(1000, -1.5);
    const disc = silhouetteOf([body(0, cylinder(20, 5, 180))], namedFrame('top'), 0.25).count * 0.0625;
    expect(Math.abs(disc / (Math.PI * 400) - 1)).toBeLessThan(0.01);
  });
  test('share what they overlap, wherever they are shifted', () => {
    const [a, b] = [silhouetteOf([body(0, box([0, 0, 0], [70, 5, 40]))], front, 1), silhouetteOf([body(0, box([0, 0, 0], [50, 5, 50]))], front, 1)];
    for (const [dx, dy] of [
      [0, 0],
      [33, 0],
      [-40, 7],
      [49, 45],
      [90, 0],
      [-31, -20],
    ] as const) {
      const width = Math.max(0, Math.min(70 + dx, 50) - Math.max(dx, 0));
      const height = Math.max(0, Math.min(40 + dy, 50) - Math.max(dy, 0));
      // A row of cells more on the far side, where corners fall on the grid.
      expect(Math.abs(sharedCells(a, b, dx, dy) - width * height)).toBeLessThanOrEqual(width + height + 1);
    }
  });
  test('shrink on every side, and what is thin vanishes', () => {
    const s = silhouetteOf([body(0, box([0, 0, 0], [70, 5, 35]))], front, 1);
    const inner = shrunk(s, 2);
    expect(Math.abs(inner.count - (s.width - 4) * (s.height - 4))).toBeLessThanOrEqual(s.width + s.height);
    expect(sharedCells(inner, s, 2, -2)).toBe(inner.count);
    expect(shrunk(silhouetteOf([body(0, box([0, 0, 0], [70, 5, 2]))], front, 1), 2).count).toBe(0);
  });
  test('grow on every side', () => {
    const s = silhouetteOf([body(0, box([0, 0, 0], [35, 5, 35]))], front, 1);
    const g = grown(s, 3);
    expect([g.width - s.width, g.height - s.height, g.x0 - s.x0]).toEqual([6, 6, -3]);
    expect(sharedCells(s, g, 0, 0)).toBe(s.count);
    expect(sharedCells(s, g, 3, -3)).toBe(s.count);
  });
});

describe('tightening', () => {
  const plates = [0, 1, 2, 3].map((i) => body(i, box([0, 0, i * 10], [80 - 8 * i, 60, i * 10 + 10])));
  const up = (i: number, distanceMm: number): Pull => ({ components: [i], direction: [0, 0, 1], distanceMm });

  test('brings what is far apart as close as the gap allows', () => {
    const wide = [up(3, 900), up(2, 600), up(1, 300)];
    const tight = tighten(plates, wide, { frame: iso, gapMm: 8 });
    tight.forEach((p, k) => expect(p.distanceMm).toBeLessThan(wide[k]!.distanceMm / 1.5));
    const before = paperReport(plates, wide, iso, 1, 7).size;
    const report = paperReport(plates, tight, iso, 1, 7);
    expect(report.touches).toEqual([]);
    expect(report.size[1]).toBeLessThan(before[1] * 0.7);
  });
  test('keeps typed distances', () => {
    expect(tighten(plates, [up(3, 900), up(2, 600), up(1, 300)], { frame: iso, gapMm: 8, kept: new Set([1]) })[1]!.distanceMm).toBe(600);
  });
  test('seen from its end a pull keeps its gap, nothing else', () => {
    for (const gapMm of [3, 8, 20]) {
      const [pull] = tighten(plates.slice(0, 2), [up(1, 300)], { frame: namedFrame('top'), gapMm });
      expect(Math.abs(pull!.distanceMm / gapMm - 1)).toBeLessThan(0.05);
    }
  });
  test('seen from the end of their axis pieces of one pull stand behind each other, and those of another stay beside them', () => {
    // Along x on the front view a block goes aside by its own width and the gap; what goes along y is seen end-on.
    const blocks = [body(0, box([0, 0, 0], [40, 10, 30])), body(1, box([0, 10, 0], [40, 20, 30])), body(2, box([0, 20, 0], [40, 30, 30]))];
    const pulls: Pull[] = [
      { components: [2], direction: [0, 1, 0], distanceMm: 90 },
      { components: [1], direction: [1, 0, 0], distanceMm: 200 },
    ];
    const [endOn, aside] = tighten(blocks, pulls, { frame: namedFrame('front'), gapMm: 6 });
    expect(Math.abs(aside!.distanceMm - 46)).toBeLessThan(1.5);
    expect(endOn!.distanceMm).toBeLessThan(90);
    // On paper only the block behind shares the ground of the first one: nothing brings them apart there.
    const { touches } = paperReport(blocks, [endOn!, aside!], namedFrame('front'), 1, 5);
    expect(touches.map((t) => [t.first, t.second])).toEqual([[[0], [2]]]);
  });
  test('takes another way where the first has no room on paper', () => {
    // Along the line of sight nothing comes apart on paper.
    const away: Pull = { components: [1], direction: [0, -1, 0], distanceMm: 100 };
    const [pull] = tighten(plates.slice(0, 2), [away], { frame: namedFrame('front'), gapMm: 5, ways: [[[1, 0, 0]]] });
    expect(pull!.direction).toEqual([1, 0, 0]);
  });
  test('never makes two components touch that did not', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const next = random(seed);
      const bodies = Array.from({ length: 6 }, (_, i) => {
        const [x, y, z] = [next() * 60, next() * 60, next() * 60];
        return body(i, box([x, y, z], [x + 10 + next() * 30, y + 10 + next() * 30, z + 10 + next() * 30]));
      });
      const axes = [
        [1, 0, 0],
        [0, 1, 0],
        [0, 0, 1],
      ] as const;
      const pulls = [1, 2, 3, 4, 5].map((i): Pull => ({ components: [i], direction: axes[Math.floor(next() * 3)]!, distanceMm: 200 * (6 - i) }));
      const pairs = (p: readonly Pull[]) =>
        new Set(
          paperReport(bodies, p, iso, 1, 0)
            .touches.filter((t) => t.overlapMm2 > 0)
            .map((t) => `${t.first.join()}/${t.second.join()}`),
        );
      const before = pairs(pulls);
      for (const pair of pairs(tighten(bodies, pulls, { frame: iso, gapMm: 4 }))) expect([seed, before.has(pair), pair]).toEqual([seed, true, pair]);
    }
  });
});
