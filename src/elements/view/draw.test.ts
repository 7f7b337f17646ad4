import { describe, expect, test } from 'vitest';
import { BLANK_DRAWING, type ViewRecord } from '../../core/document/records.ts';
import type { MaterialFamily } from '../../core/ledger/materials.ts';
import { namedFrame, type DirectionName } from '../../core/outline/directions.ts';
import { ARC_STRIDE, EMPTY_LINEWORK, HIDDEN, LineClass, type Linework } from '../../core/outline/linework.ts';
import { paperByName, styleFor } from '../../core/sheet/paper.ts';
import { assemblyOf, box, cylinder } from '../../core/testing/shapes.ts';
import { pointsOfPath } from '../../core/testing/paths.ts';
import { computeView, type ViewResult } from '../../core/views/compute-view.ts';
import { specOf } from '../../core/views/view-spec.ts';
import { componentsOf } from '../../core/assembly/components.ts';
import { viewRecord } from '../../core/testing/records.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { drawView, labelOf, viewRect } from './draw.ts';

const style = styleFor(paperByName('A3')!);
const view = viewRecord({ at: [100, 80], pivot: [10, 20], hidden: true });
const context = { cuts: [], scaleInLabel: false, families: [] };
const strokes = (items: readonly DisplayItem[]) => items.flatMap((i) => (i.kind === 'stroke' ? [i] : []));
const near = (a: readonly number[], b: readonly number[], digits = 2) =>
  // Whole lists: one that is too short is not near.
  expect(Array.from(a)).toEqual(Array.from(b, (v) => expect.closeTo(v, digits)));

/** A result with lines made by hand, and nothing else in it. */
function resultOf(
  runs: readonly { kind: number; component?: number; points?: readonly number[]; arc?: readonly number[] }[],
  more: Partial<ViewResult> = {},
): ViewResult {
  const starts = [0];
  for (const r of runs) starts.push(starts[starts.length - 1]! + (r.points?.length ?? 4) / 2);
  const lines: Linework = {
    xy: Float64Array.from(runs.flatMap((r) => r.points ?? [0, 0, 0, 0])),
    start: Uint32Array.from(starts),
    kind: Uint8Array.from(runs.map((r) => r.kind)),
    component: Uint32Array.from(runs.map((r) => r.component ?? 0)),
    edge: new Int32Array(runs.length),
    arc: Float64Array.from(runs.flatMap((r) => r.arc ?? new Array<number>(ARC_STRIDE).fill(0))),
  };
  const window = { minX: 0, maxY: 0, pixelMm: 1, width: 1, height: 1 } as ViewResult['map']['window'];
  return {
    lines,
    phantom: EMPTY_LINEWORK,
    caps: [],
    box: [0, 0, 40, 30],
    visibleArea: new Float64Array(2),
    visibleShare: new Float64Array(2),
    map: { window, component: Int16Array.of(-1) },
    pulls: [],
    shading: null,
    uncut: [],
    unhatched: [],
    ...more,
  };
}
/** Where a point of the view lies on the sheet: scale 1:2 about (10, 20), which lies at (100, 80). */
const paper = (x: number, y: number): [number, number] => [100 + (x - 10) / 2, 80 - (y - 20) / 2];

