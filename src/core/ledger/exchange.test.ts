import { describe, expect, test } from 'vitest';
import type { Assembly } from '../assembly/assembly.ts';
import { translation } from '../base/placement.ts';
import { BLANK_DRAWING, PLAIN_LEDGER, type DrawingDocument, type PropertyRecord } from '../document/records.ts';
import { applySteps } from '../document/steps.ts';
import { composeSheet } from '../../elements/compose.ts';
import { Scene } from '../../elements/scene.ts';
import { assemblyOf, box } from '../testing/shapes.ts';
import { previewTable, propertiesTable } from './exchange.ts';
import { stepsOf } from './grid.ts';
import { itemsOf } from './items.ts';
import { cellText } from './list-rows.ts';

const { assembly: plain } = assemblyOf([
  // 100 × 100 × 10 mm of steel: 0.785 kg.
  { name: 'Plate', geometry: box([0, 0, 0], [100, 100, 10]), material: 'S355', properties: { 'Drawing number': 'N-1', Source: 'made' } },
  { name: 'Bush', geometry: box([0, 0, 0], [20, 20, 20]), material: 'S355', properties: { 'Part number': 'B-20' } },
  { name: 'Bush', geometry: box([0, 0, 0], [30, 20, 20]), material: 'S355', properties: { 'Part number': 'B-30' } },
]);
/** Three plates. */
const assembly: Assembly = {
  ...plain,
  parts: plain.parts.map((p, i) => ({ ...p, id: `${p.name}${i}` })),
  nodes: [...plain.nodes, { ...plain.nodes[1]!, placement: translation([0, 0, 50]) }, { ...plain.nodes[1]!, placement: translation([0, 0, 90]) }],
};
const sheet = { type: 'sheet', id: 'sheet:1', order: 1, name: 'GA', size: 'A3', landscape: true } as const;
const document: DrawingDocument = { drawing: { ...BLANK_DRAWING, title: 'T' }, 'sheet:1': sheet };
const items = itemsOf(assembly, document);

describe('a quantity of three', () => {
  test('counts three times in the list’s total and in the title block', () => {
    const plate = items.find((i) => i.part === 'Plate0')!;
    expect([plate.quantity, cellText(plate, 'quantity'), cellText(plate, 'mass'), cellText(plate, 'totalMass')]).toEqual([3, '3', '0.785 kg', '2.36 kg']);
    // 3 × 0.785 + 0.0628 + 0.0942 kg.
    const mass = (doc: DrawingDocument) => {
      const list = composeSheet(new Scene({ document: doc, assembly, results: new Map() }), 'sheet:1');
      const texts = list.groups.find((g) => g.id === 'title')!.items.flatMap((i) => (i.kind === 'text' && i.source?.field === 'mass' ? [i.text] : []));
      return texts.filter((t) => t !== 'Mass');
    };
    expect(mass(document)).toEqual(['2.51 kg']);
    // With one mass unknown the sum says so, on two lines where its cell is narrow.
    const unknown: PropertyRecord = { type: 'property', id: 'property:Bush1', part: 'Bush1', values: { material: 'unobtainium' } };
    expect(mass({ ...document, 'property:Bush1': unknown })).toEqual(['2.45 kg,', 'incomplete']);
  });
  test('checked by and drawn by stand in their own cells', () => {
    const doc: DrawingDocument = { ...document, drawing: { ...BLANK_DRAWING, drawnBy: 'D. Drafter', checkedBy: 'C. Checker', approvedBy: 'A. Approver' } };
    const list = composeSheet(new Scene({ document: doc, assembly, results: new Map() }), 'sheet:1');
    const texts = list.groups.find((g) => g.id === 'title')!.items.flatMap((i) => (i.kind === 'text' ? [i] : []));
    for (const [field, caption, value] of [
      ['drawnBy', 'Drawn by', 'D. Drafter'],
      ['checkedBy', 'Checked by', 'C. Checker'],
      ['approvedBy', 'Approved by', 'A. Approver'],
    ] as const) {
      const own = texts.filter((t) => t.source?.field === field);
      expect(own.map((t) => t.text)).toEqual([caption, value]);
      // The value stands right under its caption.
      expect(Math.abs(own[0]!.x - own[1]!.x)).toBeLessThan(1);
      expect(own[1]!.y - own[0]!.y).toBeGreaterThan(2);
      expect(own[1]!.y - own[0]!.y).toBeLessThan(7);
    }
  });
});

