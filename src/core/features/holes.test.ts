import { describe, expect, test } from 'vitest';
import { cylinder } from '../testing/shapes.ts';
import { holeAt } from './holes.ts';
import { featuresOf } from './part-features.ts';

describe('holes', () => {
  const ring = featuresOf(cylinder(20, 10, 48, 6));
  const bore = ring.rounds.findIndex((r) => r.inward);
  test('one that goes through has no depth', () => {
    expect(holeAt(ring, bore)).toEqual({ diameterMm: 12, depthMm: undefined, bore });
  });
  test('a shaft is none', () => {
    expect(
      holeAt(
        ring,
        ring.rounds.findIndex((r) => !r.inward),
      ),
    ).toBeUndefined();
  });
  test('a counterbore, and the drill that did not go through', () => {
    // Faces of a stepped hole as a file has them: bore Ø8 from 4 to 12, counterbore Ø14 from 12 to 20, a disc at the bottom.
    const round = (radius: number, from: number, to: number, faces: number[]) => ({
      kind: 1,
      at: [0, 0, 0] as const,
      axis: [0, 0, 1] as const,
      radius,
      second: 0,
      inward: true,
      from,
      to,
      turn: 6.28,
      faces,
    });
    const circle = (r: number, z: number) => [0, 0, z, 0, 0, 1, r];
    const f = {
      ...ring,
      rounds: [round(4, 4, 12, [0]), round(7, 12, 20, [1])],
      faceKind: Uint8Array.of(1, 1, 0, 0, 0),
      edgeCurve: Uint8Array.of(1, 1, 1, 1),
      // Bottom disc: face 2; shoulder between both circles: face 3; top: face 4 with an edge of its own.
      edgeFaces: Int32Array.of(0, 2, 0, 3, 1, 3, 1, 4),
      edgeParams: Float64Array.from([...circle(4, 4), ...circle(4, 12), ...circle(7, 12), ...circle(7, 20)]),
    };
    const through = { ...f, edgeFaces: Int32Array.of(0, 4, 0, 3, 1, 3, 1, 4) };
    expect(holeAt({ ...f, edgeCurve: Uint8Array.of(1, 1, 1, 1, 0), edgeFaces: Int32Array.of(0, 2, 0, 3, 1, 3, 1, 4, 4, 5) }, 0)).toEqual({
      diameterMm: 8,
      depthMm: 16,
      bore: 0,
      counterbore: { diameterMm: 14, depthMm: 8 },
    });
    expect(holeAt({ ...through, edgeCurve: Uint8Array.of(1, 1, 1, 1, 0), edgeFaces: Int32Array.of(0, 5, 0, 3, 1, 3, 1, 4, 4, 5) }, 1)).toMatchObject({
      diameterMm: 8,
      depthMm: undefined,
    });
  });
});
