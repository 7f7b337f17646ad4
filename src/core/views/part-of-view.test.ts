import { describe, expect, test } from 'vitest';
import { ARC_STRIDE, EMPTY_LINEWORK, LineClass, lengthsOf, type Linework } from '../outline/linework.ts';
import { arcPoint } from '../outline/arcs.ts';
import { clipLines } from './clip-lines.ts';
import type { ViewResult } from './compute-view.ts';
import { ringOf, type Gap, type Outline } from './outline.ts';
import { extentOf, partOfView } from './part-of-view.ts';
import { Region } from './region.ts';
import { viewMapOf } from './view-map.ts';

interface Run {
  readonly points?: readonly number[];
  /** cx cy rx ry turn t0 t1 */
  readonly arc?: readonly number[];
}

function linesFrom(runs: readonly Run[]): Linework {
  const xys = runs.map((r) => {
    if (r.points) return r.points;
    const [cx, cy, rx, ry, turn, t0, t1] = r.arc as [number, number, number, number, number, number, number];
    return Array.from({ length: 25 }, (_, k) => arcPoint({ cx, cy, rx, ry, turn }, t0 + ((t1 - t0) * k) / 24)).flat();
  });
  const start = [0];
  for (const xy of xys) start.push(start.at(-1)! + xy.length / 2);
  return {
    xy: Float64Array.from(xys.flat()),
    start: Uint32Array.from(start),
    kind: new Uint8Array(runs.length).fill(LineClass.sharp),
    component: Uint32Array.from(runs, (_, i) => i),
    edge: Int32Array.from(runs, (_, i) => i),
    arc: Float64Array.from(runs.flatMap((r) => r.arc ?? new Array<number>(ARC_STRIDE).fill(0))),
  };
}

const visible = (l: Linework) => lengthsOf(l).visible.sharp;
const box = (x0: number, y0: number, x1: number, y1: number): Outline => ({ kind: 'box', from: [x0, y0], to: [x1, y1] });
const clip = (runs: readonly Run[], outline: Outline | undefined, gaps: readonly Gap[] = []) =>
  clipLines(linesFrom(runs), new Region(outline && ringOf(outline), gaps));

/** A deterministic stream of numbers 0…1 (Lehmer, Park and Miller 1988). */
function numbers(seed: number): () => number {
  let s = seed;
  return () => (s = (s * 16807) % 2147483647) / 2147483647;
}

/** Plain clipping: a line is walked in small steps, and each is asked by itself. */
function walkedLength(runs: readonly Run[], ring: readonly number[]): number {
  const inside = (x: number, y: number) => {
    let turns = 0;
    for (let i = 0; i < ring.length; i += 2) {
      const j = (i + 2) % ring.length;
      const a = Math.atan2(ring[i + 1]! - y, ring[i]! - x);
      let d = Math.atan2(ring[j + 1]! - y, ring[j]! - x) - a;
      if (d > Math.PI) d -= 2 * Math.PI;
      if (d < -Math.PI) d += 2 * Math.PI;
      turns += d;
    }
    return Math.abs(turns) > Math.PI;
  };
  let sum = 0;
  const N = 4000;
  const walk = (at: (t: number) => readonly [number, number]) => {
    let before = at(0);
    for (let k = 1; k <= N; k++) {
      const now = at(k / N);
      const middle = at((k - 0.5) / N);
      if (inside(...middle)) sum += Math.hypot(now[0] - before[0], now[1] - before[1]);
      before = now;
    }
  };
  for (const r of runs) {
    if (r.arc) {
      const [cx, cy, rx, ry, turn, t0, t1] = r.arc as [number, number, number, number, number, number, number];
      walk((t) => arcPoint({ cx, cy, rx, ry, turn }, t0 + (t1 - t0) * t));
    } else
      for (let p = 0; p + 2 < r.points!.length; p += 2)
        walk((t) => [r.points![p]! + (r.points![p + 2]! - r.points![p]!) * t, r.points![p + 1]! + (r.points![p + 3]! - r.points![p + 1]!) * t]);
  }
  return sum;
}

