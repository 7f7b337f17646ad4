import { describe, expect, test } from 'vitest';
import { componentsOf } from '../core/assembly/components.ts';
import {
  BLANK_DRAWING,
  type BalloonRecord,
  type DrawingDocumentRecord,
  type DrawingDocument,
  type SheetRecord,
  type ViewRecord,
} from '../core/document/records.ts';
import { namedFrame } from '../core/outline/directions.ts';
import { paperByName, styleFor } from '../core/sheet/paper.ts';
import { assemblyOf, box } from '../core/testing/shapes.ts';
import { pointsOfPath } from '../core/testing/paths.ts';
import { computeView } from '../core/views/compute-view.ts';
import { specOf } from '../core/views/view-spec.ts';
import { viewRecord } from '../core/testing/records.ts';
import { composeSheet } from './compose.ts';
import { Scene } from './scene.ts';

const { assembly, geometries } = assemblyOf([
  { name: 'Block', geometry: box([0, 0, 0], [40, 20, 30]), material: 'S355' },
  { name: 'Post', geometry: box([40, 0, 0], [50, 20, 30]) },
]);
const components = componentsOf(assembly);
const sheet = (n: number, size = 'A3'): SheetRecord => ({ type: 'sheet', id: `sheet:${n}`, order: n, name: `Sheet ${n}`, size, landscape: true });
const front = viewRecord({ at: [100, 80], label: true });
const top: ViewRecord = { ...front, ...namedFrame('top'), id: 'view:2', name: 'Plan', at: [100, 180] };
const section: ViewRecord = { ...front, id: 'view:3', at: [250, 80], cut: { normal: [0, -1, 0], d: -10, letter: 'A', keptWhole: [], shownIn: 'view:2' } };
const documentOf = (...records: readonly DrawingDocumentRecord[]): DrawingDocument => ({
  drawing: { ...BLANK_DRAWING, title: 'Stand', number: 'N-1' },
  'sheet:1': sheet(1),
  ...Object.fromEntries(records.map((r) => [r.id, r])),
});
const results = (doc: DrawingDocument) =>
  new Map(
    [front, top, section].flatMap((v) => (doc[v.id] ? [[v.id, computeView(assembly, geometries, specOf(doc[v.id] as ViewRecord, doc, components))]] : [])),
  );
const compose = (document: DrawingDocument, known = results(document), id = 'sheet:1') => composeSheet(new Scene({ document, assembly, results: known }), id);
const group = (list: ReturnType<typeof compose>, id: string) => list.groups.find((g) => g.id === id)!;
const texts = (list: ReturnType<typeof compose>, id: string) => group(list, id).items.flatMap((i) => (i.kind === 'text' ? [i.text] : []));
const titled = (list: ReturnType<typeof compose>, field: string) =>
  group(list, 'title')
    .items.flatMap((i) => (i.kind === 'text' && i.source?.field === field ? [i.text] : []))
    .slice(1)
    .join(' ') || undefined;

describe('a view on its sheet', () => {
  const doc = documentOf(front, top);
  const known = results(doc);
  const first = compose(doc, known);

  test('is not drawn again while nothing about it changes', () => {
    const again = compose({ ...doc, drawing: { ...BLANK_DRAWING, title: 'Other' } }, known);
    expect(group(again, 'view:1')).toBe(group(first, 'view:1'));
    expect(titled(again, 'title')).toBe('Other');
  });
  test('is drawn again with a new result, and where it is put', () => {
    const fresh = compose(doc, results(doc));
    expect(group(fresh, 'view:1')).not.toBe(group(first, 'view:1'));
    const moved = compose({ ...doc, 'view:1': { ...front, at: [110, 80] } }, known);
    expect(group(moved, 'view:1').box[0] - group(first, 'view:1').box[0]).toBe(10);
  });
  test('shows the plane of a section as soon as there is one, where it goes to, and no more when it is gone', () => {
    const planes = (d: DrawingDocument) =>
      group(compose(d, new Map([...known, ...results(d)])), 'view:2').items.filter((i) => i.kind === 'stroke' && i.dash?.length === 4);
    expect(planes(doc)).toHaveLength(0);
    const cut = documentOf(front, top, section);
    const [at10] = planes(cut);
    const [at5] = planes({ ...cut, 'view:3': { ...section, cut: { ...section.cut!, d: -5 } } });
    const y = (i: typeof at10) => pointsOfPath((i as { d: string }).d)[0]![0]![1];
    // 5 mm further in the model are 2.5 mm on paper.
    expect(y(at5) - y(at10)).toBeCloseTo(2.5, 6);
    expect(planes(doc)).toHaveLength(0);
  });
  test('says its scale under it where the title block states another: that of most views, of as many the larger (ISO 5455)', () => {
    expect(texts(first, 'view:1')).toEqual(['Front']);
    const mixed = compose({ ...doc, 'view:2': { ...top, scale: 1 } }, known);
    expect(texts(mixed, 'view:1')).toEqual(['Front (1:2)']);
    expect(texts(mixed, 'view:2')).not.toContain('(1:1)');
    expect([titled(first, 'scale'), titled(mixed, 'scale'), titled(compose(documentOf()), 'scale')]).toEqual(['1:2', '1:1', '–']);
    // A section says its scale always.
    expect(texts(compose(documentOf(section)), 'view:3')).toEqual(['A–A (1:2)']);
  });
  test('hatches by the material, also one that is typed later', () => {
    const cut = documentOf(section);
    const hatch = (d: DrawingDocument) =>
      group(compose(d, results(cut)), 'view:3').items.filter((i) => i.kind === 'stroke' && i.source?.component === 0 && pointsOfPath(i.d).length > 5) as {
        dash?: readonly number[];
      }[];
    expect(hatch(cut).map((h) => h.dash)).toEqual([undefined]);
    const glass = { ...cut, 'property:Block': { type: 'property', id: 'property:Block', part: 'Block', values: { material: 'Glass' } } as const };
    expect(hatch(glass).map((h) => h.dash)).toEqual([[3, 1.5]]);
  });
});

