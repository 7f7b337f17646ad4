import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { overlaps } from '../../core/base/rect.ts';
import type { DrawingDocumentRecord, ListRecord, SheetRecord } from '../../core/document/records.ts';
import { DEFAULT_LIST_COLUMNS } from '../../core/ledger/list-rows.ts';
import { textRect } from '../../core/picture/ink.ts';
import { styleFor, paperByName } from '../../core/sheet/paper.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { titleBlockRect } from '../../core/sheet/page.ts';
import { sceneWith } from '../testing/scene-with.ts';
import { drawList } from './draw.ts';
import { layOutList, listRects, listRows, movedList, sheetsForList } from './layout.ts';

const drawn = await draftAll(smallMachine(), { bare: true, only: 'arrangement' });
const plain = DEFAULT_LIST_COLUMNS.map(({ key, title, widthMm }) => ({ key, title, widthMm }));
const list: ListRecord = { type: 'list', id: 'list:1', sheet: 'sheet:l', columns: plain };
const sheetOf = (size: string): SheetRecord => ({ type: 'sheet', id: 'sheet:l', order: 9, name: '', size, landscape: true });
const part = (k: number, of: number): ListRecord => ({ ...list, share: { part: k, of } });
/** A list on a sheet, with so many rows of one's own besides the seven of the machine. */
function laid(record: ListRecord, size = 'A3', more = 0) {
  const rows = Array.from({ length: more }, (_, i): DrawingDocumentRecord => ({
    type: 'row',
    id: `row:${String(i).padStart(3, '0')}`,
    quantity: '1',
    order: i,
  }));
  const scene = sceneWith(drawn, sheetOf(size), ...rows, record);
  return { scene, groups: drawList(record, scene), blocks: layOutList(record, scene), page: scene.page('sheet:l') };
}
const textsOf = (record: ListRecord) => laid(record).groups.flatMap((g) => g.items.flatMap((i) => (i.kind === 'text' ? [i] : [])));

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

  test.each(['A4', 'A3', 'A2', 'B', 'D'])('on %s as many sheets as it takes hold all rows inside the frame, off the title block and off each other', (name) => {
    const { scene, page } = laid(list, name, 193);
    const of = sheetsForList(list, scene);
    const { frame } = page.geometry;
    let rows = 0;
    for (let k = 1; k <= of; k++) {
      const blocks = layOutList(part(k, of), scene);
      rows += blocks.reduce((n, b) => n + b.rows.length, 0);
      blocks.forEach(({ rect }, i) => {
        expect([rect.x >= frame.x - 1e-9, rect.y >= frame.y - 1e-9]).toEqual([true, true]);
        expect(overlaps(rect, titleBlockRect(page.geometry), -0.001)).toBe(false);
        for (const o of blocks.slice(i + 1)) expect(overlaps(rect, o.rect, -0.001)).toBe(false);
      });
    }
    expect(rows).toBe(200);
    // One sheet fewer would not do.
    if (of > 1) expect(listRects(part(1, of - 1), scene).some((r) => r.x < frame.x - 1e-6)).toBe(true);
  });
});

describe('a drawn list', () => {
  test('names the columns once a block and holds a cell for each item', () => {
    const texts = textsOf(list);
    // Masses say their unit, and that they are of one piece.
    for (const c of DEFAULT_LIST_COLUMNS)
      expect(texts.filter((t) => (c.key === 'mass' ? /^Mass each \((kg|g)\)$/.test(t.text) : t.text === c.title))).toHaveLength(1);
    expect(texts.filter((t) => t.source?.field === 'item').map((t) => t.text)).toEqual(['1', '2', '3', '4', '5', '6', '7']);
  });
  test('a part of it has its own rows and starts at the foot too', () => {
    const [all, second] = [textsOf(list), textsOf(part(2, 2))];
    const numbers = second.filter((t) => t.source?.field === 'item');
    expect(numbers.map((t) => t.text)).toEqual(['5', '6', '7']);
    const first = all.find((t) => t.source?.field === 'item')!;
    expect(numbers[0]!.y).toBeCloseTo(first.y, 9);
  });
});

