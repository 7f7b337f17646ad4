import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import Module, { type Manifold, type ManifoldToplevel } from 'manifold-3d';
import { beforeAll, describe, expect, test } from 'vitest';
import { gearbox } from '../../bench/gearbox.ts';
import { Solids } from '../../demo/solids.ts';
import { writeDemoStep } from '../../demo/write-step.ts';
import type { Assembly, Component } from '../core/assembly/assembly.ts';
import { componentsOf } from '../core/assembly/components.ts';
import { combine, IDENTITY, type Placement } from '../core/base/placement.ts';
import { fitSpread } from '../core/explode/fit.ts';
import { paperReport } from '../core/explode/on-paper.ts';
import { planSpread, type Plan } from '../core/explode/plan.ts';
import { stepOf } from '../core/explode/spread.ts';
import { buildOrder, type BuildOrder } from '../core/guide/steps.ts';
import { namedFrame } from '../core/outline/directions.ts';
import { sceneOf } from '../core/outline/scene-of.ts';
import type { Body } from '../core/outline/scene.ts';
import { standardScales } from '../core/sheet/paper.ts';
import { readOnce, sharedKernel } from './testing/shared-kernel.ts';

// Plans are checked again with another library: intersection volumes of manifold-3d on the same meshes, at sampled places
// along each way. as1-oc-214 is of the CAx-IF rounds, from the npm package occt-import-js 0.0.23; the gearbox is our own.
const FILE = join(process.cwd(), 'node_modules/occt-import-js/test/testfiles/cax-if/as1-oc-214.stp');
const frame = namedFrame('isometric');

interface Case {
  readonly assembly: Assembly;
  readonly components: readonly Component[];
  readonly bodies: readonly Body[];
  readonly plan: Plan;
}
let wasm: ManifoldToplevel;
let as1: Case;
let winch: Case;
let gears: Case;
beforeAll(async () => {
  wasm = await Module();
  wasm.setup();
  const kernel = await sharedKernel();
  const planned = async (name: string, bytes: Uint8Array): Promise<Case> => {
    const read = await readOnce([{ name, bytes }]);
    const bodies = sceneOf(read.assembly, read.geometries);
    return { assembly: read.assembly, components: componentsOf(read.assembly), bodies, plan: planSpread(read.assembly, bodies, { frame }) };
  };
  winch = await planned('sw-40-rev1.step', new Uint8Array(readFileSync(join(process.cwd(), 'demo/sw-40-rev1.step'))));
  as1 = await planned('as1-oc-214.stp', new Uint8Array(readFileSync(FILE)));
  const solids = new Solids(kernel);
  gears = await planned('gearbox.step', new TextEncoder().encode(writeDemoStep(kernel, solids, gearbox(solids))));
}, 180_000);

/** A body as a solid of the other library. */
function solid(b: Body, motion: Placement = IDENTITY): Manifold {
  const m = combine(motion, b.placement);
  const { positions, triangles } = b.geometry;
  const xyz = new Float32Array(positions.length);
  for (let i = 0; i < xyz.length; i += 3)
    for (let r = 0; r < 3; r++) xyz[i + r] = m[r * 4]! * positions[i]! + m[r * 4 + 1]! * positions[i + 1]! + m[r * 4 + 2]! * positions[i + 2]! + m[r * 4 + 3]!;
  return wasm.Manifold.ofMesh(new wasm.Mesh({ numProp: 3, vertProperties: xyz, triVerts: triangles }));
}

function shared(a: Manifold, b: Manifold): number {
  const both = a.intersect(b);
  const v = both.volume();
  both.delete();
  return v;
}

const PLACES = [0.02, 0.1, 0.3, 0.6, 1];
/** Meshed holes and shafts overlap by a sliver of their walls: this share of the smaller part. */
const SLIVER = 0.015;

