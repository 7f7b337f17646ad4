import { describe, expect, test } from 'vitest';
import { cylinder } from '../testing/shapes.ts';
import { CurveKind, EDGE_STRIDE, SurfaceKind } from './part-geometry.ts';
import { rescaleGeometry } from './rescale.ts';

describe('a geometry in another unit', () => {
  test('lengths grow by the factor, areas by its square, volumes by its cube; directions stay', () => {
    const g = { ...cylinder(5, 20), deflectionMm: 0.1 };
    const k = rescaleGeometry(g, 25.4);
    expect(k.volumeMm3 / g.volumeMm3).toBeCloseTo(25.4 ** 3, 6);
    expect(k.areaMm2 / g.areaMm2).toBeCloseTo(25.4 ** 2, 6);
    expect(k.deflectionMm).toBeCloseTo(2.54, 9);
    expect(k.box.map((v, i) => (g.box[i] ? v / g.box[i]! : 25.4))).toEqual(Array(6).fill(expect.closeTo(25.4, 9)));
    expect([...k.cornerNormals]).toEqual([...g.cornerNormals]);
    g.edgeCurve.forEach((curve, e) => {
      const [was, is] = [g, k].map((x) => [...x.edgeParams.subarray(e * EDGE_STRIDE, (e + 1) * EDGE_STRIDE)]);
      const circle = curve === CurveKind.circle ? 25.4 : 1;
      expect(is).toEqual(was!.map((v, i) => expect.closeTo(v * (i < 3 || i === 6 ? circle : 1), 9)));
    });
    expect(g.edgeCurve.includes(CurveKind.circle)).toBe(true);
  });
  test('the second value of a torus is a radius, that of a cone an angle; planes and free faces have no radius', () => {
    const kinds = [SurfaceKind.plane, SurfaceKind.cylinder, SurfaceKind.cone, SurfaceKind.torus, SurfaceKind.sphere, SurfaceKind.free];
    const g = { ...cylinder(5, 20), faceKind: Uint8Array.from(kinds), faceParams: Float64Array.from(kinds.flatMap(() => [1, 2, 3, 0, 0, 1, 7, 0.5])) };
    const values = [...rescaleGeometry(g, 10).faceParams];
    const at = (i: number) => values.slice(i * 8, i * 8 + 8);
    expect(at(0)).toEqual([10, 20, 30, 0, 0, 1, 7, 0.5]);
    expect(at(1)).toEqual([10, 20, 30, 0, 0, 1, 70, 0.5]);
    expect(at(2)).toEqual([10, 20, 30, 0, 0, 1, 70, 0.5]);
    expect(at(3)).toEqual([10, 20, 30, 0, 0, 1, 70, 5]);
    expect(at(4)).toEqual([10, 20, 30, 0, 0, 1, 70, 0.5]);
    expect(at(5)).toEqual([10, 20, 30, 0, 0, 1, 7, 0.5]);
  });
});
