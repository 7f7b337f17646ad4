import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { chainsOf } from './chains.ts';

describe('pieces joined end to end', () => {
  test('in any order and sense they make one chain', () => {
    const [chain, ...rest] = chainsOf([7, 3, 1, 2, 3, 2]);
    expect(rest).toEqual([]);
    expect([[...chain!.nodes], [...chain!.nodes].reverse()]).toContainEqual([7, 3, 2, 1]);
  });
  test('a chain that ends at the node and piece numbered nought is one chain, from its end', () => {
    expect(chainsOf([3, 4, 0, 3])).toEqual([{ nodes: [4, 3, 0], pieces: [0, 1] }]);
    expect(chainsOf([1, 2, 0, 1, 2, 3])).toEqual([{ nodes: [0, 1, 2, 3], pieces: [1, 0, 2] }]);
    expect(chainsOf([])).toEqual([]);
  });
  test('a ring ends with its first node', () => {
    const [ring] = chainsOf([0, 1, 2, 0, 1, 2]);
    expect(ring!.nodes).toHaveLength(4);
    expect(ring!.nodes[0]).toBe(ring!.nodes[3]);
  });
  test('where three meet, chains end', () => {
    expect(chainsOf([0, 1, 1, 2, 1, 3]).map((c) => c.pieces)).toEqual([[0], [1], [2]]);
  });
  test('a chain may be ended at a node', () => {
    expect(chainsOf([0, 1, 1, 2, 2, 3], (_, node) => node !== 2).map((c) => c.nodes)).toEqual([
      [0, 1, 2],
      [2, 3],
    ]);
  });
  test('every piece is in exactly one chain, and neighbours share a node', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 0, max: 12 }), fc.integer({ min: 13, max: 25 })), { maxLength: 40 }), (pieces) => {
        const chains = chainsOf(pieces.flat());
        expect(chains.flatMap((c) => c.pieces).sort((a, b) => a - b)).toEqual(pieces.map((_, i) => i));
        for (const c of chains) c.pieces.forEach((p, i) => expect([...pieces[p]!].sort()).toEqual([c.nodes[i]!, c.nodes[i + 1]!].sort()));
      }),
    );
  });
});
