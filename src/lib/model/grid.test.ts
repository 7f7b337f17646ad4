import { beforeEach, describe, expect, test, vi } from 'vitest';

const said: [string, string][] = [];
vi.mock('../shared/notices.svelte', () => ({ notify: (kind: string, text: string) => said.push([kind, text]), toaster: {} }));

import type { PropertyRecord } from '$core/document/records';
import { openBench, type Bench } from '../testing/fake-job';
import { modelActions } from './actions';
import { Grid } from './grid.svelte';

let bench: Bench;
let grid: Grid;
beforeEach(async () => {
  said.length = 0;
  bench = await openBench(said);
  grid = new Grid(bench.drawing);
});
const column = (key: string) => grid.columns.findIndex((c) => c.key === key);
const row = (part: string) => grid.items.findIndex((i) => i.part === part);
const go = (part: string, key: string, extend = false) => grid.go(row(part), column(key), extend);
const values = (part: string) => (bench.document()[`property:${part}`] as PropertyRecord | undefined)?.values;

describe('typing', () => {
  test('begins with what is there or with what was typed, and goes on to the next cell', async () => {
    go('Post', 'material');
    grid.edit();
    expect(grid.editing).toBe('');
    grid.editing = 'S235';
    grid.commit(1, 0);
    await bench.settled();
    expect(values('Post')).toEqual({ material: 'S235' });
    expect([grid.activeItem!.part, grid.activeColumn!.key, grid.editing]).toEqual(['Ring', 'material', undefined]);
    grid.edit('C');
    expect(grid.editing).toBe('C');
    grid.editing = 'C45';
    grid.commit(0, 1);
    await bench.settled();
    expect([values('Ring'), grid.activeColumn!.key]).toEqual([{ material: 'C45' }, grid.columns[column('material') + 1]!.key]);
    expect(bench.kept).toEqual(['Material of 5', 'Material of 6']);
  });
  test('leaving it as it is changes nothing; computed cells cannot be typed', () => {
    go('Post', 'material');
    grid.commit(0, 0);
    go('Post', 'quantity');
    grid.edit();
    expect([grid.editing, bench.kept]).toEqual([undefined, []]);
  });
  test('what does not belong there is refused in words', async () => {
    go('Post', 'source');
    grid.editing = 'stolen';
    grid.commit(0, 0);
    expect(said[0]![1]).toMatch(/“stolen”/);
    expect(bench.kept).toEqual([]);
  });
  test('each value keeps the date of its own typing', async () => {
    go('Post', 'material');
    grid.editing = 'S235';
    grid.commit(0, 0);
    await bench.settled();
    const first = (bench.document()['property:Post'] as PropertyRecord).when!['material'];
    await new Promise((r) => setTimeout(r, 5));
    go('Post', 'finish');
    grid.editing = 'zinc';
    grid.commit(0, 0);
    await bench.settled();
    const { when } = bench.document()['property:Post'] as PropertyRecord;
    expect(when!['material']).toBe(first);
    expect(when!['finish']! > first!).toBe(true);
  });
});

describe('blocks', () => {
  test('chosen from one cell to another, whichever way', () => {
    go('Ring', 'material');
    go('Plate', 'description', true);
    expect(grid.range).toEqual({ top: row('Plate'), bottom: row('Ring'), left: column('description'), right: column('material') });
    // Past the edges means the edge.
    grid.go(-5, 999);
    expect(grid.active).toEqual({ row: 0, column: grid.columns.length - 1 });
  });
  test('copied as a spreadsheet has it, and pasted again', async () => {
    go('Plate', 'material');
    expect(grid.copy()).toBe('S355');
    go('Post', 'material');
    grid.paste('C45\tzinc\nC60\tblack\n');
    await bench.settled();
    const next = grid.columns[column('material') + 1]!.key;
    expect([values('Post')!['material'], values('Ring')!['material']]).toEqual(['C45', 'C60']);
    expect(bench.kept).toEqual(['Paste 2 × 2']);
    expect(grid.range).toMatchObject({ top: row('Post'), bottom: row('Ring'), right: column(next) });
  });
  test('one cell pasted into a block fills it, and fill down repeats the first row', async () => {
    go('Block left', 'finish');
    go('Tower', 'finish', true);
    grid.paste('painted');
    await bench.settled();
    expect(['Block left', 'Block right', 'Tower'].map((p) => values(p)!['finish'])).toEqual(['painted', 'painted', 'painted']);
    go('Plate', 'material');
    go('Block right', 'material', true);
    grid.fillDown();
    await bench.settled();
    expect(['Block left', 'Block right'].map((p) => values(p)!['material'])).toEqual(['S355', 'S355']);
    expect(values('Plate')?.['material']).toBeUndefined();
  });
  test('put back: what the file says shows again', async () => {
    go('Plate', 'material');
    grid.editing = 'gold';
    grid.commit(0, 0);
    await bench.settled();
    go('Plate', 'material');
    grid.putBack();
    await bench.settled();
    expect(bench.drawing.items.find((i) => i.part === 'Plate')!.values.material).toMatchObject({ text: 'S355', from: 'file' });
    expect(bench.document()['property:Plate']).toBeUndefined();
  });
});

