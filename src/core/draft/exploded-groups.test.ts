import { describe, expect, test } from 'vitest';
import type { Assembly, AssemblyNode } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import { IDENTITY } from '../base/placement.ts';
import { planSpread } from '../explode/plan.ts';
import { itemsOf } from '../ledger/items.ts';
import { namedFrame } from '../outline/directions.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { draftAll } from '../testing/drafting.ts';
import { random } from '../testing/random.ts';
import { assemblyOf, box, cylinder } from '../testing/shapes.ts';
import { explodedGroups, MOST_TOGETHER, partAlone } from './exploded-groups.ts';

/** Posts and blocks on a plate, every one another size: as many items as pieces. */
function machine(n: number, seed = 3) {
  const next = random(seed);
  const columns = Math.ceil(Math.sqrt(n));
  const side = columns * 30 + 10;
  const parts = Array.from({ length: n - 1 }, (_, i) => {
    const [x, y] = [(i % columns) * 30 + 10, Math.floor(i / columns) * 30 + 10];
    const high = 8 + Math.round(next() * 40);
    return i % 2
      ? { name: `Pin ${i}`, geometry: cylinder(3 + Math.round(next() * 40) / 10, high), at: [x, y, 8] as const }
      : { name: `Block ${i}`, geometry: box([x - 6 - next() * 5, y - 6, 8], [x + 6, y + 6 + next() * 5, 8 + high]) };
  });
  return assemblyOf([{ name: 'Base', geometry: box([-10, -10, 0], [side, side, 8]) }, ...parts]);
}

/** The same pieces in sub-assemblies: the next `count` pieces each. */
function inBranches(flat: Assembly, counts: readonly (readonly [string, number])[]): Assembly {
  const nodes: AssemblyNode[] = [flat.nodes[0]!];
  let part = 0;
  for (const [name, count] of counts) {
    const parent = name ? nodes.push({ parent: 0, name, product: name, placement: IDENTITY, part: -1 }) - 1 : 0;
    for (let i = 0; i < count; i++, part++) nodes.push({ ...flat.nodes[part + 1]!, parent });
  }
  return { ...flat, nodes };
}
const groupsOf = (assembly: Assembly, geometries: ReturnType<typeof machine>['geometries']) => {
  const components = componentsOf(assembly);
  return { components, groups: explodedGroups(assembly, components, sceneOf(assembly, geometries), itemsOf(assembly, {})) };
};

describe('what is shown together when one view would be a crowd', () => {
  const { assembly, geometries } = machine(100);
  test('sub-assemblies by themselves, small ones and loose parts together; every item in one of them', () => {
    const made = inBranches(assembly, [
      ['Frame', 30],
      ['', 5],
      ['Latch', 3],
      ['Drive', 36],
      ['Cover', 26],
    ]);
    const { groups } = groupsOf(made, geometries);
    expect(groups.map((g) => [g.name, g.items.length])).toEqual([
      ['Frame', 30],
      ['Drive', 36],
      ['Cover', 26],
      ['Test assembly', 8],
    ]);
  });
  test('what is larger is split by its own sub-assemblies, else in space', () => {
    const made = inBranches(assembly, [
      ['Frame', 80],
      ['Drive', 20],
    ]);
    const { groups, components } = groupsOf(made, geometries);
    expect(groups.map((g) => g.name)).toEqual(['Frame, part 1 of 3', 'Frame, part 2 of 3', 'Frame, part 3 of 3', 'Drive']);
    for (const g of groups) expect(g.items.length).toBeLessThanOrEqual(MOST_TOGETHER);
    expect(groups.flatMap((g) => g.components).sort((a, b) => a - b)).toEqual(components.map((c) => c.index));
    expect(new Set(groups.flatMap((g) => g.items)).size).toBe(100);
  });
  test('a group comes apart as an assembly of its own', () => {
    const made = inBranches(assembly, [
      ['Frame', 30],
      ['Drive', 30],
      ['Cover', 40],
    ]);
    const { groups, components } = groupsOf(made, geometries);
    const drive = groups.find((g) => g.name === 'Drive')!;
    const alone = partAlone(made, components, sceneOf(made, geometries), drive.components);
    expect(componentsOf(alone.assembly).map((c) => c.name)).toEqual(drive.components.map((c) => components[c]!.name));
    const { pulls } = planSpread(alone.assembly, alone.bodies, { frame: namedFrame('isometric') });
    const moved = new Set(alone.whole(pulls).flatMap((p) => p.components));
    expect(moved.size).toBeGreaterThan(20);
    for (const c of moved) expect(drive.components).toContain(c);
  });
});

test('the first drawing of seventy items: two exploded views of groups, every item with its balloon, nothing that a checker must or should mark', async () => {
  const drawn = await draftAll(machine(70));
  const exploded = drawn.scene.all('view').filter((v) => v.spread);
  const balloons = drawn.scene.all('balloon');
  expect(exploded.map((v) => balloons.filter((b) => b.view === v.id).length).sort((a, b) => a - b)).toEqual([0, 35, 35]);
  expect(new Set(balloons.map((b) => drawn.scene.itemAt(b.component))).size).toBe(70);
  expect(drawn.findings.filter((f) => f.severity !== 'look' && f.code !== 'LIST_GAP').map((f) => f.text)).toEqual([]);
});
