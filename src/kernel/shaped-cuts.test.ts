import { beforeAll, describe, expect, test } from 'vitest';
import { Solids } from '../../demo/solids.ts';
import { applyToPoint, IDENTITY } from '../core/base/placement.ts';
import type { CutShape } from '../core/cut/cut-shape.ts';
import { cutScene } from '../core/cut/cut-scene.ts';
import type { SolidPort } from '../core/cut/solid-port.ts';
import { namedFrame } from '../core/outline/directions.ts';
import { hiddenLines } from '../core/outline/hidden-lines.ts';
import { lengthsOf } from '../core/outline/linework.ts';
import type { Body } from '../core/outline/scene.ts';
import { extractPart } from './extract-part.ts';
import type { Kernel } from './load.ts';
import { sharedKernel } from './testing/shared-kernel.ts';
import { loadSolidPort } from './manifold.ts';

let kernel: Kernel;
let s: Solids;
let solids: SolidPort;
beforeAll(async () => {
  kernel = await sharedKernel();
  s = new Solids(kernel);
  solids = await loadSolidPort();
});
const front = namedFrame('front');
const bodyOf = (shape: unknown, component = 0): Body => ({ component, geometry: extractPart(kernel, shape)!, placement: IDENTITY });
const cut = (bodies: readonly Body[], shape: CutShape | undefined, d = 0, behindMm?: number) =>
  cutScene(bodies, { normal: [0, -1, 0], d }, { shape, solids, ...(behindMm === undefined ? {} : { behindMm }) }, front);
const area = (scene: ReturnType<typeof cut>) => scene.caps.reduce((sum, c) => sum + c.areaMm2, 0);

describe('half section', () => {
  // Analytic: half of the rectangle 2r × h in which a plane through the axis cuts a cylinder.
  test('of a cylinder has half the area of the full one, within 0.1 %', () => {
    const scene = cut([bodyOf(s.cylinder([0, 0, 0], 'z', 20, 30))], { kind: 'half', across: [1, 0, 0], from: 0 });
    expect(area(scene) / 300).toBeCloseTo(1, 3);
  });
  test('shows the uncut half from outside, and no line where the two halves meet', () => {
    const scene = cut([bodyOf(s.cylinder([0, 0, 0], 'z', 20, 30))], { kind: 'half', across: [1, 0, 0], from: 0 });
    const { visible } = lengthsOf(hiddenLines(scene.bodies, front));
    // The outline of the cylinder and nothing else: 2 × 20 + 2 × 30.
    expect(Object.values(visible).reduce((a, b) => a + b, 0)).toBeCloseTo(100, 0);
  });
});

describe('stepped section', () => {
  // Two holes of 8 at different depths of a block 60 × 40 × 20; each step runs through the axis of one.
  const block = () => s.cut(s.box([0, 0, 0], [60, 40, 20]), s.cylinder([15, 10, -1], 'z', 8, 30), s.cylinder([45, 30, -1], 'z', 8, 30));
  const shape: CutShape = {
    kind: 'stepped',
    across: [1, 0, 0],
    steps: [
      { from: 0, d: -10 },
      { from: 30, d: -30 },
    ],
  };
  test('shows both holes in full width: area 60 × 20 less two times 8 × 20', () => {
    expect(area(cut([bodyOf(block())], shape)) / (60 * 20 - 2 * 8 * 20)).toBeCloseTo(1, 3);
  });
  test('the step itself is not drawn', () => {
    const { visible } = lengthsOf(hiddenLines(cut([bodyOf(block())], shape).bodies, front));
    expect(Object.values(visible).reduce((a, b) => a + b, 0)).toBeCloseTo(2 * (60 + 20) + 4 * 20, 0);
  });
  test('steps that do not ascend are refused', () => {
    expect(() => cut([bodyOf(block())], { ...shape, steps: [...shape.steps].reverse() })).toThrow('ascend');
  });
});

describe('aligned section', () => {
  // A flange: the cut runs through a hole on the left, turns at the axis and goes through one 60° above the right.
  const at = (deg: number): [number, number, number] => [20 * Math.cos((deg * Math.PI) / 180), 20 * Math.sin((deg * Math.PI) / 180), -1];
  const flange = () => s.cut(s.cylinder([0, 0, 0], 'z', 60, 10), s.cylinder(at(180), 'z', 8, 12), s.cylinder(at(60), 'z', 8, 12));
  const shape: CutShape = { kind: 'aligned', across: [1, 0, 0], from: 0, turn: Math.PI / 3 };
  test('turns the second hole into the plane: area 60 × 10 less two times 8 × 10', () => {
    expect(area(cut([bodyOf(flange())], shape)) / (60 * 10 - 2 * 8 * 10)).toBeCloseTo(1, 3);
  });
  test('shows both holes in full width and no line at the axis', () => {
    const { visible } = lengthsOf(hiddenLines(cut([bodyOf(flange())], shape).bodies, front));
    expect(Object.values(visible).reduce((a, b) => a + b, 0)).toBeCloseTo(2 * (60 + 10) + 4 * 10, 0);
  });
  test('what is kept whole stands where its plane is shown', () => {
    const pin = { ...bodyOf(s.cylinder(at(60), 'z', 6, 20)), component: 1 };
    const kept = cutScene([bodyOf(flange()), pin], { normal: [0, -1, 0], d: 0 }, { shape, solids, keptWhole: new Set([1]) }, front);
    const placed = kept.bodies.find((b) => b.component === 1)!;
    const middle = applyToPoint(placed.placement, at(60));
    expect(middle[0]).toBeCloseTo(20, 6);
    expect(middle[1]).toBeCloseTo(0, 6);
  });
  test('the same as a full section when both planes lie in one', () => {
    const straight = cut([bodyOf(flange())], { ...shape, turn: 0 });
    expect(area(straight) / area(cut([bodyOf(flange())], undefined))).toBeCloseTo(1, 3);
  });
  test('planes that fold back are refused', () => {
    expect(() => cut([bodyOf(flange())], { ...shape, turn: 3.1 })).toThrow('fold back');
  });
});

