import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, test } from 'vitest';
import { cutScene } from '../core/cut/cut-scene.ts';
import { namedFrame, type DirectionName } from '../core/outline/directions.ts';
import { hiddenLines } from '../core/outline/hidden-lines.ts';
import { HIDDEN, runLength, type Linework } from '../core/outline/linework.ts';
import type { Body } from '../core/outline/scene.ts';
import { sceneOf } from '../core/outline/scene-of.ts';
import type { Kernel } from './load.ts';
import { sharedKernel } from './testing/shared-kernel.ts';
import { readStep } from './read-step.ts';
import { exactCutArea, exactHiddenLines, readShape, uncovered } from './testing/reference.ts';

// The B-rep kernel's own exact hidden-line algorithm and boolean operations, on as1-oc-214 of the CAx-IF rounds.
const file = new Uint8Array(readFileSync(join(process.cwd(), 'node_modules/occt-import-js/test/testfiles/cax-if/as1-oc-214.stp')));
let kernel: Kernel;
let bodies: Body[];
let shape: { delete(): void };
beforeAll(async () => {
  kernel = await sharedKernel();
  let n = 0;
  const { assembly, geometries } = await readStep(kernel, [{ name: 'as1.stp', bytes: file }], { keyOf: () => `g${n++}` });
  bodies = sceneOf(assembly, geometries);
  shape = readShape(kernel, file);
});
const visible = (l: Linework) => {
  let sum = 0;
  for (let i = 0; i < l.kind.length; i++) if (!(l.kind[i]! & HIDDEN)) sum += runLength(l, i);
  return sum;
};

describe('visible lines against the exact algorithm (union of lines)', () => {
  test.each(['front', 'isometric'] as const)('%s: length within 0.3 %, and the same lines both ways', (direction) => {
    const ours = hiddenLines(bodies, namedFrame(direction));
    const exact = exactHiddenLines(kernel, shape, namedFrame(direction), 2e-3);
    expect(Math.abs(visible(ours) / visible(exact) - 1)).toBeLessThan(0.003);
    // Tolerance: twice the coarsest mesh deflection.
    expect(uncovered(ours, exact, 0.4)).toBeLessThanOrEqual(0.001);
    expect(uncovered(exact, ours, 0.4)).toBeLessThanOrEqual(0.003);
  });

  // The exact algorithm takes 36 s and 46 s for these two: its results were taken down once with the function above.
  test.each([
    ['top', 2067.76],
    ['right', 750.68],
  ] as [DirectionName, number][])('%s: within 0.3 % of the length taken down', (direction, length) => {
    expect(Math.abs(visible(hiddenLines(bodies, namedFrame(direction))) / length - 1)).toBeLessThan(0.003);
  });
});

describe('cut areas against the boolean', () => {
  test.each([
    ['along the rod', [0, -1, 0], -75],
    ['through the plate', [0, 0, 1], 10],
    ['across the rod', [1, 0, 0], 100],
    ['slanted', [0.6, 0, 0.8], 60],
  ] as const)('%s: within 0.01 %, no open loop', (_, normal, d) => {
    const scene = cutScene(bodies, { normal, d }, {}, namedFrame('front'));
    const area = scene.caps.reduce((s, c) => s + c.areaMm2, 0);
    expect(scene.openLoops).toBe(0);
    expect(Math.abs(area / exactCutArea(kernel, shape, normal, d, 2000) - 1)).toBeLessThan(1e-4);
  });
});