describe('what is shown', () => {
  const names = () => grid.items.map((i) => i.values.description.text);
  test('sorted by a column, the other way, and as it was', () => {
    grid.sortBy('description');
    expect(names()).toEqual(['Block left', 'Block right', 'Cap', 'Plate', 'Post', 'Ring', 'Tower']);
    grid.sortBy('description');
    expect(names()[0]).toBe('Tower');
    grid.sortBy('description');
    expect(names()[0]).toBe('Plate');
  });
  test('found by any text, and by a text in one column', () => {
    grid.search = 'bLoCk';
    expect(names()).toEqual(['Block left', 'Block right']);
    grid.search = '';
    grid.filters = { material: 's35' };
    expect(names()).toEqual(['Plate']);
    grid.filters = { material: '' };
    expect(names()).toHaveLength(7);
  });
  test('gaps counted and gone through; those filled stay while only gaps are shown', async () => {
    const { gapCount } = grid;
    expect(gapCount).toBe(18);
    expect(grid.gapsOf).toEqual({ source: 6, material: 6, drawingNumber: 6 });
    grid.setGapsOnly(true);
    expect(names()).not.toContain('Plate');
    grid.go(0, 0);
    grid.nextGap();
    expect(grid.gapAt(grid.activeItem!, grid.activeColumn!)).toBe(true);
    grid.editing = grid.activeColumn!.key === 'source' ? 'made' : 'x';
    grid.commit(0, 0);
    await bench.settled();
    expect(grid.gapCount).toBe(gapCount - 1);
    expect(grid.items).toHaveLength(6);
  });
  test('no gap left is told', () => {
    grid.filters = { description: 'Plate' };
    grid.nextGap();
    expect(said).toEqual([['good', 'No gap is left in what is shown.']]);
  });
  test('a column is put before another, and stays there', async () => {
    const first = grid.columns[3]!.key;
    grid.moveColumn('material', first);
    await bench.settled();
    expect(grid.columns.findIndex((c) => c.key === 'material')).toBe(grid.columns.findIndex((c) => c.key === first) - 1);
    grid.moveColumn('material', 'material');
    expect(bench.kept).toEqual(['Order of columns']);
  });
  test('the row at hand is selected everywhere; a row shown from elsewhere selects nothing anew', () => {
    go('Cap', 'description');
    expect(bench.drawing.selectedPart).toBe('Cap');
    bench.drawing.select({ kind: 'none' });
    grid.reveal(row('Ring'));
    expect([grid.activeItem!.part, bench.drawing.selectedPart]).toEqual(['Ring', undefined]);
  });
});

describe('actions', () => {
  test('have keys of their own and say what they would do', () => {
    const called: string[] = [];
    const all = () =>
      modelActions(
        bench.drawing,
        grid,
        () => called.push('quick'),
        () => called.push('newer'),
        () => called.push('solid'),
      );
    const keys = all()
      .map((a) => a.key)
      .filter(Boolean);
    expect(new Set(keys).size).toBe(keys.length);
    for (const id of ['quick', 'newer', 'solid'])
      all()
        .find((a) => a.id === id)!
        .run();
    expect(called).toEqual(['quick', 'newer', 'solid']);
    all()
      .find((a) => a.id === 'gaps')!
      .run();
    expect([grid.gapsOnly, all().find((a) => a.id === 'gaps')!.label]).toEqual([true, 'Show every part']);
    expect(all().find((a) => a.id === 'undo')!.disabled).toBe(true);
  });
});
