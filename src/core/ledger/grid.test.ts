import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { PLAIN_LEDGER, type DrawingDocument } from '../document/records.ts';
import { applySteps } from '../document/steps.ts';
import { assemblyOf, box } from '../testing/shapes.ts';
import { componentsOf } from '../assembly/components.ts';
import { wholeMass } from './centre-of-mass.ts';
import { accepted, allColumns, gridOrigin, gridText, isGap, isTyped, visibleColumns, type GridColumn } from './columns.ts';
import { blockText, fillDown, nextGap, parseBlock, pasteBlock, putBack, stepsOf, textsIn } from './grid.ts';
import { itemsOf, parseMass } from './items.ts';
import { cleanedName, guessScheme, isStandardName, nextDrawingNumber, suggestionsFor } from './suggest.ts';

const { assembly } = assemblyOf([
  { name: 'SIDE_FRAME_LEFT', geometry: box([0, 0, 0], [100, 10, 80]) },
  { name: 'Bolt, hex head, ISO 4017 M8 × 25', geometry: box([0, 0, 0], [8, 8, 25]), at: [200, 0, 0] },
  { name: 'Grip', geometry: box([0, 0, 0], [20, 20, 100]), at: [300, 0, 0] },
]);
const NOW = '2026-11-25T10:00:00Z';
const columns = visibleColumns(PLAIN_LEDGER);
const at = (key: string) => columns.findIndex((c) => c.key === key);
const column = (key: string) => columns[at(key)]!;
const apply = (doc: DrawingDocument, changes: Parameters<typeof stepsOf>[1]): DrawingDocument => {
  const r = applySteps(doc, stepsOf(doc, changes, NOW));
  if (!r.ok) throw new Error(r.reason);
  return r.document;
};
const cell = (row: number, key: string) => ({ top: row, bottom: row, left: at(key), right: at(key) });

describe('clipboard blocks', () => {
  test('are what spreadsheets put there: tabs, breaks, quotes, a break at the end', () => {
    expect(parseBlock('a\tb\r\nc\t"d ""x""\ne"\r\n')).toEqual([
      ['a', 'b'],
      ['c', 'd "x"\ne'],
    ]);
    expect(parseBlock('one')).toEqual([['one']]);
  });
  test('any block survives the way there and back', () => {
    const text = fc.string({ maxLength: 8 }).filter((s) => !s.includes('\r'));
    const rows = fc.integer({ min: 1, max: 4 }).chain((w) => fc.array(fc.array(text, { minLength: w, maxLength: w }), { minLength: 1, maxLength: 5 }));
    fc.assert(
      fc.property(rows, (block) => {
        // A single empty cell at the end is the break that ends the last row.
        fc.pre(!(block.length > 1 && block.at(-1)!.length === 1 && block.at(-1)![0] === ''));
        expect(parseBlock(blockText(block))).toEqual(block);
      }),
    );
  });
});

