import { describe, expect, test } from 'vitest';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { dot } from '../base/vector.ts';
import { namedFrame } from '../outline/directions.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { assemblyOf, box, cylinder, joined, sphere } from '../testing/shapes.ts';
import { paperReport } from './on-paper.ts';
import { planSpread } from './plan.ts';
import type { Pull } from './spread.ts';
import { checkSpread } from './way-out.ts';

type Parts = Parameters<typeof assemblyOf>[0];
const frame = namedFrame('isometric');
function plan(parts: Parts) {
  const { assembly, geometries } = assemblyOf(parts);
  const bodies = sceneOf(assembly, geometries);
  return { ...planSpread(assembly, bodies, { frame }), assembly, bodies };
}
const pullOf = (p: ReturnType<typeof plan>, c: number) => p.pulls.find((x) => x.components.includes(c));

/** A box open on some sides: floor, lid and walls of the given thickness around a room. */
function shell(room: readonly [number, number, number], wall: number, open: string): PartGeometry {
  const [x, y, z] = room;
  const sides: Record<string, PartGeometry> = {
    '-z': box([-wall, -wall, -wall], [x + wall, y + wall, 0]),
    '+z': box([-wall, -wall, z], [x + wall, y + wall, z + wall]),
    '-x': box([-wall, -wall, 0], [0, y + wall, z]),
    '+x': box([x, -wall, 0], [x + wall, y + wall, z]),
    '-y': box([0, -wall, 0], [x, 0, z]),
    '+y': box([0, y, 0], [x, y + wall, z]),
  };
  return joined(...Object.entries(sides).flatMap(([side, g]): [PartGeometry][] => (side === open ? [] : [[g]])));
}

/** A square ring of bars in the xy plane, or in the xz plane. */
function link(half: number, bar: number, plane: 'xy' | 'xz', at: readonly [number, number, number]): PartGeometry {
  const b = bar / 2;
  const beam = (from: readonly [number, number], to: readonly [number, number]) =>
    plane === 'xy' ? box([from[0], from[1], -b], [to[0], to[1], b]) : box([from[0], -b, from[1]], [to[0], b, to[1]]);
  const h = half;
  return joined(
    [beam([-h - b, -h - b], [h + b, -h + b]), at],
    [beam([-h - b, h - b], [h + b, h + b]), at],
    [beam([-h - b, -h + b], [-h + b, h - b]), at],
    [beam([h - b, -h + b], [h + b, h - b]), at],
  );
}

