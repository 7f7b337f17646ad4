import { describe, expect, test } from 'vitest';
import { componentsOf } from '../assembly/components.ts';
import { applyToPoint } from '../base/placement.ts';
import type { Pull } from '../explode/spread.ts';
import { itemsOf } from '../ledger/items.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { random } from '../testing/random.ts';
import { assemblyOf, box, cylinder } from '../testing/shapes.ts';
import { arranged, stepKey, type StepEdits } from './arrange.ts';
import { guideColumns } from './columns.ts';
import { guideOf } from './guide.ts';
import { buildOrder, type BuildOrder } from './steps.ts';
import { CORNER_BYTES, viewerModel } from './viewer-model.ts';

/** A base with two towers of two blocks each, side by side, and four pins: either tower may come first, a block never under another. */
const { assembly, geometries } = assemblyOf([
  { name: 'Base', geometry: box([-100, -50, -20], [100, 50, 0]) },
  { name: 'Left low', geometry: box([-80, -20, 0], [-40, 20, 20]) },
  { name: 'Left high', geometry: box([-80, -20, 20], [-40, 20, 40]) },
  { name: 'Right low', geometry: box([40, -20, 0], [80, 20, 20]) },
  { name: 'Right high', geometry: box([40, -20, 20], [80, 20, 40]) },
  ...[-15, -5, 5, 15].map((x) => ({ name: 'Pin', geometry: cylinder(2, 20), at: [x, 0, 0] as const })),
]);
const bodies = sceneOf(assembly, geometries);
const paths = componentsOf(assembly).map((c) => c.path);
const up = (components: number[], distanceMm: number): Pull => ({ components, direction: [0, 0, 1], distanceMm });
const base = buildOrder(assembly, bodies, [up([5], 60), up([6], 60), up([7], 60), up([8], 60), up([4], 120), up([2], 120), up([3], 90), up([1], 90)]);
const keysOf = (o: BuildOrder) => o.steps.map((s) => stepKey(s, paths));
const arrange = (edits: StepEdits) => arranged(base, edits, paths, assembly, bodies);
const items = itemsOf(assembly, {});
/** In every order each component is added once, and what stands there before is what was added before. */
function wellFormed(o: BuildOrder): void {
  expect(o.steps.flatMap((s) => s.adds).sort((a, b) => a - b)).toEqual(paths.map((_, i) => i));
  const there: number[] = [];
  for (const s of o.steps) {
    expect([...s.there].sort((a, b) => a - b)).toEqual([...there].sort((a, b) => a - b));
    there.push(...s.adds);
  }
  expect(guideOf(paths, items, o).steps.map((s) => s.number)).toEqual(o.steps.map((_, i) => i + 1));
}

describe('steps as a drafter wants them', () => {
  test('nothing changed is the very same order', () => {
    expect(arrange({})).toBe(base);
    expect(keysOf(base)).toEqual(
      ['start/Base', 'add/Left low', 'add/Right low', 'add/Left high', 'add/Right high', 'fasten/Pin.4'].map((k, i) => (i === 5 ? keysOf(base)[5]! : k)),
    );
  });

  test('another order that can be built is checked, and clear', () => {
    const [start, ...rest] = keysOf(base);
    const wanted = [rest[1]!, rest[3]!, rest[0]!, rest[2]!, rest[4]!];
    const o = arrange({ order: wanted });
    expect(keysOf(o)).toEqual([start, ...wanted]);
    expect([o.checked, o.blocked]).toEqual([true, []]);
    wellFormed(o);
  });

  test('a low block after the one that stands on it would have to pass through it: the step is named', () => {
    const o = arrange({ order: ['add/Left high', 'add/Left low'] });
    expect(o.checked).toBe(false);
    expect(o.blocked.map((i) => keysOf(o)[i])).toEqual(['add/Left low']);
    expect(
      guideOf(paths, items, o)
        .steps.filter((s) => s.blocked)
        .map((s) => s.key),
    ).toEqual(['add/Left low']);
    wellFormed(o);
  });

  test('what it begins with stays first, and steps that there are not change nothing', () => {
    const o = arrange({ order: ['add/Left low', 'start/Base', 'add/gone'] });
    expect(keysOf(o)[0]).toBe('start/Base');
    expect(keysOf(o)).toEqual(keysOf(base));
  });

  test('pins that were one step are taken one by one, and blocks are joined; both come back', () => {
    const pins = keysOf(base).at(-1)!;
    const apart = arrange({ split: [pins] });
    expect(apart.steps).toHaveLength(base.steps.length + 3);
    wellFormed(apart);
    const one = arrange({ joined: ['add/Right low'] });
    expect(one.steps[1]).toMatchObject({ kind: 'add', adds: [1, 3], of: ['add/Left low', 'add/Right low'] });
    expect(one.checked).toBe(true);
    wellFormed(one);
    // Nothing is joined to what it begins with.
    expect(arrange({ joined: ['add/Left low'] }).steps).toHaveLength(base.steps.length);
  });

  test('whatever is asked for, every component is added once', () => {
    const next = random(5);
    const keys = keysOf(base);
    for (let i = 0; i < 25; i++) {
      const some = () => keys.filter(() => next() < 0.5);
      const o = arrange({ order: [...keys].sort(() => next() - 0.5), joined: some(), split: some() });
      wellFormed(o);
      // Clear means: no low block after the one above it.
      const at = (c: number) => o.steps.findIndex((s) => s.adds.includes(c));
      const stacked = (low: number, high: number) =>
        at(low) < at(high) || (at(low) === at(high) && o.steps[at(low)]!.adds.indexOf(low) < o.steps[at(low)]!.adds.indexOf(high));
      expect(o.checked).toBe(stacked(1, 2) && stacked(3, 4));
    }
  });
});

