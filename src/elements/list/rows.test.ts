import { describe, expect, test } from 'vitest';
import { combine, IDENTITY, translation } from '../../core/base/placement.ts';
import type { Assembly } from '../../core/assembly/assembly.ts';
import { featuresSource } from '../../core/features/part-features.ts';
import { BLANK_DRAWING, type DrawingDocument, type DrawingDocumentRecord, type ListRecord } from '../../core/document/records.ts';
import { applySteps, type Step } from '../../core/document/steps.ts';
import { LIST_STYLES, listColumnsFor } from '../../core/ledger/list-rows.ts';
import { lockedNumber, numberedByHand, renumbered } from '../../core/ledger/numbering.ts';
import { numberText } from '../../core/ledger/items.ts';
import { box, cylinder } from '../../core/testing/shapes.ts';
import { Scene } from '../scene.ts';
import { listTexts } from './texts.ts';
import { listTable, rowsOf } from './rows.ts';

/** A stand with two like legs, each a post with two bolts; a plate and one more bolt on top. Bolts 4, posts 2, plate 1. */
const geometries = new Map([
  ['plate', box([0, 0, 0], [300, 200, 10])],
  ['post', cylinder(20, 500, 64)],
  ['bolt', cylinder(4, 30)],
  ['rail', cylinder(20, 900, 64)],
]);
const parts = [...geometries].map(([name, g]) => ({
  id: name,
  name,
  geometryKey: name,
  volumeMm3: g.volumeMm3,
  areaMm2: g.areaMm2,
  centroid: [0, 0, 0] as const,
  box: g.box,
  properties: name === 'bolt' ? { source: 'standard' } : {},
  material: 'Steel S235JR',
}));
const leaf = (parent: number, part: number) => ({ parent, name: parts[part]!.name, product: parts[part]!.name, placement: IDENTITY, part });
const assembly: Assembly = {
  name: 'Stand',
  schema: '',
  unit: 'mm',
  notices: [],
  properties: {},
  parts,
  nodes: [
    { parent: -1, name: 'Stand', product: 'Stand', placement: IDENTITY, part: -1 },
    leaf(0, 0),
    { parent: 0, name: 'Leg', product: 'Leg', placement: IDENTITY, part: -1 },
    leaf(2, 1),
    leaf(2, 2),
    leaf(2, 2),
    { parent: 0, name: 'Leg', product: 'Leg', placement: combine(translation([200, 0, 0]), IDENTITY), part: -1 },
    leaf(6, 1),
    leaf(6, 2),
    leaf(6, 2),
    leaf(0, 2),
    leaf(0, 3),
  ],
};
const drawing = BLANK_DRAWING;
const sheet = { type: 'sheet', id: 'sheet:1', order: 0, name: '', size: 'A3', landscape: true } as const;
const columns = [
  { key: 'item', title: 'Item', widthMm: 10 },
  { key: 'quantity', title: 'Qty', widthMm: 10 },
  { key: 'description', title: 'What', widthMm: 60 },
];
const list: ListRecord = { type: 'list', id: 'list:1', sheet: 'sheet:1', columns };
const grease = { type: 'row', id: 'row:1', quantity: 'as needed', order: 0 } as const;
const named = { type: 'property', id: 'property:row:1', part: 'row:1', values: { description: 'Grease' } } as const;

const sceneOf = (document: DrawingDocument) => new Scene({ document, assembly, results: new Map(), features: featuresSource(geometries) });
const start = sceneOf(Object.fromEntries(([drawing, sheet, list, grease, named] as DrawingDocumentRecord[]).map((r) => [r.id, r])));
const after = (scene: Scene, steps: readonly Step[]): Scene => {
  const r = applySteps(scene.document, steps);
  if (!r.ok) throw new Error(r.reason);
  return sceneOf(r.document as DrawingDocument);
};
const table = (record: ListRecord, scene = start) =>
  listTable(record, scene)
    .slice(1)
    .map((r) => r.join('|'));