describe('lines on paper', () => {
  test('what is to the right stays right, what is up stays up', () => {
    const { items } = drawView(view, resultOf([{ kind: LineClass.sharp, points: [10, 20, 30, 20, 30, 24] }]), style, context);
    expect(pointsOfPath(strokes(items)[0]!.d)).toEqual([[paper(10, 20), paper(30, 20), paper(30, 24)]]);
  });
  // Half axes 8 and 3, turned by 30°: parameters against the clock in the view.
  test.each([
    ['a quarter against the clock', 0, Math.PI / 2],
    ['a quarter with the clock', Math.PI / 2, 0],
    ['three quarters', 0.3, 0.3 + 1.5 * Math.PI],
    ['a whole turn', 0, 2 * Math.PI],
    ['the upper half', 0, Math.PI],
  ])('an arc bulges the way it does in the view: %s', (_, from, to) => {
    const turn = Math.PI / 6;
    const { items } = drawView(view, resultOf([{ kind: LineClass.outline, arc: [12, 7, 8, 3, turn, from, to] }]), style, context);
    const [curve] = pointsOfPath(strokes(items)[0]!.d, 32);
    const at = (t: number) => {
      const [x, y] = [8 * Math.cos(t), 3 * Math.sin(t)];
      return paper(12 + x * Math.cos(turn) - y * Math.sin(turn), 7 + x * Math.sin(turn) + y * Math.cos(turn));
    };
    // Every place along the arc is passed, in its order.
    let last = -1;
    for (let i = 0; i <= 8; i++) {
      const [x, y] = at(from + ((to - from) * i) / 8);
      const found = curve!.findIndex((p, k) => k > last && Math.hypot(p[0] - x, p[1] - y) < 0.03);
      expect([i, found > last]).toEqual([i, true]);
      last = found;
    }
  });
  test('hidden lines are narrow and dashed and come first; tangent edges narrow; seen ones wide', () => {
    const line = (kind: number, y: number) => ({ kind, points: [0, y, 9, y] });
    const { items } = drawView(
      view,
      resultOf([
        line(LineClass.sharp, 1),
        line(LineClass.tangent, 2),
        line(LineClass.sharp | HIDDEN, 3),
        line(LineClass.outline, 4),
        line(LineClass.outline | HIDDEN, 5),
      ]),
      style,
      context,
    );
    expect(strokes(items).map((s) => [s.width, s.dash, pointsOfPath(s.d).map((p) => p[0]![1])])).toEqual([
      [style.narrow, [3, 1], [paper(0, 3)[1], paper(0, 5)[1]]],
      [style.narrow, undefined, [paper(0, 2)[1]]],
      [style.wide, undefined, [paper(0, 1)[1], paper(0, 4)[1]]],
    ]);
  });
  test('each component has its own path: it can be picked', () => {
    const run = (component: number, y: number) => ({ kind: LineClass.sharp, component, points: [0, y, 9, y] });
    const { items } = drawView(view, resultOf([run(1, 1), run(0, 2), run(1, 3)]), style, context);
    expect(strokes(items).map((s) => [s.source?.component, pointsOfPath(s.d).length])).toEqual([
      [0, 1],
      [1, 2],
    ]);
  });
  test('a view that is not computed holds its place', () => {
    expect(viewRect(view, undefined)).toEqual([80, 65, 40, 30]);
    expect(drawView(view, undefined, style, context).items).toEqual([]);
    expect(viewRect(view, { box: [0, 0, 40, 30] })).toEqual([95, 75, 20, 15]);
  });
});

describe('the shaded picture', () => {
  test.each([
    ['tall', 20, 300],
    ['wide', 300, 20],
  ])('of a %s thing covers it on paper, pixel for pixel', (_, width, height) => {
    const { assembly, geometries } = assemblyOf([{ name: 'Bar', geometry: box([0, 0, 0], [width, 5, height]) }]);
    const shaded: ViewRecord = { ...view, shaded: true, pivot: [0, 0], at: [50, 200] };
    const result = computeView(assembly, geometries, specOf(shaded, { drawing: BLANK_DRAWING }, componentsOf(assembly)));
    const image = drawView(shaded, result, style, context).items.find((i) => i.kind === 'image')!;
    const w = result.shading!.window;
    // The bar's corners lie where the picture's pixels of it lie.
    expect(image.x).toBeLessThanOrEqual(50);
    expect(image.y).toBeLessThanOrEqual(200 - height / 2);
    expect(image.x + image.width).toBeGreaterThanOrEqual(50 + width / 2);
    expect(image.y + image.height).toBeGreaterThanOrEqual(200);
    near([image.x, image.y], [50 + w.minX / 2, 200 - w.maxY / 2], 6);
    near([image.width, image.height], [(w.width * w.pixelMm) / 2, (w.height * w.pixelMm) / 2], 6);
    // 300 dpi on paper or finer, and the pixels are square.
    expect(w.pixelMm / 2).toBeLessThanOrEqual(25.4 / 300 + 1e-9);
    expect(Math.max(w.width, w.height) / Math.min(w.width, w.height)).toBeGreaterThan(5);
  });
});

describe('a picture that is not there', () => {
  test('leaves the lines to stand alone', () => {
    const items = drawView({ ...view, shaded: true }, resultOf([{ kind: LineClass.sharp, points: [0, 0, 9, 0] }]), style, context).items;
    expect(items.map((i) => i.kind)).toEqual(['stroke']);
    const shading = { window: { minX: 0, maxY: 0, pixelMm: 1, width: 1, height: 1 }, png: new Uint8Array() };
    expect(drawView(view, resultOf([], { shading }), style, context).items).toEqual([]);
  });
});

