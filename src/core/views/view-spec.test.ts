import { describe, expect, test } from 'vitest';
import { componentsOf } from '../assembly/components.ts';
import { BLANK_DRAWING, type CutRecord, type DrawingDocument, type PullRecord, type SpreadRecord, type ViewRecord } from '../document/records.ts';
import { namedFrame } from '../outline/directions.ts';
import { lengthsOf } from '../outline/linework.ts';
import { translation } from '../base/placement.ts';
import { assemblyOf, box, cylinder, joined } from '../testing/shapes.ts';
import { viewRecord } from '../testing/records.ts';
import { componentAt, computeView, type ViewResult } from './compute-view.ts';
import { packResult } from './result-codec.ts';
import { specOf, specText } from './view-spec.ts';

const { assembly, geometries } = assemblyOf([
  { name: 'wall', geometry: box([0, 0, 0], [100, 10, 80]) },
  { name: 'rod', geometry: cylinder(8, 60), at: [30, -20, 10] },
  { name: 'pin', geometry: cylinder(3, 30), at: [70, 5, 20] },
  { name: 'far', geometry: box([0, 0, 0], [9, 9, 9]), at: [50, 60, 5] },
]);
const components = componentsOf(assembly);
const cut: CutRecord = { normal: [0, -1, 0], d: -5, letter: 'A', keptWhole: [], shownIn: null };
const pull: PullRecord = { components: ['rod'], direction: [0, 0, 1], distanceMm: 50 };
const pinPull: PullRecord = { components: ['pin', 'far'], direction: [1, 0, 0], distanceMm: 30 };
const spread: SpreadRecord = { type: 'spread', id: 'spread:1', name: '', pulls: [pull, pinPull] };
const view = viewRecord({ name: 'A' });
const doc: DrawingDocument = { drawing: BLANK_DRAWING, 'spread:1': spread };
const key = (v: ViewRecord, d: DrawingDocument = doc) => specText(specOf(v, d, components), assembly);
const solids = { subtract: () => undefined, intersect: () => undefined } as never;
const result = (v: ViewRecord, d: DrawingDocument = doc): ViewResult => computeView(assembly, geometries, specOf(v, d, components), undefined, solids);
const withSpread = (change: Partial<SpreadRecord>): DrawingDocument => ({ ...doc, 'spread:1': { ...spread, ...change } });
const withPull = (change: Partial<PullRecord>) => withSpread({ pulls: [{ ...pull, ...change }, pinPull] });
const exploded: ViewRecord = { ...view, spread: 'spread:1', pullLines: true };

