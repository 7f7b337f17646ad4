import { describe, expect, test } from 'vitest';
import { applyToPoint } from '../base/placement.ts';
import type { Vec3 } from '../base/vector.ts';
import { namedFrame } from '../outline/directions.ts';
import { body, box, cylinder } from '../testing/shapes.ts';
import { crossings } from './crossings.ts';
import { pullLines } from './pull-lines.ts';
import { motionsOf, rotationAbout, type Pull } from './spread.ts';

const near = (a: readonly number[], b: readonly number[]) =>
  // Whole lists: one that is too short is not near.
  expect(Array.from(a)).toEqual(Array.from(b, (v) => expect.closeTo(v, 9)));

describe('motions', () => {
  const pulls: Pull[] = [
    { components: [0], direction: [0, 0, 1], distanceMm: 10 },
    { components: [0, 1], direction: [1, 0, 0], distanceMm: 20 },
  ];
  test('add up, and can be stopped on the way', () => {
    near(applyToPoint(motionsOf(pulls, 2)[0]!, [0, 0, 0]), [20, 0, 10]);
    near(applyToPoint(motionsOf(pulls, 2, 1.5)[0]!, [0, 0, 0]), [10, 0, 10]);
    near(applyToPoint(motionsOf(pulls, 2, 1)[1]!, [0, 0, 0]), [0, 0, 0]);
  });
  test('evenly spaced: the last goes the whole way, the others their share', () => {
    const m = motionsOf([{ components: [0, 1, 2], direction: [0, 1, 0], distanceMm: 30, ranks: [1, 2, 3] }], 3);
    expect(m.map((x) => x[7])).toEqual([10, 20, 30]);
  });
  test('a quarter turn about a line moves points as it should', () => {
    const r = rotationAbout([0, 0, 1], [10, 0, 0], Math.PI / 2);
    near(applyToPoint(r, [20, 0, 5]), [10, 10, 5]);
    near(applyToPoint(r, [10, 0, 7]), [10, 0, 7]);
  });
  test('a turn after a shift turns about the axis that went along', () => {
    const m = motionsOf(
      [
        { components: [0], direction: [1, 0, 0], distanceMm: 100 },
        { components: [0], direction: [0, 0, 1], distanceMm: 0, turn: { axis: [0, 0, 1], through: [0, 0, 0], angle: Math.PI } },
      ],
      1,
    );
    near(applyToPoint(m[0]!, [5, 0, 0]), [95, 0, 0]);
  });
});

describe('pull lines', () => {
  const pin = cylinder(4, 20, 32);
  const bodies = [body(0, box([0, 0, 0], [100, 60, 10])), body(1, pin, [80, 20, 10]), body(2, pin, [20, 20, 10])];
  test('leave from the axis of what is pulled, one for each of equal parts', () => {
    const lines = pullLines(bodies, [{ components: [1, 2], direction: [0, 0, 1], distanceMm: 50 }]);
    expect(lines.map((l) => l.component)).toEqual([1, 2]);
    near(lines[0]!.points[0]!, [80, 20, 20]);
    near(lines[0]!.points[1]!, [80, 20, 70]);
  });
  test('are left out of what is not shown; what is shown keeps its own', () => {
    const pulls = [{ components: [1, 2], direction: [0, 0, 1] as const, distanceMm: 50 }];
    expect(pullLines([bodies[0]!, bodies[2]!], pulls)).toEqual(pullLines(bodies, pulls).filter((l) => l.component === 2));
  });
  test('go along with what is carried, from where the part would sit now', () => {
    const lines = pullLines(bodies, [
      { components: [1], direction: [0, 0, 1], distanceMm: 50 },
      { components: [0, 1], direction: [1, 0, 0], distanceMm: 30 },
    ]);
    const own = lines.find((l) => l.component === 1)!;
    expect(own.points).toHaveLength(2);
    near(own.points[0]!, [110, 20, 20]);
    near(own.points[1]!, [110, 20, 70]);
  });
  test('bend where a part moves in two pulls of its own', () => {
    const lines = pullLines(bodies, [
      { components: [1], direction: [0, 0, 1], distanceMm: 50 },
      { components: [1], direction: [0, 1, 0], distanceMm: 25 },
    ]);
    expect(lines[0]!.points).toHaveLength(3);
    near(lines[0]!.points[2]!, [80, 45, 70]);
  });
  describe('that cross', () => {
    const frame = namedFrame('top');
    const level = (component: number, from: Vec3, to: Vec3) => ({ component, points: [from, to] });
    const along = level(1, [0, 0, 0], [10, 10, 0]);
    const across = level(2, [0, 10, 5], [10, 0, 5]);
    test('are pointed out where they do', () => {
      const [c] = crossings([along, across], [], frame, 0.5);
      expect(c).toMatchObject({ first: 1, second: 2 });
      expect(c!.at[0]).toBeCloseTo(5);
      expect(c!.at[1]).toBeCloseTo(5);
    });
    test('count once where several lie on each other, not at all where they only end on another', () => {
      expect(crossings([along, { ...along, component: 3 }, across], [], frame, 0.5)).toHaveLength(1);
      expect(crossings([along, level(2, [5, 5, 0], [9, 0, 0])], [], frame, 0.5)).toEqual([]);
    });
    test('under a part are no trouble, over it they are', () => {
      const plate = (z: number) => body(0, box([0, 0, z], [10, 10, z + 1]));
      expect(crossings([along, across], [plate(7)], frame, 0.5)).toEqual([]);
      // Between the two lines: the lower one is broken there, so nothing is seen to cross.
      expect(crossings([along, across], [plate(2)], frame, 0.5)).toEqual([]);
      expect(crossings([along, across], [plate(-3)], frame, 0.5)).toHaveLength(1);
    });
  });
});