describe('editing the grid', () => {
  const items = itemsOf(assembly, {});
  test('a block is pasted from the corner, and what is typed is told from what is not', () => {
    const range = { ...cell(0, 'drawingNumber'), right: at('drawingNumber') };
    const { changes, refused } = pasteBlock(items, columns, range, [
      ['SW-1', 'P-1', 'S355'],
      ['SW-2', 'P-2', '8.8'],
    ]);
    expect(refused).toEqual([]);
    const doc = apply({}, changes);
    const after = itemsOf(assembly, doc);
    expect(after.map((i) => [i.values.drawingNumber.text, i.values.partNumber.text, i.values.material.text])).toEqual([
      ['SW-1', 'P-1', 'S355'],
      ['SW-2', 'P-2', '8.8'],
      ['', '', ''],
    ]);
    expect(after[0]!.values.material).toMatchObject({ from: 'typed', origin: 'Typed on 2026-11-25.' });
    // Mass follows: 100 × 10 × 80 mm of steel.
    expect(after[0]!.massKg).toBeCloseTo(8e-5 * 7850, 9);
    // Put back: nothing is typed any more, and the record goes.
    const back = apply(doc, putBack(after, columns, { top: 0, bottom: 2, left: 0, right: columns.length - 1 }));
    expect(back).toEqual({});
  });
  test('one cell fills a range; fixed columns are not overwritten, wrong texts are refused in words', () => {
    const range = { top: 0, bottom: 2, left: at('source'), right: at('source') };
    expect(pasteBlock(items, columns, range, [['Bought']]).changes.map((c) => c.text)).toEqual(['bought', 'bought', 'bought']);
    expect(pasteBlock(items, columns, range, [['stolen']]).refused[0]).toMatch(/Source takes one of made, bought, standard, not “stolen”/);
    expect(pasteBlock(items, columns, cell(0, 'quantity'), [['7']])).toMatchObject({ changes: [], refused: ['Qty is not typed: it is kept as it is.'] });
  });
  test('a block that fits several times is repeated, one that does not is put once; short rows leave cells alone', () => {
    const range = { top: 0, bottom: 1, left: at('supplier'), right: at('supplier') + 1 };
    expect(columns.slice(range.left, range.right + 1).map((c) => c.key)).toEqual(['supplier', 'supplierNumber']);
    const texts = (block: string[][], r = range) =>
      pasteBlock(items, columns, r, block).changes.map((c) => [items.findIndex((i) => i.part === c.part), c.key, c.text]);
    expect(texts([['a', 'b']])).toEqual([
      [0, 'supplier', 'a'],
      [0, 'supplierNumber', 'b'],
      [1, 'supplier', 'a'],
      [1, 'supplierNumber', 'b'],
    ]);
    expect(texts([['a', 'b'], ['c']])).toEqual([
      [0, 'supplier', 'a'],
      [0, 'supplierNumber', 'b'],
      [1, 'supplier', 'c'],
    ]);
    // Three rows into two: three from the corner on; what would stand below the last part is dropped.
    expect(texts([['a'], ['b'], ['c']], { ...range, top: 1, bottom: 2, right: range.left })).toEqual([
      [1, 'supplier', 'a'],
      [2, 'supplier', 'b'],
    ]);
  });
  test('fill down', () => {
    const doc = apply({}, [{ part: items[0]!.part, key: 'supplier', text: 'Tidewater' }]);
    const now = itemsOf(assembly, doc);
    const { changes } = fillDown(now, columns, { top: 0, bottom: 2, left: at('supplier'), right: at('supplier') });
    expect(changes.map((c) => [c.part, c.text])).toEqual(now.slice(1).map((i) => [i.part, 'Tidewater']));
  });
  test('filling down one row, or beyond the last part, does nothing there; fixed columns are passed over', () => {
    const doc = apply({}, [{ part: items[0]!.part, key: 'remark', text: 'first' }]);
    const now = itemsOf(assembly, doc);
    const whole = { top: 0, bottom: 5, left: 0, right: columns.length - 1 };
    expect(fillDown(now, columns, { ...whole, bottom: 0 })).toEqual({ changes: [], refused: [] });
    expect(fillDown(now, columns, { ...whole, top: 9, bottom: 12 })).toEqual({ changes: [], refused: [] });
    const { changes, refused } = fillDown(now, columns, whole);
    expect(refused).toEqual([]);
    expect(changes.filter((c) => c.key === 'remark').map((c) => [c.part, c.text])).toEqual(now.slice(1).map((i) => [i.part, 'first']));
    expect(new Set(changes.map((c) => c.key))).not.toContain('quantity');
  });
  test('put back is asked for what can be typed only', () => {
    expect(putBack(items, columns, { top: 1, bottom: 1, left: at('mass'), right: at('quantity') })).toEqual([
      { part: items[1]!.part, key: 'mass', text: undefined },
    ]);
  });
  test('the next gap goes round', () => {
    const first = nextGap(items, columns, 0, 0)!;
    const seen = new Set<string>();
    for (let g = first; !seen.has(`${g.row}/${g.column}`); g = nextGap(items, columns, g.row, g.column)!) seen.add(`${g.row}/${g.column}`);
    expect(seen.size).toBe(items.reduce((n, i) => n + i.gaps.length, 0));
  });
  test('what is copied is what is shown', () => {
    expect(textsIn(items, columns, { top: 0, bottom: 1, left: 0, right: 1 }, 'kg')).toEqual([
      ['1', 'SIDE_FRAME_LEFT'],
      ['2', 'Bolt, hex head, ISO 4017 M8 × 25'],
    ]);
  });
});