describe('what decides how a view looks is in its key, and changes the picture', () => {
  // A field that is forgotten in the key shows a stale view: before, after, and what the pictures must differ in.
  test.each<[string, ViewRecord, DrawingDocument, ViewRecord, DrawingDocument]>([
    ['the direction', view, doc, { ...view, ...namedFrame('top') }, doc],
    ['hidden lines', view, doc, { ...view, hidden: true }, doc],
    ['their depth', { ...view, hidden: true }, doc, { ...view, hidden: true, hiddenWithinMm: 20 }, doc],
    ['shading', view, doc, { ...view, shaded: true }, doc],
    ['its resolution', { ...view, shaded: true }, doc, { ...view, shaded: true, scale: 1.1 }, doc],
    ['flat tones', { ...view, shaded: true }, doc, { ...view, shaded: true, flat: true }, doc],
    ['a colour for each item', { ...view, shaded: true }, doc, { ...view, shaded: true, colorByItem: true }, doc],
    ['a cut', view, doc, { ...view, cut }, doc],
    ['its place', { ...view, cut }, doc, { ...view, cut: { ...cut, d: -8 } }, doc],
    ['its side', { ...view, cut }, doc, { ...view, cut: { ...cut, normal: [0, 1, 0], d: 5 } }, doc],
    ['what it keeps whole', { ...view, cut }, doc, { ...view, cut: { ...cut, keptWhole: ['pin'] } }, doc],
    ['how far behind it is shown', { ...view, hidden: true, cut }, doc, { ...view, hidden: true, cut: { ...cut, behindMm: 1 } }, doc],
    ['a spread', view, doc, { ...view, spread: 'spread:1' }, doc],
    ['pull lines', exploded, doc, { ...exploded, pullLines: false }, doc],
    ['pull lines of none', exploded, doc, exploded, withSpread({ noLines: true })],
    ['the pull line of one component', exploded, doc, exploded, withSpread({ linesOff: ['rod'] })],
    ['how far a pull goes', exploded, doc, exploded, withPull({ distanceMm: 51 })],
    ['its direction', exploded, doc, exploded, withPull({ direction: [1, 0, 0] })],
    ['what it moves', exploded, doc, exploded, withPull({ components: ['pin'] })],
    ['its row', exploded, withPull({ components: ['rod', 'far'] }), exploded, withPull({ components: ['rod', 'far'], ranks: [1, 2] })],
    ['its turn', exploded, doc, exploded, withPull({ turn: { axis: [0, 1, 0], through: [0, 0, 0], angle: 0.5 } })],
    ['a pull that is off', exploded, doc, exploded, withPull({ off: true })],
  ])('%s', (_, before, docBefore, after, docAfter) => {
    expect(key(after, docAfter)).not.toBe(key(before, docBefore));
    expect(Buffer.compare(packResult(result(after, docAfter)), packResult(result(before, docBefore)))).not.toBe(0);
  });

  test.each<[string, Partial<ViewRecord>, DrawingDocument]>([
    ['the place on the sheet', { at: [90, 90], pivot: [3, 4], sheet: 'sheet:2' }, doc],
    ['name, label and alignment', { name: 'B', label: true, parent: 'view:2', align: 'level' }, doc],
    ['the scale, unshaded', { scale: 0.02 }, doc],
    ['lines that thin out', { thinMm: 0.5 }, doc],
    ['a depth of hidden lines that are not shown', { hiddenWithinMm: 5 }, doc],
    ['colours of an unshaded view', { flat: true, colorByItem: true }, doc],
    ['the name of a pull and who chose its distance', {}, withPull({ name: 'x', typed: true })],
  ])('what does not change the picture is not in it: %s', (_, change, d) => {
    expect(key({ ...exploded, ...change }, d)).toBe(key(exploded));
  });
  test('letter and parent of a cut are not in it', () => {
    expect(key({ ...view, cut: { ...cut, letter: 'Z', shownIn: 'view:9' } })).toBe(key({ ...view, cut }));
  });
  test('the model is in it: geometry and places', () => {
    const spec = specOf(view, doc, components);
    const moved = { ...assembly, nodes: assembly.nodes.map((n, i) => (i === 2 ? { ...n, placement: translation([30, 40, 11]) } : n)) };
    const other = { ...assembly, parts: assembly.parts.map((p, i) => (i === 1 ? { ...p, geometryKey: 'x' } : p)) };
    for (const a of [moved, other]) expect(specText(spec, a)).not.toBe(key(view));
  });
  test('a path that the model does not have is passed over', () => {
    expect(key({ ...view, cut: { ...cut, keptWhole: ['gone', 'pin'] } })).toBe(key({ ...view, cut: { ...cut, keptWhole: ['pin'] } }));
    expect(key(exploded, withPull({ components: ['gone', 'rod'] }))).toBe(key(exploded));
  });
});

