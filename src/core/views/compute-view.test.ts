import { decode } from 'fast-png';
import { describe, expect, test } from 'vitest';
import { translation } from '../base/placement.ts';
import { namedFrame } from '../outline/directions.ts';
import { assemblyOf, box, cylinder, sphere } from '../testing/shapes.ts';
import { componentAt, computeView } from './compute-view.ts';
import { packResult, unpackResult } from './result-codec.ts';
import { specText, type ViewSpec } from './view-spec.ts';

const spec: ViewSpec = { frame: namedFrame('front'), hidden: false, tangent: false, shaded: false, cut: null, spread: null };
const { assembly, geometries } = assemblyOf([
  { name: 'wall', geometry: box([0, 0, 0], [100, 10, 80]) },
  { name: 'ball', geometry: sphere(15, 24, 48), at: [50, -40, 40] },
  { name: 'inside', geometry: cylinder(2, 5), at: [10, 3, 10] },
]);
const view = computeView(assembly, geometries, { ...spec, shaded: true });

describe('the item map', () => {
  // Analytic: the ball covers πr² of the wall.
  test('gives the visible area of each component within 1 %', () => {
    expect(view.visibleArea[1]! / (Math.PI * 225)).toBeCloseTo(1, 2);
    expect(view.visibleArea[0]! / (8000 - Math.PI * 225)).toBeCloseTo(1, 2);
    expect(view.visibleArea[2]).toBe(0);
  });
  test('tells what is at a place', () => {
    expect([componentAt(view, 50, 40), componentAt(view, 5, 5), componentAt(view, 101, 5)]).toEqual([1, 0, -1]);
  });
});

describe('the item map’s pixels', () => {
  // Two by two pixels of 2 mm, their upper left corner at (10, 20): 0 and 1 above, 2 and 3 below.
  const window = { minX: 10, maxY: 20, pixelMm: 2, width: 2, height: 2 };
  const at = (x: number, y: number) => componentAt({ ...view, map: { window, component: Int16Array.of(0, 1, 2, 3) } }, x, y);
  test('count from the upper left corner, right and down, and end at the window', () => {
    expect([at(10, 20), at(13.9, 18.1), at(10, 18), at(13.9, 16.1)]).toEqual([0, 1, 2, 3]);
    expect([at(9.9, 19), at(14, 19), at(11, 20.1), at(11, 16)]).toEqual([-1, -1, -1, -1]);
  });

  // The wall is 100 × 80 mm.
  test.each([
    ['what print wants', 0.05, 0.05, 3],
    ['no finer than 2400 pixels', 0.001, 100 / 2400, 3],
    ['no coarser than 900', 5, 100 / 900, 2],
    ['1600 when nothing is wanted', undefined, 100 / 1600, 2],
  ])('a shaded view’s are as fine as %s, and its map is thinned to 900 and shows the same', (_, wanted, pixelMm, by) => {
    const fine = computeView(assembly, geometries, { ...spec, shaded: true, ...(wanted ? { shadingPixelMm: wanted } : {}) });
    const [s, m] = [fine.shading!.window, fine.map.window];
    expect(s.pixelMm).toBeCloseTo(pixelMm, 9);
    expect(Math.max(m.width, m.height)).toBeLessThanOrEqual(900);
    expect([m.minX, m.maxY, m.pixelMm, m.width, m.height]).toEqual([
      s.minX,
      s.maxY,
      expect.closeTo(by * pixelMm, 9),
      Math.floor(s.width / by),
      Math.floor(s.height / by),
    ]);
    expect(fine.map.component).toHaveLength(m.width * m.height);
    const plain = computeView(assembly, geometries, spec);
    // The ball's outline lies 15 mm about (50, 40); a pixel's width beside an edge either may be right.
    let differ = 0;
    for (let y = -0.5; y < 81; y += 0.71) for (let x = -0.5; x < 101; x += 0.71) if (componentAt(fine, x, y) !== componentAt(plain, x, y)) differ++;
    expect(differ).toBeLessThan(30);
    expect([
      componentAt(fine, 50, 54.5),
      componentAt(fine, 50, 55.5),
      componentAt(fine, 35.6, 40),
      componentAt(fine, 64.5, 40),
      componentAt(fine, 65.5, 40),
    ]).toEqual([1, 0, 1, 1, 0]);
  });
  test('an upright thing’s by its height', () => {
    const { assembly: post, geometries: posts } = assemblyOf([{ name: 'Post', geometry: box([30, 0, -20], [40, 10, 180]) }]);
    const shaded = computeView(post, posts, { ...spec, shaded: true });
    expect(shaded.shading!.window.pixelMm).toBeCloseTo(200 / 1600, 9);
    expect([componentAt(shaded, 30.5, -19.5), componentAt(shaded, 39.5, 179.5), componentAt(shaded, 29.5, 0), componentAt(shaded, 35, 181)]).toEqual([
      0, 0, -1, -1,
    ]);
  });
});

describe('shading', () => {
  test('has colour where there is something and nothing elsewhere', () => {
    const { window: w, png } = view.shading!;
    const rgba = decode(png).data;
    expect(decode(png).width).toBe(w.width);
    expect(rgba[3]).toBe(0);
    expect(rgba[(Math.floor(w.height / 2) * w.width + Math.floor(w.width / 2)) * 4 + 3]).toBe(255);
  });
});