describe('a table that comes back', () => {
  const table = propertiesTable(items, PLAIN_LEDGER);
  const at = (title: string) => table[0]!.indexOf(title);
  const changed = (row: number, title: string, text: string) => table.map((r, i) => (i === row ? r.map((c, k) => (k === at(title) ? text : c)) : r));

  test('as it went out changes nothing', () => {
    expect(previewTable(table, items, PLAIN_LEDGER)).toEqual({ changes: [], refused: [], unknown: [] });
  });
  test('one cell, with what it was', () => {
    const { changes } = previewTable(changed(1, 'Finish', 'zinc'), items, PLAIN_LEDGER);
    expect(changes).toEqual([{ part: 'Plate0', key: 'finish', text: 'zinc', title: 'Finish', before: '' }]);
  });
  test('rows without the part’s id are found by part number, drawing number, description, in that order', () => {
    const by = (heading: readonly string[], row: readonly string[]) => previewTable([heading, row], items, PLAIN_LEDGER);
    expect(by(['Part number', 'Finish'], ['B-30', 'black']).changes).toMatchObject([{ part: 'Bush2', text: 'black' }]);
    expect(by(['Drawing number', 'Finish'], ['N-1', 'black']).changes).toMatchObject([{ part: 'Plate0' }]);
    expect(by(['Description', 'Finish'], ['Plate', 'black']).changes).toMatchObject([{ part: 'Plate0' }]);
  });
  test('an ambiguous row belongs to nobody: it is named, not guessed', () => {
    const r = previewTable(
      [
        ['Description', 'Finish'],
        ['Bush', 'black'],
        ['', ''],
      ],
      items,
      PLAIN_LEDGER,
    );
    expect(r).toEqual({ changes: [], refused: [], unknown: ['Bush'] });
  });
  test('headings in any case and with blanks, a mass, a fixed column, a wrong value, a short row', () => {
    const r = previewTable(
      [
        ['PART ', ' finish', 'Mass', 'No.', 'Source'],
        ['Plate0', ' zinc ', '2 kg', '99', 'stolen'],
        ['Bush1', 'zinc'],
        ['Bush2', '  ', '', '', 'bought'],
      ],
      items,
      PLAIN_LEDGER,
    );
    expect(r.changes.map((c) => [c.part, c.key, c.text])).toEqual([
      ['Plate0', 'finish', 'zinc'],
      ['Plate0', 'mass', '2 kg'],
      ['Bush1', 'finish', 'zinc'],
      ['Bush2', 'mass', ''],
      ['Bush2', 'source', 'bought'],
    ]);
    expect(r.refused).toEqual(['Source takes one of made, bought, standard, not “stolen”.']);
    expect(r.unknown).toEqual([]);
  });
  test('the part’s id stands in any column; one that is none is named by the row’s first word', () => {
    const rows = (row: string[]) => previewTable([['Finish', 'Part', 'Description'], row], items, PLAIN_LEDGER);
    expect(rows(['black', 'Bush2', 'Plate']).changes.map((c) => c.part)).toEqual(['Bush2', 'Bush2']);
    expect(rows(['', 'Nobody', 'Nothing'])).toEqual({ changes: [], refused: [], unknown: ['Nobody'] });
  });
  test('headings that are none of ours are told', () => {
    expect(previewTable([['Colour of the sky'], ['blue']], items, PLAIN_LEDGER).refused[0]).toMatch(/^None of the headings/);
  });
});

describe('when a value was typed', () => {
  const put = (doc: DrawingDocument, key: string, text: string | undefined, now: string) => {
    const r = applySteps(doc, stepsOf(doc, [{ part: 'Plate0', key, text }], now));
    if (!r.ok) throw new Error(r.reason);
    return r.document;
  };
  test('each keeps its own date through later edits, and loses it with its value', () => {
    const first = put(document, 'finish', 'zinc', '2026-01-01T10:00:00Z');
    const second = put(first, 'supplier', 'Tidewater', '2026-02-02T10:00:00Z');
    expect(second['property:Plate0']).toMatchObject({
      values: { finish: 'zinc', supplier: 'Tidewater' },
      when: { finish: '2026-01-01T10:00:00Z', supplier: '2026-02-02T10:00:00Z' },
    });
    const plate = itemsOf(assembly, second).find((i) => i.part === 'Plate0')!;
    expect([plate.values.finish.origin, plate.values.supplier.origin]).toEqual(['Typed on 2026-01-01.', 'Typed on 2026-02-02.']);
    const third = put(second, 'finish', undefined, '2026-03-03T10:00:00Z');
    expect(third['property:Plate0']).toMatchObject({ values: { supplier: 'Tidewater' }, when: { supplier: '2026-02-02T10:00:00Z' } });
    expect((third['property:Plate0'] as PropertyRecord).values).not.toHaveProperty('finish');
    expect(put(third, 'supplier', undefined, '2026-04-04T10:00:00Z')).toEqual(document);
  });
  test('two cells of one part are one record, of two parts two', () => {
    const steps = stepsOf(
      document,
      [
        { part: 'Plate0', key: 'finish', text: 'a' },
        { part: 'Plate0', key: 'remark', text: 'b' },
        { part: 'Bush1', key: 'finish', text: 'c' },
      ],
      'now',
    );
    expect(steps).toMatchObject([
      { op: 'put', record: { id: 'property:Plate0', values: { finish: 'a', remark: 'b' } } },
      { op: 'put', record: { id: 'property:Bush1', values: { finish: 'c' } } },
    ]);
  });
});