describe('what is asked for is there', () => {
  test('tangent edges only when they are wanted', () => {
    // A half round end against a straight side: the edge between them is tangent.
    const tangent = cylinder(10, 20);
    const smooth = { ...tangent, edgeClass: tangent.edgeClass.map(() => 1) };
    const one = assemblyOf([{ name: 'smooth', geometry: smooth }]);
    const of = (on: boolean) => {
      const spec = { ...specOf({ ...view, ...namedFrame('isometric'), tangent: on }, doc, componentsOf(one.assembly)) };
      return [lengthsOf(computeView(one.assembly, one.geometries, spec).lines).visible.tangent, specText(spec, one.assembly)] as const;
    };
    expect(of(false)[0]).toBe(0);
    // The upper rim whole and half of the lower one: an ellipse is longer than its long axis twice, shorter than the circle.
    expect(of(true)[0]).toBeGreaterThan(1.5 * 40);
    expect(of(true)[0]).toBeLessThan(1.5 * 20 * Math.PI);
    expect(of(true)[1]).not.toBe(of(false)[1]);
  });
  test('no pull lines: the result has none', () => {
    expect(result(exploded).pulls.map((p) => p.component)).toEqual([1, 2]);
    expect(result({ ...exploded, pullLines: false }).pulls).toEqual([]);
    expect(result(exploded, withSpread({ noLines: true })).pulls).toEqual([]);
    expect(result(exploded, withSpread({ linesOff: ['rod'] })).pulls.map((p) => p.component)).toEqual([2]);
  });
  test.each([
    ['tall', box([0, 0, 0], [4, 4, 800])],
    ['wide', box([0, 0, 0], [800, 4, 4])],
  ])('a %s shaded view has its 300 dpi along the long side, as far as the limit lets it', (_, geometry) => {
    const one = assemblyOf([{ name: 'bar', geometry }]);
    const spec = (scale: number) => specOf({ ...view, shaded: true, scale }, doc, componentsOf(one.assembly));
    // 800 mm at 1:5 are 160 mm on paper: 1890 pixels.
    const { window } = computeView(one.assembly, one.geometries, spec(0.2)).shading!;
    expect(Math.max(window.width, window.height) * window.pixelMm).toBeGreaterThanOrEqual(800);
    expect(window.pixelMm * 0.2).toBeLessThanOrEqual(25.4 / 300 + 1e-9);
    // At full size the limit of 2400 pixels comes first.
    const large = computeView(one.assembly, one.geometries, spec(1)).shading!.window;
    expect(Math.max(large.width, large.height)).toBeLessThanOrEqual(2400 + 4);
    expect(Math.max(large.width, large.height)).toBeGreaterThan(2200);
  });
  test('visible shares: what is wholly seen, partly seen and not seen', () => {
    const three = assemblyOf([
      { name: 'front', geometry: box([0, 0, 0], [50, 5, 50]) },
      { name: 'behind', geometry: joined([box([0, 0, 0], [50, 5, 50])]), at: [25, 10, 0] },
      { name: 'hidden', geometry: box([10, 20, 10], [20, 25, 20]) },
    ]);
    const r = computeView(three.assembly, three.geometries, specOf(view, doc, componentsOf(three.assembly)));
    [1, 0.5, 0].forEach((share, i) => expect(r.visibleShare[i]).toBeCloseTo(share, 1));
    [2500, 1250, 0].forEach((area, i) => expect(Math.abs(r.visibleArea[i]! - area)).toBeLessThan(30));
  });
});

describe('the item map', () => {
  const two = assemblyOf([
    { name: 'left', geometry: box([0, 0, 0], [30, 5, 20]) },
    { name: 'right', geometry: box([60, 0, 5], [100, 5, 15]) },
  ]);
  const plain = computeView(two.assembly, two.geometries, specOf(view, doc, componentsOf(two.assembly)));
  const shaded = computeView(two.assembly, two.geometries, specOf({ ...view, shaded: true, scale: 1.4 }, doc, componentsOf(two.assembly)));
  // Known places on both boxes, between them, and just outside on every side.
  const places: [number, number, number][] = [
    [1, 1, 0],
    [29, 19, 0],
    [15, 10, 0],
    [61, 6, 1],
    [99, 14, 1],
    [45, 10, -1],
    [80, 17, -1],
    [-1, 10, -1],
    [101, 10, -1],
    [15, -1, -1],
    [15, 21, -1],
    [-500, 10, -1],
    [10, 900, -1],
  ];
  test.each(places)('at (%d, %d) shows component %d, whatever its resolution', (x, y, c) => {
    expect([componentAt(plain, x, y), componentAt(shaded, x, y)]).toEqual([c, c]);
  });
  test('of a picture of many pixels is thinned out to 900 on the longer side, over the same ground', () => {
    const picture = shaded.shading!.window;
    const map = shaded.map.window;
    expect(Math.max(picture.width, picture.height)).toBeGreaterThan(1600);
    expect(Math.max(map.width, map.height)).toBeLessThanOrEqual(900);
    expect(Math.max(map.width, map.height)).toBeGreaterThan(600);
    expect([map.minX, map.maxY]).toEqual([picture.minX, picture.maxY]);
    expect(Math.abs(map.width * map.pixelMm - picture.width * picture.pixelMm)).toBeLessThan(3 * map.pixelMm);
    expect(map.pixelMm / picture.pixelMm).toBe(Math.round(map.pixelMm / picture.pixelMm));
    expect(shaded.map.component.length).toBe(map.width * map.height);
  });
  test('areas are in mm² of the model at every resolution', () => {
    for (const r of [plain, shaded]) [600, 400].forEach((a, i) => expect(Math.abs(r.visibleArea[i]! - a)).toBeLessThan(5));
  });
});

