import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { body, box, cylinder, sphere } from '../testing/shapes.ts';
import { frameFrom, namedFrame, type ViewFrame } from './directions.ts';
import { hiddenLines } from './hidden-lines.ts';
import { ARC_STRIDE, HIDDEN, lengthsOf, type Linework } from './linework.ts';
import type { Body } from './scene.ts';

const total = (l: Linework, part: 'visible' | 'hidden' = 'visible') => Object.values(lengthsOf(l)[part]).reduce((a, b) => a + b, 0);
const view = (bodies: readonly Body[], frame: ViewFrame = namedFrame('front')) => hiddenLines(bodies, frame, { hidden: true });

describe('lines of known bodies', () => {
  test('a box from the front is its outline; the edges behind coincide with it and are not drawn twice', () => {
    const l = view([body(0, box([0, 0, 0], [40, 30, 20]))]);
    expect(total(l)).toBeCloseTo(2 * (40 + 20), 6);
    expect(total(l, 'hidden')).toBeCloseTo(0, 6);
  });

  test('a box in isometric shows nine edges and hides three, each √(2/3) of its length', () => {
    const l = view([body(0, box([0, 0, 0], [10, 10, 10]))], namedFrame('isometric'));
    expect(total(l)).toBeCloseTo(90 * Math.sqrt(2 / 3), 5);
    expect(total(l, 'hidden')).toBeCloseTo(30 * Math.sqrt(2 / 3), 5);
  });

  // Analytic: the outline of a sphere is a circle of its radius from everywhere.
  test('the outline of a sphere has the length 2πr within 0.5 %, from any side', () => {
    fc.assert(
      fc.property(fc.tuple(fc.integer({ min: -9, max: 9 }), fc.integer({ min: -9, max: 9 }), fc.integer({ min: 1, max: 9 })), (toward) => {
        const l = view([body(0, sphere(20))], frameFrom(toward, [0.3, 1, 0.1]));
        expect(Math.abs(total(l) / (40 * Math.PI) - 1)).toBeLessThan(0.005);
      }),
      { numRuns: 25, seed: 7 },
    );
  });

  test('a cylinder seen end-on is one circle, as an arc, with no false outlines', () => {
    const l = view([body(0, cylinder(15, 40))], namedFrame('top'));
    expect(total(l)).toBeCloseTo(30 * Math.PI, 6);
    expect(lengthsOf(l).visible.outline).toBe(0);
    expect([...l.arc].filter((_, i) => i % ARC_STRIDE === 2).every((rx) => rx === 15)).toBe(true);
  });

  test('a cylinder from the side is a rectangle: two ends as edges, two outlines', () => {
    const { visible } = lengthsOf(view([body(0, cylinder(15, 40))]));
    expect(visible.sharp).toBeCloseTo(60, 1);
    expect(visible.outline).toBeCloseTo(80, 1);
  });
});

describe('what hides what', () => {
  test('a small box behind a large one is hidden as a whole, and its lines are told apart from the visible ones', () => {
    const large = body(0, box([0, 0, 0], [40, 10, 40]));
    const small = body(1, box([10, 20, 10], [20, 30, 20]));
    const l = view([large, small]);
    const own = [...l.kind].filter((_, i) => l.component[i] === 1);
    expect([...new Set(own.map((k) => k & HIDDEN))]).toEqual([HIDDEN]);
    expect(total(l, 'hidden')).toBeCloseTo(40, 6);
  });

  test('a line half behind a box is cut where the box ends', () => {
    const l = view([body(0, box([0, 0, 0], [20, 10, 20])), body(1, box([10, 20, 5], [50, 30, 15]))]);
    const { visible, hidden } = lengthsOf(l);
    expect(visible.sharp).toBeCloseTo(80 + 2 * 30 + 10, 3);
    expect(hidden.sharp).toBeCloseTo(2 * 10 + 10, 3);
  });

  test('touching boxes share an edge that is drawn once', () => {
    const l = view([body(0, box([0, 0, 0], [10, 10, 10])), body(1, box([10, 0, 0], [20, 10, 10]))]);
    expect(total(l)).toBeCloseTo(2 * 20 + 3 * 10, 6);
  });

  test('a shaft in its hole, end-on: the common circle is drawn once', () => {
    const l = view([body(0, cylinder(10, 20, 32, 5)), body(1, cylinder(5, 20, 48))], namedFrame('top'));
    expect(total(l)).toBeCloseTo(2 * Math.PI * 15, 4);
  });
});

describe('properties', () => {
  const scene = [body(0, box([0, 0, 0], [30, 20, 10])), body(1, cylinder(6, 25), [12, 10, 10]), body(2, sphere(5), [25, 5, 16])];

  test('visible and hidden together do not depend on what stands in front', () => {
    const alone = total(view([scene[1]!])) + total(view([scene[1]!]), 'hidden');
    const l = view([scene[1]!, body(9, box([0, -50, 0], [20, -40, 22]))]);
    let sum = 0;
    for (let i = 0; i < l.kind.length; i++) if (l.component[i] === 1) sum += lengthOf(l, i);
    expect(sum).toBeCloseTo(alone, 3);
  });

  test('turning model and view together changes no length', () => {
    const turn = (v: readonly [number, number, number]): [number, number, number] => [-v[1], v[0], v[2]];
    const turned = scene.map((b) => {
      const m = b.placement;
      return { ...b, placement: [-m[4]!, -m[5]!, -m[6]!, -m[7]!, m[0]!, m[1]!, m[2]!, m[3]!, m[8]!, m[9]!, m[10]!, m[11]!] };
    });
    const f = namedFrame('isometric');
    const g = { right: turn(f.right), up: turn(f.up), toward: turn(f.toward) };
    expect(total(view(turned, g))).toBeCloseTo(total(view(scene, f)), 4);
  });

  test('the same input gives the same bytes', () => {
    expect(view(scene, namedFrame('isometric'))).toEqual(view(scene, namedFrame('isometric')));
  });

  test('a raised flag stops the work', () => {
    expect(() => hiddenLines(scene, namedFrame('front'), { cancel: { aborted: true } })).toThrow('Cancelled');
  });
});

function lengthOf(l: Linework, i: number): number {
  const one: Linework = {
    ...l,
    start: l.start.slice(i, i + 2),
    kind: l.kind.slice(i, i + 1),
    arc: l.arc.slice(i * ARC_STRIDE, (i + 1) * ARC_STRIDE),
  };
  return total(one) + total(one, 'hidden');
}
