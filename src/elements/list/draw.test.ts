import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { PLAIN_LEDGER, type ListRecord } from '../../core/document/records.ts';
import { DEFAULT_LIST_COLUMNS } from '../../core/ledger/list-rows.ts';
import { formatByName, sheetGeometry, styleFor } from '../../core/sheet/formats.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { drawList, listBlocks, listRows, rowsPerSheet } from './draw.ts';

const list: ListRecord = { type: 'list', id: 'list:1', sheet: 'sheet:3', columns: DEFAULT_LIST_COLUMNS };
const drawn = draftAll(smallMachine());
const width = DEFAULT_LIST_COLUMNS.reduce((s, c) => s + c.widthMm, 0);
const part = (k: number, of: number): ListRecord => ({ ...list, share: { part: k, of } });

describe('a list over several sheets', () => {
  test('shows every row once, in order, however many parts there are', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 700 }), fc.integer({ min: 1, max: 12 }), (rows, of) => {
        const shown = Array.from({ length: of }, (_, i) => listRows(part(i + 1, of), rows)).flatMap(({ from, to }) =>
          Array.from({ length: to - from }, (_, i) => from + i),
        );
        expect(shown).toEqual(Array.from({ length: rows }, (_, i) => i));
      }),
      { numRuns: 200, seed: 5 },
    );
  });

  test.each(['A4', 'A3', 'A2', 'B', 'D'])('on %s as many rows as a sheet holds stay inside the frame', (name) => {
    const format = formatByName(name)!;
    const geometry = sheetGeometry(format, true);
    const rows = rowsPerSheet(width, geometry, styleFor(format));
    const { frame } = geometry;
    const blocks = listBlocks(rows, width, geometry, styleFor(format));
    for (const { rect } of blocks) {
      expect(rect.x).toBeGreaterThanOrEqual(frame.x - 1e-9);
      expect(rect.y).toBeGreaterThanOrEqual(frame.y - 1e-9);
    }
    expect(blocks.reduce((n, b) => n + b.to - b.from, 0)).toBe(rows);
  });
});

describe('a drawn list', () => {
  const format = formatByName('A3')!;
  const geometry = sheetGeometry(format, true);
  const textsOf = async (record: ListRecord) => {
    const { items } = await drawn;
    return drawList(record, items, PLAIN_LEDGER, { geometry, style: styleFor(format) }).flatMap((g) => g.items.flatMap((i) => (i.kind === 'text' ? [i] : [])));
  };

  test('names the columns once a block and holds a cell for each item', async () => {
    const texts = await textsOf(list);
    for (const c of DEFAULT_LIST_COLUMNS) expect(texts.filter((t) => t.text === c.title)).toHaveLength(1);
    expect(texts.filter((t) => t.source?.field === 'item').map((t) => t.text)).toEqual(['1', '2', '3', '4', '5', '6', '7']);
  });
  test('a part of it has its own rows and starts at the foot too', async () => {
    const [all, second] = [await textsOf(list), await textsOf(part(2, 2))];
    const numbers = second.filter((t) => t.source?.field === 'item');
    expect(numbers.map((t) => t.text)).toEqual(['5', '6', '7']);
    const first = all.find((t) => t.source?.field === 'item')!;
    expect(numbers[0]!.y).toBeCloseTo(first.y, 9);
  });
});