describe('levels of a list (ISO 7573)', () => {
  test('parts only: everything counted in the whole', () => {
    expect(table(list)).toEqual(['1|1|plate', '2|2|post', '3|5|bolt', '4|1|rail', '5|as needed|Grease']);
  });
  test('top level only: sub-assemblies with numbers of their own, after those of the parts', () => {
    expect(table({ ...list, rows: 'top' })).toEqual(['1|1|plate', '6|2|Leg', '3|1|bolt', '4|1|rail', '5|as needed|Grease']);
  });
  test('indented: what one of the sub-assembly holds under it; an item keeps its number wherever it stands', () => {
    expect(table({ ...list, rows: 'indented' })).toEqual(['1|1|plate', '6|2|Leg', '2|1|  post', '3|2|  bolt', '3|1|bolt', '4|1|rail', '5|as needed|Grease']);
    expect(table({ ...list, rows: 'indented parts' })).toEqual(['1|1|plate', '2|1|  post', '3|2|  bolt', '3|1|bolt', '4|1|rail', '5|as needed|Grease']);
  });
  test('quantities of all levels multiply up to those of the whole', () => {
    const rows = rowsOf({ ...list, rows: 'indented' }, start).flatMap((r) => (r.item ? [r] : []));
    const total = new Map<string, number>();
    let times = 1;
    for (const r of rows) {
      if (r.level === 0) times = r.item.part.startsWith('group:') ? r.quantity : 1;
      if (r.item.part.startsWith('group:')) continue;
      total.set(r.item.part, (total.get(r.item.part) ?? 0) + r.quantity * (r.level ? times : 1));
    }
    for (const i of start.items) if (i.components.length) expect(total.get(i.part)).toBe(i.quantity);
  });
  test('one sub-assembly alone: what one of it takes, and nothing of one’s own', () => {
    expect(table({ ...list, of: 'group:Leg' })).toEqual(['2|1|post', '3|2|bolt']);
    expect(table({ ...list, of: 'group:gone' })).toEqual([]);
  });
  test('what a view shows', () => {
    const seen = Float64Array.from({ length: 9 }, (_, c) => (c === 0 || c === 2 ? 5 : 0));
    const scene = new Scene({
      document: { ...start.document, 'view:1': { type: 'view', id: 'view:1' } as never },
      assembly,
      results: new Map(),
      seen: new Map([['view:1', seen]]),
    });
    expect(table({ ...list, view: 'view:1' }, scene)).toEqual(['1|1|plate', '3|5|bolt']);
  });
});

describe('for all that are made', () => {
  test('quantities and totals are multiplied, words are not; what stands under a sub-assembly is counted for one of it', () => {
    const many = after(start, [{ op: 'put', record: { ...drawing, quantity: 4 } }]);
    const [one, all] = [table(list, many), table({ ...list, made: true }, many)];
    expect(all).toEqual(one.map((row) => row.replace(/\|(\d+)\|/, (_, n: string) => `|${4 * Number(n)}|`)));
    expect(all.some((row) => row.includes('|as needed|'))).toBe(true);
    expect(all).not.toEqual(one);
    const levels = (made: boolean) => rowsOf({ ...list, rows: 'indented', ...(made ? { made } : {}) } as ListRecord, many);
    levels(true).forEach((r, i) => expect(r.quantity).toBe(levels(false)[i]!.quantity * (r.level === 0 ? 4 : 1)));
    // A drawing of one says the same either way.
    expect(table({ ...list, made: true })).toEqual(table(list));
  });
  test('a quantity that was typed as a number is one', () => {
    const typed = after(start, [
      { op: 'put', record: { ...drawing, quantity: 3 } },
      { op: 'put', record: { ...grease, quantity: '2' } },
    ]);
    expect(table({ ...list, made: true }, typed).find((row) => row.endsWith('Grease'))).toContain('|6|');
  });
});

describe('order and what is left out', () => {
  test('several keys, up and down, numbers by their value', () => {
    expect(table({ ...list, sort: [{ key: 'quantity', down: true }, { key: 'description' }] })).toEqual([
      '5|as needed|Grease',
      '3|5|bolt',
      '2|2|post',
      '1|1|plate',
      '4|1|rail',
    ]);
    expect(table({ ...list, sort: [{ key: 'length' }] }).slice(0, 1)).toEqual(['3|5|bolt']);
  });
  test('rows are left out of one list alone', () => {
    expect(table({ ...list, hidden: ['bolt', 'row:1'] })).toEqual(['1|1|plate', '2|2|post', '4|1|rail']);
  });
});

