import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { CurveKind, EdgeClass, SurfaceKind } from '../assembly/part-geometry.ts';
import type { Vec2 } from '../base/vector.ts';
import { featuresOf } from '../features/part-features.ts';
import { bentStrip } from '../testing/bent.ts';
import { assemblyOf, box } from '../testing/shapes.ts';
import { computeView } from '../views/compute-view.ts';
import { bendMark, bendRows, listedBends } from './bend-table.ts';
import { piecesOf } from './curves.ts';
import { flatPart, laidPart } from './flat-part.ts';

const DEG = Math.PI / 180;
const onCircle = (x: number, y: number, r: number, from: number, to: number, n: number): Vec2[] =>
  Array.from({ length: n + 1 }, (_, i) => [x + r * Math.cos((from + ((to - from) * i) / n) * DEG), y + r * Math.sin((from + ((to - from) * i) / n) * DEG)]);

describe('lines and arcs of an outline', () => {
  test('a plate with one rounded corner: four lines and the arc, with its centre and radius', () => {
    const pieces = piecesOf([[0, 0], [100, 0], ...onCircle(80, 40, 20, 0, 90, 8), [0, 60]]);
    const arcs = pieces.filter((p) => p.kind === 'arc');
    expect(pieces.filter((p) => p.kind === 'line')).toHaveLength(4);
    expect(arcs).toHaveLength(1);
    expect(arcs[0]).toMatchObject({ left: true, whole: false });
    expect(arcs[0]!.radius).toBeCloseTo(20, 6);
    expect(arcs[0]!.centre[0]).toBeCloseTo(80, 6);
  });

  test('points along a straight edge make no more lines of it, also where the outline begins', () => {
    const pieces = piecesOf([
      [50, 0],
      [75, 0],
      [100, 0],
      [100, 60],
      [60, 60],
      [0, 60],
      [0, 0],
      [25, 0],
    ]);
    expect(pieces.map((p) => p.kind)).toEqual(['line', 'line', 'line', 'line']);
    expect(pieces.reduce((s, p) => s + p.to - p.from, 0)).toBe(8);
  });

  test('a hole is one arc, whole, and a recess', () => {
    const [first, ...rest] = onCircle(5, 7, 4, 360, 0, 24);
    expect(piecesOf(rest).map((p) => ({ ...p, centre: undefined, radius: undefined }))).toMatchObject([{ kind: 'arc', whole: true, left: false }]);
    expect(first).toBeDefined();
  });

  test('whatever arc stands between lines, it is found whole (property)', () => {
    fc.assert(
      fc.property(fc.double({ min: 2, max: 50, noNaN: true }), fc.double({ min: 40, max: 170, noNaN: true }), fc.integer({ min: 5, max: 30 }), (r, turn, n) => {
        const arc = onCircle(0, 0, r, 0, turn, n);
        const end = arc.at(-1)!;
        // A wedge: from the centre out, along the arc, and back.
        const pieces = piecesOf([[-3 * r, -r], ...arc, [end[0] - 3 * r, end[1] - 0.1 * r]]);
        const [found] = pieces.filter((p) => p.kind === 'arc');
        expect(found!.radius).toBeCloseTo(r, 4);
        expect(found!.to - found!.from).toBe(n);
      }),
      { seed: 5, numRuns: 200 },
    );
  });
});