describe('the list on paper', () => {
  const format = formatByName('A3')!;
  const geometry = sheetGeometry(format, true);
  const style = styleFor(format);
  // Frame of A3 lying: x 20…410, y 10…287; title block 180 × 42 in its lower right corner (ISO 5457, ISO 7200).
  test('blocks stand on the title block, right edge on the frame, further ones to the left, rows shared evenly', () => {
    const h = style.text * 2.4;
    expect(listBlocks(10, 180, geometry, style)).toEqual([{ rect: { x: 230, y: 245 - 11 * h, width: 180, height: 11 * h }, from: 0, to: 10 }]);
    // 39 lines fit into 235 mm, one of them the heading: 77 rows make three blocks of 26, 26 and 25.
    const three = listBlocks(77, 120, geometry, style);
    expect(three.map((b) => [b.rect.x, b.from, b.to, b.rect.height / h])).toEqual([
      [290, 0, 26, 27],
      [170, 26, 52, 27],
      [50, 52, 77, expect.closeTo(26, 9)],
    ]);
    expect(rowsPerSheet(180, geometry, style)).toBe(38 * 2);
    expect(rowsPerSheet(500, geometry, style)).toBe(38);
  });
  test('cells: figures to the right, words to the left, the item number in the middle of its column, upward from the foot', async () => {
    const { items } = await drawn;
    const record: ListRecord = {
      ...list,
      columns: [
        { key: 'item', title: 'Item', widthMm: 10 },
        { key: 'quantity', title: 'Qty', widthMm: 20 },
        { key: 'description', title: 'What', widthMm: 70 },
      ],
    };
    const [group] = drawList(record, items, PLAIN_LEDGER, { geometry, style });
    const texts = group!.items.flatMap((i) => (i.kind === 'text' ? [i] : []));
    const h = style.text * 2.4;
    const line = (row: number) => 245 - (row + 0.5) * h + style.text / 2;
    // 100 mm wide: columns at 310, 320 and 340.
    expect(texts.filter((t) => !t.source).map((t) => [t.text, t.x, t.y, t.anchor])).toEqual([
      ['Item', 311.2, line(0), 'start'],
      ['Qty', 321.2, line(0), 'start'],
      ['What', 341.2, line(0), 'start'],
    ]);
    expect(texts.filter((t) => t.source?.item === 2).map((t) => [t.text, t.x, t.y, t.anchor])).toEqual([
      ['2', 315, line(2), 'middle'],
      ['1', 338.8, line(2), 'end'],
      ['Block left', 341.2, line(2), 'start'],
    ]);
    const strokes = group!.items.flatMap((i) => (i.kind === 'stroke' ? [[i.d, i.width]] : []));
    const top = Math.round((245 - 8 * h) * 1000) / 1000;
    expect(strokes.slice(0, 3)).toEqual([
      [`M310 ${top}h100v48h-100Z`, style.wide],
      [`M320 ${top}L320 245`, style.narrow],
      [`M340 ${top}L340 245`, style.narrow],
    ]);
    // A line under the heading, which is wide, and one between all rows.
    expect(strokes.slice(3).map((s) => s[1])).toEqual([style.wide, ...Array<number>(6).fill(style.narrow)]);
    expect(strokes[3]![0]).toBe('M310 239L410 239');
    expect(group).toMatchObject({ id: 'list:1', label: 'Parts list, items 1 to 7' });
  });
  test('a second block has an id of its own and goes on where the first ends', async () => {
    const { items } = await drawn;
    const many = Array.from({ length: 60 }, (_, i) => ({ ...items[i % items.length]!, number: i + 1 }));
    const groups = drawList(list, many, PLAIN_LEDGER, { geometry, style });
    expect(groups.map((g) => [g.id, g.label])).toEqual([
      ['list:1', 'Parts list, items 1 to 30'],
      ['list:1/2', 'Parts list, items 31 to 60'],
    ]);
    // Thirty rows a block, a line under each but the top one: no more.
    for (const g of groups)
      expect(g.items.filter((i) => i.kind === 'stroke' && i.d.split('L').length === 2 && /^M(\S+) (\S+)L\S+ \2$/.test(i.d))).toHaveLength(30);
  });
  test('columns wider than the frame are narrowed alike', async () => {
    const { items } = await drawn;
    const wide: ListRecord = {
      ...list,
      columns: [
        { key: 'item', title: 'A', widthMm: 390 },
        { key: 'quantity', title: 'B', widthMm: 390 },
      ],
    };
    const [group] = drawList(wide, items, PLAIN_LEDGER, { geometry, style });
    expect(group!.box[2]).toBe(390);
    expect(group!.items.flatMap((i) => (i.kind === 'text' && !i.source ? [i.x] : []))).toEqual([21.2, 216.2]);
  });
});