describe('columns', () => {
  test('are ordered, hidden and widened by the ledger; own ones have their kind', () => {
    const ledger = {
      ...PLAIN_LEDGER,
      own: [{ key: 'own:price', title: 'Price', kind: 'number' as const, unit: '€' }],
      order: ['own:price', 'item'],
      hidden: ['remark'],
      widths: { item: 77 },
    };
    expect(
      allColumns(ledger)
        .slice(0, 3)
        .map((c) => [c.key, c.width]),
    ).toEqual([
      ['own:price', 120],
      ['item', 77],
      ['description', 210],
    ]);
    expect(visibleColumns(ledger).map((c) => c.key)).not.toContain('remark');
    const price = allColumns(ledger)[0]!;
    expect([accepted(price, '3,5 €'), accepted(price, 'dear')]).toEqual([{ text: '3.5' }, { wrong: 'Price takes a number in €, not “dear”.' }]);
  });
  test.each<[GridColumn['kind'], string, string | undefined]>([
    ['yesno', 'X', 'yes'],
    ['yesno', 'perhaps', undefined],
    ['yesno', 'boy', undefined],
    ['yesno', 'yesterday', undefined],
    ['yesno', ' Nein ', 'no'],
    ['yesno', '0', 'no'],
    ['yesno', 'casino', undefined],
    ['yesno', 'nothing', undefined],
    ['text', '  ', ''],
    ['text', ' plain ', 'plain'],
    ['link', 'mailto:a@example.org', 'mailto:a@example.org'],
    ['link', 'see https://example.org', undefined],
    ['link', 'https://example.org and more', undefined],
    ['mass', '1,2kg', '1,2kg'],
    ['mass', 'about 3 kg', undefined],
    ['mass', '3 kg or so', undefined],
    ['number', '12 mm', undefined],
    ['number', '-1,5', '-1.5'],
    ['link', 'https://example.org/a', 'https://example.org/a'],
    ['link', 'javascript:alert(1)', undefined],
    ['mass', '84 g', '84 g'],
    ['mass', 'heavy', undefined],
  ])('%s takes “%s” as %s', (kind, text, expected) => {
    const r = accepted({ key: 'own:x', title: 'X', kind, editable: true, width: 1 }, text);
    expect('text' in r ? r.text : undefined).toBe(expected);
  });
  test('choices: yes and no, one’s own, the ledger’s own materials before the known ones', () => {
    const ledger = {
      ...PLAIN_LEDGER,
      own: [
        { key: 'own:tested', title: 'Tested', kind: 'yesno' as const },
        { key: 'own:grade', title: 'Grade', kind: 'choice' as const, options: ['Fine', 'Coarse'] },
        { key: 'own:free', title: 'Free', kind: 'text' as const },
      ],
      materials: [{ name: 'Bog oak', densityKgM3: 900 }],
    };
    const options = (key: string, of = ledger) => allColumns(of).find((c) => c.key === key)!.options;
    expect([options('own:tested'), options('own:grade'), options('own:free'), options('source'), options('finish')]).toEqual([
      ['yes', 'no'],
      ['Fine', 'Coarse'],
      undefined,
      ['made', 'bought', 'standard'],
      undefined,
    ]);
    expect(options('material')!.slice(0, 1)).toEqual(['Bog oak']);
    expect(options('material')!.slice(1)).toEqual(options('material', { ...ledger, materials: [] }));
  });
  test('a unit may stand behind the number, whatever its letters mean to a pattern', () => {
    const per = (unit: string) => ({ key: 'own:x', title: 'X', kind: 'number' as const, editable: true, width: 1, unit });
    expect([accepted(per('kg/m³ (net)'), '7 kg/m³ (net)'), accepted(per('.'), '12')]).toEqual([{ text: '7' }, { text: '12' }]);
    expect(accepted(per('mm'), '7 kg')).toEqual({ wrong: 'X takes a number in mm, not “7 kg”.' });
  });
  test('a choice takes its own texts only, unless it is open to others', () => {
    const choice = (open?: boolean) => ({
      key: 'x',
      title: 'Grade',
      kind: 'choice' as const,
      editable: true,
      width: 1,
      options: ['Fine', 'Coarse'],
      ...(open ? { open } : {}),
    });
    expect(accepted(choice(), 'fine')).toEqual({ text: 'Fine' });
    expect(accepted(choice(), 'rough')).toEqual({ wrong: 'Grade takes one of Fine, Coarse, not “rough”.' });
    expect(accepted(choice(true), 'rough')).toEqual({ text: 'rough' });
  });
  test('cells say where they come from and whether they were typed', () => {
    const doc = apply({}, [
      { part: assembly.parts[0]!.id, key: 'own:price', text: '3' },
      { part: assembly.parts[0]!.id, key: 'mass', text: '3 kg' },
      { part: assembly.parts[0]!.id, key: 'finish', text: 'zinc' },
    ]);
    const [first, second] = itemsOf(assembly, doc);
    const price = allColumns({ ...PLAIN_LEDGER, own: [{ key: 'own:price', title: 'Price', kind: 'number' }] }).find((c) => c.key === 'own:price')!;
    const of = (key: string) => (key === 'own:price' ? price : column(key));
    const keys = ['item', 'quantity', 'mass', 'own:price', 'finish', 'description'];
    expect(keys.map((k) => gridText(first!, of(k)))).toEqual(['1', '1', '3 kg', '3', 'zinc', 'SIDE_FRAME_LEFT']);
    expect(keys.map((k) => gridOrigin(first!, of(k)))).toEqual([
      'Given by the ledger.',
      'Counted in the assembly.',
      'Typed here.',
      'Typed here.',
      'Typed on 2026-11-25.',
      'From the product name in the file.',
    ]);
    expect(gridOrigin(second!, price)).toBe('Not typed.');
    expect(keys.map((k) => isTyped(first!, k))).toEqual([false, false, true, true, true, false]);
    expect(keys.map((k) => isTyped(second!, k))).toEqual([false, false, false, false, false, false]);
    expect([isGap(first!, 'drawingNumber'), isGap(first!, 'finish')]).toEqual([true, false]);
  });
  test('masses are typed with their unit; 1 lb is 0.45359237 kg (international pound, 1959)', () => {
    expect([parseMass('1.2 kg'), parseMass('84 g'), parseMass('2 lb'), parseMass('3'), parseMass('3', 'lb'), parseMass('much')]).toEqual([
      1.2,
      0.084,
      0.90718474,
      3,
      expect.closeTo(1.36077711, 9),
      undefined,
    ]);
    const doc = apply({}, [{ part: assembly.parts[0]!.id, key: 'mass', text: '2,5 kg' }]);
    expect(itemsOf(assembly, doc)[0]).toMatchObject({ massKg: 2.5, massTyped: true });
    expect(gridText(itemsOf(assembly, doc)[0]!, column('mass'), 'lb')).toBe('5.51 lb');
  });
});

