import { beforeAll, describe, expect, test } from 'vitest';
import { Solids, type Solid } from '../../demo/solids.ts';
import { laidPart } from '../core/flat/flat-part.ts';
import { unfold, type FlatPattern } from '../core/flat/unfold.ts';
import { extractPart } from './extract-part.ts';
import type { Kernel } from './load.ts';
import { sharedKernel } from './testing/shared-kernel.ts';

// Rolled sheet as the kernel's true solids; sizes by hand. From r = 5 s on the neutral fibre lies in the middle (DIN 6935, from memory).
let kernel: Kernel;
let s: Solids;
beforeAll(async () => {
  kernel = await sharedKernel();
  s = new Solids(kernel);
});
const part = (shape: Solid) => extractPart(kernel, shape)!;
const flatOf = (shape: Solid): FlatPattern => {
  const r = unfold(part(shape));
  if (!('flat' in r)) throw new Error(r.why);
  return r.flat;
};
const whyNot = (shape: Solid): string => {
  const r = unfold(part(shape));
  return 'why' in r ? r.why : 'laid flat';
};
/** A tube of outer diameter 100, 3 thick, 60 long, with a slit along it. */
const slit = (width: number): Solid =>
  s.cut(s.cylinder([0, 0, 0], 'z', 100, 60), s.cylinder([0, 0, -1], 'z', 94, 62), s.box([0, -width / 2, -1], [60, width / 2, 61]));

describe('rolled sheet', () => {
  test('three quarters of a tube: three quarters of its middle circle by its length', () => {
    const shape = s.cut(s.cylinder([0, 0, 0], 'z', 100, 60), s.cylinder([0, 0, -1], 'z', 94, 62), s.box([0, 0, -1], [60, 60, 61]));
    const f = flatOf(shape);
    expect(f.thicknessMm).toBeCloseTo(3, 6);
    expect(f.sizeMm[0]).toBeCloseTo(1.5 * Math.PI * 48.5, 4);
    expect(f.sizeMm[1]).toBeCloseTo(60, 6);
    expect(f.bends).toHaveLength(1);
    expect(f.bends[0]!.angle).toBeCloseTo(1.5 * Math.PI, 6);
    expect(f.bends[0]!.radiusMm).toBeCloseTo(47, 6);
  });

  test('a tube with a slit, wherever its seam lies, and a hole in it that keeps its place', () => {
    const turn = 2 * Math.PI - 2 * Math.asin(10 / 50);
    expect(flatOf(slit(20)).bends[0]!.angle).toBeCloseTo(turn, 3);
    const holed = s.cut(slit(20), s.cylinder([-60, 0, 20], 'x', 8, 30));
    const f = flatOf(holed);
    expect(f.contours).toHaveLength(2);
    // Opposite the slit: in the middle of the pattern, 20 from one end.
    const hole = f.contours[1]!;
    const [x, y] = [0, 1].map((k) => (Math.min(...hole.map((p) => p[k]!)) + Math.max(...hole.map((p) => p[k]!))) / 2);
    expect(x).toBeCloseTo(f.sizeMm[0] / 2, 1);
    expect(Math.min(y!, 60 - y!)).toBeCloseTo(20, 1);
    // Its area is that of the middle surface, to the volume.
    expect((f.areaMm2 * 3) / part(holed).volumeMm3).toBeCloseTo(1, 2);
    expect(laidPart(part(holed))!.geometry.closed).toBe(true);
  });

  test('what is closed, thick, or turned is none', () => {
    expect(whyNot(s.cut(s.cylinder([0, 0, 0], 'z', 100, 60), s.cylinder([0, 0, -1], 'z', 94, 62)))).not.toBe('laid flat');
    // A bearing shell: half a bush, 15 thick on an inner radius of 20.
    expect(whyNot(s.cut(s.cylinder([0, 0, 0], 'z', 70, 60), s.cylinder([0, 0, -1], 'z', 40, 62), s.box([-50, 0, -1], [50, 50, 61])))).not.toBe('laid flat');
    // A retaining ring: 3 across, 2 thick, with a gap.
    expect(whyNot(s.cut(s.cylinder([0, 0, 0], 'z', 60, 2), s.cylinder([0, 0, -1], 'z', 54, 4), s.box([0, -3, -1], [40, 3, 3])))).not.toBe('laid flat');
    expect(whyNot(s.cylinder([0, 0, 0], 'z', 30, 60))).not.toBe('laid flat');
  });
});
