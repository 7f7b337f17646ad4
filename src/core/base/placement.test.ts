import { Matrix4, Quaternion, Vector3 } from 'three';
import { describe, expect, test } from 'vitest';
import { random } from '../testing/random.ts';
import { applyToDirection, applyToPoint, combine, determinant, IDENTITY, inverse, translation, type Placement } from './placement.ts';
import { add, anyPerpendicular, cross, dot, length, normalize, scale, subtract, type Vec3 } from './vector.ts';

const r = random(8);
const number = () => 200 * r() - 100;
const vector = (): Vec3 => [number(), number(), number()];
/** A turn about any axis and a shift, every other one mirrored, as npm three makes it. */
function made(mirrored: boolean): { matrix: Matrix4; placement: Placement } {
  const q = new Quaternion(number(), number(), number(), number()).normalize();
  const matrix = new Matrix4().compose(new Vector3(...vector()), q, new Vector3(1, 1, mirrored ? -1 : 1));
  return { matrix, placement: rows(matrix) };
}
const rows = (m: Matrix4): Placement => [0, 1, 2].flatMap((i) => [0, 1, 2, 3].map((j) => m.elements[j * 4 + i]!));
const close = (a: readonly number[], b: readonly number[]) => expect(Array.from(a)).toEqual(b.map((v) => expect.closeTo(v, 9)));

describe('placements against npm three', () => {
  test.each([false, true])('mirrored %s: points, directions, one after the other, undone, determinant', (mirrored) => {
    for (let n = 0; n < 20; n++) {
      const [a, b, p] = [made(mirrored), made(false), vector()];
      close(applyToPoint(a.placement, p), new Vector3(...p).applyMatrix4(a.matrix).toArray());
      const turned = new Vector3(...p).applyMatrix4(a.matrix.clone().setPosition(0, 0, 0)).toArray();
      close(applyToDirection(a.placement, p), turned);
      close(combine(a.placement, b.placement), rows(new Matrix4().multiplyMatrices(a.matrix, b.matrix)));
      close(inverse(a.placement), rows(a.matrix.clone().invert()));
      expect(determinant(a.placement)).toBeCloseTo(mirrored ? -1 : 1, 9);
    }
  });
  test('nothing and a mere shift', () => {
    close(applyToPoint(IDENTITY, [1, 2, 3]), [1, 2, 3]);
    close(applyToPoint(translation([10, 20, 30]), [1, 2, 3]), [11, 22, 33]);
    close(applyToDirection(translation([10, 20, 30]), [1, 2, 3]), [1, 2, 3]);
  });
});

describe('vectors against npm three', () => {
  test('sums, products, lengths', () => {
    for (let n = 0; n < 20; n++) {
      const [a, b, k] = [vector(), vector(), number()];
      const [p, q] = [new Vector3(...a), new Vector3(...b)];
      close(add(a, b), p.clone().add(q).toArray());
      close(subtract(a, b), p.clone().sub(q).toArray());
      close(scale(a, k), p.clone().multiplyScalar(k).toArray());
      close(cross(a, b), p.clone().cross(q).toArray());
      close(normalize(a), p.clone().normalize().toArray());
      close([dot(a, b), length(a)], [p.dot(q), p.length()]);
    }
  });
  test('a vector without length has no direction', () => {
    expect(() => normalize([0, 0, 0])).toThrow(RangeError);
    expect(() => normalize([NaN, 0, 0])).toThrow(RangeError);
  });
  test('something square to a direction, of length one, also along the axes', () => {
    for (const v of [...Array.from({ length: 20 }, () => normalize(vector())), [0, 0, 1], [0, 0, -1], [1, 0, 0], [0, 1, 0]] as Vec3[]) {
      const s = anyPerpendicular(v);
      close([dot(s, v), length(s)], [0, 1]);
    }
  });
});
