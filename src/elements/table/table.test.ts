import { describe, expect, test } from 'vitest';
import { contains } from '../../core/base/rect.ts';
import type { SheetRecord } from '../../core/document/records.ts';
import { textRect } from '../../core/picture/ink.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { composeSheet } from '../compose.ts';
import { sceneWith as drawnWith } from '../testing/scene-with.ts';
import { drawTable, layOutTable, type TableRecord } from './draw.ts';
import { withColumn, withoutColumn, withoutRow, withPasted, withRow } from './edit.ts';
import { tableKind } from './kind.ts';
import { tableRecord } from './record.ts';

const drawn = await draftAll(smallMachine(), { bare: true, only: 'arrangement' });
const [sheet] = drawn.scene.all('sheet') as readonly SheetRecord[];
const table: TableRecord = {
  type: 'table',
  id: 'table:1',
  sheet: sheet!.id,
  at: [30, 30],
  widths: [20, 40],
  rows: [['Joint', 'Torque'], ['M8', '25 Nm, greased thread, in three steps'], ['M10']],
  head: true,
};
const sceneWith = (...records: TableRecord[]) => drawnWith(drawn, ...records);
const scene = sceneWith(table);
const recordOf = (steps: ReturnType<NonNullable<typeof tableKind.drag>>) => (steps[0]?.op === 'put' ? (steps[0].record as TableRecord) : undefined);

describe('a table', () => {
  test('every text stands inside its cell; a long one makes its row higher', () => {
    const { cells, box } = layOutTable(table, scene);
    const texts = drawTable(table, scene)[0]!.items.filter((i) => i.kind === 'text');
    expect(texts.map((t) => t.text).slice(0, 3)).toEqual(['Joint', 'Torque', 'M8']);
    for (const t of texts) {
      const r = textRect(t);
      const cell = cells.find((c) => contains(c.box, [r.x + 0.1, r.y + r.height / 2]))!;
      expect(r.x + r.width).toBeLessThanOrEqual(cell.box.x + cell.box.width);
      expect([r.y >= cell.box.y, r.y + r.height <= cell.box.y + cell.box.height]).toEqual([true, true]);
    }
    const heights = [0, 2, 4].map((i) => cells[i]!.box.height);
    expect(heights[0]).toBe(heights[2]);
    expect(heights[1]).toBeGreaterThan(heights[0]! * 1.5);
    expect(box.height).toBeCloseTo(
      heights.reduce((a, b) => a + b, 0),
      9,
    );
    expect([box.width, box.x, box.y]).toEqual([60, 30, 30]);
  });
  test('its head is bold, and columns stand where they are asked to', () => {
    const texts = drawTable({ ...table, aligned: ['end', 'middle'] }, scene)[0]!.items.filter((i) => i.kind === 'text');
    expect(texts.map((t) => [t.anchor, t.bold ?? false]).slice(0, 3)).toEqual([
      ['end', true],
      ['middle', true],
      ['end', false],
    ]);
    expect(texts[0]!.x).toBeCloseTo(30 + 20 - 1.2, 9);
    expect(texts[1]!.x).toBeCloseTo(30 + 20 + 20, 9);
  });
  test('stands on its sheet', () => {
    expect(composeSheet(scene, sheet!.id).groups.map((g) => g.id)).toContain('table:1');
  });
  test('is moved; an edge of a column makes that column wider, not too narrow', () => {
    expect(recordOf(tableKind.drag!(table, [5, 7], scene))).toMatchObject({ at: [35, 37], widths: [20, 40] });
    expect(recordOf(tableKind.drag!(table, [10, 50], scene, 'column-0'))).toMatchObject({ at: [30, 30], widths: [30, 40] });
    expect(recordOf(tableKind.drag!(table, [-100, 0], scene, 'column-1'))).toMatchObject({ widths: [20, 3] });
    expect(tableKind.drag!(table, [1, 1], scene, 'column-7')).toEqual([]);
    expect(tableKind.handles!(table, scene).map((h) => h.at)).toEqual([
      [50, 30],
      [90, 30],
    ]);
  });
  test('each cell is written in place, also where nothing was yet', () => {
    const texts = tableKind.texts!(table, scene);
    expect(texts).toHaveLength(6);
    const last = texts.at(-1)!;
    expect([last.name, last.value]).toEqual(['2/1', '']);
    expect(last.write('50 Nm', '')).toMatchObject([
      {
        record: {
          rows: [
            ['Joint', 'Torque'],
            ['M8', expect.any(String) as string],
            ['M10', '50 Nm'],
          ],
        },
      },
    ]);
  });
  test('rows are pasted under the head; too many are refused', () => {
    expect(withPasted(table, 'a\tb\tc\n1\t2\t3\n')).toMatchObject({
      rows: [
        ['Joint', 'Torque'],
        ['a', 'b', 'c'],
        ['1', '2', '3'],
      ],
      widths: [20, 40, 40],
    });
    expect(withPasted(table, Array.from({ length: 501 }, () => 'x;y').join('\n'))).toBeUndefined();
    expect(withPasted(table, '')).toBeUndefined();
  });
  test('rows and columns come and go; one of each stays', () => {
    expect(withRow(table).rows).toHaveLength(4);
    expect(withoutRow(withRow(table)).rows).toEqual(table.rows);
    expect(withColumn(table).widths).toEqual([20, 40, 40]);
    const narrow = withoutColumn({ ...table, aligned: ['start', 'end'] });
    expect(narrow).toMatchObject({ widths: [20], rows: [['Joint'], ['M8'], ['M10']], aligned: ['start'] });
    expect(withoutColumn(narrow)).toBe(narrow);
    expect(withoutRow({ ...table, rows: [['x']] }).rows).toEqual([['x']]);
    for (const t of [withRow(table), withColumn(table), narrow]) expect(tableRecord.safeParse(t).success).toBe(true);
  });
});
