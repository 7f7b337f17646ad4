import { describe, expect, test } from 'vitest';
import { IDENTITY, translation } from '../base/placement.ts';
import type { Assembly, AssemblyNode, Part } from './assembly.ts';
import { componentsOf, depthOf, nodePaths } from './components.ts';
import { mergeAssemblies } from './merge.ts';
import { dropEmptyBranches } from './prune.ts';
import { importReport } from './report.ts';
import { uniqueId } from './unique-id.ts';

const part = (id: string, more: Partial<Part> = {}): Part => ({
  id,
  name: id,
  geometryKey: id,
  volumeMm3: 100,
  areaMm2: 10,
  centroid: [0, 0, 0],
  box: [0, 0, 0, 1, 1, 1],
  properties: {},
  ...more,
});
const node = (parent: number, name: string, of = -1, more: Partial<AssemblyNode> = {}): AssemblyNode => ({
  parent,
  name,
  product: name,
  placement: IDENTITY,
  part: of,
  ...more,
});
const assembly = (name: string, parts: Part[], nodes: AssemblyNode[], more: Partial<Assembly> = {}): Assembly => ({
  name,
  schema: 'AP214',
  unit: 'mm',
  parts,
  nodes,
  properties: {},
  notices: [],
  ...more,
});

/** Frame with two bolts, one of them in a sub-assembly that lies at (100, 0, 0). */
const machine = assembly(
  'Machine',
  [part('Frame', { color: '#112233', material: 'S355', volumeMm3: 1000 }), part('Bolt', { properties: { Grade: '8.8' } })],
  [
    node(-1, 'Machine'),
    node(0, 'Frame', 0),
    node(0, 'Drive', -1, { placement: translation([100, 0, 0]) }),
    node(2, 'Bolt', 1, { placement: translation([5, 0, 0]), color: '#445566' }),
    node(0, 'Bolt', 1),
  ],
  { statedVolumes: { Frame: 1000.05, Drive: 100.02, Gone: 7, Machine: 1200 } },
);

describe('the tree of an assembly', () => {
  test('its leaves have paths, places and numbers in order', () => {
    expect(componentsOf(machine).map((c) => [c.index, c.node, c.part, c.path, c.placement[3]])).toEqual([
      [0, 1, 0, 'Frame', 0],
      [1, 3, 1, 'Drive/Bolt', 105],
      [2, 4, 1, 'Bolt', 0],
    ]);
    expect([depthOf(machine), depthOf(assembly('One', [part('One')], [node(-1, 'One', 0)]))]).toEqual([2, 0]);
    // A single part has no path below itself: its own name.
    expect(componentsOf(assembly('One', [part('One')], [node(-1, 'One', 0)]))[0]!.path).toBe('One');
  });
  test('equal names under one parent are counted, a stroke in a name does not part it', () => {
    const twins = assembly('T', [part('A')], [node(-1, 'T'), node(0, 'A/B', 0), node(0, 'A/B', 0), node(0, 'Sub'), node(3, 'A/B', 0)]);
    expect(nodePaths(twins)).toEqual(['', 'A∕B', 'A∕B:2', 'Sub', 'Sub/A∕B']);
  });
  test('branches without anything to draw go, with all below them; the others keep their parents', () => {
    const nodes = [node(-1, 'T'), node(0, 'Empty'), node(1, 'Emptier'), node(0, 'Sub'), node(3, 'Sketch'), node(3, 'A', 0), node(0, 'A', 0)];
    expect(dropEmptyBranches(nodes).map((n) => [n.name, n.parent])).toEqual([
      ['T', -1],
      ['Sub', 0],
      ['A', 1],
      ['A', 0],
    ]);
    expect(dropEmptyBranches([node(-1, 'T')])).toEqual([]);
  });
  test('several come together under one top; parts of one name stay two', () => {
    const other = assembly('Other', [part('Bolt', { volumeMm3: 7 })], [node(-1, 'Other'), node(0, 'Bolt', 0)], {
      unit: 'inch',
      notices: [{ code: 'X', about: 'Bolt', text: 't' }],
    });
    const both = mergeAssemblies('Both', [machine, other]);
    expect(both.parts.map((p) => [p.id, p.volumeMm3])).toEqual([
      ['Frame', 1000],
      ['Bolt', 100],
      ['Bolt~2', 7],
    ]);
    expect(both.nodes.map((n) => [n.name, n.parent, n.part])).toEqual([
      ['Both', -1, -1],
      ['Machine', 0, -1],
      ['Frame', 1, 0],
      ['Drive', 1, -1],
      ['Bolt', 3, 1],
      ['Bolt', 1, 1],
      ['Other', 0, -1],
      ['Bolt', 6, 2],
    ]);
    expect([both.unit, both.schema, both.notices.length]).toEqual(['mm, inch', 'AP214', 1]);
    expect(componentsOf(both).map((c) => c.path)).toEqual(['Machine/Frame', 'Machine/Drive/Bolt', 'Machine/Bolt', 'Other/Bolt']);
  });
  test('an id is a name of at most 80 characters, counted where it is taken', () => {
    const taken = new Set<string>();
    expect([uniqueId('A', taken), uniqueId('A', taken), uniqueId('A', taken), uniqueId('', taken), uniqueId('x'.repeat(99), taken).length]).toEqual([
      'A',
      'A~2',
      'A~3',
      'Part',
      80,
    ]);
  });
});

describe('the report on what came in', () => {
  const report = importReport(machine);
  test('counts components, parts, levels and what data they carry; an occurrence’s colour counts for its part', () => {
    expect(report).toMatchObject({ components: 3, parts: 2, levels: 2, schema: 'AP214', unit: 'mm', colors: 2, materials: 1, withProperties: 1 });
    const plain = { ...machine, nodes: machine.nodes.map((n) => (n.color ? node(n.parent, n.name, n.part) : n)) };
    expect(importReport(plain).colors).toBe(1);
  });
  test('compares stated volumes with those of parts and of everything below a product, to a ten-thousandth', () => {
    expect(report.volumes).toEqual([
      { product: 'Frame', statedMm3: 1000.05, ownMm3: 1000, agrees: true },
      { product: 'Drive', statedMm3: 100.02, ownMm3: 100, agrees: false },
      { product: 'Machine', statedMm3: 1200, ownMm3: 1200, agrees: true },
    ]);
  });
});