describe('a cutting plane on its parent view', () => {
  const { assembly, geometries } = assemblyOf([{ name: 'Block', geometry: box([0, 0, 0], [40, 20, 30]) }]);
  const parent = (name: DirectionName): { record: ViewRecord; result: ViewResult } => {
    const record: ViewRecord = { ...view, ...namedFrame(name), hidden: false, pivot: [0, 0] };
    return { record, result: computeView(assembly, geometries, specOf(record, { drawing: BLANK_DRAWING }, componentsOf(assembly))) };
  };
  const section = (normal: readonly [number, number, number], d: number): ViewRecord => ({
    ...view,
    id: 'view:2',
    cut: { normal, d, letter: 'B', keptWhole: [], shownIn: 'view:1' },
  });
  const drawn = (on: DirectionName, normal: readonly [number, number, number], d: number) => {
    const { record, result } = parent(on);
    const { items } = drawView(record, result, style, { ...context, cuts: [section(normal, d)] });
    const heads = items.flatMap((i) => (i.kind === 'fill' ? [pointsOfPath(i.d)[0]!] : []));
    const [plane] = strokes(items).filter((s) => s.dash?.length === 4);
    return { heads, plane: pointsOfPath(plane!.d)[0]!, letters: items.flatMap((i) => (i.kind === 'text' ? [i] : [])), items };
  };
  // The reader stands where the normal points; arrows show the way he looks (ISO 128-40).
  test.each([
    ['top', [0, -1, 0], -8, [0, -1]],
    ['top', [0, 1, 0], 8, [0, 1]],
    ['top', [1, 0, 0], 15, [-1, 0]],
    ['top', [-1, 0, 0], -15, [1, 0]],
    ['front', [0, 0, 1], 10, [0, 1]],
    ['right', [0, 1, 0], 8, [-1, 0]],
  ] as const)('seen from the %s, normal %j at %d: arrows point along %j on paper', (on, normal, d, way) => {
    const { heads, letters } = drawn(on, normal, d);
    expect(heads).toHaveLength(2);
    for (const [tip, a, b] of heads) {
      const back = [(a![0] + b![0]) / 2, (a![1] + b![1]) / 2];
      near([(tip![0] - back[0]!) / 3.5, (tip![1] - back[1]!) / 3.5], way);
    }
    // Letters stand on the reader's side of the arrows.
    expect(letters.map((l) => l.text)).toEqual(['B', 'B']);
    letters.forEach((l, i) => {
      const tip = heads[i]![0]!;
      expect((l.x - tip[0]) * way[0] + (l.y - tip[1]) * way[1]).toBeLessThan(-8);
      // The middle of its capitals lies 0.8 of their height past the arrow's end, 9 mm from the tip.
      near([l.x, l.y - style.letter / 2], [tip[0] - way[0] * (9 + 0.8 * style.letter), tip[1] - way[1] * (9 + 0.8 * style.letter)]);
    });
  });
  test('the line lies where the plane is, and runs 7 mm past the view at both ends', () => {
    const { plane } = drawn('top', [0, -1, 0], -8);
    // Block 40 × 20 on the plan at 1:2, its corner at (100, 80): the plane y = 8 lies 4 mm up.
    expect(plane.map((p) => p[1])).toEqual([76, 76]);
    near(
      plane.map((p) => p[0]).sort((a, b) => a - b),
      [100 - 7, 100 + 20 + 7],
    );
  });
  test('its ends are wide', () => {
    const { items } = drawn('top', [0, -1, 0], -8);
    const ends = strokes(items).filter((s) => s.width === style.wide && pointsOfPath(s.d)[0]!.every((p) => p[1] === 76));
    expect(ends.map((s) => Math.abs(pointsOfPath(s.d)[0]![0]![0] - pointsOfPath(s.d)[0]![1]![0]))).toEqual([6, 6]);
  });
});

