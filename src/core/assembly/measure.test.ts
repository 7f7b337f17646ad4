import { describe, expect, test } from 'vitest';
import { IDENTITY, translation } from '../base/placement.ts';
import type { Vec3 } from '../base/vector.ts';
import { box, cylinder, sphere } from '../testing/shapes.ts';
import { edgeNear, measureOne, measureTwo, probeOf, type Probe } from './measure.ts';
import { FACE_STRIDE, SurfaceKind, type PartGeometry } from './part-geometry.ts';

/** The face of a kind whose axis or normal looks along a direction. */
function face(g: PartGeometry, kind: number, along: Vec3): number {
  for (let f = 0; f < g.faceKind.length; f++) {
    const n = [3, 4, 5].map((k) => g.faceParams[f * FACE_STRIDE + k]!);
    if (g.faceKind[f] === kind && n.reduce((s, v, i) => s + v * along[i]!, 0) > 0.999) return f;
  }
  throw new Error('no such face');
}
const value = (a: Probe, b: Probe) => measureTwo(a, b)[0]!;
const block = box([0, 0, 0], [40, 30, 20]);
const shaft = cylinder(6, 50);

describe('measuring on true geometry (analytic)', () => {
  const left = probeOf(block, face(block, SurfaceKind.plane, [-1, 0, 0]), IDENTITY, [0, 5, 5]);
  const right = probeOf(block, face(block, SurfaceKind.plane, [1, 0, 0]), IDENTITY, [40, 25, 15]);
  const top = probeOf(block, face(block, SurfaceKind.plane, [0, 0, 1]), IDENTITY, [10, 10, 20]);
  const axisAt = (v: Vec3) => probeOf(shaft, Array.from(shaft.faceKind).indexOf(SurfaceKind.cylinder), translation(v), [v[0] + 6, v[1], v[2] + 10]);
  test('parallel faces have a distance, others an angle', () => {
    expect(value(left, right)).toEqual({ what: 'Distance of the faces', value: 40, unit: 'mm' });
    expect(value(left, top)).toMatchObject({ what: 'Angle of the faces', value: expect.closeTo(Math.PI / 2, 9) });
  });
  test('a round face tells its diameter, two of them the distance of their axes', () => {
    expect(measureOne(axisAt([0, 0, 0]))).toMatchObject([{ what: 'Diameter', value: expect.closeTo(12, 9) }, { value: expect.closeTo(6, 9) }]);
    expect(value(axisAt([0, 0, 0]), axisAt([30, 40, 7])).value).toBeCloseTo(50, 9);
  });
  test('an axis along a face has a distance from it, one square to it a right angle', () => {
    expect(value(left, axisAt([70, 0, 0]))).toMatchObject({ what: 'Distance of axis and face', value: expect.closeTo(70, 9) });
    expect(value(top, axisAt([70, 0, 0]))).toMatchObject({ what: 'Angle of axis and face', value: expect.closeTo(Math.PI / 2, 6) });
  });
  test('a ball is measured from its centre', () => {
    const ball = probeOf(sphere(10, 12, 24), 0, translation([100, 0, 0]), [90, 0, 0]);
    expect(measureOne(ball)[0]).toMatchObject({ value: expect.closeTo(20, 9) });
    expect(value(right, ball).value).toBeCloseTo(60, 9);
    expect(value(axisAt([0, 0, 0]), ball).value).toBeCloseTo(100, 9);
  });
});

describe('an edge close to a picked point (analytic)', () => {
  test('is the nearest straight one, with its direction and the point on it', () => {
    const e = edgeNear(block, IDENTITY, [15, 2, 20], 5)!;
    expect(Math.abs(e.direction[0])).toBeCloseTo(1, 9);
    expect(e.at).toEqual([15, 0, 20]);
  });
  test('goes with the part, and does not reach beyond its ends', () => {
    const e = edgeNear(block, translation([100, 0, 0]), [143, 30, 5], 5)!;
    expect(e.at[0]).toBeCloseTo(140, 9);
    expect(Math.abs(e.direction[2])).toBeCloseTo(1, 9);
    expect(edgeNear(block, IDENTITY, [46, 30, 26], 5)).toBeUndefined();
  });
  test('is none in the middle of a face, nor on a round one', () => {
    expect(edgeNear(block, IDENTITY, [20, 15, 20], 5)).toBeUndefined();
    expect(edgeNear(shaft, IDENTITY, [6, 0, 50], 1)).toBeUndefined();
  });
});
