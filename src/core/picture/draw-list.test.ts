import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { ListRecord } from '../document/records.ts';
import { DEFAULT_LIST_COLUMNS } from '../ledger/list-rows.ts';
import { formatByName, sheetGeometry, styleFor } from '../sheet/formats.ts';
import { draftAll, smallMachine } from '../testing/drafting.ts';
import { drawList, listBlocks, listRows, rowsPerSheet } from './draw-list.ts';

const list: ListRecord = { type: 'list', id: 'list:1', sheet: 'sheet:3', columns: DEFAULT_LIST_COLUMNS };
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
  const drawn = draftAll(smallMachine());
  const textsOf = async (record: ListRecord) => {
    const { items } = await drawn;
    return drawList(record, items, geometry, styleFor(format)).flatMap((g) => g.items.flatMap((i) => (i.kind === 'text' ? [i] : [])));
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