describe('pull lines', () => {
  const pulled = (lines: boolean) => {
    const { assembly, geometries } = assemblyOf([
      { name: 'Base', geometry: box([0, 0, 0], [40, 20, 10]) },
      { name: 'Pin', geometry: cylinder(4, 20), at: [20, 10, 10] },
    ]);
    const record: ViewRecord = { ...view, hidden: false, pivot: [0, 0], spread: 'spread:1', pullLines: lines };
    const spread = { type: 'spread', id: 'spread:1', name: '', pulls: [{ components: ['Pin'], direction: [0, 0, 1], distanceMm: 60 }] } as const;
    const result = computeView(assembly, geometries, specOf(record, { drawing: BLANK_DRAWING, 'spread:1': spread }, componentsOf(assembly)));
    return strokes(drawView(record, result, style, context).items).filter((s) => s.dash?.length === 4);
  };
  test('run from where the part sat to where it is, and end at its edge', () => {
    const [line] = pulled(true);
    const [from, to] = pointsOfPath(line!.d)[0]!;
    // From the middle of its seat, at 20, to the foot of the pin, at 70; upright on paper, 1:2.
    near([from![0], to![0]], [110, 110], 1);
    near([from![1], to![1]], [80 - 10, 80 - 35], 0);
  });
  test('are left out where nobody wants them', () => {
    expect(pulled(false)).toEqual([]);
  });

  /** Pixels of 2 mm over 40 × 40 mm; the band from y = 10 to y = 20 is covered. */
  const window = { minX: 0, maxY: 40, pixelMm: 2, width: 20, height: 20 };
  const map = { window, component: Int16Array.from({ length: 400 }, (_, i) => (Math.floor(i / 20) >= 10 && Math.floor(i / 20) < 15 ? 0 : -1)) };
  const flat = (...points: [number, number][]) => ({ component: 0, points });
  const drawn = (pulls: readonly { component: number; points: [number, number][] }[]) =>
    strokes(
      drawView({ ...view, pivot: [0, 0], pullLines: true }, resultOf([], { map, pulls: pulls as unknown as ViewResult['pulls'] }), style, context).items,
    ).flatMap((s) => pointsOfPath(s.d));
  test('stop where a component lies over them and go on behind it', () => {
    const [below, above, ...none] = drawn([flat([10.5, 0], [10.5, 36])]);
    expect(none).toEqual([]);
    // From 0 to the band at 10, from 20 on to 36, to the nearest step of 2 mm; on paper 1:2 upward from 80.
    expect([below![0]![1], below![1]![1]]).toEqual([80, 75]);
    expect([above![0]![1], above![1]![1]]).toEqual([69, 62]);
    expect([below![0]![0], above![1]![0]]).toEqual([105.25, 105.25]);
  });
  test('run along every leg of a way with a corner', () => {
    expect(drawn([flat([2, 24], [2, 36], [30, 36])])).toEqual([
      [
        [101, 68],
        [101, 62],
      ],
      [
        [101, 62],
        [115, 62],
      ],
    ]);
  });
  test('are drawn once where two run alike, and not at all where they are shorter than 1 mm', () => {
    expect(drawn([flat([2, 24], [2, 36]), flat([2, 24], [2, 36])])).toHaveLength(1);
    expect(drawn([flat([2, 36], [2, 37.5])])).toEqual([]);
    expect(drawn([flat([2, 20.5], [2, 19.5], [2, 2])])).toHaveLength(1);
  });
});

describe('what stands under a view', () => {
  const section: ViewRecord = { ...view, label: true, cut: { normal: [0, -1, 0], d: 0, letter: 'A', keptWhole: [], shownIn: null } };
  test.each([
    [view, false, ''],
    [view, true, '(1:2)'],
    [{ ...view, label: true, detail: { of: null, letter: 'B' } }, false, 'B (1:2)'],
    [{ ...view, detail: { of: null, letter: 'B' } }, false, ''],
    [{ ...section, detail: { of: 'view:a', letter: 'C' } }, false, 'C (1:2)'],
    [{ ...view, label: true }, false, 'Front'],
    [{ ...view, label: true }, true, 'Front (1:2)'],
    [section, false, 'A–A (1:2)'],
    [{ ...section, label: false }, true, '(1:2)'],
  ])('%#', (v, scales, text) => {
    expect(labelOf(v, scales)).toBe(text);
  });
  test('in the middle below it, sections in larger letters', () => {
    const result = resultOf([{ kind: LineClass.sharp, points: [0, 0, 40, 0] }]);
    const label = (v: ViewRecord) => drawView(v, result, style, context).items.find((i) => i.kind === 'text');
    expect(label(section)).toMatchObject({ x: 105, y: 90 + 9, height: style.letter, anchor: 'middle' });
    expect(label({ ...view, label: true })).toMatchObject({ height: style.item });
  });
});

