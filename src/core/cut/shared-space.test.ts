import { describe, expect, test } from 'vitest';
import { linesOf } from '../outline/hidden-lines.ts';
import { HIDDEN } from '../outline/linework.ts';
import { namedFrame } from '../outline/directions.ts';
import { projectScene, type Body } from '../outline/scene.ts';
import { body, box, cylinder } from '../testing/shapes.ts';
import { mergedLoops } from './cap-shape.ts';
import { insideLoops } from './loops.ts';
import { cutScene, type CutScene } from './cut-scene.ts';
import { hatchLines, measureLoops } from './hatch.ts';
import { settleSharedSpace } from './shared-space.ts';

const front = namedFrame('front');
const plane = { normal: [0, -1, 0] as const, d: 0 };
const cut = (bodies: readonly Body[], keptWhole: readonly number[] = [], d = 0): CutScene => {
  const at = { ...plane, d };
  return settleSharedSpace(cutScene(bodies, at, { keptWhole: new Set(keptWhole) }, front), at, front);
};
const areaOf = (scene: CutScene, c: number) => scene.caps.filter((k) => k.component === c).reduce((sum, k) => sum + measureLoops(k.loops).area, 0);

describe('what is kept whole', () => {
  const block = body(0, box([-20, -20, 0], [20, 20, 30]));
  const shaft = body(1, cylinder(5, 60), [0, 0, -10]);
  test('is not drawn where it lies wholly in front of the plane', () => {
    // The plane 45 mm behind the axis: the reader looks along +y.
    const scene = cutScene([block, body(1, cylinder(5, 60), [0, -45, -10])], plane, { keptWhole: new Set([1]) }, front);
    expect(scene.bodies.map((b) => b.component)).toEqual([0]);
    expect(scene.covers).toEqual([]);
  });
  test('stays where it lies behind the plane, and is left out of a slice that does not meet it', () => {
    const behind = body(1, cylinder(5, 60), [0, 45, -10]);
    const of = (behindMm?: number) =>
      cutScene([block, behind], plane, { keptWhole: new Set([1]), ...(behindMm === undefined ? {} : { behindMm }) }, front).bodies.map((b) => b.component);
    expect(of()).toEqual([0, 1]);
    expect(of(0)).not.toContain(1);
    expect(of(30)).not.toContain(1);
  });
  test('where it is met it covers the hatching of what shares its space: a screw in a tapped hole', () => {
    // M10: tap drill 8.5, screw at its major diameter.
    const tapped = body(0, cylinder(15, 30, 64, 4.25));
    const screw = body(1, cylinder(5, 20, 64), [0, 0, 10]);
    const scene = cut([tapped, screw], [1]);
    expect(scene.caps.map((c) => c.component)).toContain(0);
    // Two rectangles of 15 − 4.25 by 30, less two strips of 0.75 by 20.
    expect(areaOf(scene, 0)).toBeCloseTo(2 * (10.75 * 30 - 0.75 * 20), 1);
    for (const c of scene.caps) expect(insideLoops(c.loops, 4.6, 20)).toBe(false);
  });
  test('a plane beside its axis: what stands out before the plane covers too', () => {
    const tapped = body(0, cylinder(15, 30, 64, 5));
    const scene = cut([tapped, body(1, cylinder(5, 20, 64), [0, 0, 10])], [1], -3);
    // At 3 mm behind the axis the bolt is 4 mm half wide, seen from before it 5 mm.
    const half = Math.sqrt(225 - 9);
    expect(areaOf(scene, 0)).toBeCloseTo(2 * ((half - 4) * 30 - 1 * 20), 0);
  });
  test('a shaft in its bore changes nothing', () => {
    const bearing = body(0, cylinder(15, 30, 48, 5));
    expect(areaOf(cut([bearing, shaft], [1]), 0)).toBeCloseTo(areaOf(cut([bearing]), 0), 6);
  });
});

