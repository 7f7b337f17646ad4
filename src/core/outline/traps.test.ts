import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { geometryFromMesh } from '../assembly/from-mesh.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { cutPart } from '../cut/plane-cut.ts';
import { normalize } from '../base/vector.ts';
import { body, box, cylinder, sphere } from '../testing/shapes.ts';
import { frameFrom, namedFrame } from './directions.ts';
import { hiddenLines, type HiddenLineOptions } from './hidden-lines.ts';
import { HIDDEN, lengthsOf, runLength, type Linework } from './linework.ts';
import type { Body } from './scene.ts';

const draw = (bodies: readonly Body[], direction: Parameters<typeof namedFrame>[0] = 'front', options: HiddenLineOptions = {}) =>
  hiddenLines(bodies, namedFrame(direction), { hidden: true, ...options });
const sum = (l: Linework, part: 'visible' | 'hidden') => Object.values(lengthsOf(l)[part]).reduce((a, b) => a + b, 0);
const ofComponent = (l: Linework, c: number, hidden: boolean) =>
  [...l.kind].reduce((s, k, i) => (l.component[i] === c && ((k & HIDDEN) !== 0) === hidden ? s + runLength(l, i) : s), 0);
/** A square sheet without thickness in the plane y = `y`, and one with the other sense. */
const sheet = (y: number, turned = false): PartGeometry => {
  const p = [0, y, 0, 20, y, 0, 20, y, 20, 0, y, 20];
  return geometryFromMesh(p, turned ? [0, 2, 1, 0, 3, 2] : [0, 1, 2, 0, 2, 3])!;
};

describe('what careless engines get wrong', () => {
  test('the same body twice is drawn once', () => {
    const b = box([0, 0, 0], [10, 20, 30]);
    expect(sum(draw([body(0, b), body(1, b)], 'isometric'), 'visible')).toBeCloseTo(sum(draw([body(0, b)], 'isometric'), 'visible'), 6);
  });

  test('a part inside a solid part is hidden as a whole', () => {
    const l = draw([body(0, box([0, 0, 0], [30, 30, 30])), body(1, sphere(5), [15, 15, 15])], 'isometric');
    expect(ofComponent(l, 1, false)).toBe(0);
    expect(ofComponent(l, 1, true)).toBeCloseTo(10 * Math.PI, 1);
  });

  test.each([
    ['front', false],
    ['back', false],
    ['front', true],
    ['back', true],
  ] as const)('a sheet without thickness shows its four edges from the %s (turned: %s) and hides what is behind it', (direction, turned) => {
    const behind = direction === 'front' ? [10, 20] : [-20, -10];
    const l = draw([body(0, sheet(0, turned)), body(1, box([5, behind[0]!, 5], [15, behind[1]!, 15]))], direction);
    expect(ofComponent(l, 0, false)).toBeCloseTo(80, 6);
    expect(ofComponent(l, 1, false)).toBe(0);
  });

  test('a mirrored body is drawn as its mirror image', () => {
    const g = cylinder(8, 20, 32, 3);
    const mirrored: Body = { component: 0, geometry: g, placement: [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0] };
    const frame = namedFrame('isometric');
    const flip = frameFrom([-frame.toward[0], frame.toward[1], frame.toward[2]], [0, 0, 1]);
    expect(sum(hiddenLines([mirrored], frame), 'visible')).toBeCloseTo(sum(hiddenLines([body(0, g)], flip), 'visible'), 4);
  });

  test('a thread as a cylinder that fills its hole: the common circle once, nothing of the wall shows through', () => {
    const l = draw([body(0, cylinder(12, 10, 48, 5)), body(1, cylinder(5, 10, 40))], 'isometric');
    const alone = sum(draw([body(0, cylinder(12, 10, 48))], 'isometric'), 'visible');
    const circle = sum(draw([body(0, cylinder(5, 0.001, 48))], 'top'), 'visible');
    // Two thirds under the root is the aspect of a circle in isometric; its ellipse is shorter than the circle.
    expect(sum(l, 'visible')).toBeGreaterThan(alone + circle * 0.7);
    expect(sum(l, 'visible')).toBeLessThan(alone + circle);
  });

  test('two boxes of one height that touch: no line is drawn twice, none is lost', () => {
    const l = draw([body(0, box([0, 0, 0], [10, 10, 10])), body(1, box([10, 0, 0], [25, 10, 10]))], 'top');
    expect(sum(l, 'visible')).toBeCloseTo(2 * 25 + 3 * 10, 6);
  });

  test('a feature of a hundredth of a millimetre on a metre is drawn, and harms nothing', () => {
    const l = draw([body(0, box([0, 0, 0], [1000, 10, 1000])), body(1, box([500, -0.01, 500], [500.01, 0, 500.01]))]);
    expect(sum(l, 'visible')).toBeCloseTo(4000 + 0.04, 1);
  });

  test('hidden lines of what begins beyond a depth are left out', () => {
    const scene = [body(0, box([0, 0, 0], [40, 5, 40])), body(1, box([5, 10, 5], [15, 15, 15])), body(2, box([20, 100, 20], [30, 110, 30]))];
    const l = draw(scene, 'front', { hiddenWithinMm: 50 });
    expect([ofComponent(l, 1, true), ofComponent(l, 2, true)]).toEqual([expect.closeTo(40, 6), 0]);
    expect(ofComponent(draw(scene), 2, true)).toBeCloseTo(40, 6);
  });

  test('progress goes up to the end', () => {
    const seen: number[] = [];
    draw([body(0, sphere(5)), body(1, box([10, 0, 0], [20, 10, 10]))], 'front', { onProgress: (s) => seen.push(s) });
    expect(seen.length).toBeGreaterThan(2);
    expect([...seen].sort((a, b) => a - b)).toEqual(seen);
  });
});

