import { describe, expect, test } from 'vitest';
import type { Vec3 } from '../base/vector.ts';
import { namedFrame } from '../outline/directions.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { random } from '../testing/random.ts';
import { assemblyOf, box } from '../testing/shapes.ts';
import { planSpread, type Plan } from './plan.ts';
import { checkSpread } from './way-out.ts';

// Blocks cut out of one block fill it like a puzzle. Of boxes along the axes it is plain arithmetic who is in whose way:
// that is the reference, independent of rays and silhouettes.

interface Block {
  readonly min: Vec3;
  readonly max: Vec3;
}

/** A block of 60 mm cut into about so many, a few of which are taken out. */
function puzzle(seed: number, pieces: number): Block[] {
  const next = random(seed);
  const blocks: Block[] = [{ min: [0, 0, 0], max: [60, 60, 60] }];
  while (blocks.length < pieces) {
    // The largest one is cut, not too near its ends.
    blocks.sort((a, b) => volume(b) - volume(a));
    const { min, max } = blocks.shift()!;
    const longest = [0, 1, 2].sort((i, j) => max[j]! - min[j]! - (max[i]! - min[i]!))[next() < 0.7 ? 0 : 1]!;
    const at = Math.round(min[longest]! + (max[longest]! - min[longest]!) * (0.3 + 0.4 * next()));
    const put = (v: Vec3) => v.map((c, k) => (k === longest ? at : c)) as unknown as Vec3;
    blocks.push({ min, max: put(max) }, { min: put(min), max });
  }
  return blocks.filter((_, i) => i === 0 || next() > 0.15);
}
const volume = ({ min, max }: Block) => [0, 1, 2].reduce((v, k) => v * (max[k]! - min[k]!), 1);

/** Does a block on its way, from where it is shifted to, go through another? */
function sweeps(a: Block, from: Vec3, way: Vec3, b: Block): boolean {
  return [0, 1, 2].every((k) => {
    const low = a.min[k]! + from[k]! + Math.min(0, way[k]!);
    const high = a.max[k]! + from[k]! + Math.max(0, way[k]!);
    return low < b.max[k]! - 1e-6 && b.min[k]! < high - 1e-6;
  });
}

const AXES: readonly Vec3[] = [
  [1, 0, 0],
  [-1, 0, 0],
  [0, 1, 0],
  [0, -1, 0],
  [0, 0, 1],
  [0, 0, -1],
];

/** How many blocks are left when each that is free along an axis is taken away, one after the other. */
function leftOver(blocks: readonly Block[]): number {
  let left = [...blocks];
  for (;;) {
    const free = left.find((a) => AXES.some((d) => left.every((b) => b === a || !sweeps(a, [0, 0, 0], d.map((v) => 200 * v) as unknown as Vec3, b))));
    if (!free || left.length === 1) return left.length;
    left = left.filter((b) => b !== free);
  }
}

/** Pulls on which a block goes through one that is still there. */
function faults(blocks: readonly Block[], { pulls }: Plan): string[] {
  const made = blocks.map(() => '');
  const offset: Vec3[] = blocks.map(() => [0, 0, 0]);
  const out: string[] = [];
  pulls.forEach((p, i) => {
    const way = p.direction.map((v) => v * p.distanceMm) as unknown as Vec3;
    const fresh = p.components.some((c) => made[c] === '');
    for (const a of p.components) {
      if (fresh && made[a] !== '') continue;
      blocks.forEach((b, k) => {
        if (p.components.includes(k) || (made[k] !== '' && made[k] !== made[a])) return;
        const relative = offset[a]!.map((v, n) => v - offset[k]![n]!) as unknown as Vec3;
        if (sweeps(blocks[a]!, relative, way, b)) out.push(`pull ${i}: ${a} through ${k}`);
      });
    }
    for (const c of p.components) {
      made[c] += `${i};`;
      offset[c] = offset[c]!.map((v, n) => v + way[n]!) as unknown as Vec3;
    }
  });
  return out;
}

const frame = namedFrame('isometric');
function planned(blocks: readonly Block[]) {
  const { assembly, geometries } = assemblyOf(blocks.map((b, i) => ({ name: `block ${i}`, geometry: box(b.min, b.max) })));
  const bodies = sceneOf(assembly, geometries);
  return { assembly, bodies, plan: planSpread(assembly, bodies, { frame }) };
}

describe('puzzles of boxes', () => {
  test.each(Array.from({ length: 12 }, (_, i) => [i + 1, 6 + (i % 6) * 3] as const))(
    'number %i of about %i pieces comes apart without a fault',
    (seed, pieces) => {
      const blocks = puzzle(seed, pieces);
      const { assembly, bodies, plan } = planned(blocks);
      expect(faults(blocks, plan)).toEqual([]);
      expect(plan.pulls.every((p) => p.clear)).toBe(true);
      // What comes apart piece by piece is not called held.
      if (leftOver(blocks) === 1) expect(plan.stuck).toEqual([]);
      expect([...plan.order].sort((a, b) => a - b)).toEqual(blocks.map((_, i) => i));
      // And the check finds what is wrong: the first piece pushed the other way, into its neighbours, if it has any there.
      const first = plan.pulls[0]!;
      const back = first.direction.map((v) => -v) as unknown as Vec3;
      const wrong = { ...first, direction: back, distanceMm: 200 };
      const blocked = faults(blocks, { ...plan, pulls: [wrong] }).length > 0;
      expect(checkSpread(assembly, bodies, [wrong]).clear[0]).toBe(!blocked);
    },
  );

  test('in any order the check finds exactly the pulls that arithmetic finds', () => {
    const next = random(99);
    for (let n = 0; n < 8; n++) {
      const blocks = puzzle(40 + n, 10);
      const { assembly, geometries } = assemblyOf(blocks.map((b, i) => ({ name: `block ${i}`, geometry: box(b.min, b.max) })));
      const bodies = sceneOf(assembly, geometries);
      const order = blocks.map((_, i) => i).sort(() => next() - 0.5);
      const pulls = order.map((c) => ({
        components: [c],
        direction: AXES[Math.floor(next() * 6)]!,
        distanceMm: 20 + Math.round(next() * 150),
        ways: [],
        clear: true,
      }));
      const wrong = new Set(faults(blocks, { pulls, hits: [], order: [], stuck: [] }).map((f) => Number(/pull (\d+)/.exec(f)![1])));
      expect(checkSpread(assembly, bodies, pulls).clear).toEqual(pulls.map((_, i) => !wrong.has(i)));
    }
  });
});