describe('cuts on paper', () => {
  const { assembly, geometries } = assemblyOf([
    { name: 'Block', geometry: box([0, 0, 0], [40, 20, 30]) },
    { name: 'Post', geometry: box([40, 0, 0], [50, 20, 30]) },
  ]);
  const components = componentsOf(assembly);
  const cutView = (cut: Partial<NonNullable<ViewRecord['cut']>>): ViewRecord => ({
    ...view,
    hidden: false,
    pivot: [0, 0],
    cut: { normal: [0, -1, 0], d: -10, letter: 'A', keptWhole: [], shownIn: null, ...cut },
  });
  const drawn = (v: ViewRecord, families: readonly MaterialFamily[] = ['metal', 'metal']) =>
    drawView(v, computeView(assembly, geometries, specOf(v, { drawing: BLANK_DRAWING }, components)), style, { ...context, families });

  test('each cap is hatched inside its outline, the two differently', () => {
    const hatches = strokes(drawn(cutView({})).items).filter((s) => s.width === style.narrow && pointsOfPath(s.d).length > 5);
    expect(hatches.map((h) => h.source?.component)).toEqual([0, 1]);
    const box = [
      [100, 65, 120, 80],
      [120, 65, 125, 80],
    ];
    const slopes = hatches.map((h, i) => {
      for (const [x, y] of pointsOfPath(h.d).flat()) {
        expect(x >= box[i]![0]! - 0.01 && x <= box[i]![2]! + 0.01 && y >= box[i]![1]! - 0.01 && y <= box[i]![3]! + 0.01).toBe(true);
      }
      const [a, b] = pointsOfPath(h.d).sort(
        (p, q) => Math.hypot(q[1]![0] - q[0]![0], q[1]![1] - q[0]![1]) - Math.hypot(p[1]![0] - p[0]![0], p[1]![1] - p[0]![1]),
      )[0]!;
      return Math.round((b![1] - a![1]) / (b![0] - a![0]));
    });
    // 45° one way and the other.
    expect(slopes.sort()).toEqual([-1, 1]);
  });
  test('hatching moves with its view', () => {
    const [here, there] = [cutView({}), { ...cutView({}), at: [133.3, 41.7] as const }].map((v) =>
      strokes(drawn(v).items).find((s) => s.source?.component === 0 && s.width === style.narrow)!,
    );
    const [a, b] = [pointsOfPath(here!.d), pointsOfPath(there!.d)];
    expect(b.length).toBe(a.length);
    a.forEach((l, i) => l.forEach((p, j) => near([b[i]![j]![0] - p[0], b[i]![j]![1] - p[1]], [33.3, -38.3], 1)));
  });
  test('plastic is crossed, glass is broken', () => {
    const pens = (family: MaterialFamily) =>
      strokes(drawn(cutView({}), [family, 'metal']).items).find((s) => s.source?.component === 0 && s.width === style.narrow)!;
    expect(pointsOfPath(pens('plastic').d).length).toBeGreaterThan(1.7 * pointsOfPath(pens('metal').d).length);
    expect([pens('glass').dash, pens('metal').dash]).toEqual([[3, 1.5], undefined]);
  });
  test('a half section is divided by a centreline that runs 3 mm past the view', () => {
    const half = cutView({ shape: { kind: 'half', across: [1, 0, 0], from: 25 } });
    // The lines of the section without its shape: the divider stands by itself.
    const result = resultOf([], { box: [0, 0, 50, 30] });
    const divider = strokes(drawView(half, result, style, context).items);
    expect(divider.map((s) => [s.d, s.width, s.dash])).toEqual([['M112.5 62L112.5 83', style.narrow, [8, 1.2, 0.8, 1.2]]]);
    // Seen from the other side it lies on the other side, seen aslant it is no line.
    const turned = { ...half, right: [-1, 0, 0] as const };
    expect(strokes(drawView(turned, result, style, context).items)[0]!.d).toBe('M87.5 62L87.5 83');
    expect(strokes(drawView({ ...half, right: [0.8, 0.6, 0] as const }, result, style, context).items)).toEqual([]);
    // The same along each axis.
    for (const axis of [
      [0, 1, 0],
      [0, 0, 1],
      [0, 0.6, 0.8],
      [0.6, 0.8, 0],
    ] as const) {
      const along = { ...cutView({ shape: { kind: 'half', across: axis, from: 25 } }), right: axis };
      expect(strokes(drawView(along, result, style, context).items).map((s) => s.d)).toEqual(['M112.5 62L112.5 83']);
    }
  });
  test('a broken-out section is bounded by a narrow line, only where it runs over something', () => {
    // The item map shows something from x = 0 to 20; the outline is a rectangle from 10 to 30.
    const window = { minX: 0, maxY: 40, pixelMm: 0.5, width: 80, height: 80 };
    const map = { window, component: Int16Array.from({ length: 6400 }, (_, i) => (i % 80 < 40 ? 0 : -1)) };
    const local = cutView({ shape: { kind: 'local', outline: [10, 10, 30, 10, 30, 30, 10, 30] } });
    const [line, ...none] = strokes(drawView(local, resultOf([], { map }), style, context).items);
    expect(none).toEqual([]);
    expect([line!.width, line!.dash]).toEqual([style.narrow, undefined]);
    const points = pointsOfPath(line!.d).flat();
    // On paper 1:2: x from 105 to 110, y from 65 to 75; nothing runs up at x = 115.
    for (const [x, y] of points) expect(x >= 104.99 && x <= 110.6 && y >= 64.99 && y <= 75.01).toBe(true);
    for (const [x, y] of [
      [105, 65],
      [105, 75],
      [110, 65],
      [110, 75],
    ] as const)
      expect(Math.min(...points.map((p) => Math.hypot(p[0] - x, p[1] - y)))).toBeLessThan(0.8);
    const length = pointsOfPath(line!.d).reduce(
      (sum, run) => sum + run.slice(1).reduce((n, p, i) => n + Math.hypot(p[0] - run[i]![0], p[1] - run[i]![1]), 0),
      0,
    );
    expect(length).toBeGreaterThan(18.9);
    expect(length).toBeLessThan(21.5);
  });
  test('a stepped cutting plane has wide bends and arrows at both ends', () => {
    const record: ViewRecord = { ...view, ...namedFrame('top'), hidden: false, pivot: [0, 0] };
    const result = computeView(assembly, geometries, specOf(record, { drawing: BLANK_DRAWING }, components));
    const section = cutView({
      d: 0,
      shape: {
        kind: 'stepped',
        across: [1, 0, 0],
        steps: [
          { from: -100, d: -5 },
          { from: 20, d: -15 },
        ],
      },
    });
    const { items } = drawView(record, result, style, { ...context, cuts: [{ ...section, cut: { ...section.cut!, d: -5 } }] });
    const [plane] = strokes(items).filter((s) => s.dash?.length === 4);
    const corners = pointsOfPath(plane!.d)[0]!;
    // Along y = 5 up to x = 20, then along y = 15; on paper 2.5 and 7.5 mm above the corner at (100, 80).
    const xs = corners.map((p) => p[0]);
    expect([Math.min(...xs), Math.max(...xs)]).toEqual([93, 132]);
    expect(new Set(corners.map((p) => p[1]))).toEqual(new Set([77.5, 72.5]));
    expect(corners.filter((p) => p[0] === 110)).toHaveLength(2);
    const bends = strokes(items)
      .filter((s) => s.width === style.wide && !s.source)
      .map((s) => pointsOfPath(s.d)[0]!);
    // Two at each bend, 2.5 mm long, and the ends, 6 mm.
    // They lie on the line's ends and on its two bends, pointing along it.
    const sorted = (p: readonly (readonly [number, number])[]) =>
      [...p].sort((a, b) => a[0] - b[0] || a[1] - b[1]).map((q) => q.map((v) => Math.round(v * 100) / 100));
    expect(sorted(bends.map((b) => b[1]!))).toEqual(sorted([...corners.filter((p) => p[0] === 110), ...corners]));
    expect(sorted(bends.map((b) => b[0]!))).toEqual(
      sorted([
        [99, corners.find((p) => p[0] === 93)![1]],
        [126, corners.find((p) => p[0] === 132)![1]],
        [107.5, corners.find((p) => p[0] === 93)![1]],
        [112.5, corners.find((p) => p[0] === 132)![1]],
        [110, 75],
        [110, 75],
      ]),
    );
    const lengths = bends.map(([a, b]) => Math.round(Math.hypot(b![0] - a![0], b![1] - a![1]) * 10) / 10).sort((a, b) => a - b);
    expect(lengths).toEqual([2.5, 2.5, 2.5, 2.5, 6, 6]);
    expect(items.filter((i) => i.kind === 'fill')).toHaveLength(2);
  });
});