describe('what a guide reads in the ledger', () => {
  const [item] = items;
  const own = [
    { key: 'own:1', title: 'Bin', kind: 'text' as const },
    { key: 'own:2', title: 'Description de', kind: 'text' as const },
  ];
  const filled = { ...item!, own: { 'own:1': 'C-14', 'own:2': 'Grundplatte' } };
  test('a column of the language, and a bin', () => {
    expect(guideColumns({ own }, 'de').nameOf(filled)).toBe('Grundplatte');
    expect(guideColumns({ own }, 'fr').nameOf(filled)).toBe(item!.values.description.text);
    expect(guideColumns({ own }, 'en').placeOf(filled)).toBe('C-14');
  });
  test('an empty cell falls back: the description as it is, the supplier', () => {
    expect(guideColumns({ own }, 'de').nameOf(item!)).toBe(item!.values.description.text);
    expect(guideColumns({ own: [] }, 'de').placeOf({ ...item!, values: { ...item!.values, supplier: { ...item!.values.supplier, text: 'Screws Ltd' } } })).toBe(
      'Screws Ltd',
    );
    // “Inside” ends with letters of no language: it is no column of one.
    expect(guideColumns({ own: [{ key: 'own:2', title: 'Inside', kind: 'text' }] }, 'de').nameOf(filled)).toBe(item!.values.description.text);
  });
});

test('the model of a page: every corner where it was to a hundredth of its part, normals to a degree, each shape once', () => {
  const { model, bytes } = viewerModel(assembly, geometries);
  expect(model.parts).toHaveLength(new Set(assembly.parts.map((p) => p.geometryKey)).size);
  expect(model.components.map((c) => c.name)).toEqual(componentsOf(assembly).map((c) => c.name));
  const view = new DataView(bytes.buffer);
  model.components.forEach((c, i) => {
    const p = model.parts[c.part!]!;
    const g = geometries.get(assembly.parts[componentsOf(assembly)[i]!.part]!.geometryKey)!;
    const head = p.at + Math.ceil((p.corners * CORNER_BYTES) / 4) * 4;
    expect(p.triangles).toBe(g.triangles.length / 3);
    for (let t = 0; t < g.triangles.length; t += 7) {
      const corner = p.at + view.getUint32(head + 4 * t, true) * CORNER_BYTES;
      const got = [0, 1, 2].map((k) => p.origin[k]! + p.step * view.getUint16(corner + 2 * k, true));
      const v = g.triangles[t]!;
      const [a, b] = [got, [0, 1, 2].map((k) => g.positions[3 * v + k]!)].map((q) => applyToPoint(c.placement, q as [number, number, number]));
      expect(Math.hypot(a![0] - b![0], a![1] - b![1], a![2] - b![2])).toBeLessThan(0.01);
      const n = [0, 1, 2].map((k) => view.getInt8(corner + 6 + k) / 127);
      const cos = n.reduce((s, x, k) => s + x * g.cornerNormals[3 * t + k]!, 0) / Math.hypot(...n);
      expect(cos).toBeGreaterThan(Math.cos(Math.PI / 180));
    }
  });
});
