import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { namedFrame } from '../outline/directions.ts';
import { hiddenLines } from '../outline/hidden-lines.ts';
import { ARC_STRIDE, lengthsOf } from '../outline/linework.ts';
import { body, box, cylinder, sphere } from '../testing/shapes.ts';
import { geometryFromMesh } from './from-mesh.ts';
import { CurveKind, SurfaceKind, type PartGeometry } from './part-geometry.ts';

/** A mesh as STL gives it: every triangle with corners of its own. */
function soup(g: PartGeometry): Float64Array {
  const out = new Float64Array(g.triangles.length * 3);
  g.triangles.forEach((v, i) => out.set(g.positions.subarray(v * 3, v * 3 + 3), i * 3));
  return out;
}
const total = (g: PartGeometry, direction: Parameters<typeof namedFrame>[0]) =>
  Object.values(lengthsOf(hiddenLines([body(0, g)], namedFrame(direction))).visible).reduce((a, b) => a + b, 0);
const kinds = (list: ArrayLike<number>) => Array.from(list).sort();

describe('bare triangles', () => {
  test('a box gets its six faces and twelve edges back', () => {
    const g = geometryFromMesh(soup(box([0, 0, 0], [40, 30, 20])))!;
    expect(kinds(g.faceKind)).toEqual(new Array(6).fill(SurfaceKind.plane));
    expect(g.edgeCurve.length).toBe(12);
    expect(kinds(g.edgeCurve)).toEqual(new Array(12).fill(CurveKind.line));
    expect(g.closed).toBe(true);
    expect(g.volumeMm3).toBeCloseTo(24000, 6);
    expect(g.centroid).toEqual([20, 15, 10].map((v) => expect.closeTo(v, 9)));
  });
  test('a drilled cylinder: walls and circles are recognised, and the drawing has true arcs', () => {
    const g = geometryFromMesh(soup(cylinder(15, 40, 48, 6)))!;
    expect(kinds(g.faceKind)).toEqual([SurfaceKind.plane, SurfaceKind.plane, SurfaceKind.cylinder, SurfaceKind.cylinder]);
    expect(kinds(g.edgeCurve)).toEqual(new Array(4).fill(CurveKind.circle));
    const lines = hiddenLines([body(0, g)], namedFrame('top'));
    expect([...lines.arc].filter((_, i) => i % ARC_STRIDE === 2).map((r) => Math.round(r * 1000) / 1000)).toEqual([15, 6]);
    expect(total(g, 'isometric') / total(cylinder(15, 40, 48, 6), 'isometric')).toBeCloseTo(1, 2);
  });
  test('a sphere has no edges and the outline 2πr within 0.5 %', () => {
    const g = geometryFromMesh(soup(sphere(20, 24, 48)))!;
    expect(g.edgeCurve.length).toBe(0);
    expect(total(g, 'isometric') / (40 * Math.PI)).toBeCloseTo(1, 2);
  });
  test('a mesh turned inside out is turned back', () => {
    const g = box([0, 0, 0], [10, 10, 10]);
    const inside = geometryFromMesh(
      g.positions,
      g.triangles.map((_, i, t) => t[i % 3 === 0 ? i : i % 3 === 1 ? i + 1 : i - 1]!),
    )!;
    expect(inside.volumeMm3).toBeCloseTo(1000, 9);
  });
  test('an open mesh is drawn from both sides and has no volume', () => {
    const g = geometryFromMesh(soup(box([0, 0, 0], [10, 10, 10])).slice(18))!;
    expect([g.closed, g.volumeMm3]).toEqual([false, 0]);
    expect(total(g, 'front')).toBeCloseTo(40, 6);
  });
  test('nothing, points in line, and what is not a number', () => {
    expect(geometryFromMesh([])).toBeUndefined();
    expect(geometryFromMesh([0, 0, 0, 0, 0, 0, 0, 0, 0])).toBeUndefined();
    expect(geometryFromMesh([0, 0, NaN, 1, 0, 0, 0, 1, 0])).toBeUndefined();
  });
});

describe('STL files of a public test set (npm stl-models)', () => {
  const folder = join(process.cwd(), 'node_modules/stl-models');
  const points = (file: string): Float32Array => {
    const b = readFileSync(file);
    const n = Math.min(b.length > 84 ? b.readUInt32LE(80) : 0, Math.floor((b.length - 84) / 50));
    const out = new Float32Array(Math.max(0, n) * 9);
    for (let t = 0; t < n; t++) for (let k = 0; k < 9; k++) out[t * 9 + k] = b.readFloatLE(84 + t * 50 + 12 + k * 4);
    return out;
  };
  // Values measured once with an exact kernel's mesh tools.
  test('a gear wheel: 2,444 triangles, 41.72 × 41.72 × 8, 8,922.637 mm³, and it draws', () => {
    const g = geometryFromMesh(points(join(folder, 'objects/gearwheel.bin.stl')))!;
    expect(g.triangles.length / 3).toBeLessThanOrEqual(2444);
    expect(g.volumeMm3).toBeCloseTo(8922.637, 1);
    expect([g.box[3] - g.box[0], g.box[4] - g.box[1], g.box[5] - g.box[2]]).toEqual([41.72, 41.72, 8].map((v) => expect.closeTo(v, 2)));
    expect(total(g, 'isometric')).toBeGreaterThan(400);
  });
  // Nine edges of a cube of 100 mm, each as √(2/3) of its length (ISO 5456-3, isometric axonometry).
  test('a cube whose header lies about its kind is the cube', () => {
    const g = geometryFromMesh(points(join(folder, 'broken/wrongHeader.bin.stl')))!;
    expect([g.volumeMm3, total(g, 'isometric')]).toEqual([expect.closeTo(1e6, 3), expect.closeTo(900 * Math.sqrt(2 / 3), 6)]);
  });
});