describe('colours', () => {
  const middle = (s: Partial<ViewSpec>) => {
    const { window: w, png } = computeView(assembly, geometries, { ...spec, shaded: true, ...s }).shading!;
    const at = (Math.floor(w.height / 2) * w.width + Math.floor(w.width / 10)) * 4;
    return Array.from(decode(png).data.slice(at, at + 3));
  };
  test('by item: each its own, another than the model has', () => {
    const painted = computeView(assembly, geometries, { ...spec, shaded: true, colorByItem: true }).shading!;
    const seen = new Set<string>();
    const data = decode(painted.png).data;
    for (let i = 0; i < data.length; i += 4) if (data[i + 3]) seen.add(`${Math.round(Math.atan2(data[i]! - data[i + 1]!, data[i + 1]! - data[i + 2]!) * 4)}`);
    expect(seen.size).toBeGreaterThan(1);
    expect(middle({ colorByItem: true })).not.toEqual(middle({}));
  });
  test('flat: the tone changes only from face to face of the mesh', () => {
    const changes = (flat: boolean) => {
      const data = decode(computeView(assembly, geometries, { ...spec, shaded: true, flat }).shading!.png).data;
      let n = 0;
      for (let i = 4; i < data.length; i += 4) if (data[i] !== data[i - 4]) n++;
      return n;
    };
    expect(changes(true)).toBeLessThan(changes(false) / 2);
  });
});

describe('the key of a view', () => {
  const key = (s: ViewSpec) => specText(s, assembly);
  test('changes with what is shown', () => {
    expect(
      new Set(
        [spec, { ...spec, hidden: true }, { ...spec, frame: namedFrame('top') }, { ...spec, cut: { normal: [0, -1, 0] as const, d: 0, keptWhole: [] } }].map(
          key,
        ),
      ).size,
    ).toBe(4);
  });
  test('with every part of what is shown, and with where and what the parts are', () => {
    const pulls = [{ components: [1], direction: [0, 0, 1] as const, distanceMm: 1 }];
    const cut = { normal: [0, -1, 0] as const, d: 0, keptWhole: [] };
    const specs: ViewSpec[] = [
      spec,
      { ...spec, tangent: true },
      { ...spec, shaded: true },
      { ...spec, shaded: true, shadingPixelMm: 0.5 },
      { ...spec, shaded: true, flat: true },
      { ...spec, shaded: true, colorByItem: true },
      { ...spec, hidden: true, hiddenWithinMm: 5 },
      { ...spec, cut: { ...cut, d: 1 } },
      { ...spec, cut: { ...cut, keptWhole: [1] } },
      { ...spec, cut: { ...cut, behindMm: 4 } },
      { ...spec, spread: { pulls, lines: true, linesOff: [] } },
      { ...spec, spread: { pulls, lines: false, linesOff: [] } },
      { ...spec, spread: { pulls, lines: true, linesOff: [1] } },
      { ...spec, frame: { ...spec.frame, up: [0, 0, -1] } },
    ];
    const moved = { ...assembly, nodes: assembly.nodes.map((n, i) => (i === 2 ? { ...n, placement: translation([51, -40, 40]) } : n)) };
    const other = { ...assembly, parts: assembly.parts.map((p, i) => (i === 1 ? { ...p, geometryKey: 'other' } : p)) };
    const keys = [...specs.map(key), specText(spec, moved), specText(spec, other)];
    expect(new Set(keys).size).toBe(keys.length);
  });
  test('does not change with colours unless they are shown', () => {
    const painted = { ...assembly, parts: assembly.parts.map((p) => ({ ...p, color: '#ff0000' })) };
    expect(specText(spec, painted)).toBe(key(spec));
    expect(specText({ ...spec, shaded: true }, painted)).not.toBe(key({ ...spec, shaded: true }));
  });
  test('the packed result is the result', () => {
    const packed = packResult(view);
    expect(Buffer.compare(packResult(unpackResult(packed)!), packed)).toBe(0);
  });
});

describe('cut and exploded', () => {
  test('a cut shows what was inside', () => {
    const cut = computeView(assembly, geometries, { ...spec, cut: { normal: [0, -1, 0], d: -3, keptWhole: [] } });
    expect(cut.visibleArea[2]).toBeGreaterThan(0);
    expect(cut.caps.map((c) => c.component)).toEqual([0, 2]);
    expect([cut.uncut, cut.unhatched, view.uncut, view.unhatched]).toEqual([[], [], [], []]);
    // What is kept whole has no cap and stands in front of the cut.
    const kept = computeView(assembly, geometries, { ...spec, cut: { normal: [0, -1, 0], d: -3, keptWhole: [1, 2] } });
    expect(kept.caps.map((c) => c.component)).toEqual([0]);
  });
  test('a pulled component is drawn where it is pulled to, with its pull line', () => {
    const moved = computeView(assembly, geometries, {
      ...spec,
      spread: { pulls: [{ components: [1], direction: [0, 0, 1], distanceMm: 100 }], lines: true, linesOff: [] },
    });
    expect(moved.box[3]).toBeCloseTo(155, 0);
    expect(moved.pulls).toEqual([
      {
        component: 1,
        points: [
          [50, 40],
          [50, 140],
        ],
      },
    ]);
  });
});