describe('cut faces that share space', () => {
  // A gland nut with an outside thread M30 in a bonnet bored for it: modelled into each other by the depth of the thread.
  const bonnet = body(0, cylinder(30, 40, 64, 13.25));
  const gland = body(1, cylinder(15, 25, 64, 6), [0, 0, 15]);
  for (const [name, bodies] of [
    ['outer first', [bonnet, gland]],
    [
      'inner first',
      [
        { ...gland, component: 0 },
        { ...bonnet, component: 1 },
      ],
    ],
  ] as const)
    test(`are hatched once, the inner one whole: ${name}`, () => {
      const scene = cut(bodies);
      const [outer, inner] = name === 'outer first' ? [0, 1] : [1, 0];
      expect(areaOf(scene, inner)).toBeCloseTo(2 * 9 * 25, 1);
      expect(areaOf(scene, outer)).toBeCloseTo(2 * (16.75 * 40 - 1.75 * 25), 1);
    });
  test('the bore’s line is not drawn across the screw', () => {
    const crossing = (scene: CutScene) => {
      const lines = linesOf(projectScene(scene.bodies, front), {});
      let length = 0;
      for (let i = 0; i < lines.kind.length; i++)
        for (let p = lines.start[i]! + 1; p < lines.start[i + 1]!; p++) {
          const [x0, y0, x1, y1] = [lines.xy[p * 2 - 2]!, lines.xy[p * 2 - 1]!, lines.xy[p * 2]!, lines.xy[p * 2 + 1]!];
          if (lines.kind[i]! < HIDDEN && Math.abs(Math.abs(x0) - 13.25) < 0.01 && Math.abs(x1 - x0) < 0.01)
            length += Math.max(0, Math.max(y0, y1) - Math.max(15, Math.min(y0, y1)));
        }
      return length;
    };
    expect(crossing(cut([bonnet, gland]))).toBeLessThan(0.1);
    expect(crossing(cutScene([bonnet, gland], plane, {}, front))).toBeGreaterThan(40);
  });
  test('a body modelled inside another is the one that shows', () => {
    const scene = cut([body(0, box([-20, -20, 0], [20, 20, 40])), body(1, box([-5, -5, 10], [5, 5, 20]))]);
    expect([areaOf(scene, 0), areaOf(scene, 1)]).toEqual([1600 - 100, 100]);
  });
  test('touching faces stay as they are', () => {
    const scene = cut([body(0, box([-20, -20, 0], [20, 20, 40])), body(1, box([-20, -20, 40], [20, 20, 60]))]);
    expect([areaOf(scene, 0), areaOf(scene, 1)]).toEqual([1600, 800]);
  });
});

describe('one part of several solids', () => {
  // A nut whose thread is a sleeve of its own that reaches into the hexagon.
  const square = (x0: number, y0: number, x1: number, y1: number) => [x0, y0, x1, y0, x1, y1, x0, y1];
  test('is hatched whole where its solids share space', () => {
    const loops = [square(0, 0, 10, 10), square(6, 0, 12, 10)];
    const h = hatchLines(loops, { angle: 0, spacing: 1, phase: 0.5 });
    expect(h.length / 4).toBe(10);
    for (let i = 0; i < h.length; i += 4) expect([h[i], h[i + 2]]).toEqual([0, 12]);
  });
  test('its area is the union, holes and islands in them kept', () => {
    const island = [...square(3, 3, 7, 7)];
    const hole = [2, 2, 2, 8, 8, 8, 8, 2];
    const shape = mergedLoops([square(0, 0, 10, 10), hole, island, square(9, 0, 14, 10)]);
    expect(measureLoops(shape).area).toBeCloseTo(140 - 36 + 16, 9);
    expect([insideLoops(shape, 5, 5), insideLoops(shape, 2.5, 5), insideLoops(shape, 9.5, 5)]).toEqual([true, false, true]);
  });
});
