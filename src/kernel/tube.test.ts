import { beforeAll, describe, expect, test } from 'vitest';
import { Solids, type Solid } from '../../demo/solids.ts';
import { wrapOf, type Wrap } from '../core/flat/tube.ts';
import { endsText } from '../core/stock/ends.ts';
import { stockOf, stockText } from '../core/stock/profile.ts';
import { extractPart } from './extract-part.ts';
import type { Kernel } from './load.ts';
import { sharedKernel } from './testing/shared-kernel.ts';

// Tubes as the kernel's true solids. The curves of their ends are known in closed form: a plane at an angle cuts a cylinder along
// z = r tan(a) cos(t), another tube of radius R square to it along z = √(R² − r² sin² t) (geometry, any handbook of pipe work).
let kernel: Kernel;
let s: Solids;
beforeAll(async () => {
  kernel = await sharedKernel();
  s = new Solids(kernel);
});
const DEG = Math.PI / 180;
const [D, T, L] = [48.3, 3.2, 200];
const R = D / 2;
const tube = (length = L) => s.cut(s.cylinder([0, 0, 0], 'z', D, length), s.cylinder([0, 0, -1], 'z', D - 2 * T, length + 2));
/** All on the far side of a plane through (0, 0, z), turned by an angle about the y axis. */
const beyond = (z: number, angle: number): Solid => {
  const far = 200;
  const [c, n] = [Math.cos(angle), Math.sin(angle)];
  return s.prism(
    [
      [-far * c, -far, z + far * n],
      [far * c, -far, z - far * n],
      [far * c + far * n, -far, z - far * n + far * c],
      [-far * c + far * n, -far, z + far * n + far * c],
    ],
    [0, 2 * far, 0],
  );
};
const wrap = (shape: Solid): Wrap => {
  const r = wrapOf(extractPart(kernel, shape)!);
  if (!('wrap' in r)) throw new Error(r.why);
  return r.wrap;
};
/** Points of the outline's upper edge: angle from the seam, height. */
const head = (w: Wrap) => {
  const [outline] = w.pattern.contours;
  const half = outline!.findIndex((p, i) => i > 0 && Math.abs(p[0] - w.pattern.sizeMm[0]) < 1e-6) + 1;
  return outline!.slice(half).map(([x, y]) => ({ turn: x / R, z: y }));
};

describe('a round tube', () => {
  test('cut square is as wide laid flat as it is round, and as high as it is long', () => {
    const w = wrap(tube());
    expect([w.diameterMm, w.wallMm, w.lengthMm]).toEqual([D, T, L].map((v) => expect.closeTo(v, 6) as number));
    expect(w.pattern.sizeMm.map((v) => v)).toEqual([expect.closeTo(Math.PI * D, 6), expect.closeTo(L, 6)]);
    expect(w.ends).toEqual([0, 0]);
    expect(w.pattern.areaMm2).toBeCloseTo(Math.PI * D * L, 3);
  });
  test.each([15, 30, 45, 60])('mitred at %d° follows its cosine, and its seam is where it is longest', (angle) => {
    const w = wrap(s.cut(tube(), beyond(120, angle * DEG)));
    expect(w.ends.map((e) => e! / DEG)).toEqual([0, expect.closeTo(angle, 6)]);
    // As exact as the chords of the mesh.
    expect(w.lengthMm).toBeCloseTo(120 + R * Math.tan(angle * DEG), 1);
    const points = head(w);
    expect(points.length).toBeGreaterThan(20);
    // The seam lies on a corner of the mesh: at most half a chord beside the longest line.
    const high = R * Math.tan(angle * DEG);
    const beside = Math.acos(Math.min(1, (points[0]!.z - 120) / high));
    expect(beside).toBeLessThan(0.1);
    const off = (by: number) => Math.max(...points.map((p) => Math.abs(p.z - 120 - high * Math.cos(p.turn + by))));
    expect(Math.min(off(beside), off(-beside))).toBeLessThan(0.005);
    // Half of the long and half of the short side: the middle surface of the outside is that of a tube 120 long.
    expect(w.pattern.areaMm2 / (Math.PI * D * 120)).toBeCloseTo(1, 3);
  });
  test('notched to lie on a larger tube follows that one’s surface', () => {
    const big = 60.3 / 2;
    // The other tube lies along y, its axis at z = 150.
    const w = wrap(s.cut(tube(), s.cylinder([0, -100, 150], 'y', 2 * big, 200), s.box([-100, -100, 150], [100, 100, 300])));
    expect(w.ends).toEqual([0, null]);
    expect(endsText(w.ends)).toBe('0° / shaped');
    // Longest where the tube passes beside the other's axis; the deepest place is a quarter turn from there.
    const z = head(w).map((p) => p.z);
    expect(Math.min(...z)).toBeCloseTo(150 - big, 1);
    expect(Math.max(...z)).toBeCloseTo(150 - Math.sqrt(big * big - R * R), 1);
    for (const p of head(w)) expect(p.z).toBeCloseTo(150 - Math.sqrt(big * big - (R * Math.cos(p.turn)) ** 2), 1);
  });
  test('with a hole has it where it is, away from the seam', () => {
    const w = wrap(s.cut(tube(), s.cylinder([0, 0, 60], 'x', 10, 60)));
    expect(w.pattern.contours).toHaveLength(2);
    const hole = w.pattern.contours[1]!;
    const span = (k: 0 | 1) => [Math.min(...hole.map((p) => p[k])), Math.max(...hole.map((p) => p[k]))] as const;
    const [y0, y1] = span(1);
    expect([(y0 + y1) / 2, y1 - y0]).toEqual([expect.closeTo(60, 2), expect.closeTo(10, 1)]);
    // Round the tube it is wider than the drill: 2 R asin(d / D).
    const [x0, x1] = span(0);
    expect(x1 - x0).toBeCloseTo(2 * R * Math.asin(10 / D), 1);
    expect([x0 > 0, x1 < w.pattern.sizeMm[0]]).toEqual([true, true]);
  });
  test.each([
    ['a bar', () => s.cylinder([0, 0, 0], 'z', 30, 80)],
    ['a bush', () => s.cut(s.cylinder([0, 0, 0], 'z', 40, 40), s.cylinder([0, 0, -1], 'z', 12, 42))],
    ['a block', () => s.box([0, 0, 0], [10, 20, 30])],
  ])('%s is none', (_, make) => {
    expect(wrapOf(extractPart(kernel, make())!)).toHaveProperty('why');
  });
});

describe('ends of bars', () => {
  test('a square tube with one mitred end', () => {
    const [a, t] = [40, 3];
    const hollow = s.cut(s.box([-a / 2, -a / 2, -50], [a / 2, a / 2, 150]), s.box([-a / 2 + t, -a / 2 + t, -51], [a / 2 - t, a / 2 - t, 151]));
    const cut = s.cut(hollow, beyond(100, 30 * DEG));
    const stock = stockOf(extractPart(kernel, cut)!);
    expect([stockText(stock), stock.ends!.map((e) => Math.round((e! / DEG) * 10) / 10).sort()]).toEqual(['Hollow section 40 × 40 × 3', [0, 30]]);
    expect(endsText(stock.ends).split(' / ').sort()).toEqual(['0°', '30°']);
  });
  test('square ones say nothing', () => {
    const stock = stockOf(extractPart(kernel, s.box([0, 0, 0], [200, 30, 8]))!);
    expect([stock.profile, endsText(stock.ends)]).toEqual(['flat', '']);
  });
});