describe('the sheet', () => {
  test('shows what is on it, and its place among the sheets', () => {
    const doc = { ...documentOf(front, { ...top, sheet: 'sheet:2' }), 'sheet:2': sheet(2, 'A4') };
    const [one, two] = [compose(doc), compose(doc, results(doc), 'sheet:2')];
    expect([one, two].map((l) => [l.width, l.height, l.groups.map((g) => g.role)])).toEqual([
      [420, 297, ['frame', 'title', 'view']],
      [297, 210, ['frame', 'title', 'view']],
    ]);
    expect([titled(one, 'sheet'), titled(two, 'sheet')]).toEqual(['1 of 2', '2 of 2']);
    expect(group(two, 'title').label).toBe('Title block: Stand, N-1, sheet 2 of 2');
  });
  test('that is none, or of no known size, is an error', () => {
    expect(() => compose(documentOf(), new Map(), 'sheet:9')).toThrow(RangeError);
    expect(() => compose({ ...documentOf(), 'sheet:1': sheet(1, 'A99') })).toThrow('Unknown sheet size A99');
  });
  test('weighs what is known, or says that nothing is', () => {
    expect(titled(compose(documentOf()), 'mass')).toBe('0.188 kg, incomplete');
    const typed = { type: 'property', id: 'property:Post', part: 'Post', values: { mass: '1 kg' } } as const;
    expect(titled(compose(documentOf(typed)), 'mass')).toBe('1.19 kg');
    const none = { type: 'property', id: 'property:Block', part: 'Block', values: { material: '' } } as const;
    expect(titled(compose(documentOf(none)), 'mass')).toBe('–');
  });
});

describe('balloons', () => {
  const balloon = (id: string, more: Partial<BalloonRecord> = {}): BalloonRecord => ({
    type: 'balloon',
    id: `balloon:${id}`,
    view: 'view:1',
    component: 'Post',
    anchor: [46, 10],
    offset: [40, -30],
    end: 'dot',
    ...more,
  });
  const shown = (...balloons: BalloonRecord[]) => compose(documentOf(front, ...balloons)).groups.filter((g) => g.role === 'balloon');

  test('carry the item’s number; the leader runs from the circle’s edge to the place on the part', () => {
    const [g] = shown(balloon('a'));
    // Circle about (140, 50); the anchor (46, 10) at 1:2 about (100, 80).
    const [x, y, w] = g!.box;
    expect([x + w / 2, y + w / 2]).toEqual([140, 50]);
    expect(g).toMatchObject({ label: 'Balloon 2: Post' });
    const [leader, dot, circle, number] = g!.items;
    const radius = w / 2;
    const [from, to] = pointsOfPath((leader as { d: string }).d)[0]!;
    expect(to).toEqual([123, 75]);
    expect(Math.hypot(from![0] - 140, from![1] - 50)).toBeCloseTo(radius, 2);
    expect((from![0] - 140) * (75 - 50) - (from![1] - 50) * (123 - 140)).toBeCloseTo(0, 1);
    for (const [c, at, size] of [
      [dot, [123, 75], 0.6],
      [circle, [140, 50], radius],
    ] as const)
      for (const [px, py] of pointsOfPath((c as { d: string }).d).flat()) expect(Math.hypot(px - at[0], py - at[1])).toBeCloseTo(size, 2);
    expect(number).toMatchObject({ text: '2', x: 140, anchor: 'middle', source: { component: 1, item: 2 } });
    expect(w).toBe(styleFor(paperByName('A3')!).balloon);
  });
  test('an arrow points at the edge it ends on', () => {
    const [g] = shown(balloon('a', { end: 'arrow' }));
    const [tip, p, q] = pointsOfPath((g!.items[1] as { d: string }).d)[0]!;
    expect(tip).toEqual([123, 75]);
    const back = [(p![0] + q![0]) / 2, (p![1] + q![1]) / 2];
    expect(Math.hypot(back[0]! - 123, back[1]! - 75)).toBeCloseTo(3, 2);
    // The head lies on the leader's side of its tip.
    expect((back[0]! - 123) * (140 - 123) + (back[1]! - 75) * (50 - 75)).toBeGreaterThan(0);
  });
  test('whose part is gone ask; one over its own anchor has no leader; those of other sheets are not here', () => {
    const [gone, near] = shown(balloon('b', { offset: [23, -5] }), balloon('a', { component: 'Nobody' }), balloon('c', { view: 'view:9' }));
    expect(gone).toMatchObject({ id: 'balloon:a', label: 'Balloon without a component' });
    expect(gone!.items.find((i) => i.kind === 'text')).toMatchObject({ text: '?' });
    expect(near!.items.map((i) => i.kind)).toEqual(['stroke', 'text']);
    expect(shown(balloon('c', { view: 'view:9' }))).toEqual([]);
  });
});