describe('the list on paper', () => {
  const style = styleFor(paperByName('A3')!);
  const h = style.text * 2.4;
  // Frame of A3 lying: x 20…410, y 10…287; title block 180 × 42 in its lower right corner (ISO 5457, ISO 7200).
  test('blocks stand on the title block, right edge on the frame, further ones to the left, rows shared evenly', () => {
    const ten = laid(list, 'A3', 3).blocks;
    expect(ten.map((b) => [b.rect, b.from, b.rows.length])).toEqual([
      [{ x: 230, y: expect.closeTo(245 - 11 * h, 9), width: 180, height: expect.closeTo(11 * h, 9) }, 0, 10],
    ]);
    // 39 lines fit into 235 mm, one of them the heading: 77 rows make three blocks of 26, 26 and 25.
    const narrow: ListRecord = { ...list, columns: [{ key: 'item', title: 'Item', widthMm: 120 }] };
    expect(laid(narrow, 'A3', 70).blocks.map((b) => [b.rect.x, b.from, b.rows.length, b.rect.height / h])).toEqual([
      [290, 0, 26, expect.closeTo(27, 9)],
      [170, 26, 26, expect.closeTo(27, 9)],
      [50, 52, 25, expect.closeTo(26, 9)],
    ]);
  });
  test('cells: figures to the right, words to the left, the item number in the middle of its column, upward from the foot', () => {
    const record: ListRecord = {
      ...list,
      columns: [
        { key: 'item', title: 'Item', widthMm: 10 },
        { key: 'quantity', title: 'Qty', widthMm: 20 },
        { key: 'description', title: 'What', widthMm: 70 },
      ],
    };
    const [group] = laid(record).groups;
    const texts = group!.items.flatMap((i) => (i.kind === 'text' ? [i] : []));
    const line = (row: number) => expect.closeTo(245 - (row + 0.5) * h + style.text / 2, 9) as number;
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
  test('a second block has an id of its own and goes on where the first ends', () => {
    const { groups } = laid(list, 'A3', 53);
    expect(groups.map((g) => [g.id, g.label])).toEqual([
      ['list:1', 'Parts list, items 1 to 30'],
      ['list:1/2', 'Parts list, items 31 to 60'],
    ]);
    // Thirty rows a block, a line under each but the top one: no more.
    for (const g of groups)
      expect(g.items.filter((i) => i.kind === 'stroke' && i.d.split('L').length === 2 && /^M(\S+) (\S+)L\S+ \2$/.test(i.d))).toHaveLength(30);
  });
  test('columns wider than the frame are narrowed alike', () => {
    const wide: ListRecord = {
      ...list,
      columns: [
        { key: 'item', title: 'A', widthMm: 390 },
        { key: 'quantity', title: 'B', widthMm: 390 },
      ],
    };
    const [group] = laid(wide).groups;
    expect(group!.box[2]).toBe(390);
    expect(group!.items.flatMap((i) => (i.kind === 'text' && !i.source ? [i.x] : []))).toEqual([21.2, 216.2]);
  });
});

describe('texts that are too long', () => {
  const column = { key: 'description', title: 'What', widthMm: 14 };
  const rowsWith = (long?: 'wrap' | 'shrink') => laid({ ...list, columns: [{ ...column, ...(long ? { long } : {}) }] }).blocks[0]!.rows;
  test('are cut short, and that is said; wrapped, their row grows; shrunk, they keep one line of at least 70 %', () => {
    expect(rowsWith().some((r) => r.cells[0]!.cut)).toBe(true);
    const wrapped = rowsWith('wrap');
    expect(wrapped.some((r) => r.cells[0]!.lines.length > 1)).toBe(true);
    for (const r of wrapped) expect(r.box.height).toBeGreaterThan(r.cells[0]!.lines.length * r.cells[0]!.size);
    for (const r of rowsWith('shrink')) {
      expect(r.cells[0]!.lines).toHaveLength(1);
      expect(r.cells[0]!.size).toBeGreaterThanOrEqual(2.5 * 0.7 - 1e-9);
    }
  });
  test('every wrapped text stands inside its cell', () => {
    const { groups, blocks } = laid({ ...list, columns: [{ ...column, long: 'wrap' }] });
    const cells = blocks[0]!.rows.map((r) => r.box);
    for (const t of groups[0]!.items)
      if (t.kind === 'text' && t.source) {
        const r = textRect(t);
        expect(cells.some((c) => r.y >= c.y && r.y + r.height <= c.y + c.height && r.x >= c.x)).toBe(true);
      }
  });
});

describe('where a list stands', () => {
  const box = (record: ListRecord) => laid(record).blocks[0]!;
  test('in each corner of the frame: at the top it reads down, at the foot up; never on the title block', () => {
    const at = (corner: NonNullable<ListRecord['corner']>) => box({ ...list, corner });
    expect([at('top left').rect.x, at('top left').rect.y, at('top left').up]).toEqual([20, 10, false]);
    expect([at('top right').rect.x + 180, at('top right').rect.y, at('top right').up]).toEqual([410, 10, false]);
    const low = at('bottom left');
    expect([low.rect.x, low.rect.y + low.rect.height, low.up]).toEqual([20, 287, true]);
    const beside = at('bottom right');
    expect([beside.rect.x + 180, beside.rect.y + beside.rect.height]).toEqual([230, 287]);
  });
  test('free, it reads down from its corner; its head is at the foot where that is asked for', () => {
    const free = box({ ...list, at: [50, 40] });
    expect([free.rect.x, free.rect.y, free.up, free.head.box.y]).toEqual([50, 40, false, 40]);
    const turned = box({ ...list, at: [50, 40], head: 'foot' });
    expect(turned.rect.y).toBe(40);
    expect(turned.head.box.y + turned.head.box.height).toBeCloseTo(turned.rect.y + turned.rect.height, 9);
  });
  test('a region is filled block beside block; so many blocks as are asked for', () => {
    const region = laid({ ...list, columns: [{ key: 'item', title: 'Item', widthMm: 20 }], at: [50, 40], to: [200, 40 + 4 * h()] }).blocks;
    expect(region.map((b) => [b.rect.x, b.rows.length])).toEqual([
      [50, 3],
      [70, 3],
      [90, 1],
    ]);
    expect(laid({ ...list, columns: [{ key: 'item', title: 'Item', widthMm: 20 }], beside: 2 }).blocks.map((b) => b.rows.length)).toEqual([4, 3]);
  });
  const h = () => styleFor(paperByName('A3')!).text * 2.4;
  test('dragged near the title block or a corner it docks there, elsewhere it stands free', () => {
    const free: ListRecord = { ...list, at: [100, 60] };
    const { scene, blocks } = laid(free);
    const { rect } = blocks[0]!;
    const to = (x: number, y: number) => movedList(free, scene, [x - rect.x, y - rect.y]);
    expect(to(232, 245 - rect.height + 2)).not.toHaveProperty('at');
    expect(to(232, 245 - rect.height + 2)).not.toHaveProperty('corner');
    expect(to(22, 12)).toMatchObject({ corner: 'top left' });
    expect(to(229, 7)).toMatchObject({ corner: 'top right' });
    expect(to(22, 287 - rect.height)).toMatchObject({ corner: 'bottom left' });
    expect(to(150, 100)).toMatchObject({ at: [150, 100] });
  });
});
