import { describe, expect, test } from 'vitest';
import type { Vec2 } from '../base/vector.ts';
import { frameFrom, namedFrame } from '../outline/directions.ts';
import { whyNoShape } from './cut-shape.ts';
import { cutFromLine, lineOfCut, snapCorner, turnedRound, type LineCut } from './section-line.ts';

const top = namedFrame('top');
const front = namedFrame('front');
const cut = (points: readonly Vec2[], seen = top): LineCut => {
  const c = cutFromLine(points, seen);
  if ('wrong' in c) throw new Error(c.wrong);
  if (c.shape) expect(whyNoShape(c.shape, c.plane.normal)).toBeUndefined();
  return c;
};
const closeTo = (a: readonly number[], b: readonly number[]) =>
  // Whole lists: one that is too short is not near.
  expect(Array.from(a)).toEqual(Array.from(b, (v) => expect.closeTo(v, 9)));
const frameIs = (c: LineCut, f: typeof front) => (closeTo(c.frame.right, f.right), closeTo(c.frame.up, f.up), closeTo(c.frame.toward, f.toward));
const BOX = [-50, -30, 50, 30] as const;

// The reader stands to the right of the walk: common practice is free in this, arrows say which (ISO 128-40).
describe('a cutting line on a view', () => {
  test('level on the plan, drawn to the right: the section is seen from the front', () => {
    const c = cut([
      [-40, 5],
      [40, 5],
    ]);
    frameIs(c, front);
    closeTo(c.plane.normal, [0, -1, 0]);
    expect(c.plane.d).toBeCloseTo(-5, 9);
  });
  test('upright on the front view, drawn up: the section is seen from the right', () => {
    frameIs(
      cut(
        [
          [10, -20],
          [10, 20],
        ],
        front,
      ),
      namedFrame('right'),
    );
  });
  test('square steps one way make a stepped cut', () => {
    const c = cut([
      [-40, 3],
      [0, 3],
      [0, 12],
      [40, 12],
    ]);
    expect(c.shape).toEqual({
      kind: 'stepped',
      across: [1, 0, 0],
      steps: [
        { from: -40, d: -3 },
        { from: 0, d: -12 },
      ],
    });
  });
  test('a square bend towards the reader makes a half section of the side walked on', () => {
    const c = cut([
      [-40, 0],
      [3, 0],
      [3, -30],
    ]);
    expect(c.shape!.kind).toBe('half');
    // What lies at x < 3 is taken away.
    expect(c.shape).toMatchObject({ from: -3 });
    closeTo((c.shape as { across: readonly number[] }).across, [-1, 0, 0]);
  });
  test('a corner on a straight stretch changes nothing', () => {
    const straight: Vec2[] = [
      [-40, 5],
      [40, 5],
    ];
    expect(cut([straight[0]!, [1, 5], straight[1]!])).toEqual(cut(straight));
  });
  test('steps that go back and needless corners are refused with a sentence', () => {
    for (const bad of [
      [
        [0, 0],
        [40, 0],
        [40, 10],
        [10, 10],
      ],
      [
        [0, 0],
        [0, 0],
      ],
      [
        [0, 0],
        [40, 0],
        [1, 0.5],
      ],
      [
        [0, 0],
        [10, 0],
        [20, 7],
        [30, 0],
      ],
    ] as Vec2[][])
      expect(cutFromLine(bad, top)).toHaveProperty('wrong');
  });
  test('points near level, upright or square snap, others stay', () => {
    closeTo(snapCorner([[0, 0]], [10, 0.5]), [10, 0]);
    closeTo(snapCorner([[0, 0]], [10, 5]), [10, 5]);
    closeTo(
      snapCorner(
        [
          [0, 0],
          [10, 10],
        ],
        [4, 15.5],
      ),
      [4.25, 15.75],
    );
  });
});

describe('the line that a section has in other views', () => {
  const slanted = frameFrom([1, -2, 0.5], [0, 0, 1]);
  test.each<[string, readonly Vec2[]]>([
    [
      'straight',
      [
        [-50, 5],
        [50, 5],
      ],
    ],
    [
      'stepped',
      [
        [-50, 0],
        [0, 0],
        [0, 12],
        [20, 12],
        [20, -7],
        [50, -7],
      ],
    ],
    [
      'half',
      [
        [-50, 0],
        [3, 0],
        [3, -30],
      ],
    ],
    [
      'bent up',
      [
        [-50, 0],
        [10, 0],
        [40, 30],
      ],
    ],
    [
      'bent down',
      [
        [-50, 0],
        [10, 0],
        [40, -30],
      ],
    ],
    [
      'bent, the level stretch second',
      [
        [-40, 30],
        [-10, 0],
        [50, 0],
      ],
    ],
  ])('%s: drawn, kept and shown again it is the same, in any view', (_, points) => {
    for (const seen of [top, front, slanted]) {
      const c = cut(points, seen);
      const back = lineOfCut({ ...c.plane, shape: c.shape }, seen, BOX)!;
      const same = back.points[0]![0] < back.points.at(-1)![0] ? back.points : [...back.points].reverse();
      expect(same).toHaveLength(points.length);
      // Ends run to the box: a slanted stretch keeps its direction.
      same.forEach((p, i) => {
        const inner = i > 0 && i < points.length - 1;
        if (inner) closeTo(p, points[i]!);
        const [a, b] = [points[Math.max(0, i - 1)]!, points[Math.max(1, i)]!];
        const [q, r] = [same[Math.max(0, i - 1)]!, same[Math.max(1, i)]!];
        expect((b[0] - a[0]) * (r[1] - q[1]) - (b[1] - a[1]) * (r[0] - q[0])).toBeCloseTo(0, 6);
      });
      // The reader stands to the right of the walk.
      const forward = same === back.points;
      const [x, y] = [same[1]![0] - same[0]![0], same[1]![1] - same[0]![1]];
      const reader = forward ? back.readers[0] : back.readers[1];
      if (reader) expect(x * reader[1] - y * reader[0]).toBeLessThan(0);
    }
  });
  test('turned round, the line is the same and the reader stands on the other side', () => {
    for (const points of [
      [
        [-50, 0],
        [0, 0],
        [0, 12],
        [50, 12],
      ],
      [
        [-50, 0],
        [10, 0],
        [40, 30],
      ],
    ] as Vec2[][]) {
      const c = cut(points);
      const there = lineOfCut({ ...c.plane, shape: c.shape }, top, BOX)!;
      const r = turnedRound(c);
      const back = lineOfCut({ ...r.plane, shape: r.shape }, top, BOX)!;
      back.points.forEach((p, i) => closeTo(p, there.points[i]!));
      back.readers.forEach((p, i) =>
        closeTo(
          p!,
          there.readers[i]!.map((v) => -v),
        ),
      );
      const twice = turnedRound(r);
      closeTo(twice.frame.right, c.frame.right);
      closeTo(twice.plane.normal, c.plane.normal);
    }
  });
  test('is not there in a view that does not see the cut edge-on', () => {
    const c = cut([
      [-50, 5],
      [50, 5],
    ]);
    expect(lineOfCut(c.plane, front, BOX)).toBeUndefined();
    expect(lineOfCut(c.plane, slanted, BOX)).toBeUndefined();
  });
});