describe('sensible values', () => {
  test.each([
    ['SHAFT_DRUM_20', 'Shaft drum 20'],
    ['flange-bearing.stp', 'Flange-bearing'],
    ['Side frame, left', 'Side frame, left'],
    ['PA6 sleeve', 'PA6 sleeve'],
  ])('%s reads %s', (name, clean) => expect(cleanedName(name)).toBe(clean));
  test('standard parts are known by name', () => {
    for (const n of ['Nut, hex, ISO 4032 M8', 'HEX_BOLT_M8', 'DIN 471 10', 'Circlip 20', 'washer', 'DowelPin', 'Ball bearing 6204'])
      expect([n, isStandardName(n)]).toEqual([n, true]);
    for (const n of ['Side frame', 'Keyboard plate', 'Pinion', 'Nutcracker arm']) expect([n, isStandardName(n)]).toEqual([n, false]);
  });
  test('drawing numbers follow the scheme of those that are there', () => {
    const doc = apply({}, [
      { part: assembly.parts[0]!.id, key: 'drawingNumber', text: 'SW-40-01' },
      { part: assembly.parts[2]!.id, key: 'drawingNumber', text: 'SW-40-03' },
    ]);
    const items = itemsOf(assembly, doc);
    expect(guessScheme(items)).toEqual({ prefix: 'SW-40-', digits: 2 });
    expect(nextDrawingNumber({ prefix: 'SW-40-', digits: 2 }, items)).toBe('SW-40-02');
    expect(nextDrawingNumber({ prefix: 'SW-40-', digits: 2 }, items, new Set(['SW-40-02']))).toBe('SW-40-04');
  });
  test('one number alone is no scheme; the one that most share is', () => {
    const numbered = (...numbers: string[]) =>
      itemsOf(
        assembly,
        apply(
          {},
          numbers.map((text, i) => ({ part: assembly.parts[i]!.id, key: 'drawingNumber', text })),
        ),
      );
    expect(guessScheme(numbered('SW-1'))).toBeUndefined();
    expect(guessScheme(numbered('SW-1', 'SW-002'))).toBeUndefined();
    expect(guessScheme(numbered('AB', 'AB'))).toBeUndefined();
    expect(guessScheme(numbered('X-9', 'SW-40', 'SW-41'))).toEqual({ prefix: 'SW-', digits: 2 });
  });
  test('one with a supplier is bought, and takes the file’s part number as the supplier’s', () => {
    const doc = apply({}, [
      { part: assembly.parts[0]!.id, key: 'supplier', text: 'Tidewater' },
      { part: assembly.parts[2]!.id, key: 'source', text: 'bought' },
      { part: assembly.parts[2]!.id, key: 'partNumber', text: 'G-7' },
    ]);
    const all = suggestionsFor(itemsOf(assembly, doc), PLAIN_LEDGER);
    const of = (part: number, key: string) => all.find((s) => s.part === assembly.parts[part]!.id && s.key === key)?.text;
    expect([of(0, 'source'), of(2, 'source'), of(2, 'supplierNumber'), of(0, 'supplierNumber')]).toEqual(['bought', undefined, 'G-7', undefined]);
    // A supplier's number that was typed stays; a description that was typed is not made readable.
    const kept = apply(doc, [
      { part: assembly.parts[2]!.id, key: 'supplierNumber', text: 'T-1' },
      { part: assembly.parts[0]!.id, key: 'description', text: 'SIDE_FRAME' },
    ]);
    const after = suggestionsFor(itemsOf(assembly, kept), PLAIN_LEDGER);
    expect(after.filter((s) => s.key === 'supplierNumber' || (s.key === 'description' && s.part === assembly.parts[0]!.id))).toEqual([]);
  });
  test('what looks like a fastener is a standard part, unless it has a drawing number', () => {
    const looks = new Map([[assembly.parts[2]!.id, 'dowel pin']]);
    const source = (doc: DrawingDocument) =>
      suggestionsFor(itemsOf(assembly, doc), PLAIN_LEDGER, looks).find((s) => s.part === assembly.parts[2]!.id && s.key === 'source');
    expect(source({})).toMatchObject({ text: 'standard', why: 'It has the shape of a dowel pin.' });
    expect(source(apply({}, [{ part: assembly.parts[2]!.id, key: 'drawingNumber', text: 'N-1' }]))).toMatchObject({ text: 'made' });
  });
  test('each says why; made parts get numbers, standard ones do not', () => {
    const ledger = { ...PLAIN_LEDGER, scheme: { prefix: 'AB-', digits: 3 } };
    const all = suggestionsFor(itemsOf(assembly, {}), ledger);
    const of = (part: number, key: string) => all.find((s) => s.part === assembly.parts[part]!.id && s.key === key)?.text;
    expect([of(0, 'description'), of(0, 'source'), of(0, 'drawingNumber')]).toEqual(['Side frame left', 'made', 'AB-001']);
    expect([of(1, 'source'), of(1, 'drawingNumber')]).toEqual(['standard', undefined]);
    expect(of(2, 'drawingNumber')).toBe('AB-002');
    expect(all.every((s) => s.why.endsWith('.'))).toBe(true);
  });
});

describe('mass of the whole', () => {
  // Analytic: 8e-5 m³ of steel about (50, 5, 40) and 4e-5 m³ of PA6 about (310, 10, 50), each box counted from its corner.
  const doc = apply({}, [
    { part: assembly.parts[0]!.id, key: 'material', text: 'S355' },
    { part: assembly.parts[2]!.id, key: 'material', text: 'PA6' },
  ]);
  const centred = {
    ...assembly,
    parts: assembly.parts.map((p) => ({ ...p, centroid: [0, 1, 2].map((k) => (p.box[k]! + p.box[k + 3]!) / 2) as unknown as (typeof p)['centroid'] })),
  };
  test('is the sum of the parts, and its centre lies between them', () => {
    const whole = wholeMass(centred, componentsOf(centred), itemsOf(centred, doc));
    const [a, b] = [8e-5 * 7850, 4e-5 * 1140];
    expect(whole.kg).toBeCloseTo(a + b, 9);
    expect(whole.missing).toBe(1);
    [50, 5, 40].forEach((v, k) => expect(whole.centre![k]).toBeCloseTo((a * v + b * [310, 10, 50][k]!) / (a + b), 6));
  });
});