/** Pulls that pass through something, by volumes: pull, place on the way, what through what. */
function passedThrough({ components, bodies, plan }: Case): string[] {
  const home = bodies.map((b) => solid(b));
  const made = bodies.map(() => '');
  const motions = bodies.map(() => IDENTITY);
  const out: string[] = [];
  const reach = (b: Manifold) => b.boundingBox();
  plan.pulls.forEach((pull, i) => {
    const fresh = pull.components.some((c) => made[c] === '');
    pull.components.forEach((a, k) => {
      if (fresh && made[a] !== '') return;
      // What moved together so far stands to each other as at home; all that has not moved is there for what moves first.
      const there = bodies.map((_, b) => b).filter((b) => !pull.components.includes(b) && (made[b] === '' || made[b] === made[a]));
      for (const part of PLACES) {
        const moved = solid(bodies[a]!, combine(stepOf(pull, k, IDENTITY, part), motions[a]!));
        const box = reach(moved);
        for (const b of there) {
          const other = made[b] === '' ? home[b]! : solid(bodies[b]!, motions[b]!);
          const q = reach(other);
          const apart = [0, 1, 2].some((n) => box.min[n]! > q.max[n]! || q.min[n]! > box.max[n]!);
          const limit = SLIVER * Math.min(bodies[a]!.geometry.volumeMm3, bodies[b]!.geometry.volumeMm3);
          if (!apart && shared(moved, other) > limit) out.push(`pull ${i} at ${part}: ${components[a]!.name} through ${components[b]!.name}`);
          if (other !== home[b]) other.delete();
        }
        moved.delete();
      }
    });
    pull.components.forEach((c, k) => {
      made[c] += `${i};`;
      motions[c] = combine(stepOf(pull, k, IDENTITY), motions[c]!);
    });
  });
  for (const h of home) h.delete();
  return out;
}

/** A circlip is opened with pliers: it comes over the groove's shoulder (common practice). */
const notSprung = (line: string) => !/Circlip.* through (Shaft|Grip axle|Sheave pin)/.test(line);

describe('the plan of as1-oc-214', () => {
  test('nuts before bolts, the rod before the brackets, the plate stays; every pull is clear', () => {
    const { plan, components } = as1;
    const names = components.map((c) => c.name);
    const order = plan.order.map((c) => names[c]!);
    const last = (name: string) => order.lastIndexOf(name);
    const nutsOfBolts = plan.order.filter((c) => components[c]!.path.includes('nut-bolt') && names[c] === 'nut');
    expect(Math.max(...nutsOfBolts.map((c) => plan.order.indexOf(c)))).toBeLessThan(order.indexOf('bolt'));
    expect(last('bolt')).toBeLessThan(order.indexOf('l-bracket'));
    expect(last('rod')).toBeLessThan(order.indexOf('l-bracket'));
    expect(order.at(-1)).toBe('plate');
    expect([plan.stuck, plan.pulls.filter((p) => !p.clear)]).toEqual([[], []]);
    // As few directions as there are: up, down, and the rod's two ends.
    expect(new Set(plan.pulls.map((p) => p.direction.join())).size).toBeLessThanOrEqual(4);
  });

  test('leaves nothing overlapping on paper', () => {
    expect(paperReport(as1.bodies, as1.plan.pulls, frame, 1, 0).touches.filter((t) => t.overlapMm2 > 0)).toEqual([]);
  });

  test('passes through nothing by boolean intersection, and it would be seen if it did', () => {
    expect(passedThrough(as1)).toEqual([]);
    const { components, plan } = as1;
    // A bolt pushed sideways cuts into what it sits in.
    const bolt = components.find((c) => c.name === 'bolt')!.index;
    const sideways = { components: [bolt], direction: [1, 0, 0] as const, distanceMm: 6, ways: [], clear: true };
    expect(passedThrough({ ...as1, plan: { ...plan, pulls: [sideways] } })).not.toEqual([]);
  });
});

