import { describe, expect, test } from 'vitest';
import type { SheetRecord } from '../../core/document/records.ts';
import { formatToChange } from '../../core/format/apply.ts';
import { applySteps, type Step } from '../../core/document/steps.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { composeSheet } from '../compose.ts';
import { sheetKind } from '../sheet/kind.ts';
import { laidBlock } from './draw.ts';
import { blockKind } from './kind.ts';
import type { BlockRecord } from './layout.ts';

const drawn = await draftAll(smallMachine(), { bare: true, only: 'arrangement' });
const [sheet] = drawn.scene.sheets as [SheetRecord];
let n = 0;
const made = formatToChange(drawn.scene, sheet.id, (base) => `${base}~${++n}`, false);
const after = (steps: readonly Step[], from = drawn.scene) => {
  const r = applySteps(from.document, steps);
  if (!r.ok) throw new Error(r.reason);
  return from.with(r.document);
};
const scene = after(made.steps);
const [block] = scene.all('block') as [BlockRecord];
const record = (steps: readonly Step[]) => (steps[0]?.op === 'put' ? (steps[0].record as BlockRecord) : undefined);
const drag = (by: readonly [number, number], handle?: string) => record(blockKind.drag!(block, by, scene, handle))!;

describe('a title block on its format’s canvas', () => {
  test('is pressed cell by cell; on a sheet the same press asks for the field', () => {
    const { cells } = laidBlock(block, scene);
    const cell = cells.find((c) => c.field === 'number')!;
    const at = [cell.rect.x + 2, cell.rect.y + 2] as const;
    expect(blockKind.press!(block, at, scene, 1)).toEqual({ kind: 'record', id: block.id, part: `cell-${cell.index}` });
    expect(sheetKind.press!(scene.sheets[0]!, at, scene, 1)).toEqual({ kind: 'field', field: 'number' });
    expect(sheetKind.press!(scene.sheets[0]!, [100, 100], scene, 1)).toBeUndefined();
  });
  test('has rings on its inner edges and on the two sides that do not stand in the corner', () => {
    const names = blockKind.handles!(block, scene).map((h) => h.name);
    expect(names).toHaveLength(block.columns.length - 1 + block.rows.length - 1 + 2);
    const { rect } = laidBlock(block, scene);
    expect(blockKind.handles!(block, scene).find((h) => h.name === 'width')!.at[0]).toBe(rect.x);
  });
  test('its edges are dragged; a wider block grows to the left, a higher one upwards', () => {
    expect(drag([3, 0], 'column-1').columns).toEqual(block.columns.map((c, i) => c + (i === 1 ? 3 : i === 2 ? -3 : 0)));
    expect(drag([0, -2], 'row-0').rows.slice(0, 2)).toEqual([block.rows[0]! - 2, block.rows[1]! + 2]);
    expect(drag([-10, 0], 'width').columns[0]).toBe(block.columns[0]! + 10);
    expect(drag([0, -4], 'height').rows[0]).toBe(block.rows[0]! + 4);
    expect(blockKind.drag!(block, [1, 1], scene, 'column-99')).toEqual([]);
  });
  test('taken out of its corner it is free, and no title block; near a corner it docks there', () => {
    const { rect } = laidBlock(block, scene);
    const { frame } = scene.page(block.sheet).geometry;
    const free = drag([-60, -50]);
    expect([free.corner, free.at]).toEqual([undefined, [rect.x - 60, rect.y - 50]]);
    const there = drag([frame.x - rect.x + 2, frame.y - rect.y + 3]);
    expect([there.corner, there.at]).toEqual(['top left', undefined]);
    // The sheets have none then, and their corner is free.
    const moved = after([{ op: 'put', record: there }], scene);
    expect(composeSheet(moved, sheet.id).groups.map((g) => g.role)).not.toContain('title');
    expect(moved.page(sheet.id).geometry.title.height).toBe(0);
  });
  test('its texts are written where they stand: the fields, not their values', () => {
    const texts = blockKind.texts!(block, scene);
    const number = texts.find((t) => t.label === 'Drawing number')!;
    expect(number.value).toBe('{number}');
    expect(record(number.write('No. {number}', ''))!.cells.some((c) => c.text === 'No. {number}')).toBe(true);
    // The symbol is no text.
    expect(texts).toHaveLength(block.cells.length - 1);
  });
  test('without a sheet on it fields stand as they were typed', () => {
    const alone = after([{ op: 'put', record: { ...scene.sheets[0]!, format: null } }], scene);
    const words = composeSheet(alone, made.id).groups.flatMap((g) => g.items.flatMap((i) => (i.kind === 'text' ? [i.text] : [])));
    expect(words).toEqual(expect.arrayContaining(['{sheet} of 1', '{scale}']));
  });
});
