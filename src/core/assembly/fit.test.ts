import { describe, expect, test } from 'vitest';
import { fitCurve, fitSurface } from './fit.ts';
import { CurveKind, SurfaceKind } from './part-geometry.ts';

const samples = (n: number, f: (t: number) => [number, number, number]) => Array.from({ length: n }, (_, i) => f(i / (n - 1))).flat();

describe('curves from samples', () => {
  test('a line', () => {
    expect(fitCurve(samples(13, (t) => [1 + 3 * t, 2 - t, 5 * t])).kind).toBe(CurveKind.line);
  });
  test('a short arc: centre, axis and radius', () => {
    const c = fitCurve(samples(13, (t) => [10 + 7 * Math.cos(0.3 * t), 5, -2 + 7 * Math.sin(0.3 * t)]));
    expect(c.kind).toBe(CurveKind.circle);
    [10, 5, -2].forEach((v, i) => expect(c.params[i]).toBeCloseTo(v, 6));
    expect(Math.abs(c.params[4])).toBeCloseTo(1, 9);
    expect(c.params[6]).toBeCloseTo(7, 6);
  });
  test('a full circle, whose ends are together', () => {
    expect(fitCurve(samples(13, (t) => [4 * Math.cos(2 * Math.PI * t), 4 * Math.sin(2 * Math.PI * t), 1])).params[6]).toBeCloseTo(4, 9);
  });
  test('an ellipse is neither', () => {
    expect(fitCurve(samples(13, (t) => [4 * Math.cos(t), 3 * Math.sin(t), 0])).kind).toBe(CurveKind.free);
  });
});

describe('surfaces from points and normals', () => {
  const patch = (f: (u: number, v: number) => [number[], number[]]) => {
    const p: number[] = [];
    const q: number[] = [];
    for (let i = 0; i < 6; i++)
      for (let j = 0; j < 6; j++) {
        const [a, b] = f(i / 5, j / 5);
        p.push(...a);
        q.push(...b);
      }
    return fitSurface(p, q, 1e-4);
  };
  test('plane', () => {
    expect(
      patch((u, v) => [
        [u, v, 3],
        [0, 0, 1],
      ]).kind,
    ).toBe(SurfaceKind.plane);
  });
  test('a hole is a cylinder whose radius is negative: its normals look at the axis', () => {
    const s = patch((u, v) => [
      [2 + 5 * Math.cos(u), 9 * v, 5 * Math.sin(u)],
      [-Math.cos(u), 0, -Math.sin(u)],
    ]);
    expect(s.kind).toBe(SurfaceKind.cylinder);
    expect(s.params[6]).toBeCloseTo(-5, 6);
    expect(s.params[0]).toBeCloseTo(2, 6);
  });
  test('cone of 30°', () => {
    const [c, t] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)];
    const s = patch((u, v) => [
      [(10 - v * Math.tan(Math.PI / 6)) * Math.cos(u), (10 - v * Math.tan(Math.PI / 6)) * Math.sin(u), v],
      [c * Math.cos(u), c * Math.sin(u), t],
    ]);
    expect(s.kind).toBe(SurfaceKind.cone);
    expect(s.params[7]).toBeCloseTo(Math.PI / 6, 4);
  });
  test('sphere', () => {
    const s = patch((u, v) => {
      const n = [Math.cos(u) * Math.cos(v), Math.sin(u) * Math.cos(v), Math.sin(v)];
      return [[1 + 8 * n[0]!, 2 + 8 * n[1]!, 3 + 8 * n[2]!], n];
    });
    expect(s.kind).toBe(SurfaceKind.sphere);
    expect(s.params[6]).toBeCloseTo(8, 6);
  });
});
