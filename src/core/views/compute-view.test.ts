import { decode } from 'fast-png';
import { describe, expect, test } from 'vitest';
import { componentsOf } from '../assembly/components.ts';
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
  const components = componentsOf(assembly);
  const key = (s: ViewSpec) => specText(s, assembly, components);
  test('changes with what is shown', () => {
    expect(
      new Set(
        [spec, { ...spec, hidden: true }, { ...spec, frame: namedFrame('top') }, { ...spec, cut: { normal: [0, -1, 0] as const, d: 0, keptWhole: [] } }].map(
          key,
        ),
      ).size,
    ).toBe(4);
  });
  test('does not change with colours unless they are shown', () => {
    const painted = { ...assembly, parts: assembly.parts.map((p) => ({ ...p, color: '#ff0000' })) };
    expect(specText(spec, painted, components)).toBe(key(spec));
    expect(specText({ ...spec, shaded: true }, painted, components)).not.toBe(key({ ...spec, shaded: true }));
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
