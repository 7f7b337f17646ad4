import { describe, expect, test } from 'vitest';
import { cylinder } from '../testing/shapes.ts';
import { mend } from './mend.ts';
import { FACE_STRIDE, SurfaceKind, type PartGeometry } from './part-geometry.ts';

/** A cylinder of 48 sides; its two ends are fans. */
const whole = cylinder(10, 40, 48);
/** The triangles that are kept, as a triangle file with holes gives them. */
function without(g: PartGeometry, drop: (t: number) => boolean): PartGeometry {
  const keep = Array.from({ length: g.triangleFace.length }, (_, t) => t).filter((t) => !drop(t));
  return {
    ...g,
    closed: false,
    triangles: Uint32Array.from(keep.flatMap((t) => [...g.triangles.subarray(t * 3, t * 3 + 3)])),
    triangleFace: Uint32Array.from(keep.map((t) => g.triangleFace[t]!)),
    cornerNormals: Float32Array.from(keep.flatMap((t) => [...g.cornerNormals.subarray(t * 9, t * 9 + 9)])),
  };
}
/** By the divergence theorem: right only when every triangle looks outward. */
function volumeOf({ positions: p, triangles: t }: PartGeometry): number {
  let six = 0;
  for (let i = 0; i < t.length; i += 3) {
    const [a, b, c] = [t[i]! * 3, t[i + 1]! * 3, t[i + 2]! * 3];
    six +=
      p[a]! * (p[b + 1]! * p[c + 2]! - p[b + 2]! * p[c + 1]!) -
      p[a + 1]! * (p[b]! * p[c + 2]! - p[b + 2]! * p[c]!) +
      p[a + 2]! * (p[b]! * p[c + 1]! - p[b + 1]! * p[c]!);
  }
  return six / 6;
}
/** Triangles of the upper end. */
const onTop = (t: number) => [0, 1, 2].every((k) => whole.positions[whole.triangles[t * 3 + k]! * 3 + 2]! === 40);
const tops = Array.from({ length: whole.triangleFace.length }, (_, t) => t).filter(onTop);

describe('closing holes of a mesh', () => {
  test.each([[1], [2], [3]])('%i missing triangles of an end are put back, looking outward, as a plane of their own', (n) => {
    const gone = new Set(tops.slice(2, 2 + n));
    const open = without(whole, (t) => gone.has(t));
    const g = mend(open);
    expect(g.closed).toBe(true);
    expect(volumeOf(g)).toBeCloseTo(volumeOf(whole), 6);
    expect(g.triangles).toHaveLength(whole.triangles.length);
    const face = open.faceKind.length;
    expect(g.faceKind).toHaveLength(face + 1);
    expect(g.faceKind[face]).toBe(SurfaceKind.plane);
    expect([...g.faceParams.subarray(face * FACE_STRIDE + 3, face * FACE_STRIDE + 6)]).toEqual([expect.closeTo(0), expect.closeTo(0), expect.closeTo(1)]);
    expect(g.faceParams[face * FACE_STRIDE + 2]).toBe(40);
    // What is new belongs to the new face and has its normal at every corner.
    for (let t = open.triangleFace.length; t < g.triangleFace.length; t++) {
      expect(g.triangleFace[t]).toBe(face);
      for (const k of [0, 3, 6])
        expect([...g.cornerNormals.subarray(t * 9 + k, t * 9 + k + 3)]).toEqual([expect.closeTo(0), expect.closeTo(0), expect.closeTo(1)]);
    }
  });
  test('two holes in one part', () => {
    const [a, b] = [tops[1], tops[20]];
    const g = mend(without(whole, (t) => t === a || t === b));
    expect(g.closed).toBe(true);
    expect(g.faceKind).toHaveLength(whole.faceKind.length + 2);
    expect(volumeOf(g)).toBeCloseTo(volumeOf(whole), 6);
  });
  test('a missing end is an open box, not a fault of the file', () => {
    const open = without(whole, onTop);
    expect(mend(open)).toBe(open);
  });
  test('a hole that is not flat stays open', () => {
    // Neighbours of the mantle: the ring bends.
    const mantle = Array.from({ length: whole.triangleFace.length }, (_, t) => t).filter((t) => {
      const z = [0, 1, 2].map((k) => whole.positions[whole.triangles[t * 3 + k]! * 3 + 2]!);
      return new Set(z).size > 1;
    });
    const gone = new Set(mantle.slice(0, 12));
    const open = without({ ...whole, areaMm2: 1e6 }, (t) => gone.has(t));
    expect(mend(open)).toBe(open);
  });
  test('a closed mesh is given back as it is, and a mended one is mended once', () => {
    expect(mend(whole)).toBe(whole);
    const open = without(whole, (t) => t === tops[5]);
    expect(mend(open)).toBe(mend(open));
  });
});
