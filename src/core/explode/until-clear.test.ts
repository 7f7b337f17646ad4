import { describe, expect, test } from 'vitest';
import { IDENTITY } from '../base/placement.ts';
import type { Vec3 } from '../base/vector.ts';
import { body, box, cylinder, joined } from '../testing/shapes.ts';
import { clearDistance } from './until-clear.ts';

/** A foot plate 10 mm high with a hole, and a tower of 200 mm at its far end. */
const foot = joined([cylinder(30, 10, 48, 5.1)], [box([60, -20, 0], [80, 20, 200])]);
const pin = cylinder(5, 25, 32);
const motions = [IDENTITY, IDENTITY];

// What stands beside what follows from the shapes: no source is needed.
describe('until clear', () => {
  const bodies = [body(0, foot), body(1, pin, [0, 0, -2])];
  test('a pin goes to the top of its hole, not past what stands elsewhere', () => {
    expect(clearDistance(bodies, motions, [1], [0, 0, 1], 3)).toBeCloseTo(12 + 3, 6);
    expect(clearDistance(bodies, motions, [1], [0, 0, -1], 3)).toBeCloseTo(23 + 3, 6);
  });
  test('from where it has been moved to, the rest is less', () => {
    const lifted = [IDENTITY, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 7] as const];
    expect(clearDistance(bodies, lifted, [1], [0, 0, 1], 0)).toBeCloseTo(5, 6);
  });
  test('what lies ahead is passed too, what lies behind is not', () => {
    expect(clearDistance(bodies, motions, [1], [1, 0, 0], 0)).toBeCloseTo(85, 1);
    const beside = [body(0, box([-40, -40, 0], [-20, 40, 30])), body(1, pin)];
    expect(clearDistance(beside, motions, [1], [1, 0, 0], 2)).toBe(2);
  });
  test('a ring leaves its shaft over the end it is pulled to; the length of the direction does not matter', () => {
    const shaft = joined([cylinder(15, 20, 48)], [cylinder(10, 80, 48), [0, 0, 20]]);
    const ring = [body(0, shaft), body(1, cylinder(18, 10, 48, 10.02), [0, 0, 20])];
    const directions: Vec3[] = [
      [0, 0, 1],
      [0, 0, 40],
    ];
    for (const d of directions) expect(clearDistance(ring, motions, [1], d, 0)).toBeCloseTo(80, 6);
  });
});
