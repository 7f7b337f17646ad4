import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { componentsOf } from '../core/assembly/components.ts';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';
import { cutScene } from '../core/cut/cut-scene.ts';
import { suggestSection } from '../core/cut/main-axis.ts';
import { frameFrom, namedFrame } from '../core/outline/directions.ts';
import { linesOf } from '../core/outline/hidden-lines.ts';
import { lengthsOf } from '../core/outline/linework.ts';
import { sceneOf } from '../core/outline/scene-of.ts';
import { projectScene } from '../core/outline/scene.ts';
import { sharedKernel } from './testing/shared-kernel.ts';
import { readStep } from './read-step.ts';

// as1-oc-214 of the CAx-IF rounds, from the npm package occt-import-js 0.0.23: its plate is 180 × 150 × 20 with holes of 10 mm.
const FILE = join(process.cwd(), 'node_modules/occt-import-js/test/testfiles/cax-if/as1-oc-214.stp');

test('a section through two holes shows the whole outline of what it cuts, though the plane passes a hair beside vertices', async () => {
  const geometries = new Map<string, PartGeometry>();
  const { assembly } = await readStep(await sharedKernel(), [{ name: 'as1.stp', bytes: new Uint8Array(readFileSync(FILE)) }], {
    keyOf: (g) => {
      const key = String(geometries.size);
      geometries.set(key, g);
      return key;
    },
  });
  const bodies = sceneOf(assembly, geometries);
  const { plane } = suggestSection(bodies, namedFrame('front'));
  const plate = bodies.filter((b) => componentsOf(assembly)[b.component]!.name === 'plate');
  const frame = frameFrom(plane.normal, [0, 0, 1]);
  const cut = cutScene(plate, plane, {}, frame);
  const { visible } = lengthsOf(linesOf(projectScene(cut.bodies, frame), {}));
  // Three pieces: 20, 120 and 20 long, 20 high, of which nothing is hidden.
  expect(visible.cut).toBeCloseTo(2 * (20 + 120 + 20) + 6 * 20, 3);
});
