import { describe, expect, test } from 'vitest';
import { namedFrame } from '../outline/directions.ts';
import { body, box, cylinder, sphere } from '../testing/shapes.ts';
import { cutScene } from './cut-scene.ts';
import { hatchLines } from './hatch.ts';
import { capStyles } from './hatch-styles.ts';
import { cutPart } from './plane-cut.ts';

describe('areas of plane sections (analytic)', () => {
  test('a box across: width by depth, one loop', () => {
    const r = cutPart(box([0, 0, 0], [40, 30, 20]), { normal: [0, 0, 1], d: 7 });
    expect(r.areaMm2).toBeCloseTo(1200, 9);
    expect([r.loops.length, r.openLoops]).toEqual([1, 0]);
    expect(r.geometry!.box).toEqual([0, 0, 0, 40, 30, 7]);
    expect(r.geometry!.closed).toBe(true);
  });

  test('a cylinder across is a true circle though its mesh is a polygon', () => {
    expect(cutPart(cylinder(15, 40, 12), { normal: [0, 0, 1], d: 13 }).areaMm2).toBeCloseTo(Math.PI * 225, 6);
  });

  test('a ring has an outer loop and a hole', () => {
    const r = cutPart(cylinder(15, 40, 24, 9), { normal: [0, 0, 1], d: 13 });
    expect(r.areaMm2).toBeCloseTo(Math.PI * (225 - 81), 6);
    expect(r.loops.length).toBe(2);
  });

  test('a ring lengthwise: two rectangles', () => {
    const r = cutPart(cylinder(15, 40, 24, 9), { normal: [0, 1, 0], d: 0 });
    expect(r.areaMm2).toBeCloseTo(2 * 6 * 40, 6);
    expect(r.loops.length).toBe(2);
  });

  test('a sphere at height h: π(r² − h²)', () => {
    expect(cutPart(sphere(20, 24, 48), { normal: [0, 0, 1], d: 8 }).areaMm2).toBeCloseTo(Math.PI * (400 - 64), 1);
  });
});

describe('planes in a face', () => {
  const b = box([0, 0, 0], [10, 10, 10]);
  test('the material behind the plane stays as it is: nothing is cut', () => {
    const r = cutPart(b, { normal: [0, 0, 1], d: 10 });
    expect(r.geometry).toBe(b);
    expect(r.areaMm2).toBe(0);
  });
  test('material in front of the plane goes, without a ghost face', () => {
    expect(cutPart(b, { normal: [0, 0, 1], d: 0 }).geometry).toBeUndefined();
  });
});

describe('a scene that is cut', () => {
  const bodies = [body(0, box([0, 0, 0], [40, 40, 40])), body(1, cylinder(5, 60), [20, 20, 0]), body(2, box([0, -30, 0], [10, -20, 10]))];
  const scene = cutScene(bodies, { normal: [0, -1, 0], d: -20 }, { keptWhole: new Set([1]) }, namedFrame('front'));
  test('what is kept whole has no cap; what lies in front is gone', () => {
    expect(scene.caps.map((c) => c.component)).toEqual([0]);
    expect(scene.bodies.map((b) => b.component)).toEqual([0, 1]);
  });
  test('a deeper cut never adds material', () => {
    const area = (d: number) => cutScene(bodies, { normal: [0, -1, 0], d }, {}, namedFrame('front')).bodies.length;
    expect(area(-35)).toBeLessThanOrEqual(area(-20));
  });
});

describe('hatching', () => {
  const square = [Float64Array.from([0, 0, 40, 0, 40, 40, 0, 40])];
  const hole = Float64Array.from([10, 10, 10, 30, 30, 30, 30, 10]);

  test('length times spacing is the area, with and without a hole', () => {
    const style = { angle: Math.PI / 4, spacing: 0.5, phase: 0 };
    const length = (s: number[]) => s.reduce((sum, _, i) => (i % 4 ? sum : sum + Math.hypot(s[i + 2]! - s[i]!, s[i + 3]! - s[i + 1]!)), 0);
    expect(length(hatchLines(square, style)) * 0.5).toBeCloseTo(1600, -1);
    expect(length(hatchLines([...square, hole], style)) * 0.5).toBeCloseTo(1200, -1);
  });

  // ISO 128-50: adjacent parts differ in direction or spacing; thin sections may be filled.
  test('touching caps look different, thin ones are solid', () => {
    const loop = (x: number, w: number) => [Float64Array.from([x, 0, x + w, 0, x + w, 30, x, 30])];
    const caps = [
      { component: 0, loops: loop(0, 30), areaMm2: 900 },
      { component: 1, loops: loop(30, 30), areaMm2: 900 },
      { component: 2, loops: loop(60, 0.5), areaMm2: 15 },
    ];
    const [a, b, c] = capStyles(caps, 1);
    expect(a).not.toEqual(b);
    expect(c).toEqual({ solid: true });
  });
  test('parts whose boxes overlap but which do not touch may look alike; a change far away changes nothing', () => {
    const square = (x: number, y: number, w: number) => [Float64Array.from([x, y, x + w, y, x + w, y + w, x, y + w])];
    const frame = [Float64Array.from([0, 0, 100, 0, 100, 100, 0, 100]), Float64Array.from([10, 10, 10, 90, 90, 90, 90, 10])];
    const caps = [
      { component: 0, loops: frame, areaMm2: 3600 },
      { component: 1, loops: square(40, 40, 20), areaMm2: 400 },
    ];
    const angle = (i: number, list: typeof caps) => {
      const s = capStyles(list, 1)[i]!;
      return s.solid ? NaN : s.hatch.angle;
    };
    expect(angle(1, caps)).toBe(angle(0, caps));
    const touchingSquare = [caps[0]!, { component: 1, loops: square(10.1, 40, 20), areaMm2: 400 }];
    expect(angle(1, touchingSquare)).not.toBe(angle(0, touchingSquare));
    const more = [...caps, { component: 2, loops: square(300, 300, 40), areaMm2: 1600 }];
    expect(capStyles(more, 1).slice(0, 2)).toEqual(capStyles(caps, 1));
  });
});
