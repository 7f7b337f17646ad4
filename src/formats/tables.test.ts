import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { PLAIN_LEDGER, type DrawingDocument } from '../core/document/records.ts';
import { applySteps } from '../core/document/steps.ts';
import { previewTable, propertiesTable } from '../core/ledger/exchange.ts';
import { stepsOf } from '../core/ledger/grid.ts';
import { itemsOf } from '../core/ledger/items.ts';
import { assemblyOf, box } from '../core/testing/shapes.ts';
import { writeCsv } from './csv.ts';
import { readCsv, readXlsx, writeXlsx } from './tables.ts';

const { assembly } = assemblyOf([
  { name: 'Frame', geometry: box([0, 0, 0], [100, 10, 80]) },
  { name: 'Grip; "soft", =long', geometry: box([0, 0, 0], [20, 20, 100]), at: [300, 0, 0] },
]);

describe('tables', () => {
  test('any texts survive CSV there and back (RFC 4180)', () => {
    const text = fc.string({ maxLength: 8 }).filter((s) => !/[\r\t]/.test(s) && !s.startsWith("'"));
    const rows = fc.integer({ min: 2, max: 4 }).chain((w) => fc.array(fc.array(text, { minLength: w, maxLength: w }), { minLength: 1, maxLength: 5 }));
    fc.assert(
      fc.property(rows, (table) => {
        const head = table[0]!.map((_, i) => `h${i}`);
        expect(readCsv('t.csv', writeCsv([head, ...table]))).toEqual([head, ...table]);
      }),
    );
  });
  test('semicolons, as some spreadsheets write them', () => {
    expect(readCsv('t.csv', 'a;b\r\n1;"x;y"\r\n')).toEqual([
      ['a', 'b'],
      ['1', 'x;y'],
    ]);
  });
  test('any texts survive XLSX', async () => {
    const rows = [
      ['Part', 'Text'],
      ['a', '=1+1'],
      ['b', '00123'],
      ['c', 'größer — 中文 \u{1f600}'],
      ['d', ''],
    ];
    expect(await readXlsx('t.xlsx', await writeXlsx('Properties: all/any', rows))).toEqual(rows);
  });
  test('more rows or columns than a table of properties may have are refused, as many as it may have are read', async () => {
    const rows = (n: number) => Array.from({ length: n }, (_, i) => ['p', String(i)]);
    expect(await readXlsx('t.xlsx', await writeXlsx('p', rows(20_000)))).toHaveLength(20_000);
    await expect(readXlsx('t.xlsx', await writeXlsx('p', rows(20_001)))).rejects.toMatchObject({
      code: 'FILE_TOO_MANY',
      details: { count: 20_001, what: 'rows' },
    });
    const wide = (n: number) => [Array.from({ length: n }, (_, i) => `c${i}`)];
    expect((await readXlsx('t.xlsx', await writeXlsx('p', wide(300))))[0]).toHaveLength(300);
    await expect(readXlsx('t.xlsx', await writeXlsx('p', wide(301)))).rejects.toMatchObject({ code: 'FILE_TOO_MANY', details: { what: 'columns' } });
    expect(() => readCsv('t.csv', 'a,b\r\n'.repeat(20_001))).toThrow(/rows; the limit is 20000/);
  });
  test('a file that is no workbook is refused in words', async () => {
    await expect(readXlsx('t.xlsx', new TextEncoder().encode('hello'))).rejects.toMatchObject({ code: 'FILE_DAMAGED' });
  });
});

describe('properties out and in again', () => {
  const items = itemsOf(assembly, {});
  test('unchanged, nothing would change, by either format', async () => {
    const table = propertiesTable(items, PLAIN_LEDGER);
    for (const back of [readCsv('p.csv', writeCsv(table)), await readXlsx('p.xlsx', await writeXlsx('p', table))])
      expect(previewTable(back, items, PLAIN_LEDGER)).toEqual({ changes: [], refused: [], unknown: [] });
  });
  test('what was changed elsewhere is shown first, and then typed', () => {
    const table = propertiesTable(items, PLAIN_LEDGER).map((r) => [...r]);
    const at = (title: string) => table[0]!.indexOf(title);
    table[1]![at('Material')] = 'S355';
    table[2]![at('Source')] = 'stolen';
    table[2]![at('Qty')] = '99';
    table.push(['nobody', ...new Array<string>(table[0]!.length - 1).fill('')]);
    const p = previewTable(table, items, PLAIN_LEDGER);
    expect(p.changes.map((c) => [c.part, c.key, c.before, c.text])).toEqual([[items[0]!.part, 'material', '', 'S355']]);
    expect(p.refused[0]).toMatch(/“stolen”/);
    expect(p.unknown).toEqual(['nobody']);
    const done = applySteps({} as DrawingDocument, stepsOf({}, p.changes, '2026-11-25T10:00:00Z'));
    expect(done.ok && itemsOf(assembly, done.document)[0]!.values.material.text).toBe('S355');
  });
  test('without ids, rows find the only part with that description; strange headings are told', () => {
    expect(
      previewTable(
        [
          ['Description', 'Finish'],
          ['Frame', 'painted'],
        ],
        items,
        PLAIN_LEDGER,
      ).changes,
    ).toMatchObject([{ part: items[0]!.part, key: 'finish', text: 'painted' }]);
    expect(previewTable([['Foo'], ['x']], items, PLAIN_LEDGER).refused[0]).toMatch(/None of the headings/);
  });
});
