import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { assign } from './assignment.ts';

const total = (cost: readonly (readonly number[])[], columns: readonly number[]) => columns.reduce((s, c, r) => s + cost[r]![c]!, 0);
/** The least total over every way there is. */
function leastOf(cost: readonly (readonly number[])[], row = 0, used = new Set<number>()): number {
  if (row === cost.length) return 0;
  return Math.min(...cost[row]!.flatMap((c, j) => (used.has(j) ? [] : [c + leastOf(cost, row + 1, new Set([...used, j]))])));
}

describe('the cheapest assignment', () => {
  test('is as cheap as the best of all ways, each column once', () => {
    const matrix = fc
      .tuple(fc.integer({ min: 1, max: 5 }), fc.integer({ min: 0, max: 2 }))
      .chain(([rows, more]) =>
        fc.array(fc.array(fc.integer({ min: -20, max: 50 }), { minLength: rows + more, maxLength: rows + more }), { minLength: rows, maxLength: rows }),
      );
    fc.assert(
      fc.property(matrix, (cost) => {
        const columns = assign(cost);
        expect(new Set(columns).size).toBe(cost.length);
        expect(columns.every((c) => c >= 0 && c < cost[0]!.length)).toBe(true);
        expect(total(cost, columns)).toBe(leastOf(cost));
      }),
      { numRuns: 150, seed: 4 },
    );
  });
  test('of nothing is nothing; more rows than columns do not fit', () => {
    expect(assign([])).toEqual([]);
    expect(() => assign([[1], [2]])).toThrow('2 rows do not fit into 1 columns.');
  });
});
