import { describe, expect, test } from 'vitest';
import { box, cylinder, joined, sphere } from '../testing/shapes.ts';
import { looksLike } from './looks-like.ts';
import { FACE_STRIDE, SurfaceKind, type PartGeometry } from './part-geometry.ts';

/** A hexagon of a width across flats and a height, as six plane sides; with a round bore or shank it is what holds. */
function hexagon(acrossFlats: number, height: number, round: PartGeometry, sides = 6): PartGeometry {
  const r = acrossFlats / Math.sqrt(3);
  const positions = [...round.positions];
  const triangles = [...round.triangles];
  const triangleFace = [...round.triangleFace];
  const faceKind = [...round.faceKind];
  const params = [...round.faceParams];
  const first = positions.length / 3;
  for (let i = 0; i < sides; i++)
    for (const z of [0, height]) positions.push(r * Math.cos((i * 2 * Math.PI) / sides), r * Math.sin((i * 2 * Math.PI) / sides), z);
  for (let i = 0; i < sides; i++) {
    const j = (i + 1) % sides;
    const [a, b, c, d] = [first + 2 * i, first + 2 * j, first + 2 * j + 1, first + 2 * i + 1];
    triangles.push(a, b, c, a, c, d);
    triangleFace.push(faceKind.length, faceKind.length);
    const t = ((i + 0.5) * 2 * Math.PI) / sides;
    const n = [Math.cos(t), Math.sin(t)];
    const row = new Array<number>(FACE_STRIDE).fill(0);
    const flat = r * Math.cos(Math.PI / sides);
    row.splice(0, 6, n[0]! * flat, n[1]! * flat, 0, n[0]!, n[1]!, 0);
    params.push(...row);
    faceKind.push(SurfaceKind.plane);
  }
  return {
    ...round,
    positions: Float64Array.from(positions),
    triangles: Uint32Array.from(triangles),
    triangleFace: Uint32Array.from(triangleFace),
    faceKind: Uint8Array.from(faceKind),
    faceParams: Float64Array.from(params),
  };
}
/** A bore through a hexagon: the inner wall of a tube, without its outer one. */
function bored(radius: number, height: number): PartGeometry {
  const tube = cylinder(radius * 1.05, height, 32, radius);
  const kind = tube.faceKind.slice();
  for (let f = 0; f < kind.length; f++) if (kind[f] === SurfaceKind.cylinder && tube.faceParams[f * FACE_STRIDE + 6]! > 0) kind[f] = SurfaceKind.free;
  return { ...tube, faceKind: kind };
}

// Sizes from memory: ISO 4032 M8 is 13 across flats and 6.8 high, ISO 4017 M8 has a head of 13 by 5.3, ISO 7089 8 is 16 by 8.4 by 1.6.
describe('what a shape looks like', () => {
  test('a hexagon with a bore is a nut', () => {
    expect(looksLike(hexagon(13, 6.8, bored(3.4, 6.8)))).toBe('nut');
    // A hexagon with a needle's hole, or as long as a rod, is none.
    expect(looksLike(hexagon(13, 6.8, bored(0.9, 6.8)))).toBeUndefined();
    expect(looksLike(hexagon(13, 40, bored(3.4, 40)))).toBeUndefined();
    // Eight sides are no hexagon.
    expect(looksLike(hexagon(13, 6.8, bored(3.4, 6.8), 8))).toBeUndefined();
  });
  test('a hexagon with a shank is a bolt, a short stub on it is not', () => {
    expect(looksLike(hexagon(13, 5.3, cylinder(4, 30)))).toBe('hex bolt');
    expect(looksLike(hexagon(13, 5.3, cylinder(4, 7)))).toBeUndefined();
    expect(looksLike(hexagon(13, 5.3, cylinder(6.4, 30)))).toBeUndefined();
  });
  test('a flat ring is a washer, a thick or a narrow one is not', () => {
    expect(looksLike(cylinder(8, 1.6, 64, 4.2))).toBe('washer');
    expect(looksLike(cylinder(8, 8, 64, 4.2))).toBeUndefined();
    expect(looksLike(cylinder(8, 1.6, 64, 7.5))).toBeUndefined();
    expect(looksLike(cylinder(8, 1.6, 64, 2))).toBeUndefined();
  });
  test('blocks, balls, discs and plain rods are nothing one buys by a standard', () => {
    for (const g of [box([0, 0, 0], [10, 10, 10]), sphere(10), cylinder(8, 1.6), cylinder(4, 30), joined([cylinder(4, 30)], [cylinder(8, 5), [0, 0, 30]])])
      expect(looksLike(g)).toBeUndefined();
  });
});