describe('lines inside an outline', () => {
  test('a straight line is as long as the stretch inside', () => {
    expect(visible(clip([{ points: [-10, 3, 30, 3] }], box(0, 0, 20, 10)))).toBeCloseTo(20, 9);
    expect(visible(clip([{ points: [-10, 13, 30, 13] }], box(0, 0, 20, 10)))).toBe(0);
    expect(visible(clip([{ points: [5, 5, 8, 9] }], box(0, 0, 20, 10)))).toBe(5);
  });
  test('a line along the border belongs to what is inside', () => {
    expect(visible(clip([{ points: [-10, 10, 30, 10] }], box(0, 0, 20, 10)))).toBeCloseTo(20, 9);
  });
  test('a circle keeps its arc: half of it on one side of a line through its middle, exactly', () => {
    const half = clip([{ arc: [0, 0, 10, 10, 0, 0, 2 * Math.PI] }], box(-50, 0, 50, 50));
    expect(visible(half)).toBeCloseTo(10 * Math.PI, 9);
    expect(half.arc[2]).toBe(10);
  });
  test('a line that leaves and comes back is two, each with its own component and edge', () => {
    const u: Outline = {
      kind: 'free',
      points: [
        [0, 0],
        [30, 0],
        [30, 20],
        [20, 20],
        [20, 5],
        [10, 5],
        [10, 20],
        [0, 20],
      ],
    };
    const out = clip([{ points: [0, 90, 1, 90] }, { points: [-5, 10, 35, 10] }], u);
    expect(out.kind.length).toBe(2);
    expect([...out.component]).toEqual([1, 1]);
    expect([...out.edge]).toEqual([1, 1]);
    expect(Array.from(out.xy)).toEqual([0, 10, 10, 10, 20, 10, 30, 10].map((v) => expect.closeTo(v, 9)));
  });
  test('random lines, arcs and ellipses in random outlines agree with plain clipping', () => {
    const next = numbers(20261127);
    for (let round = 0; round < 12; round++) {
      const corners = 3 + Math.floor(next() * 6);
      // A star around the middle does not cross itself.
      const points = Array.from({ length: corners }, (_, i): [number, number] => {
        const [a, r] = [(2 * Math.PI * (i + 0.8 * next())) / corners, 15 + 45 * next()];
        return [50 + r * Math.cos(a), 50 + r * Math.sin(a)];
      });
      const runs: Run[] = [
        ...Array.from({ length: 6 }, () => ({ points: Array.from({ length: 6 }, () => 100 * next()) })),
        ...Array.from({ length: 4 }, () => ({
          arc: [30 + 40 * next(), 30 + 40 * next(), 5 + 30 * next(), 5 + 10 * next(), 3 * next(), 6 * next(), 6 * next() - 3],
        })),
        { arc: [50, 50, 25, 25, 0, 1, 1 + 2 * Math.PI] },
      ];
      const expected = walkedLength(runs, points.flat());
      expect(visible(clip(runs, { kind: 'free', points }))).toBeGreaterThan(expected - 0.6);
      expect(visible(clip(runs, { kind: 'free', points }))).toBeLessThan(expected + 0.6);
    }
  });
});

