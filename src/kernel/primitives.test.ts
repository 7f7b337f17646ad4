import { beforeAll, describe, expect, test } from 'vitest';
import { primitiveCases, type Case } from '../../bench/cases.ts';
import { THIRTEEN } from '../../bench/directions.ts';
import { Solids } from '../../demo/solids.ts';
import { cutScene } from '../core/cut/cut-scene.ts';
import { hiddenLines } from '../core/outline/hidden-lines.ts';
import { lengthsOf, type Linework } from '../core/outline/linework.ts';
import { sceneDiagonal } from '../core/outline/scene.ts';
import { frameFrom, namedFrame } from '../core/outline/directions.ts';
import type { Kernel } from './load.ts';
import { sharedKernel } from './testing/shared-kernel.ts';
import { exactCutArea, exactHiddenLines, nearLines, polygonalHiddenLines, walkLines } from './testing/reference.ts';

// The B-rep kernel's exact and polygonal hidden-line algorithms and its booleans are the witnesses.
let kernel: Kernel;
let cases: Case[];
beforeAll(async () => {
  kernel = await sharedKernel();
  cases = primitiveCases(kernel, new Solids(kernel));
});
const find = (name: string) => cases.find((c) => c.name === name)!;
const visible = (l: Linework) => Object.values(lengthsOf(l).visible).reduce((a, b) => a + b, 0);
const share = (l: Linework, step: number, counts: (x: number, y: number) => boolean) => {
  let [all, some] = [0, 0];
  walkLines(l, step, (x, y, length) => {
    all += length;
    if (counts(x, y)) some += length;
  });
  return some / all;
};

describe('primitives from 13 directions', () => {
  // Each witness is wrong now and then; a line counts as ours to answer for when both speak against it.
  test.each(['box', 'filleted box', 'cylinder', 'cone', 'pointed cone', 'sphere', 'torus', 'thread of cones', 'drilled block'])('%s', (name) => {
    const { bodies, shape } = find(name);
    const diagonal = sceneDiagonal(bodies);
    const tolerance = Math.max(2 * bodies[0]!.geometry.deflectionMm, 2e-4 * diagonal);
    for (const { frame } of THIRTEEN) {
      const own = hiddenLines(bodies, frame);
      const exact = exactHiddenLines(kernel, shape, frame, 1e-5 * diagonal);
      const polygonal = polygonalHiddenLines(kernel, shape, frame, 1e-5 * diagonal);
      const near = [nearLines(own, tolerance), nearLines(exact, tolerance), nearLines(polygonal, 2 * tolerance)] as const;
      expect(share(own, tolerance, (x, y) => !near[1](x, y) && !near[2](x, y))).toBeLessThanOrEqual(0.001);
      expect(share(exact, tolerance, (x, y) => near[2](x, y) && !near[0](x, y))).toBeLessThanOrEqual(0.003);
      const off = [exact, polygonal].map((w) => Math.abs(visible(own) / visible(w) - 1));
      expect(Math.min(...off)).toBeLessThan(0.006);
    }
  });
});

describe('outlines of known length', () => {
  const along = (v: readonly [number, number, number]) => frameFrom(v, [0.1, 1, 0.2]);
  // Analytic: offset of an ellipse. Seen at angle t to its axis a torus shows the curves at ±r from the ellipse R, R·cos t.
  test('a torus along its axis shows two circles, from the side a stadium', () => {
    const { bodies } = find('torus');
    const front = hiddenLines(bodies, namedFrame('top'));
    expect(visible(front) / (2 * Math.PI * (26 + 14))).toBeCloseTo(1, 3);
    expect(front.kind.length).toBeLessThanOrEqual(25);
    expect(visible(hiddenLines(bodies, namedFrame('front'))) / (80 + 12 * Math.PI)).toBeCloseTo(1, 2);
  });
  test('a pointed cone from the side is a triangle', () => {
    const { bodies } = find('pointed cone');
    expect(visible(hiddenLines(bodies, namedFrame('front')))).toBeCloseTo(24 + 2 * Math.hypot(12, 25), 1);
  });
  test('a filleted box along its plane has the outline of a rounded rectangle and nothing else', () => {
    const { bodies } = find('filleted box');
    expect(visible(hiddenLines(bodies, namedFrame('top'))) / (2 * (32 + 22) + 8 * Math.PI)).toBeCloseTo(1, 3);
  });
  test('a sphere is one circle from everywhere, as a true arc', () => {
    for (const v of [
      [0, 0, 1],
      [1, -1, 1],
      [1, 2, 3],
      [1e-5, 0, 1],
    ] as const) {
      const l = hiddenLines(find('sphere').bodies, along(v));
      expect(visible(l) / (30 * Math.PI)).toBeCloseTo(1, 3);
      expect(l.arc[2]).toBeCloseTo(15, 6);
    }
  });
  test('a spring along its axis shows its coils once', () => {
    const l = visible(hiddenLines(find('spring').bodies, namedFrame('top')));
    // Two circles of the wire's inner and outer side, and the end of the wire.
    expect(l / (2 * Math.PI * (13.5 + 10.5) + 2 * 3)).toBeCloseTo(1, 1);
  });
});

describe('section areas against the boolean', () => {
  test.each(['cylinder', 'cone', 'sphere', 'torus', 'thread of cones', 'drilled block'])('%s: within 0.01 % from four sides', (name) => {
    const { bodies, shape } = find(name);
    const b = bodies[0]!.geometry.box;
    for (const normal of [
      [1, 0, 0],
      [0, -1, 0],
      [0, 0, 1],
      [0.6, 0, 0.8],
    ] as const) {
      const d = [0, 1, 2].reduce((s, k) => s + normal[k]! * (b[k]! + (b[k + 3]! - b[k]!) * 0.4837), 0);
      const scene = cutScene(bodies, { normal, d }, {}, namedFrame('front'));
      expect(scene.openLoops).toBe(0);
      const area = scene.caps.reduce((s, c) => s + c.areaMm2, 0);
      expect(Math.abs(area / exactCutArea(kernel, shape, normal, d, 500) - 1)).toBeLessThan(1e-4);
    }
  });
});
