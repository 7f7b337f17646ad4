import { describe, expect, test } from 'vitest';
import { namedFrame } from '../outline/directions.ts';
import { standardScales } from '../sheet/paper.ts';
import { body, box, cylinder, joined } from '../testing/shapes.ts';
import { fitSpread, rounded } from './fit.ts';
import { paperReport } from './on-paper.ts';
import type { Pull } from './spread.ts';

const frame = namedFrame('isometric');
const scales = standardScales('iso');
/** A bracket on a plate, a bolt through both. */
const bodies = [
  body(0, box([-60, -40, 0], [60, 40, 10])),
  body(1, joined([box([-30, -20, 10], [30, 20, 18])], [box([-30, -20, 18], [-22, 20, 60])])),
  body(2, joined([cylinder(4, 30, 32), [5, 0, -6]], [cylinder(7, 5, 32), [5, 0, 24]])),
];
const up = (c: number, distanceMm: number): Pull => ({ components: [c], direction: [0, 0, 1], distanceMm });
const pulls = [up(2, 150), up(1, 60)];
/** The bracket could leave sideways as well. */
const ways = [
  [],
  [
    [0, 1, 0],
    [0, -1, 0],
  ],
] as const;
const fit = (room: readonly [number, number], more: Partial<Parameters<typeof fitSpread>[2]> = {}) =>
  fitSpread(bodies, pulls, { frame, room, scales, ways, ...more });

describe('fitting a spread to its place', () => {
  test('takes the largest standard scale that fits, and the widest gap at it', () => {
    for (const room of [
      [60, 60],
      [120, 150],
      [200, 240],
      [400, 400],
    ] as const) {
      const f = fit(room);
      expect(f.fits).toBe(true);
      expect(scales).toContain(f.scale);
      expect(f.size[0]).toBeLessThanOrEqual(room[0]);
      expect(f.size[1]).toBeLessThanOrEqual(room[1]);
      expect([5, 4, 3, 2]).toContain(f.gapMm);
      expect(paperReport(bodies, f.pulls, frame, f.scale, 1).touches).toEqual([]);
      // The next larger scale does not even take the assembled view with the least gaps.
      const larger = scales[scales.indexOf(f.scale) - 1];
      if (larger !== undefined) expect(fit(room, { scales: [larger] }).fits).toBe(false);
    }
  });

  test('leaves the directions that were planned where the other ones do not make it larger', () => {
    const f = fit([200, 240]);
    expect(f.pulls.map((p) => p.direction)).toEqual([
      [0, 0, 1],
      [0, 0, 1],
    ]);
  });

  test('says when nothing fits, at the smallest scale', () => {
    const f = fit([60, 60], { scales: [2, 1] });
    expect([f.fits, f.scale]).toEqual([false, 1]);
  });

  test('keeps what was typed, and the first leg of a way round a corner', () => {
    const typed = fitSpread(bodies, [pulls[0]!, up(1, 60.123)], { frame, room: [200, 240], scales, kept: new Set([1]) });
    expect(typed.pulls[1]!.distanceMm).toBe(60.123);
    const leg: Pull[] = [{ ...up(2, 31), leg: true }, { components: [2], direction: [1, 0, 0], distanceMm: 200 }, up(1, 60)];
    const around = fitSpread(bodies, leg, { frame, room: [200, 240], scales });
    expect(around.pulls[0]).toMatchObject({ distanceMm: 31, leg: true });
    expect(around.pulls[1]!.distanceMm).toBeLessThan(200);
  });

  test('its middle is the middle of what is drawn', () => {
    const f = fit([200, 240]);
    const [w, h] = f.size;
    // A view that wide and high around the middle holds every corner of every part where it is now.
    const offsets = bodies.map((b) => f.pulls.reduce((s, p) => s + (p.components.includes(b.component) ? p.distanceMm : 0), 0));
    bodies.forEach((b, i) => {
      const v = b.geometry.positions;
      for (let k = 0; k < v.length; k += 3) {
        const p = [v[k]! + b.placement[3]!, v[k + 1]! + b.placement[7]!, v[k + 2]! + b.placement[11]! + offsets[i]!];
        const along = (axis: readonly number[]) => axis[0]! * p[0]! + axis[1]! * p[1]! + axis[2]! * p[2]!;
        expect(Math.abs(along(frame.right) - f.middle[0]) * f.scale).toBeLessThanOrEqual(w / 2 + 0.5);
        expect(Math.abs(along(frame.up) - f.middle[1]) * f.scale).toBeLessThanOrEqual(h / 2 + 0.5);
      }
    });
  });

  test('distances are rounded to half millimetres, those of small things to three figures', () => {
    expect([123.21, 20, 19.987, 0.012345].map(rounded)).toEqual([123.5, 20, 20, 0.0123]);
  });
});
