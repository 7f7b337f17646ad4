import { describe, expect, test } from 'vitest';
import { cross, dot, type Vec2, type Vec3 } from '../base/vector.ts';
import { dimetricFrom, isometricFrom, namedFrame, trimetric, turnedInPlane, turnedModel, type Corner, type ViewFrame } from './directions.ts';

const AXES: readonly Vec3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];
/** An axis of the model as it lies on paper. */
const onPaper = (f: ViewFrame, a: Vec3): Vec2 => [dot(a, f.right), dot(a, f.up)];
const lengths = (f: ViewFrame) => AXES.map((a) => Math.hypot(...onPaper(f, a)));
const CORNERS = [1, -1].flatMap((x) => [1, -1].flatMap((y) => [1, -1].map((z) => [x, y, z] as Corner)));
const near = (a: ViewFrame, b: ViewFrame) => {
  for (const k of ['right', 'up', 'toward'] as const) a[k].forEach((v, i) => expect(v).toBeCloseTo(b[k][i]!, 9));
};

describe('pictorials', () => {
  // ISO 5456-3 (from memory): all axes alike, the edges of a cube at 30° to the level and upright.
  test.each(CORNERS)('isometric from (%d, %d, %d): foreshortened alike, Z upright, X and Y at 30°', (...corner) => {
    const f = isometricFrom(corner);
    for (const l of lengths(f)) expect(l).toBeCloseTo(Math.sqrt(2 / 3), 9);
    expect(onPaper(f, AXES[2]!)[0]).toBeCloseTo(0, 9);
    for (const a of AXES.slice(0, 2)) {
      const [x, y] = onPaper(f, a);
      expect(Math.abs(Math.atan(y / x))).toBeCloseTo(Math.PI / 6, 9);
    }
    expect(f.toward.map(Math.sign)).toEqual(corner);
  });
  // ISO 5456-3 (from memory): 7° and 42° stand for arctan(1/8) = 7.18° and 41.41°; the depth is half as long as width and height.
  test.each(CORNERS.filter((c) => c[1] < 0))('dimetric from (%d, %d, %d): width at 7°, depth at 42° and half as long', (...corner) => {
    const f = dimetricFrom(corner);
    const [x, y, z] = lengths(f);
    expect(x! / z!).toBeCloseTo(1, 9);
    expect(y! / z!).toBeCloseTo(0.5, 9);
    const slope = (a: Vec3) => Math.abs(Math.atan(onPaper(f, a)[1] / onPaper(f, a)[0])) * (180 / Math.PI);
    expect(slope(AXES[0]!)).toBeCloseTo(7.18, 2);
    expect(slope(AXES[1]!)).toBeCloseTo(41.41, 2);
    expect(onPaper(f, AXES[2]!)[0]).toBeCloseTo(0, 9);
  });
  test('trimetric by angles: from the front to the isometric, and straight from above', () => {
    near(trimetric(0, 0), namedFrame('front'));
    near(trimetric(Math.PI / 2, 0), namedFrame('right'));
    near(trimetric(Math.PI / 4, Math.asin(1 / Math.sqrt(3))), namedFrame('isometric'));
    near(trimetric(0, Math.PI / 2), namedFrame('top'));
  });
});

describe('turning', () => {
  const degrees = Math.PI / 180;
  test('the model about its own axes, one after the other', () => {
    near(turnedModel(namedFrame('front'), [0, 0, 0]), namedFrame('front'));
    // What was above comes to the front; what was at the left comes round to the front.
    near(turnedModel(namedFrame('front'), [90 * degrees, 0, 0]), namedFrame('top'));
    near(turnedModel(namedFrame('front'), [0, 0, 90 * degrees]), namedFrame('left'));
    near(turnedModel(namedFrame('isometric'), [0, 0, -90 * degrees]), isometricFrom([1, 1, 1]));
    // First about X, then about Z: the top that came to the front goes on to the right.
    near(turnedModel(namedFrame('right'), [90 * degrees, 0, 90 * degrees]), namedFrame('top'));
  });
  test('a view in its plane turns its picture against the clock and looks the same way', () => {
    const f = turnedInPlane(namedFrame('front'), 30 * degrees);
    const [x, y] = onPaper(f, [1, 0, 0]);
    expect(Math.atan2(y, x)).toBeCloseTo(30 * degrees, 12);
    expect(f.toward).toEqual(namedFrame('front').toward);
    cross(f.right, f.up).forEach((v, i) => expect(v).toBeCloseTo(f.toward[i]!, 12));
  });
});