// What comes off how follows from the shapes alone: no source is needed.
describe('ways out of known assemblies', () => {
  test('nested boxes with one free side leave through it, the inner one with the outer one', () => {
    const p = plan([
      { name: 'outer', geometry: shell([100, 80, 60], 5, '+x') },
      { name: 'inner', geometry: shell([90, 70, 50], 4, '+x'), at: [4.5, 5, 5] },
      { name: 'core', geometry: box([0, 0, 0], [80, 60, 40]), at: [9, 10, 10] },
    ]);
    expect(p.stuck).toEqual([]);
    for (const x of p.pulls) expect([x.direction, x.clear]).toEqual([[1, 0, 0], true]);
    expect(p.order).toEqual([2, 1, 0]);
  });

  test('a pin in a blind hole can only leave through its open end', () => {
    // The hole is a ring on a closed floor.
    const p = plan([
      { name: 'floor', geometry: box([-30, -30, -10], [30, 30, 0]) },
      { name: 'wall', geometry: cylinder(25, 40, 32, 8) },
      { name: 'pin', geometry: cylinder(7.9, 30, 32), at: [0, 0, 0.05] },
    ]);
    expect(pullOf(p, 2)!.direction).toEqual([0, 0, 1]);
    expect(p.stuck).toEqual([]);
  });

  test('a ring on a stepped shaft leaves over the thin end', () => {
    const p = plan([
      { name: 'shaft', geometry: joined([cylinder(15, 20, 48)], [cylinder(10, 80, 48), [0, 0, 20]]) },
      { name: 'ring', geometry: cylinder(18, 10, 48, 10.02), at: [0, 0, 20] },
    ]);
    expect(pullOf(p, 1)!.direction).toEqual([0, 0, 1]);
    expect(pullOf(p, 1)!.clear).toBe(true);
  });

  test('two parts that hold each other leave their housing together and then come apart', () => {
    // A peg of the left block stands in a hole of the right one; the housing is open to +x only.
    const right = joined(
      [box([0, 20, 0], [40, 40, 15])],
      [box([0, 20, 25], [40, 40, 40])],
      [box([0, 20, 15], [15, 40, 25])],
      [box([25, 20, 15], [40, 40, 25])],
    );
    const left = joined([box([0, 0, 0], [40, 20, 40])], [box([15, 20, 15], [25, 40, 25])]);
    const p = plan([
      { name: 'housing', geometry: shell([40, 40, 40], 6, '+x') },
      { name: 'left', geometry: left },
      { name: 'right', geometry: right },
    ]);
    expect(p.stuck).toEqual([]);
    expect(p.pulls[0]!.direction).toEqual([1, 0, 0]);
    expect([...p.pulls[0]!.components].sort()).toEqual([1, 2]);
    expect(p.pulls).toHaveLength(2);
    expect(Math.abs(p.pulls[1]!.direction[1])).toBe(1);
    expect(p.pulls.every((x) => x.clear)).toBe(true);
  });

  test('a bolt under a roof is lifted out of its hole and leaves to the side, as far up as there is room', () => {
    const p = plan([
      { name: 'foot with a roof', geometry: joined([cylinder(40, 10, 48, 5.2)], [box([-60, -60, 40], [60, 60, 50])], [box([-60, -60, 0], [-50, 60, 40])]) },
      { name: 'bolt', geometry: joined([cylinder(5, 16, 32), [0, 0, -6]], [cylinder(8, 6, 32), [0, 0, 10]]) },
    ]);
    expect(p.stuck).toEqual([]);
    const [up, away] = p.pulls;
    // The shank is 6 mm below the foot's underside, 16 mm to be drawn; from the head's top it is 24 mm to the roof.
    expect(up!.direction).toEqual([0, 0, 1]);
    expect(up!.distanceMm).toBeGreaterThanOrEqual(16);
    expect(up!.distanceMm).toBeLessThanOrEqual(24);
    expect(up!.leg).toBe(true);
    expect(Math.abs(dot(away!.direction, [0, 0, 1]))).toBe(0);
    expect(away!.direction).not.toEqual([-1, 0, 0]);
    expect(p.pulls.map((x) => x.clear)).toEqual([true, true]);
    expect(p.order).toEqual([1, 0]);
  });

  test('under a roof that leaves it no room to be lifted the bolt stays', () => {
    const p = plan([
      { name: 'foot with a roof', geometry: joined([cylinder(40, 10, 48, 5.2)], [box([-60, -60, 28], [60, 60, 38])], [box([-60, -60, 0], [-50, 60, 28])]) },
      { name: 'bolt', geometry: joined([cylinder(5, 16, 32), [0, 0, -6]], [cylinder(8, 6, 32), [0, 0, 10]]) },
    ]);
    expect(p.pulls).toEqual([]);
    expect(p.stuck[0]!.components).toEqual([1]);
  });

  test('two closed links in each other cannot be freed, and it is said what holds which', () => {
    const p = plan([
      { name: 'first link', geometry: link(20, 6, 'xy', [0, 0, 0]) },
      { name: 'second link', geometry: link(20, 6, 'xz', [20, 0, 0]) },
    ]);
    expect(p.pulls).toEqual([]);
    expect(p.stuck).toHaveLength(1);
    expect([...p.stuck[0]!.components, ...p.stuck[0]!.by].sort()).toEqual([0, 1]);
  });

  test('a ball in a cage with windows smaller than itself stays, held by the cage', () => {
    const [h, b] = [20, 8];
    const posts = [-1, 1].flatMap((x) => [-1, 1].map((y): [PartGeometry] => [box([x * h - b, y * h - b, -h], [x * h + b, y * h + b, h])]));
    const cage = joined([box([-h - b, -h - b, -h - b], [h + b, h + b, -h])], [box([-h - b, -h - b, h], [h + b, h + b, h + b])], ...posts);
    const p = plan([
      { name: 'cage', geometry: cage },
      { name: 'ball', geometry: sphere(18) },
    ]);
    expect(p.stuck.map((s) => [s.components, s.by])).toEqual([[[1], [0]]]);
  });

  test('a dowel at a slant leaves along its own axis', () => {
    const c = Math.SQRT1_2;
    const hole = cylinder(20, 60, 48, 6);
    const turn = (g: PartGeometry) => ({ geometry: g, placement: [c, 0, c, 0, 0, 1, 0, 0, -c, 0, c, 0] });
    const { assembly, geometries } = assemblyOf([
      { name: 'block', geometry: joined([hole], [cylinder(20, 5, 48), [0, 0, -5]]) },
      { name: 'dowel', geometry: cylinder(5.98, 50, 48) },
    ]);
    const nodes = assembly.nodes.map((n) => (n.part < 0 ? n : { ...n, placement: turn(geometries.get(`g${n.part}`)!).placement }));
    const tilted = { ...assembly, nodes };
    const p = planSpread(tilted, sceneOf(tilted, geometries), { frame });
    expect(p.pulls[0]!.components).toEqual([1]);
    expect(dot(p.pulls[0]!.direction, [c, 0, c])).toBeCloseTo(1, 6);
  });

  test('one box inside the other is blocked, a single part needs no plan', () => {
    const p = plan([
      { name: 'first', geometry: box([0, 0, 0], [40, 40, 40]) },
      { name: 'second', geometry: box([10, 10, 10], [30, 30, 30]) },
    ]);
    expect(p.stuck.map((s) => [s.components, s.by])).toEqual([[[1], [0]]]);
    expect(p.pulls).toEqual([]);
    expect(plan([{ name: 'only', geometry: box([0, 0, 0], [1, 1, 1]) }]).pulls).toEqual([]);
  });
});