describe('the plan of the demo', () => {
  test('frees all 76 components and passes through nothing by boolean intersection', () => {
    expect(winch.components).toHaveLength(76);
    expect([winch.plan.stuck, winch.plan.pulls.filter((p) => !p.clear)]).toEqual([[], []]);
    expect(passedThrough(winch).filter(notSprung)).toEqual([]);
  });
});

describe('the plan of a gearbox of 60', () => {
  const named = (name: string) => gears.components.filter((c) => c.name.startsWith(name)).map((c) => c.index);

  test('frees everything; the lower housing stays', () => {
    expect(gears.components).toHaveLength(60);
    expect(gears.plan.stuck).toEqual([]);
    expect(gears.plan.pulls.filter((p) => !p.clear)).toEqual([]);
    expect(gears.components[gears.plan.order.at(-1)!]!.name).toBe('Housing, lower');
  });

  test('takes foot bolts up under the joint first, and out to the side from there', () => {
    for (const c of named('Foot bolt')) {
      const own = gears.plan.pulls.filter((p) => p.components.includes(c));
      expect(own.map((p) => [p.leg === true, Math.abs(p.direction[2])])).toEqual([
        [true, 1],
        [false, 0],
      ]);
      // 30 mm of shank to be drawn; 51 mm from the head to the flange above.
      expect(own[0]!.distanceMm).toBeGreaterThanOrEqual(30);
      expect(own[0]!.distanceMm).toBeLessThanOrEqual(51);
    }
  });

  test('passes through nothing by boolean intersection', () => {
    expect(passedThrough(gears).filter(notSprung)).toEqual([]);
  });

  test('fits a narrow room at 1:5 with nothing touching', () => {
    const fit = fitSpread(gears.bodies, gears.plan.pulls, { frame, room: [166, 233], scales: standardScales('iso') });
    expect([fit.fits, fit.scale]).toEqual([true, 0.2]);
    expect(paperReport(gears.bodies, fit.pulls, frame, fit.scale, 1).touches).toEqual([]);
  });
});

/** What a step of a guide would push through what stands there, by volumes: each part on its last stretch home. */
function builtThrough({ components, bodies }: Case, order: BuildOrder): string[] {
  const home = bodies.map((b) => solid(b));
  const out: string[] = [];
  for (const [n, step] of order.steps.entries()) {
    const there = [...step.there];
    for (const move of step.moves) {
      const pull = order.pulls[move.pulls[0]!]!;
      for (const part of PLACES)
        for (const a of move.components) {
          const by = pull.distanceMm * part;
          const [x, y, z] = pull.direction;
          const away = solid(bodies[a]!, [1, 0, 0, x * by, 0, 1, 0, y * by, 0, 0, 1, z * by]);
          const box = away.boundingBox();
          for (const b of there) {
            const q = home[b]!.boundingBox();
            if ([0, 1, 2].some((k) => box.min[k]! > q.max[k]! || q.min[k]! > box.max[k]!)) continue;
            const limit = SLIVER * Math.min(bodies[a]!.geometry.volumeMm3, bodies[b]!.geometry.volumeMm3);
            if (shared(away, home[b]!) > limit) out.push(`step ${n + 1} at ${part}: ${components[a]!.name} through ${components[b]!.name}`);
          }
          away.delete();
        }
      there.push(...move.components);
    }
  }
  for (const h of home) h.delete();
  return out;
}

describe('guides of building', () => {
  const cases = [
    ['as1-oc-214', () => as1],
    ['the winch', () => winch],
    ['the gearbox', () => gears],
  ] as const;
  test.each(cases)('%s: every component once, in an order in which each way is clear, by another library too', (_, of) => {
    const c = of();
    const order = buildOrder(c.assembly, c.bodies, c.plan.pulls);
    expect(order.checked).toBe(true);
    expect(order.steps.flatMap((s) => s.adds).sort((a, b) => a - b)).toEqual(c.components.map((x) => x.index));
    expect(builtThrough(c, order).filter(notSprung)).toEqual([]);
  });
});
