import { describe, expect, test } from 'vitest';
import type { Assembly } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import { applyToPoint, IDENTITY } from '../base/placement.ts';
import type { DrawingDocument, PullRecord, SpreadRecord, ViewRecord } from '../document/records.ts';
import { assemblyOf, box, cylinder } from '../testing/shapes.ts';
import { fastenedTo, ofSameItems, onLevel, oneLevelUp, subAssemblyOf, withoutOwnPull } from './choose.ts';
import { changeSpread, fitView, insertPlanned, mergePulls, mirroredPull, showSpread, splitPull } from './edits.ts';
import { pullRecord, pullsOf } from './records.ts';
import { motionsOf, rotationAbout } from './spread.ts';

const bolt = cylinder(3, 30, 24);
/** Plate with two bolts, and a sub-assembly of a lever with its pin. */
function machine(): Assembly {
  const { assembly } = assemblyOf([
    { name: 'plate', geometry: box([-50, -30, 0], [50, 30, 10]) },
    { name: 'bolt', geometry: bolt, at: [-40, 0, 0] },
    { name: 'lever', geometry: box([0, 10, 20], [30, 18, 26]) },
    { name: 'pin', geometry: cylinder(2, 20, 24), at: [20, 14, 15] },
  ]);
  const [root, plate, left, lever, pin] = assembly.nodes;
  const group = { parent: 0, name: 'lever set', product: 'lever set', placement: IDENTITY, part: -1 };
  return {
    ...assembly,
    parts: assembly.parts.map((p, i) => ({
      ...p,
      centroid: [
        [0, 0, 5],
        [0, 0, 15],
        [15, 14, 23],
        [0, 0, 10],
      ][i] as [number, number, number],
    })),
    nodes: [root!, plate!, left!, { ...left!, placement: [1, 0, 0, 40, 0, 1, 0, 0, 0, 0, 1, 0] }, group, { ...lever!, parent: 4 }, { ...pin!, parent: 4 }],
  };
}
const assembly = machine();
const components = componentsOf(assembly);
const names = (set: Iterable<number>) => [...set].sort((a, b) => a - b).map((c) => components[c]!.path);

describe('choosing', () => {
  test('all of an item', () => expect(names(ofSameItems(components, new Set([1])))).toEqual(['bolt', 'bolt:2']));
  test('the sub-assembly, one level up', () => expect(names(oneLevelUp(assembly, components, new Set([3])))).toEqual(['lever set/lever', 'lever set/pin']));
  test('a level of the tree', () => {
    expect(names(onLevel(assembly, components, 1))).toEqual(['plate', 'bolt', 'bolt:2']);
    expect(names(onLevel(assembly, components, 2))).toEqual(['lever set/lever', 'lever set/pin']);
    expect(names(onLevel(assembly, components, 3))).toEqual([]);
  });
  test('what fastens it', () => {
    expect(names(fastenedTo(assembly, components, new Set([0])))).toEqual(['bolt', 'bolt:2']);
    expect(names(fastenedTo(assembly, components, new Set([3])))).toEqual(['lever set/pin']);
  });
  test('what no pull takes off: it has none, or only goes along', () => {
    const pulls = [
      { components: [1], direction: [0, 0, 1] as const, distanceMm: 40 },
      { components: [3, 4], direction: [0, 0, 1] as const, distanceMm: 60 },
    ];
    expect(names(withoutOwnPull(assembly, components, pulls))).toEqual(['plate', 'bolt:2', 'lever set/pin']);
  });
});