describe('the resolution of a shaded picture', () => {
  const one = assemblyOf([{ name: 'plate', geometry: box([0, 0, 0], [100, 5, 40]) }]);
  const pixels = (scale: number) => {
    const w = computeView(one.assembly, one.geometries, specOf({ ...view, shaded: true, scale }, doc, componentsOf(one.assembly))).shading!.window;
    return Math.max(w.width, w.height);
  };
  test.each([
    // 100 mm at 1:1 are 1181 pixels at 300 dpi; steps of two take up to twice as many.
    [1, 1181, 2400],
    // At 1:10 print needs 118, the screen 900.
    [0.1, 899, 910],
    // At 5:1 print would want 5900: there are at most 2400.
    [5, 2390, 2410],
  ])('at scale %d between %d and %d pixels', (scale, least, most) => {
    expect(pixels(scale)).toBeGreaterThanOrEqual(least);
    expect(pixels(scale)).toBeLessThanOrEqual(most);
  });
  test('does not change with every small change of scale', () => {
    const key2 = (scale: number) => specText(specOf({ ...view, shaded: true, scale }, doc, components), assembly);
    expect(key2(0.5)).toBe(key2(0.51));
    expect(key2(0.5)).not.toBe(key2(1.01));
  });
});

describe('keys do not depend on how things are listed', () => {
  test('kept-whole parts in any order are one key', () => {
    const kept = (keptWhole: string[]) => key({ ...view, cut: { ...cut, keptWhole } });
    expect(kept(['pin', 'rod'])).toBe(kept(['rod', 'pin']));
    expect(specOf({ ...view, cut: { ...cut, keptWhole: ['pin', 'rod'] } }, doc, components).cut!.keptWhole).toEqual([1, 2]);
  });
  test('an occurrence’s colour counts before its part’s', () => {
    const shaded = { ...view, shaded: true };
    const with2 = (node: string | undefined, part: string | undefined) => {
      const a = {
        ...assembly,
        parts: assembly.parts.map((p) => ({ ...p, ...(part ? { color: part } : {}) })),
        nodes: assembly.nodes.map((n) => ({ ...n, ...(node ? { color: node } : {}) })),
      };
      const png = (s: ViewRecord) => computeView(a, geometries, specOf(s, doc, componentsOf(a))).shading!.png;
      return { key: specText(specOf(shaded, doc, componentsOf(a)), a), png: Buffer.from(png(shaded)).toString('base64') };
    };
    const [own, both, part, none] = [with2('#ff0000', undefined), with2('#ff0000', '#00ff00'), with2(undefined, '#00ff00'), with2(undefined, undefined)];
    expect([both.key, both.png]).toEqual([own.key, own.png]);
    expect(new Set([own.key, part.key, none.key]).size).toBe(3);
    expect(new Set([own.png, part.png, none.png]).size).toBe(3);
  });
  test('progress is told, rising to its end', () => {
    const told: number[] = [];
    computeView(assembly, geometries, specOf(view, doc, components), undefined, undefined, (s) => told.push(s));
    expect(told[0]).toBe(0.2);
    for (let i = 1; i < told.length; i++) expect(told[i]!).toBeGreaterThanOrEqual(told[i - 1]!);
    expect(told.at(-1)!).toBeLessThanOrEqual(1);
    expect(told.at(-1)!).toBeGreaterThan(0.5);
  });
});

describe('paths', () => {
  test('of parts kept whole and of lines left out are the model’s; those it does not have are passed over', () => {
    const spec = specOf({ ...exploded, cut: { ...cut, keptWhole: ['far', 'gone', 'rod'] } }, withSpread({ linesOff: ['pin', 'gone'] }), components);
    expect(spec.cut!.keptWhole).toEqual([1, 3]);
    expect(spec.spread!.linesOff).toEqual([2]);
    expect(specOf(exploded, doc, components).spread!.linesOff).toEqual([]);
    expect(specOf({ ...view, cut }, doc, components).cut).toEqual({ normal: [0, -1, 0], d: -5, keptWhole: [] });
    expect(specOf({ ...view, cut: { ...cut, behindMm: 3, shape: { kind: 'half', across: [1, 0, 0], from: 2 } } }, doc, components).cut).toMatchObject({
      behindMm: 3,
      shape: { from: 2 },
    });
  });
});
