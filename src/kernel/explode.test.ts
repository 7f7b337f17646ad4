import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import Module from 'manifold-3d';
import { beforeAll, describe, expect, test } from 'vitest';
import { componentsOf } from '../core/assembly/components.ts';
import { packGeometry } from '../core/assembly/geometry-codec.ts';
import type { ImportResult } from '../core/assembly/importing.ts';
import { combine, IDENTITY, type Placement } from '../core/base/placement.ts';
import { paperReport } from '../core/explode/on-paper.ts';
import { planSpread, type Plan } from '../core/explode/plan.ts';
import { stepOf } from '../core/explode/spread.ts';
import { namedFrame } from '../core/outline/directions.ts';
import { sceneOf } from '../core/outline/scene-of.ts';
import type { Body } from '../core/outline/scene.ts';
import { loadKernel } from './load.ts';
import { readStep } from './read-step.ts';

// as1-oc-214 of the CAx-IF rounds, from the npm package occt-import-js 0.0.23. The plan is checked again with another
// library: intersection volumes of manifold-3d on the same meshes, at sampled places along each way.
const FILE = join(process.cwd(), 'node_modules/occt-import-js/test/testfiles/cax-if/as1-oc-214.stp');
const frame = namedFrame('isometric');
let read: ImportResult;
let bodies: Body[];
let plan: Plan;
beforeAll(async () => {
  const kernel = await loadKernel();
  read = await readStep(kernel, [{ name: 'as1-oc-214.stp', bytes: new Uint8Array(readFileSync(FILE)) }], {
    keyOf: (g) => createHash('sha256').update(packGeometry(g)).digest('hex'),
  });
  bodies = sceneOf(read.assembly, read.geometries);
  plan = planSpread(read.assembly, bodies, { frame });
}, 120_000);

describe('the plan of as1-oc-214', () => {
  test('nuts before bolts, the rod before the brackets, the plate stays; every pull is clear', () => {
    const names = componentsOf(read.assembly).map((c) => c.name);
    const order = plan.order.map((c) => names[c]!);
    const last = (name: string) => order.lastIndexOf(name);
    const nutsOfBolts = plan.order.filter((c) => componentsOf(read.assembly)[c]!.path.includes('nut-bolt') && names[c] === 'nut');
    expect(Math.max(...nutsOfBolts.map((c) => plan.order.indexOf(c)))).toBeLessThan(order.indexOf('bolt'));
    expect(last('bolt')).toBeLessThan(order.indexOf('l-bracket'));
    expect(last('rod')).toBeLessThan(order.indexOf('l-bracket'));
    expect(order.at(-1)).toBe('plate');
    expect([plan.stuck, plan.pulls.filter((p) => !p.clear)]).toEqual([[], []]);
    // As few directions as there are: up, down, and the rod's two ends.
    expect(new Set(plan.pulls.map((p) => p.direction.join())).size).toBeLessThanOrEqual(4);
  });

  test('leaves nothing overlapping on paper', () => {
    expect(paperReport(bodies, plan.pulls, frame, 1, 0).touches.filter((t) => t.overlapMm2 > 0)).toEqual([]);
  });

  test('by boolean intersection nothing is passed through', async () => {
    const wasm = await Module();
    wasm.setup();
    const solid = (b: Body, motion: Placement = IDENTITY) => {
      const m = combine(motion, b.placement);
      const xyz = new Float32Array(b.geometry.positions.length);
      for (let i = 0; i < xyz.length; i += 3)
        for (let r = 0; r < 3; r++)
          xyz[i + r] =
            m[r * 4]! * b.geometry.positions[i]! + m[r * 4 + 1]! * b.geometry.positions[i + 1]! + m[r * 4 + 2]! * b.geometry.positions[i + 2]! + m[r * 4 + 3]!;
      return wasm.Manifold.ofMesh(new wasm.Mesh({ numProp: 3, vertProperties: xyz, triVerts: b.geometry.triangles }));
    };
    const shared = (a: ReturnType<typeof solid>, b: ReturnType<typeof solid>) => {
      const both = a.intersect(b);
      const v = both.volume();
      both.delete();
      return v;
    };
    const home = bodies.map((b) => solid(b));
    const made = bodies.map(() => '');
    for (const [i, pull] of plan.pulls.entries()) {
      const fresh = pull.components.some((c) => made[c] === '');
      for (const [k, a] of pull.components.entries()) {
        if (fresh && made[a] !== '') continue;
        // Of a sub-assembly that is opened only its own parts are near: they stand to each other as at home.
        const there = bodies.map((_, b) => b).filter((b) => !pull.components.includes(b) && made[b] === made[a]);
        for (const part of [0.02, 0.1, 0.3, 0.6, 1]) {
          const moved = solid(bodies[a]!, stepOf(pull, k, IDENTITY, part));
          // Meshed holes and shafts overlap by a sliver of their walls: under 1.5 % of the smaller part.
          for (const b of there) {
            const limit = 0.015 * Math.min(bodies[a]!.geometry.volumeMm3, bodies[b]!.geometry.volumeMm3);
            expect([i, part, shared(moved, home[b]!) < limit]).toEqual([i, part, true]);
          }
          moved.delete();
        }
      }
      pull.components.forEach((c) => (made[c] += `${i};`));
    }
    // And it would be seen: a bolt pushed sideways cuts into its bracket.
    const bolt = componentsOf(read.assembly).find((c) => c.name === 'bolt')!.index;
    const plate = componentsOf(read.assembly).find((c) => c.name === 'plate')!.index;
    const pushed = solid(bodies[bolt]!, stepOf({ components: [bolt], direction: [1, 0, 0], distanceMm: 6 }, 0, IDENTITY));
    expect(shared(pushed, home[plate]!)).toBeGreaterThan(0.05 * bodies[bolt]!.geometry.volumeMm3);
    pushed.delete();
    for (const h of home) h.delete();
  });
});