describe('edits of pulls', () => {
  const pull: PullRecord = { components: ['bolt', 'bolt:2', 'lever set/pin'], direction: [0, 0, 1], distanceMm: 40, ranks: [1, 2, 3], typed: true };
  test('split by item, merged again', () => {
    const parts = splitPull(pull, (path) => path.split(':')[0]!);
    expect(parts.map((p) => [p.components, p.distanceMm, p.ranks])).toEqual([
      [['bolt', 'bolt:2'], 40, undefined],
      [['lever set/pin'], 40, undefined],
    ]);
    expect(mergePulls(parts[0]!, parts[1]!).components).toEqual(pull.components);
  });
  test('copied to the other side: equal parts, the direction mirrored', () => {
    const left: PullRecord = { components: ['bolt'], direction: [-1, 0, 0], distanceMm: 25 };
    expect(mirroredPull(left, assembly, components, [1, 0, 0], [0, 0, 0])).toEqual({ ...left, components: ['bolt:2'], direction: [1, 0, 0] });
    expect(mirroredPull({ ...left, components: ['lever set/pin'] }, assembly, components, [1, 0, 0], [0, 0, 0])).toBeUndefined();
  });
  test('copied to the other side, a turn goes the other way: every point moves as its mirror image did', () => {
    const turn = { axis: [0, 0.6, 0.8], through: [-40, 5, 9], angle: 0.7 } as const;
    const left: PullRecord = { components: ['bolt'], direction: [0, 0, 1], distanceMm: 0, turn, ranks: [1], name: 'out' };
    const [normal, through] = [
      [1, 0, 0],
      [0, 0, 0],
    ] as const;
    const right = mirroredPull(left, assembly, components, normal, through)!;
    const turned = (t: NonNullable<PullRecord['turn']>, p: readonly [number, number, number]) => applyToPoint(rotationAbout(t.axis, t.through, t.angle), p);
    const mirror = (p: readonly [number, number, number]) => [-p[0], p[1], p[2]] as const;
    for (const p of [
      [-40, 0, 0],
      [3, 7, -2],
      [11, -5, 40],
    ] as const)
      turned(right.turn!, mirror(p)).forEach((v, k) => expect(v).toBeCloseTo(mirror(turned(turn, p))[k]!, 9));
    // The place in a row was that of the other side's components.
    expect(right.ranks).toBeUndefined();
    expect(right).toMatchObject({ components: ['bolt:2'], name: 'out' });
  });
  test('a place in a row goes with its component: what the model lacks leaves a gap', () => {
    const row = { pulls: [{ components: ['bolt', 'gone', 'bolt:2'], direction: [0, 0, 1] as const, distanceMm: 30, ranks: [1, 2, 3] }] };
    const [made] = pullsOf(row, components);
    expect(made).toMatchObject({ components: [1, 2], ranks: [1, 3] });
    // The first goes a third of the way, the last all of it.
    expect(motionsOf([made!], components.length).map((m) => m[11])).toEqual([0, 10, 30, 0, 0]);
  });
  test('what is planned for the rest comes in where its turn is', () => {
    const existing: PullRecord[] = [{ components: ['lever set/lever'], direction: [0, 0, 1], distanceMm: 60 }];
    const planned = [
      { components: [1, 2], direction: [0, 0, 1] as const, distanceMm: 30 },
      { components: [3, 4], direction: [0, 0, 1] as const, distanceMm: 50 },
      { components: [4], direction: [0, 0, -1] as const, distanceMm: 20 },
    ];
    const all = insertPlanned(existing, planned, [1, 2, 3, 4, 0], new Set([0, 1, 2, 4]), components);
    expect(all.map((p) => p.components)).toEqual([['bolt', 'bolt:2'], ['lever set/lever'], ['lever set/pin'], ['lever set/pin']]);
  });
  test('kept as paths and read back; what is switched off or gone is passed over', () => {
    const spread = { pulls: [{ ...pull, off: true }, pull, { ...pull, components: ['gone'] }] };
    const made = pullsOf(spread, components);
    expect(made).toMatchObject([{ record: 1, components: [1, 2, 4], ranks: [1, 2, 3] }]);
    expect(pullRecord(made[0]!, components)).toMatchObject({ components: pull.components, ranks: [1, 2, 3] });
  });
});

describe('balloons', () => {
  const view = {
    type: 'view',
    id: 'v',
    sheet: 's',
    right: [1, 0, 0],
    up: [0, 0, 1],
    toward: [0, -1, 0],
    scale: 0.5,
    spread: 'sp',
    pullLines: true,
  } as unknown as ViewRecord;
  const spread: SpreadRecord = { type: 'spread', id: 'sp', name: 'Spread', pulls: [{ components: ['bolt'], direction: [0, 0, 1], distanceMm: 40 }] };
  const balloon = { type: 'balloon', id: 'b', view: 'v', component: 'bolt', anchor: [-40, 70], offset: [10, -20], end: 'arrow' } as const;
  const doc = { v: view, sp: spread, b: balloon } as unknown as DrawingDocument;
  test('go along when the pull of their part changes', () => {
    const steps = changeSpread(doc, assembly, components, { ...spread, pulls: [{ ...spread.pulls[0]!, distanceMm: 60 }] });
    const moved = steps.find((s) => s.op === 'put' && s.record.id === 'b');
    // 20 mm up in the model are 10 mm up on paper, where y runs down.
    expect(moved).toMatchObject({ record: { anchor: [-40, 90], offset: [10, -30] } });
  });
  test('keep their leaders when the view gets another scale and place', () => {
    const placed = { ...view, pivot: [0, 0], at: [100, 100] } as unknown as ViewRecord;
    const after: SpreadRecord = { ...spread, pulls: [{ ...spread.pulls[0]!, distanceMm: 60 }] };
    const to = { scale: 0.2, pivot: [-40, 90], at: [150, 80] } as const;
    const steps = fitView({ ...doc, v: placed }, assembly, components, after, placed, to);
    // The anchor was at (−20, −35) from the view's place on paper, the balloon at (10, −20): 30 to the right of it, 15 below.
    // Now the anchor is the pivot itself.
    expect(steps.find((s) => s.op === 'put' && s.record.id === 'b')).toMatchObject({ record: { anchor: [-40, 90], offset: [30, 15] } });
    expect(steps.filter((s) => s.op === 'put' && s.record.id === 'v')).toMatchObject([{ record: { ...to, spread: 'sp' } }]);
  });
  test('and come back when the view shows its parts together', () => {
    const steps = showSpread(doc, assembly, components, view, null);
    expect(steps).toMatchObject([{ record: { id: 'v', spread: null } }, { record: { id: 'b', anchor: [-40, 30] } }]);
  });
});

describe('the sub-assembly that a choice is', () => {
  const of = (...parts: readonly string[]) =>
    subAssemblyOf(assembly, components, new Set(components.filter((c) => parts.includes(c.name)).map((c) => c.index)))?.name;
  test('all of it, and nothing else', () => expect(of('lever', 'pin')).toBe('lever set'));
  test('not a piece of it, not more than it, not the whole, not a part alone', () => {
    expect(of('lever')).toBeUndefined();
    expect(of('lever', 'pin', 'plate')).toBeUndefined();
    expect(of('plate', 'bolt', 'lever', 'pin')).toBeUndefined();
    expect(of()).toBeUndefined();
  });
});