describe('broken-out section', () => {
  test('takes away the outline to its depth only', () => {
    const scene = cut([bodyOf(s.ball(20))], { kind: 'local', outline: [-5, -5, 5, -5, 5, 5, -5, 5] }, 5);
    expect(area(scene)).toBeCloseTo(100, 1);
    // Analytic: the sphere's outline stays whole around it.
    expect(lengthsOf(hiddenLines(scene.bodies, front)).visible.outline).toBeCloseTo(40 * Math.PI, 0);
  });
  test('leaves components it does not reach exactly as they are', () => {
    const [near, far] = [bodyOf(s.ball(20)), { ...bodyOf(s.box([100, 0, 0], [110, 10, 10])), component: 1 }];
    const scene = cut([near, far], { kind: 'local', outline: [-5, -5, 5, -5, 5, 5] }, 5);
    expect(scene.bodies[1]).toBe(far);
  });
});

describe('what lies behind', () => {
  test('is shown to the depth asked for; a slice shows the cut alone', () => {
    const bodies = [bodyOf(s.box([0, 0, 0], [10, 10, 10])), bodyOf(s.box([20, 50, 0], [30, 60, 10]), 1)];
    expect(cut(bodies, undefined, -5, 20).bodies.map((b) => b.component)).toEqual([0]);
    expect(cut(bodies, undefined, -5, 100).bodies.map((b) => b.component)).toEqual([0, 1]);
    const slice = cut(bodies, undefined, -5, 0);
    expect(area(slice)).toBeCloseTo(100, 6);
    expect(lengthsOf(hiddenLines(slice.bodies, front)).visible.cut).toBeCloseTo(40, 3);
  });
});

describe('an open mesh', () => {
  /** A body without its first `n` triangles. */
  const holed = (b: Body, n: number): Body => {
    const g = b.geometry;
    return {
      ...b,
      geometry: {
        ...g,
        closed: false,
        triangles: g.triangles.slice(3 * n),
        triangleFace: g.triangleFace.slice(n),
        cornerNormals: g.cornerNormals.slice(9 * n),
      },
    };
  };
  const cube = () => bodyOf(s.box([0, 0, 0], [10, 10, 10]));
  test('with a face missing is left uncut by a shaped cut and named', () => {
    expect(cut([holed(cube(), 2)], { kind: 'half', across: [1, 0, 0], from: 5 }, -5).uncut).toEqual([0]);
  });
  test('with a face missing is cut by a plane without hatching, and named', () => {
    const scene = cut([holed(cube(), 2)], undefined, -5);
    expect(scene.unhatched.length + scene.caps.length).toBe(1);
  });
  test('with a triangle missing is mended: the same area as the whole, by either way of cutting', () => {
    const tube = () => s.cut(s.cylinder([0, 0, 0], 'z', 20, 30), s.cylinder([0, 0, -1], 'z', 8, 32));
    for (const shape of [undefined, { kind: 'half', across: [1, 0, 0], from: -20 } as const]) {
      const whole = cut([bodyOf(tube())], shape);
      const scene = cut([holed(bodyOf(tube()), 1)], shape);
      expect([...scene.uncut, ...scene.unhatched]).toEqual([]);
      expect(area(scene) / area(whole)).toBeCloseTo(1, 4);
    }
  });
});

describe('Steinmetz solid', () => {
  // Analytic: two cylinders of radius r that cross at right angles share a body whose sections are squares of 2√(r² − z²).
  test.each([0, 3, 6, 9])('section at %i mm of r = 10', (z) => {
    const body = bodyOf(s.common(s.cylinder([-20, 0, 0], 'x', 20, 40), s.cylinder([0, -20, 0], 'y', 20, 40)));
    const scene = cutScene([body], { normal: [0, 0, 1], d: z }, {}, namedFrame('top'));
    expect(scene.openLoops).toBe(0);
    expect(scene.caps.reduce((sum, c) => sum + c.areaMm2, 0) / (4 * (100 - z * z))).toBeCloseTo(1, 2);
  });
});
