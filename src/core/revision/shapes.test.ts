import { describe, expect, test } from 'vitest';
import type { Part } from '../assembly/assembly.ts';
import { FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { rescaleGeometry } from '../assembly/rescale.ts';
import { applyToDirection, applyToPoint, combine, determinant, inverse, translation, type Placement } from '../base/placement.ts';
import { length, normalize, subtract, type Vec3 } from '../base/vector.ts';
import { rotationAbout } from '../explode/spread.ts';
import { random } from '../testing/random.ts';
import { box, cylinder, joined, sphere } from '../testing/shapes.ts';
import { holeChanges, holesOf, sizeChange } from './features.ts';
import { axisText, isStill, motionBetween } from './motion.ts';
import { allOn, nearestInTriangle, PartSurface, samplesOf } from './on-surface.ts';
import { shapeTeller, type ShapeVerdict } from './same-shape.ts';

const part = (key: string, g: PartGeometry): Part => ({
  id: key,
  name: key,
  geometryKey: key,
  volumeMm3: g.volumeMm3,
  areaMm2: g.areaMm2,
  centroid: g.centroid,
  box: g.box,
  properties: {},
});
/** A geometry moved, turned or mirrored for good. */
function placed(g: PartGeometry, m: Placement): PartGeometry {
  const positions = new Float64Array(g.positions.length);
  for (let i = 0; i < positions.length; i += 3) positions.set(applyToPoint(m, [g.positions[i]!, g.positions[i + 1]!, g.positions[i + 2]!]), i);
  const faceParams = g.faceParams.slice();
  for (let f = 0; f < g.faceKind.length; f++) {
    const q = f * FACE_STRIDE;
    faceParams.set(applyToPoint(m, [faceParams[q]!, faceParams[q + 1]!, faceParams[q + 2]!]), q);
    faceParams.set(applyToDirection(m, [faceParams[q + 3]!, faceParams[q + 4]!, faceParams[q + 5]!]), q + 3);
  }
  const lows = [0, 1, 2].map((k) => Math.min(...positions.filter((_, i) => i % 3 === k)));
  const highs = [0, 1, 2].map((k) => Math.max(...positions.filter((_, i) => i % 3 === k)));
  return { ...g, positions, faceParams, centroid: applyToPoint(m, g.centroid), box: [...lows, ...highs] as unknown as PartGeometry['box'] };
}
/** Centroid of a geometry of several boxes: the shapes of the test room all say 0, 0, 0. */
const withCentroid = (g: PartGeometry, centroid: Vec3): PartGeometry => ({ ...g, centroid: [...centroid] });
const verdict = (g: PartGeometry, h: PartGeometry): ShapeVerdict =>
  shapeTeller(
    new Map([
      ['g', g],
      ['h', h],
    ]),
  )(part('g', g), part('h', h));

describe('the nearest point of a triangle', () => {
  test('is never beaten by any other point of it', () => {
    const r = random(5);
    const point = (): Vec3 => [10 * r() - 5, 10 * r() - 5, 10 * r() - 5];
    for (let n = 0; n < 300; n++) {
      const [a, b, c, p] = [point(), point(), point(), point()];
      const found = nearestInTriangle(p, a, b, c);
      const d = length(subtract(p, found));
      let best = Infinity;
      for (let i = 0; i <= 30; i++)
        for (let j = 0; j <= 30 - i; j++) {
          const [u, v] = [i / 30, j / 30];
          const q = [0, 1, 2].map((k) => a[k]! * (1 - u - v) + b[k]! * u + c[k]! * v) as unknown as Vec3;
          best = Math.min(best, length(subtract(p, q)));
        }
      expect(d).toBeLessThanOrEqual(best + 1e-9);
      // And it lies in the triangle, as near as the finest of those places.
      expect(best - d).toBeLessThan(0.4);
    }
  });
  test('corners, edges and the inside by name', () => {
    const [a, b, c]: Vec3[] = [
      [0, 0, 0],
      [4, 0, 0],
      [0, 3, 0],
    ];
    for (const [p, q] of [
      [[-1, -1, 5], a],
      [[6, -1, 0], b],
      [[-1, 5, 1], c],
      [
        [2, -3, 2],
        [2, 0, 0],
      ],
      [
        [-3, 1, 2],
        [0, 1, 0],
      ],
      [
        [1, 1, 9],
        [1, 1, 0],
      ],
      [
        [4, 3, 0],
        [2.56, 1.08, 0],
      ],
    ] as [Vec3, Vec3][])
      nearestInTriangle(p, a!, b!, c!).forEach((v, k) => expect(v).toBeCloseTo(q[k]!, 9));
  });
});

describe('does a point lie on a surface', () => {
  test('of a box: on its faces, edges and corners, not beside them', () => {
    const s = new PartSurface(box([0, 0, 0], [40, 30, 20]));
    for (const p of [
      [10, 10, 0],
      [40, 15, 10],
      [40, 30, 20],
      [0, 0, 0],
      [20, 30, 20],
      [39.999, 0.001, 20],
    ] as Vec3[])
      expect(s.holds(p)).toBe(true);
    for (const p of [
      [10, 10, 0.1],
      [10, 10, 10],
      [40.1, 15, 10],
      [-0.1, 0, 0],
      [20, 30.05, 10],
      [500, 500, 500],
    ] as Vec3[])
      expect(s.holds(p)).toBe(false);
    // A point that may itself be a little off.
    expect([s.holds([10, 10, 0.1], 0.2), s.holds([10, 10, 0.3], 0.2)]).toEqual([true, false]);
  });
  test('of a cylinder: on the true surface, not on the chords of its mesh', () => {
    const s = new PartSurface(cylinder(10, 30, 24));
    const at = (r: number, turn: number, z: number): Vec3 => [r * Math.cos(turn), r * Math.sin(turn), z];
    const half = Math.PI / 24;
    // In the middle of a facet the chord lies 0.086 mm inside.
    expect([s.holds(at(10, half, 11)), s.holds(at(10 * Math.cos(half), half, 11)), s.holds(at(10.1, 0, 11))]).toEqual([true, false, false]);
    expect(s.holds(at(4, 1, 30))).toBe(true);
    expect(s.holds(at(4, 1, 29.9))).toBe(false);
  });
  test('a free face is as good as its mesh', () => {
    const ball = sphere(20, 12, 24);
    const free = { ...ball, faceKind: Uint8Array.of(SurfaceKind.free) };
    const middle: Vec3 = [0, 1, 2].map((k) => [0, 1, 2].reduce((sum, i) => sum + ball.positions[ball.triangles[90 + i]! * 3 + k]!, 0) / 3) as unknown as Vec3;
    expect(new PartSurface(free).holds(middle)).toBe(true);
    expect(new PartSurface(ball).holds(middle)).toBe(false);
  });
  test('samples stand on the shape they are taken from, and on no other', () => {
    for (const g of [box([0, 0, 0], [40, 30, 20]), cylinder(10, 30, 24, 4), sphere(9)]) {
      const s = samplesOf(g);
      expect(s.points.length).toBe(g.positions.length / 3 + g.triangles.length / 3);
      expect(allOn(s, undefined, new PartSurface(g))).toBe(true);
      expect(allOn(s, translation([0.3, 0, 0]), new PartSurface(g))).toBe(false);
    }
  });
});

describe('what two shapes are to each other', () => {
  test('the same by any mesh', () => {
    expect(verdict(cylinder(10, 30, 24, 4), cylinder(10, 30, 90, 4))).toEqual({ same: true });
    expect(verdict(box([0, 0, 0], [40, 30, 20]), box([0, 0, 0], [40, 30, 20]))).toEqual({ same: true });
  });
  test.each([
    ['a bore of another size', cylinder(10, 30, 48, 4), cylinder(10, 30, 48, 4.01)],
    ['a little longer', box([0, 0, 0], [40, 30, 20]), box([0, 0, 0], [40.01, 30, 20])],
    ['a ring and its disc', cylinder(40, 2, 48, 0.5), cylinder(40, 2, 48)],
    ['ball and box', sphere(10), box([0, 0, 0], [16.1, 16.1, 16.1])],
  ])('not the same: %s', (_, g, h) => {
    expect(verdict(g, h)).toEqual({ same: false, mirrored: false });
  });
  test('without geometry the measures decide', () => {
    const tell = shapeTeller(new Map());
    const [g, h] = [box([0, 0, 0], [40, 30, 20]), box([5, 5, 5], [25, 45, 35])];
    expect(tell(part('g', g), part('h', h))).toEqual({ same: true });
    expect(tell(part('g', g), part('i', box([0, 0, 0], [41, 30, 20])))).toEqual({ same: false, mirrored: false });
    expect(tell(part('g', g), part('g', sphere(3)))).toEqual({ same: true });
  });

  // Three boxes on three axes, none like another: unlike its mirror image. Volumes 8000, 3000 and 1000.
  const hand = withCentroid(joined([box([0, 0, 0], [40, 20, 10])], [box([0, 0, 10], [10, 10, 40])], [box([40, 0, 0], [60, 5, 10])]), [
    (8000 * 20 + 3000 * 5 + 1000 * 50) / 12000,
    (8000 * 10 + 3000 * 5 + 1000 * 2.5) / 12000,
    (8000 * 5 + 3000 * 25 + 1000 * 5) / 12000,
  ]);
  test('one that lies otherwise in its frame is found by turning it, with the placement that leads there', () => {
    const r = random(9);
    for (let n = 0; n < 6; n++) {
      const m = combine(translation([100 * r(), -50 * r(), 70]), rotationAbout(normalize([r() - 0.5, r(), r()]), [1, 2, 3], 6 * r()));
      const v = verdict(hand, placed(hand, m));
      if (!v.same || !v.shift) throw new Error('not found');
      for (const p of [
        [0, 0, 0],
        [60, 5, 10],
        [3, 2, 40],
      ] as Vec3[])
        applyToPoint(v.shift, p).forEach((x, k) => expect(x).toBeCloseTo(applyToPoint(m, p)[k]!, 6));
      expect(determinant(v.shift)).toBeCloseTo(1, 9);
    }
  });
  test('its mirror image is that, however it is turned', () => {
    const mirror: Placement = [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];
    const turn = rotationAbout(normalize([1, 2, 3]), [5, 0, 0], 1.1);
    expect(verdict(hand, placed(hand, mirror))).toEqual({ same: false, mirrored: true });
    expect(verdict(hand, placed(hand, combine(turn, mirror)))).toEqual({ same: false, mirrored: true });
  });
  test('what is its own mirror image is the same, turned or not', () => {
    const tee = withCentroid(joined([box([-20, 0, 0], [20, 10, 10])], [box([-5, 10, 0], [5, 40, 10])]), [0, (4000 * 5 + 3000 * 25) / 7000, 5]);
    const v = verdict(tee, placed(tee, [-1, 0, 0, 7, 0, 1, 0, 0, 0, 0, 1, 0]));
    expect(v.same).toBe(true);
  });
  test('turned parts fit whichever way they are turned about their axis', () => {
    const stud = { ...withCentroid(cylinder(5, 40, 36), [0, 0, 20]) };
    const v = verdict(stud, placed(stud, combine(translation([9, 9, 9]), rotationAbout([1, 0, 0], [0, 0, 0], 1))));
    expect(v).toMatchObject({ same: true });
  });
  test('in inches the measures decide before anything is looked at', () => {
    expect(verdict(hand, rescaleGeometry(hand, 25.4))).toEqual({ same: false, mirrored: false });
  });
});

describe('motions', () => {
  // Its middle lies at (20, 15, 10), wherever its origin is.
  const block = part('block', { ...box([0, 0, 0], [40, 30, 20]), centroid: [20, 15, 10] });
  const at = combine(translation([3, 4, 5]), rotationAbout([0, 0, 1], [0, 0, 0], 0.3));
  test('along a way: how far', () => {
    expect(motionBetween(at, combine(translation([2, 3, 6]), at), block)).toMatchObject({
      mm: expect.closeTo(7, 9),
      degrees: expect.closeTo(0, 9),
      axis: undefined,
      mirrored: false,
    });
    expect(isStill(motionBetween(at, at, block))).toBe(true);
  });
  test.each([1, 30, 90, 179, 180])('in place by %d°: about which axis', (degrees) => {
    const axis = normalize([1, -2, 0.5]);
    const middle = applyToPoint(at, [20, 15, 10]);
    const m = motionBetween(at, combine(rotationAbout(axis, middle, (degrees * Math.PI) / 180), at), block);
    expect(m.mm).toBeCloseTo(0, 9);
    expect(m.degrees).toBeCloseTo(degrees, 6);
    const same = m.axis!.every((v, k) => Math.abs(v - axis[k]!) < 1e-6);
    const other = m.axis!.every((v, k) => Math.abs(v + axis[k]!) < 1e-6);
    expect(degrees === 180 ? same || other : same).toBe(true);
  });
  test('about the middle of its mass, where that is elsewhere', () => {
    const heavy: Part = { ...block, centroid: [5, 15, 10] };
    const middle = applyToPoint(at, [5, 15, 10]);
    expect(motionBetween(at, combine(rotationAbout([0, 0, 1], middle, 1), at), heavy).mm).toBeCloseTo(0, 9);
    // About its origin the middle of the box moves 50 mm of arc a radian, less by the chord.
    expect(motionBetween(at, combine(rotationAbout([0, 0, 1], applyToPoint(at, [0, 0, 0]), 1), at), block).mm).toBeCloseTo(2 * 25 * Math.sin(0.5), 6);
  });
  test('a frame that moved under it is no motion', () => {
    const shift = combine(translation([9, -4, 2]), rotationAbout([1, 0, 0], [0, 0, 0], 0.8));
    expect(isStill(motionBetween(at, combine(at, inverse(shift)), block, shift))).toBe(true);
  });
  test('mirrored is told', () => {
    const m = motionBetween(at, combine(at, [-1, 0, 0, 40, 0, 1, 0, 0, 0, 0, 1, 0]), block);
    expect([m.mirrored, isStill(m), m.mm]).toEqual([true, false, expect.closeTo(0, 9)]);
  });
  test('axes in words', () => {
    expect(
      [
        [1, 0, 0],
        [0, -1, 0],
        [0, 0, 1],
        [0.6, 0.8, 0],
      ].map((a) => axisText(a as unknown as Vec3)),
    ).toEqual(['x', 'y', 'z', '(0.6, 0.8, 0)']);
  });
});

describe('what became of holes and sizes', () => {
  /** A plate that has only what tells its holes: an inward cylinder each. */
  const plate = (...holes: [x: number, y: number, radius: number][]): PartGeometry => ({
    ...box([0, 0, 0], [100, 60, 8]),
    faceKind: Uint8Array.from(holes.flatMap(() => [SurfaceKind.cylinder, SurfaceKind.cylinder])),
    // Each in two halves, as some systems write them; the second tells another point of the same axis.
    faceParams: Float64Array.from(holes.flatMap(([x, y, r]) => [x, y, 0, 0, 0, 1, -r, 0, x, y, 8, 0, 0, -1, -r, 0])),
  });
  const three = plate([10, 10, 4], [50, 30, 4], [90, 50, 6]);
  test('holes by axis and radius, halves as one, shafts not', () => {
    expect(holesOf(three).map((h) => h.radius)).toEqual([4, 4, 6]);
    expect(holesOf(cylinder(5, 10))).toEqual([]);
    expect(holesOf(cylinder(5, 10, 32, 2)).map((h) => h.radius)).toEqual([2]);
  });
  test.each([
    ['none', three, []],
    ['one wider', plate([10, 10, 4], [50, 30, 3.3], [90, 50, 6]), ['a hole Ø8 became Ø6.6']],
    ['one moved', plate([10, 10, 4], [53, 34, 4], [90, 50, 6]), ['a hole Ø8 moved by 5 mm']],
    ['two wider', plate([10, 10, 5], [50, 30, 5], [90, 50, 6]), ['2 × a hole Ø8 became Ø10']],
    ['one gone', plate([10, 10, 4], [50, 30, 4]), ['a hole Ø12 is gone']],
    ['one more', plate([10, 10, 4], [50, 30, 4], [90, 50, 6], [70, 10, 2.25]), ['a hole Ø4.5 is new']],
    ['one so far away that it is another', plate([10, 10, 4], [50, 30, 4], [10, 50, 6]), ['a hole Ø12 is gone', 'a hole Ø12 is new']],
    ['moved and wider, side by side', plate([12, 10, 4], [50, 30, 4.5], [90, 50, 6]), ['a hole Ø8 became Ø9', 'a hole Ø8 moved by 2 mm']],
  ])('%s', (_, after, texts) => {
    expect(holeChanges(three, after)).toEqual(texts);
  });
  test('sizes, where they differ by what can be read', () => {
    expect(sizeChange([0, 0, 0, 100, 80, 10], [5, 5, 5, 105, 85, 17])).toBe('its size 100 × 80 × 10 mm became 100 × 80 × 12 mm');
    expect(sizeChange([0, 0, 0, 9.87, 8, 1], [0, 0, 0, 9.9, 8, 1])).toBe('its size 9.87 × 8 × 1 mm became 9.9 × 8 × 1 mm');
    expect(sizeChange([0, 0, 0, 100, 80, 10], [1, 1, 1, 101.005, 81, 11])).toBeUndefined();
  });
});
