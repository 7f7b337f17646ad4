import { describe, expect, test } from 'vitest';
import { assemblyOf, box } from '../testing/shapes.ts';
import { IDENTITY } from '../base/placement.ts';
import type { Assembly } from './assembly.ts';
import { componentsOf } from './components.ts';
import { treeRows } from './tree-rows.ts';

/** A plate with two bolts, and a set of a lever and two bolts. */
function machine(): Assembly {
  const g = box([0, 0, 0], [1, 1, 1]);
  const { assembly } = assemblyOf([
    { name: 'plate', geometry: g },
    { name: 'bolt', geometry: box([0, 0, 0], [1, 1, 3]) },
    { name: 'lever', geometry: box([0, 0, 0], [2, 1, 1]) },
  ]);
  const [root, plate, bolt, lever] = assembly.nodes;
  const set = { parent: 0, name: 'lever set', product: 'lever set', placement: IDENTITY, part: -1 };
  const empty = { parent: 0, name: 'nothing in it', product: 'nothing', placement: IDENTITY, part: -1 };
  return { ...assembly, nodes: [root!, plate!, bolt!, set, { ...lever!, parent: 3 }, { ...bolt!, parent: 3 }, { ...bolt!, parent: 3 }, bolt!, empty] };
}
const assembly = machine();
const components = componentsOf(assembly);
const shown = (open: (node: number, level: number) => boolean) => treeRows(assembly, components, open).map((r) => [r.level, r.name, r.count]);

describe('the tree as lines', () => {
  test('closed: equal parts share a line, empty branches have none', () => {
    expect(shown(() => false)).toEqual([
      [1, 'plate', 1],
      [1, 'bolt', 2],
      [1, 'lever set', 1],
    ]);
  });
  test('open: what is in a sub-assembly follows it, and shares lines only there', () => {
    expect(shown(() => true).slice(2)).toEqual([
      [1, 'lever set', 1],
      [2, 'lever', 1],
      [2, 'bolt', 2],
    ]);
  });
  test('every component is in one line of the open tree, and in one of the closed tree', () => {
    for (const open of [true, false]) {
      const rows = treeRows(assembly, components, () => open);
      const leaves = rows.filter((r) => r.node === undefined || !open).flatMap((r) => r.components);
      expect([...leaves].sort((a, b) => a - b)).toEqual(components.map((c) => c.index));
    }
  });
  test('is opened down to a level', () => {
    expect(shown((_, level) => level < 1)).toEqual(shown(() => false));
    expect(shown((_, level) => level < 2)).toEqual(shown(() => true));
  });
});
