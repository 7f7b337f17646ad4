import fc from 'fast-check';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
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
  test('tabs, a mark of byte order, other ends of line, quotes in the middle, an end without a break', () => {
    expect(readCsv('t.csv', '\ufeffa\tb,c\td\n1\t2\t3')).toEqual([
      ['a', 'b,c', 'd'],
      ['1', '2', '3'],
    ]);
    expect(readCsv('t.csv', 'a,b\r\n6" pipe,"say ""so"""\r\n,\r\n')).toEqual([
      ['a', 'b'],
      ['6" pipe', 'say "so"'],
      ['', ''],
    ]);
    // A return that ends no line belongs to the text.
    expect(readCsv('t.csv', 'a,b\nx\ry,z\r\n')[1]).toEqual(['x\ry', 'z']);
    expect(readCsv('t.csv', '')).toEqual([]);
    expect(readCsv('t.csv', 'one')).toEqual([['one']]);
  });
  // Common practice against formulas in spreadsheets: an apostrophe before what would begin one.
  test('the apostrophe that guards a formula is taken off, another one stays', () => {
    expect(readCsv('t.csv', "'=1,'@x,'-2,'quoted,''=1\n")).toEqual([['=1', '@x', '-2', "'quoted", "''=1"]]);
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
  /** A workbook whose only cell stands far down or far to the right: as large as that counts. */
  const reaching = async (cell: string, row: number) => {
    const files = unzipSync(await writeXlsx('p', [['x']]));
    const name = Object.keys(files).find((f) => f.endsWith('sheet1.xml'))!;
    const xml = strFromU8(files[name]!)
      .replace(/<row r="1"/, `<row r="${row}"`)
      .replaceAll('"A1"', `"${cell}"`);
    return zipSync({ ...files, [name]: strToU8(xml) });
  };
  test('more rows or columns than a table of properties may have are refused, as many as it may have are read', async () => {
    const table = await readXlsx('t.xlsx', await reaching('A20000', 20_000));
    expect([table.length, table.at(-1)]).toEqual([20_000, ['x']]);
    await expect(readXlsx('t.xlsx', await reaching('A20001', 20_001))).rejects.toMatchObject({
      code: 'FILE_TOO_MANY',
      details: { count: 20_001, what: 'rows' },
    });
    // KN is the 300th column, KO the next.
    expect((await readXlsx('t.xlsx', await reaching('KN1', 1)))[0]).toHaveLength(300);
    await expect(readXlsx('t.xlsx', await reaching('KO1', 1))).rejects.toMatchObject({ code: 'FILE_TOO_MANY', details: { what: 'columns' } });
    expect(() => readCsv('t.csv', 'a,b\r\n'.repeat(20_001))).toThrow(/rows; the limit is 20000/);
    expect(readCsv('t.csv', 'a,b\r\n'.repeat(20_000))).toHaveLength(20_000);
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