const stack: Parts = [
  { name: 'base', geometry: box([0, 0, 0], [60, 60, 10]) },
  { name: 'middle', geometry: box([5, 5, 10], [55, 55, 20]) },
  { name: 'top', geometry: box([20, 20, 20], [40, 40, 30]) },
  { name: 'washer', geometry: cylinder(6, 2, 32, 3), at: [30, 30, 30] },
  { name: 'bolt', geometry: joined([cylinder(3, 30, 32)], [cylinder(6, 4, 32), [0, 0, 30]]), at: [30, 30, 2] },
];

describe('a plan', () => {
  // Common practice: what is taken off first ends farthest, fasteners come off before what they hold.
  test('keeps the order along its direction, fasteners first', () => {
    const p = plan(stack.slice(0, 4));
    expect(p.order).toEqual([3, 2, 1, 0]);
    const lift = (c: number) => p.pulls.filter((x) => x.components.includes(c)).reduce((s, x) => s + dot(x.direction, [0, 0, 1]) * x.distanceMm, 0);
    expect(lift(3)).toBeGreaterThan(lift(2));
    expect(lift(2)).toBeGreaterThan(lift(1));
    expect(lift(1)).toBeGreaterThan(0);
    expect(lift(0)).toBe(0);
  });

  test('replayed step by step, each pull is clear of everything that is still in place', () => {
    const p = plan(stack.slice(0, 4));
    const gone = new Set<number>();
    for (const pull of p.pulls) {
      const { assembly, geometries } = assemblyOf(stack.slice(0, 4));
      const there = sceneOf(assembly, geometries).map((b) => (gone.has(b.component) ? { ...b, placement: [1, 0, 0, 1e6, 0, 1, 0, 0, 0, 0, 1, 0] } : b));
      expect(checkSpread(assembly, there, [pull]).hits).toEqual([]);
      for (const c of pull.components) gone.add(c);
    }
  });

  test('of a model twice as large goes twice as far', () => {
    const doubled = stack.slice(0, 4).map((s) => {
      const g = s.geometry;
      const geometry = {
        ...g,
        positions: g.positions.map((v) => v * 2),
        box: g.box.map((v) => v * 2) as unknown as PartGeometry['box'],
        volumeMm3: g.volumeMm3 * 8,
        deflectionMm: g.deflectionMm * 2,
      };
      return { ...s, geometry, ...(s.at ? { at: s.at.map((v) => v * 2) as unknown as readonly [number, number, number] } : {}) };
    });
    const [one, two] = [plan(stack.slice(0, 4)), plan(doubled)];
    expect(two.pulls.map((x) => x.components)).toEqual(one.pulls.map((x) => x.components));
    // Rounded to half millimetres.
    two.pulls.forEach((x, k) => expect(Math.abs(x.distanceMm / 2 - one.pulls[k]!.distanceMm)).toBeLessThanOrEqual(0.5));
  });

  test('takes apart only what it is asked to', () => {
    const { assembly, geometries } = assemblyOf(stack.slice(0, 4));
    const p = planSpread(assembly, sceneOf(assembly, geometries), { frame, only: new Set([3]) });
    expect(p.pulls.flatMap((x) => x.components)).toEqual([3]);
  });

  test('moves what holds together as one', () => {
    const { assembly, geometries } = assemblyOf(stack.slice(0, 4));
    const p = planSpread(assembly, sceneOf(assembly, geometries), { frame, together: [[2, 3]] });
    expect(p.pulls.map((x) => [...x.components].sort())).toContainEqual([2, 3]);
    expect(p.pulls.some((x) => x.components.length === 1 && x.components[0] === 3)).toBe(false);
  });

  test('leaves nothing touching on paper', () => {
    const p = plan(stack.slice(0, 4));
    expect(paperReport(p.bodies, p.pulls, frame, 1, 0).touches).toEqual([]);
  });
});