describe('an interrupted view', () => {
  const gaps: Gap[] = [{ axis: 'x', from: 20, to: 80 }];
  test('is shorter by what it leaves out', () => {
    const lines = clip([{ points: [0, 0, 100, 0] }, { points: [0, 8, 100, 8] }, { points: [0, 0, 0, 8] }, { points: [50, 0, 50, 8] }], undefined, gaps);
    expect(visible(lines)).toBeCloseTo(2 * 40 + 8, 9);
    expect(extentOf(lines, gaps)).toEqual([0, 0, 40, 8]);
  });
  test('of several gaps, also where they overlap, each is left out once', () => {
    const two: Gap[] = [
      { axis: 'x', from: 10, to: 30 },
      { axis: 'x', from: 25, to: 40 },
      { axis: 'y', from: 2, to: 6 },
    ];
    const lines = clip([{ points: [0, 0, 100, 0] }, { points: [100, 0, 100, 8] }], undefined, two);
    expect(visible(lines)).toBeCloseTo(70 + 4, 9);
    expect(extentOf(lines, two)).toEqual([0, 0, 70, 4]);
  });
  test('on paper its pieces stand a strip apart, and a place on paper means the true place', () => {
    const map = viewMapOf({ at: [200, 100], pivot: [0, 0], scale: 0.5, gaps, gapMm: 4 });
    expect(map.x(0)).toBe(200);
    expect(map.x(20)).toBe(210);
    expect(map.x(80)).toBe(214);
    expect(map.x(100)).toBe(224);
    expect(map.y(10)).toBe(95);
    for (const x of [-7, 0, 20, 50, 79, 80, 95]) expect(map.toView(map.toPaper([x, 3]))[0]).toBeCloseTo(x, 9);
  });
  test('its pivot may lie beyond a gap: that place stays', () => {
    const map = viewMapOf({ at: [200, 100], pivot: [90, 0], scale: 1, gaps });
    expect(map.x(90)).toBe(200);
    expect(map.x(0)).toBe(200 - 10 - 4 - 20);
  });
});

/** Two components: a square of 10 by 10 at the left, one at the right, 40 apart, one pixel a millimetre. */
const twoSquares = (): ViewResult => {
  const window = { minX: 0, maxY: 10, pixelMm: 1, width: 50, height: 10 };
  const component = new Int16Array(500).fill(-1);
  for (let j = 0; j < 10; j++) for (let i = 0; i < 50; i++) component[j * 50 + i] = i < 10 ? 0 : i >= 40 ? 1 : -1;
  return {
    lines: linesFrom([{ points: [0, 0, 10, 0, 10, 10, 0, 10, 0, 0] }, { points: [40, 0, 50, 0, 50, 10, 40, 10, 40, 0] }]),
    phantom: EMPTY_LINEWORK,
    caps: [{ component: 0, areaMm2: 96, loops: [Float64Array.of(0, 0, 10, 0, 10, 10, 0, 10), Float64Array.of(2, 2, 2, 4, 4, 4, 4, 2)] }],
    box: [0, 0, 50, 10],
    visibleArea: Float64Array.of(100, 100),
    visibleShare: Float64Array.of(1, 0.5),
    map: { window, component },
    pulls: [
      {
        component: 1,
        points: [
          [5, 5],
          [45, 5],
        ],
      },
    ],
    shading: null,
    uncut: [],
    unhatched: [],
  };
};

describe('the part of a view', () => {
  test('shows and counts only what lies inside', () => {
    const part = partOfView(twoSquares(), { within: box(-5, -5, 5, 30) });
    expect(part.box).toEqual([0, 0, 5, 10]);
    expect(Array.from(part.visibleArea)).toEqual([50, 0]);
    expect(Array.from(part.visibleShare)).toEqual([0.5, 0]);
    expect(part.pulls).toEqual([]);
    expect(visible(part.lines)).toBe(20);
  });
  test('cuts a cut face with its hole, and its area', () => {
    const [cap] = partOfView(twoSquares(), { within: box(-5, -5, 3, 30) }).caps;
    // 3 by 10 less half of the hole of 2 by 2; the loops are exact.
    expect(cap!.areaMm2).toBeCloseTo(28, 9);
    expect(cap!.loops.length).toBe(1);
  });
  test('a gap parts a cut face, and a pull line', () => {
    const part = partOfView(twoSquares(), { gaps: [{ axis: 'x', from: 5, to: 8 }] });
    expect(part.caps[0]!.areaMm2).toBeCloseTo(66, 9);
    expect(part.caps[0]!.loops.length).toBe(3);
    expect(part.pulls.map((p) => p.points)).toEqual([
      [
        [8, 5],
        [45, 5],
      ],
    ]);
    expect(Array.from(part.visibleArea)).toEqual([70, 100]);
  });
  test('is worked out once, and a view without borders is itself', () => {
    const result = twoSquares();
    const within = box(0, 0, 5, 5);
    expect(partOfView(result, { within })).toBe(partOfView(result, { within }));
    expect(partOfView(result, {})).toBe(result);
  });
});