describe('properties', () => {
  const wall = body(0, box([0, 0, 0], [60, 5, 60]));
  const place = fc.record({
    x: fc.double({ min: 1, max: 45, noNaN: true }),
    y: fc.double({ min: 20, max: 90, noNaN: true }),
    z: fc.double({ min: 1, max: 45, noNaN: true }),
  });

  test('moving a component out of sight changes nothing that is seen', () => {
    const small = cylinder(5, 10);
    fc.assert(
      fc.property(place, ({ x, y, z }) => {
        const l = hiddenLines([wall, body(1, small, [x + 5, y, z])], namedFrame('front'));
        expect(sum(l, 'visible')).toBeCloseTo(240, 4);
      }),
      { numRuns: 40, seed: 3 },
    );
  });

  test('instances of one part that are only shifted have the same lines where nothing is before them', () => {
    const g = cylinder(6, 15, 32, 2);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9 }), (n) => {
        const apart = Array.from({ length: n }, (_, i) => body(i, g, [i * 100, 0, 0]));
        expect(sum(draw(apart, 'isometric'), 'visible') / (n * sum(draw([body(0, g)], 'isometric'), 'visible'))).toBeCloseTo(1, 4);
      }),
      { numRuns: 9, seed: 5 },
    );
  });

  test('a deeper cut never leaves more material', () => {
    const g = cylinder(10, 30, 24, 4);
    const rest = (normal: readonly [number, number, number], d: number) => {
      const left = cutPart(g, { normal, d }).geometry;
      if (!left) return 0;
      let volume = 0;
      const p = left.positions;
      for (let t = 0; t < left.triangles.length; t += 3) {
        const [a, b, c] = [left.triangles[t]! * 3, left.triangles[t + 1]! * 3, left.triangles[t + 2]! * 3];
        volume +=
          (p[a]! * (p[b + 1]! * p[c + 2]! - p[b + 2]! * p[c + 1]!) -
            p[a + 1]! * (p[b]! * p[c + 2]! - p[b + 2]! * p[c]!) +
            p[a + 2]! * (p[b]! * p[c + 1]! - p[b + 1]! * p[c]!)) /
          6;
      }
      return volume;
    };
    const part = fc.integer({ min: -9, max: 9 });
    fc.assert(
      fc.property(
        fc.tuple(part, part, fc.integer({ min: 1, max: 9 })),
        fc.double({ min: -30, max: 30, noNaN: true }),
        fc.double({ min: 0, max: 20, noNaN: true }),
        (v, d, more) => {
          const n = normalize(v);
          // New corners are put on the true cylinder: a hair more than the mesh had.
          expect(rest(n, d)).toBeLessThanOrEqual(rest(n, d + more) + 1e-2 * g.volumeMm3);
        },
      ),
      { numRuns: 60, seed: 11 },
    );
  });
});