describe('the cut list', () => {
  const cut: ListRecord = { ...list, ...LIST_STYLES.find((s) => s.name === 'Cut list')! };
  test('made parts by their stock, the longest first, with the length that a profile takes in all; bought ones are not cut', () => {
    const rows = listTable(
      {
        ...cut,
        columns: [...columns, { key: 'stock', title: '', widthMm: 9 }, { key: 'length', title: '', widthMm: 9 }, { key: 'totalLength', title: '', widthMm: 9 }],
      },
      start,
    );
    expect(rows.slice(1).map((r) => r.join('|'))).toEqual([
      '4|1|rail|Round 40|900|900',
      '2|2|post|Round 40|500|1000',
      '|3|Total Round 40 Steel S235JR|||1900',
      '1|1|plate|Plate 10|300|300',
    ]);
  });
});

describe('layouts that are ready', () => {
  test('ISO 7573 has item, quantity, description, reference and material; ASME Y14.34 find number, quantity, identifying number, nomenclature; all as wide as the title block', () => {
    expect(listColumnsFor('iso').map((c) => c.key)).toEqual(['item', 'quantity', 'description', 'drawingNumber', 'material', 'mass']);
    expect(listColumnsFor('asme').map((c) => c.key)).toEqual(['item', 'quantity', 'identifyingNumber', 'description', 'material']);
    // ISO 7200: 180 mm; ASME Y14.1: 6.25 in on small sheets (from memory).
    for (const s of LIST_STYLES) expect(s.columns.reduce((w, c) => w + c.widthMm, 0)).toBe(s.name === 'ASME Y14.34' ? 158.75 : 180);
  });
});

describe('numbers', () => {
  const numbers = (scene: Scene) => Object.fromEntries(scene.items.map((i) => [i.part, numberText(i)]));
  const all = (scene: Scene) => [...scene.items, ...scene.groups.map((g) => g.item)];
  test('typed by hand: the item that had the number takes the other’s; what is no number is written as it is', () => {
    const swapped = after(start, numberedByHand(start.document, all(start), 'bolt', '1'));
    expect(numbers(swapped)).toEqual({ plate: '3', post: '2', bolt: '1', rail: '4', 'row:1': '5' });
    const sub = after(swapped, numberedByHand(swapped.document, all(swapped), 'rail', '2.1'));
    expect(numbers(sub)).toMatchObject({ rail: '2.1' });
    expect(numberedByHand(sub.document, all(sub), 'post', '2.1')).toEqual([]);
    expect(numbers(after(sub, numberedByHand(sub.document, all(sub), 'rail', '')))).toMatchObject({ rail: '4' });
  });
  test('one that is locked is not taken away', () => {
    const locked = after(start, lockedNumber(start.document, all(start), 'plate', true));
    expect(numberedByHand(locked.document, all(locked), 'bolt', '1')).toEqual([]);
    const free = after(locked, lockedNumber(locked.document, all(locked), 'plate', false));
    expect(numberedByHand(free.document, all(free), 'bolt', '1')).toHaveLength(1);
  });
  test('given anew in the order of a list, with gaps, past the locked ones; every number once', () => {
    const locked = after(start, numberedByHand(start.document, all(start), 'rail', '20'));
    const order = rowsOf({ ...list, sort: [{ key: 'description' }] }, locked).flatMap((r) => (r.item ? [r.item] : []));
    const anew = after(locked, renumbered(locked.document, locked.items, order, { from: 10, step: 10 }));
    expect(numbers(anew)).toEqual({ bolt: '10', rail: '20', 'row:1': '30', plate: '40', post: '50' });
    expect(new Set(all(anew).map((i) => i.number)).size).toBe(all(anew).length);
  });
  test('in a cell: a double press types the number, and the property', () => {
    const texts = listTexts(list, start);
    const cell = texts.find((t) => t.name === 'bolt/item')!;
    expect(numbers(after(start, cell.write('7', '')))).toMatchObject({ bolt: '7' });
    const name = texts.find((t) => t.name === 'post/description')!;
    expect(after(start, name.write('Leg tube', '2026-01-01')).items[1]!.values.description).toMatchObject({ text: 'Leg tube', from: 'typed' });
    expect(texts.some((t) => t.name === 'bolt/quantity')).toBe(false);
  });
});