describe('a flat pattern as a part', () => {
  const channel = bentStrip([{ length: 40, angle: 90 * DEG, radius: 3 }, { length: 60, angle: 90 * DEG, radius: 3 }, { length: 40 }], 2, 120);

  test('its volume is area × thickness, its faces are closed, and it carries its bend lines as narrow edges', () => {
    const { pattern, geometry } = laidPart(channel)!;
    expect(geometry.volumeMm3).toBeCloseTo(pattern.areaMm2 * 2, 6);
    // By the divergence theorem over its own triangles.
    let v = 0;
    const { positions: p, triangles: t } = geometry;
    for (let i = 0; i < t.length; i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((j) => p[t[i + k]! * 3 + j]!));
      v += (a![0]! * (b![1]! * c![2]! - b![2]! * c![1]!) + a![1]! * (b![2]! * c![0]! - b![0]! * c![2]!) + a![2]! * (b![0]! * c![1]! - b![1]! * c![0]!)) / 6;
    }
    expect(v).toBeCloseTo(pattern.areaMm2 * 2, 3);
    expect(
      [...geometry.edgeClass].filter((c, e) => c === EdgeClass.tangent && geometry.edgeFaces[2 * e] === 1 && geometry.edgeFaces[2 * e + 1] === 1),
    ).toHaveLength(2);
  });

  test('round holes have walls that are cylinders, and rims that are circles', () => {
    const hole = onCircle(20, 15, 5, 360, 0, 32).slice(1);
    const g = flatPart({
      thicknessMm: 2,
      sizeMm: [60, 30],
      areaMm2: 60 * 30 - Math.PI * 25,
      contours: [
        [
          [0, 0],
          [60, 0],
          [60, 30],
          [0, 30],
        ],
        hole,
      ],
      bends: [],
    });
    expect([...g.faceKind].filter((k) => k === SurfaceKind.cylinder)).toHaveLength(1);
    const rims = [...g.edgeCurve].flatMap((c, e) => (c === CurveKind.circle ? [g.edgeParams[e * 7 + 6]!] : []));
    expect(rims.map((r) => Math.round(r * 1e6) / 1e6)).toEqual([5, 5]);
    expect(featuresOf(g).rounds.map((r) => r.inward)).toEqual([true]);
  });

  test('a bend line stops where a hole lies across it', () => {
    const hole: Vec2[] = [
      [25, 10],
      [25, 20],
      [35, 20],
      [35, 10],
    ];
    const bend = {
      angle: Math.PI / 2,
      radiusMm: 3,
      lengthMm: 30,
      allowanceMm: 5,
      up: true,
      line: [
        [30, 0],
        [30, 30],
      ] as const,
    };
    const g = flatPart({
      thicknessMm: 1,
      sizeMm: [60, 30],
      areaMm2: 1700,
      contours: [
        [
          [0, 0],
          [60, 0],
          [60, 30],
          [0, 30],
        ],
        hole,
      ],
      bends: [bend],
    });
    const stretches = [...g.edgeFaces]
      .flatMap((f, i) => (i % 2 === 0 && f === 1 && g.edgeFaces[i + 1] === 1 ? [i / 2] : []))
      .map((e) => [0, 1].map((k) => g.positions[g.edgeVertices[g.edgeStart[e]! + k]! * 3 + 1]!));
    expect(stretches).toEqual([
      [0, 10],
      [20, 30],
    ]);
  });

  test('a view laid flat is as large as the pattern, wherever the part stands in the model', () => {
    const { pattern } = laidPart(channel)!;
    const { assembly, geometries } = assemblyOf([
      { name: 'Channel', geometry: channel, at: [500, -300, 70] },
      { name: 'Block', geometry: box([0, 0, 0], [10, 10, 10]) },
    ]);
    const spec = {
      frame: { right: [1, 0, 0], up: [0, 1, 0], toward: [0, 0, 1] },
      hidden: false,
      tangent: true,
      shaded: false,
      cut: null,
      spread: null,
      laid: true as const,
    } as const;
    const { box: b, visibleArea } = computeView(assembly, geometries, { ...spec, leftOut: [1] });
    expect([b[2] - b[0], b[3] - b[1]].map((x) => Math.round(x * 1e6))).toEqual(pattern.sizeMm.map((x) => Math.round(x * 1e6)));
    expect(visibleArea[0]! / pattern.areaMm2).toBeCloseTo(1, 2);
    // What is no sheet part has no pattern: nothing is shown.
    expect(computeView(assembly, geometries, { ...spec, leftOut: [0] }).lines.kind).toHaveLength(0);
  });

  test('its features go with those of the part', () => {
    const laid = featuresOf(channel).laid!;
    expect(laid.bends).toHaveLength(2);
    expect(laid.features.box[3]).toBeCloseTo(laid.sizeMm[0], 6);
    expect(featuresOf(box([0, 0, 0], [9, 9, 9])).laid).toBeUndefined();
  });
});

describe('the table of bends', () => {
  test('short flanges are bent first; letters stay with the bends, angles in degrees', () => {
    const { pattern } = laidPart(bentStrip([{ length: 60, angle: 90 * DEG, radius: 4 }, { length: 100, angle: -45 * DEG, radius: 2 }, { length: 20 }], 2, 50))!;
    const listed = listedBends(pattern.bends, pattern.sizeMm);
    const [first] = [...listed].sort((a, b) => a.order - b.order);
    expect(Math.round((first!.angle / DEG) * 10) / 10).toBe(45);
    const rows = bendRows(listed);
    expect(rows[0]).toEqual(['Bend', 'Order', 'Direction', 'Angle', 'Inner radius', 'Allowance']);
    expect(rows.slice(1).map((r) => r[1])).toEqual(['1', '2']);
    expect(rows[1]![3]).toBe('45°');
    // One up, one down: they turn against each other.
    expect(new Set(rows.slice(1).map((r) => r[2]))).toEqual(new Set(['up', 'down']));
    expect(bendMark(first!)).toMatch(/^[AB] (up|down) 45°$/);
  });
});
