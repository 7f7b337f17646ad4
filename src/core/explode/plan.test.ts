import { describe, expect, test } from 'vitest';
import { namedFrame } from '../outline/directions.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { assemblyOf, box, cylinder } from '../testing/shapes.ts';
import { planSpread } from './plan.ts';

type Parts = Parameters<typeof assemblyOf>[0];
function plan(parts: Parts) {
  const { assembly, geometries } = assemblyOf(parts);
  return planSpread(assembly, sceneOf(assembly, geometries), { frame: namedFrame('isometric') });
}

describe('ways out of known assemblies (common practice)', () => {
  test('a pin in a blind hole can only leave through its open end', () => {
    // The hole is a ring on a closed floor.
    const p = plan([
      { name: 'floor', geometry: box([-30, -30, -10], [30, 30, 0]) },
      { name: 'wall', geometry: cylinder(25, 40, 32, 8) },
      { name: 'pin', geometry: cylinder(7.9, 30, 32), at: [0, 0, 0.05] },
    ]);
    const pin = p.pulls.find((x) => x.components.includes(2))!;
    expect(pin.direction).toEqual([0, 0, 1]);
    expect(p.stuck).toEqual([]);
  });

  test('a ring under the head of a bolt waits for the bolt', () => {
    const p = plan([
      { name: 'plate', geometry: box([-40, -40, -10], [40, 40, 0]) },
      { name: 'washer', geometry: cylinder(9, 2, 32, 4.2) },
      { name: 'bolt head', geometry: cylinder(7, 5, 32), at: [0, 0, 2] },
    ]);
    expect(p.order.indexOf(2)).toBeLessThan(p.order.indexOf(1));
    for (const x of p.pulls) expect(x.direction).toEqual([0, 0, 1]);
  });

  test('what was apart stays in order and clear: the part taken off first ends farthest', () => {
    const p = plan([
      { name: 'base', geometry: box([0, 0, 0], [60, 60, 10]) },
      { name: 'middle', geometry: box([5, 5, 10], [55, 55, 20]) },
      { name: 'top', geometry: box([20, 20, 20], [40, 40, 30]) },
    ]);
    const lift = (c: number) => p.pulls.filter((x) => x.components.includes(c)).reduce((s, x) => s + x.direction[2] * x.distanceMm, 0);
    expect(lift(2)).toBeGreaterThan(lift(1));
    expect(lift(1)).toBeGreaterThan(0);
    expect(lift(0)).toBe(0);
  });

  test('two parts that hold each other are named as blocked', () => {
    // Each reaches over and under the other along every axis.
    const p = plan([
      { name: 'first', geometry: box([0, 0, 0], [40, 40, 40]) },
      { name: 'second', geometry: box([10, 10, 10], [30, 30, 30]) },
    ]);
    expect(p.stuck.map((s) => [s.components, s.by])).toEqual([[[1], [0]]]);
    expect(p.pulls).toEqual([]);
  });

  test('a single part needs no plan', () => {
    expect(plan([{ name: 'only', geometry: box([0, 0, 0], [1, 1, 1]) }]).pulls).toEqual([]);
  });
});
