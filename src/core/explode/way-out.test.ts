import { describe, expect, test } from 'vitest';
import { sceneOf } from '../outline/scene-of.ts';
import { assemblyOf, box, cylinder, joined } from '../testing/shapes.ts';
import type { Pull } from './spread.ts';
import { checkSpread } from './way-out.ts';

type Parts = Parameters<typeof assemblyOf>[0];
function check(parts: Parts, ...pulls: Pull[]) {
  const { assembly, geometries } = assemblyOf(parts);
  return checkSpread(assembly, sceneOf(assembly, geometries), pulls);
}
const up = (components: number[], distanceMm: number): Pull => ({ components, direction: [0, 0, 1], distanceMm });

describe('a pull', () => {
  const plate = cylinder(40, 10, 64, 8);
  test('of a pin in its hole is clear, although the walls coincide after meshing', () => {
    expect(
      check(
        [
          { name: 'plate', geometry: plate },
          { name: 'pin', geometry: cylinder(8, 30, 48), at: [0, 0, -10] },
        ],
        up([1], 60),
      ).hits,
    ).toEqual([]);
  });
  test('of a pin through a wall is not: it says through what, from where to where', () => {
    const { hits, clear } = check(
      [
        { name: 'pin', geometry: cylinder(4, 20, 32) },
        { name: 'wall', geometry: box([-30, -30, 25], [30, 30, 31]) },
      ],
      up([0], 100),
    );
    expect(clear).toEqual([false]);
    expect(hits).toHaveLength(1);
    expect(hits[0]).toMatchObject({ pull: 0, component: 0, through: 1 });
    // The top at 20 meets the wall after 5 and the foot leaves it after 31.
    expect(hits[0]!.from).toBeCloseTo(5, 1);
    expect(hits[0]!.to).toBeCloseTo(31, 1);
    expect(hits[0]!.at[2]).toBeCloseTo(25, 3);
  });
  test('that ends before the wall is clear', () => {
    const parts: Parts = [
      { name: 'pin', geometry: cylinder(4, 20, 32) },
      { name: 'wall', geometry: box([-30, -30, 25], [30, 30, 31]) },
    ];
    expect(check(parts, up([0], 4.9)).clear).toEqual([true]);
    expect(check(parts, up([0], 5.5)).clear).toEqual([false]);
  });
  test('of a ring out of a groove is not clear, sideways it is where the ring is open', () => {
    const shaft = joined([cylinder(12, 20, 48)], [cylinder(11, 1.2, 48), [0, 0, 20]], [cylinder(12, 10, 48), [0, 0, 21.2]]);
    const parts: Parts = [
      { name: 'shaft', geometry: shaft },
      { name: 'circlip', geometry: cylinder(14, 1, 48, 11.02), at: [0, 0, 20.1] },
    ];
    expect(check(parts, up([1], 40)).hits).toMatchObject([{ component: 1, through: 0 }]);
  });
  test('of a bolt modelled at its full diameter in a nut is clear along its axis and not across', () => {
    // M8: the nut's hole has the minor diameter 6.647 (ISO 724), the shank 8.
    const parts: Parts = [
      { name: 'Hex nut M8', geometry: cylinder(6.5, 6.5, 48, 6.647 / 2) },
      { name: 'Hex bolt M8', geometry: joined([cylinder(4, 25, 48)], [cylinder(6.5, 5, 48), [0, 0, 25]]), at: [0, 0, -5] },
    ];
    expect(check(parts, up([1], 60)).clear).toEqual([true]);
    expect(check(parts, { components: [1], direction: [1, 0, 0], distanceMm: 60 }).clear).toEqual([false]);
  });
  test('of a screw through a cover is clear where the cover has its hole, and not where it has none', () => {
    const screw = joined([cylinder(2.5, 14, 32)], [cylinder(4.25, 5, 32), [0, 0, 14]]);
    const at = (cover: Parts[number]['geometry']): Parts => [
      { name: 'Cover', geometry: cover },
      { name: 'Screw M5', geometry: screw, at: [0, 0, -8] },
    ];
    expect(check(at(cylinder(32, 6, 64, 2.75)), up([1], 60)).clear).toEqual([true]);
    expect(check(at(cylinder(32, 6, 64)), up([1], 60)).hits).toMatchObject([{ component: 1, through: 0 }]);
    // Half beside its hole is no thread either.
    const beside: Parts = [
      { name: 'Cover', geometry: cylinder(32, 6, 64, 2.75) },
      { name: 'Screw M5', geometry: screw, at: [2.5, 0, -8] },
    ];
    expect(check(beside, up([1], 60)).clear).toEqual([false]);
  });
  test('of a part with several threads at once is clear along them', () => {
    // Two studs of M8 in two holes of the minor diameter 6.647 (ISO 724).
    const studs = joined([cylinder(4, 20, 48), [-15, 0, -12]], [cylinder(4, 20, 48), [15, 0, -12]], [box([-25, -8, 8], [25, 8, 14])]);
    const hole = (x: number): [Parts[number]['geometry'], [number, number, number]] => [cylinder(7, 8, 48, 6.647 / 2), [x, 0, -10]];
    const parts: Parts = [
      { name: 'block', geometry: joined(hole(-15), hole(15)) },
      { name: 'Stud plate', geometry: studs },
    ];
    expect(check(parts, up([1], 60)).clear).toEqual([true]);
    expect(check(parts, { components: [1], direction: [0, 1, 0], distanceMm: 60 }).clear).toEqual([false]);
  });
  test('of a threaded rod up out of a closed hole is not clear, however little of the bracket is above it', () => {
    // The wall with the hole is thin, the foot below the rod is long.
    const bracket = joined(
      [box([0, -20, 0], [60, 20, 5])],
      [box([0, -20, 5], [5, 20, 20])],
      [box([0, -20, 20], [5, -5, 30])],
      [box([0, 5, 20], [5, 20, 30])],
      [box([0, -20, 30], [5, 20, 45])],
    );
    const rod = box([-20, -5, 20.05], [80, 5, 29.95]);
    const parts: Parts = [
      { name: 'bracket', geometry: bracket },
      { name: 'threaded rod', geometry: rod },
    ];
    expect(check(parts, up([1], 60)).hits).toMatchObject([{ component: 1, through: 0 }]);
    expect(check(parts, { components: [1], direction: [1, 0, 0], distanceMm: 120 }).hits).toEqual([]);
  });
  test('is looked at where the parts before it have gone: what came off is no obstacle', () => {
    const parts: Parts = [
      { name: 'low', geometry: box([0, 0, 0], [10, 10, 10]) },
      { name: 'lid', geometry: box([0, 0, 10], [10, 10, 12]) },
    ];
    expect(check(parts, up([0], 50)).clear).toEqual([false]);
    expect(check(parts, up([1], 30), up([0], 50)).clear).toEqual([true, true]);
  });
  test('switches nothing on: with an even spacing each goes its share', () => {
    const parts: Parts = [0, 1, 2].map((i) => ({ name: `disc ${i}`, geometry: cylinder(10, 5, 32), at: [0, 0, i * 5] as const }));
    // The upper goes farther than the lower: none catches up with the next.
    expect(check(parts, { ...up([1, 2], 60), ranks: [1, 2] }).clear).toEqual([true]);
    expect(check(parts, { ...up([1, 2], 60), ranks: [2, 1] }).hits).toMatchObject([{ component: 1, through: 2 }]);
  });
});

describe('a turn', () => {
  const parts: Parts = [
    { name: 'post', geometry: box([-5, -5, 0], [5, 5, 40]) },
    { name: 'arm', geometry: box([5, -3, 10], [60, 3, 16]) },
    { name: 'stop', geometry: box([-3, 30, 5], [3, 36, 25]) },
  ];
  const turn = (angle: number): Pull => ({
    components: [1],
    direction: [0, 0, 1],
    distanceMm: 0,
    turn: { axis: [0, 0, 1], through: [0, 0, 0], angle },
  });
  test('away from the stop is clear, against it is not, and the angle is told', () => {
    expect(check(parts, turn(-Math.PI / 2)).hits.filter((h) => h.through === 2)).toEqual([]);
    const hit = check(parts, turn(Math.PI / 2)).hits.find((h) => h.through === 2)!;
    // The corner of the stop, (3, 30), meets the near edge of the arm, 3 beside its middle, at acos(3/30.15) − asin(3/30.15).
    expect(hit.to).toBeCloseTo(Math.PI / 2, 2);
    expect(Math.abs(hit.from - (Math.acos(3 / Math.hypot(3, 30)) - Math.asin(3 / Math.hypot(3, 30))))).toBeLessThan((2 * Math.PI) / 60);
  });
});