describe('a plan on its way', () => {
  const { assembly, geometries } = assemblyOf([
    { name: 'base', geometry: box([0, 0, 0], [100, 100, 10]) },
    ...Array.from({ length: 30 }, (_, i) => ({ name: `slab ${i}`, geometry: box([5, 5, 0], [95, 95, 8]), at: [0, 0, 10 + 8 * i] as const })),
  ]);
  const bodies = sceneOf(assembly, geometries);
  // A clock that stands at a later time whenever it is looked at.
  const clock = () => {
    let t = 0;
    return () => (t += 400);
  };

  test('tells what it has so far: the pulls of what is off already, in the order of the whole', () => {
    const partial: (readonly Pull[])[] = [];
    const whole = planSpread(assembly, bodies, { frame, now: clock(), onPartial: (p) => partial.push(p) });
    expect(partial.length).toBeGreaterThan(0);
    for (const p of partial) {
      expect(p.length).toBeLessThan(whole.pulls.length);
      expect(p.map((x) => x.components)).toEqual(whole.pulls.slice(0, p.length).map((x) => x.components));
    }
    expect(partial.at(-1)!.length).toBeGreaterThan(partial[0]!.length);
  });

  test('can be stopped', () => {
    let asked = 0;
    const cancel = {
      get aborted() {
        return ++asked > 3;
      },
    };
    expect(() => planSpread(assembly, bodies, { frame, cancel })).toThrow(expect.objectContaining({ code: 'CANCELLED' }));
  });
});
