import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { isoBlock } from '../../core/format/blocks.ts';
import { withCellChanged, withCellJoined, withCellSplit, withEdgeMoved, withoutCell, withOuterEdge, withRowAdded } from './edit.ts';
import type { BlockRecord } from './layout.ts';
import { blockRecord } from './record.ts';

const iso = isoBlock(false);
const sum = (list: readonly number[]) => list.reduce((a, b) => a + b, 0);
/** How many places of the grid are under a cell. */
const covered = (b: BlockRecord) => b.cells.reduce((n, c) => n + (c.columns ?? 1) * (c.rows ?? 1), 0);
const at = (b: BlockRecord, caption: string) => b.cells.findIndex((c) => c.caption === caption);

describe('the cells of a block', () => {
  test('are split beside and under each other; the first part keeps what it says', () => {
    const beside = withCellSplit(iso, at(iso, 'Title'), 'column');
    expect(beside.cells).toHaveLength(iso.cells.length + 1);
    expect(beside.columns).toEqual(iso.columns);
    const [first, second] = beside.cells.slice(at(beside, 'Title'));
    expect([first!.text, first!.columns, second!.text, second!.column]).toEqual(['{title}', 2, '', first!.column + 2]);
    // A cell of one column wants a new edge; all others go on across it.
    const narrow = withCellSplit(iso, at(iso, 'Scale'), 'column');
    expect([narrow.columns.length, narrow.columns[0], sum(narrow.columns)]).toEqual([iso.columns.length + 1, 9, 180]);
    expect(covered(narrow)).toBe(narrow.columns.length * narrow.rows.length);
    const under = withCellSplit(iso, at(iso, 'Legal owner'), 'row');
    expect([under.rows, covered(under)]).toEqual([[7, 7, 9, 9, 10], under.columns.length * 5]);
  });
  test('too small a one is not split', () => {
    const small: BlockRecord = { ...iso, columns: [5], rows: [9], cells: [{ column: 0, row: 0, text: '' }] };
    expect(withCellSplit(small, 0, 'column')).toBe(small);
  });
  test('are joined again with what is as high beside them, or as wide below them; with nothing else', () => {
    const split = withCellSplit(iso, at(iso, 'Title'), 'column');
    expect(withCellJoined(split, at(split, 'Title'), 'column')).toEqual(iso);
    const owner = at(iso, 'Legal owner');
    // Below it stand two cells.
    expect(withCellJoined(iso, owner, 'row')).toBe(iso);
    expect(withCellJoined(iso, owner, 'column').cells[owner]).toMatchObject({ columns: 7, text: '{owner}' });
  });
  test('edges between them are moved: what one wins the other gives, and none gets too narrow', () => {
    expect(withEdgeMoved(iso, 'column', 0, 4).columns.slice(0, 2)).toEqual([22, 11]);
    expect(withEdgeMoved(iso, 'column', 0, 400).columns.slice(0, 2)).toEqual([30, 3]);
    expect(withEdgeMoved(iso, 'row', 1, -400).rows).toEqual([14, 3, 15, 10]);
    expect(sum(withOuterEdge(iso, 'column', 7).columns)).toBe(187);
    expect(withOuterEdge(iso, 'row', -400).rows[0]).toBe(3);
  });
  test('one taken away leaves its place free; what nothing stands in any more goes with it', () => {
    const added = withRowAdded(iso);
    expect([added.rows.length, added.cells[0]!.columns, covered(added)]).toEqual([5, 7, 35]);
    expect(withoutCell(added, 0)).toEqual({ ...iso, cells: iso.cells.map((c) => ({ ...c })) });
    const without = withoutCell(iso, at(iso, 'To make'));
    expect([without.columns.length, without.cells.length]).toEqual([7, iso.cells.length - 1]);
  });
  test('a change takes keys out that are undefined', () => {
    const bold = withCellChanged(iso, 0, { bold: true, caption: undefined });
    expect(bold.cells[0]).toMatchObject({ bold: true, text: '{owner}' });
    expect('caption' in bold.cells[0]!).toBe(false);
  });
  test('whatever is done to them, they stay a block: in its grid, none on another, all of it covered', () => {
    const step = fc.record({
      what: fc.constantFrom('split', 'join', 'edge', 'outer', 'row'),
      kind: fc.constantFrom('column' as const, 'row' as const),
      at: fc.nat(40),
      by: fc.integer({ min: -30, max: 30 }),
    });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), (steps) => {
        let b = iso;
        for (const s of steps) {
          const index = s.at % b.cells.length;
          if (s.what === 'split') b = withCellSplit(b, index, s.kind);
          else if (s.what === 'join') b = withCellJoined(b, index, s.kind);
          else if (s.what === 'row') b = b.rows.length < 40 ? withRowAdded(b) : b;
          else if (s.what === 'outer') b = withOuterEdge(b, s.kind, s.by);
          else {
            const count = (s.kind === 'column' ? b.columns : b.rows).length - 1;
            if (count > 0) b = withEdgeMoved(b, s.kind, s.at % count, s.by);
          }
        }
        const read = blockRecord.safeParse(b);
        return read.success && covered(b) === b.columns.length * b.rows.length;
      }),
      { numRuns: 300, seed: 20 },
    );
  });
  test.each([
    ['a cell outside the grid', { cells: [{ column: 6, row: 0, columns: 2, text: '' }] }],
    [
      'two cells on each other',
      {
        cells: [
          { column: 0, row: 0, columns: 2, text: '' },
          { column: 1, row: 0, text: '' },
        ],
      },
    ],
    ['a corner and a place', { at: [10, 10] as const }],
  ])('%s is no block', (_, more) => {
    expect(blockRecord.safeParse({ ...iso, ...more }).success).toBe(false);
  });
});
