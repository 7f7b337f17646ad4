import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, test } from 'vitest';
import { Solids } from '../../demo/solids.ts';
import { packGeometry } from '../core/assembly/geometry-codec.ts';
import { rescaleModel } from '../core/assembly/rescale.ts';
import type { ImportResult } from '../core/assembly/importing.ts';
import { combine, translation, type Placement } from '../core/base/placement.ts';
import { normalize, type Vec3 } from '../core/base/vector.ts';
import { componentsOf } from '../core/assembly/components.ts';
import { changeReport } from '../core/revision/changes.ts';
import { matchAssemblies, type Decision } from '../core/revision/match.ts';
import { shapeTeller } from '../core/revision/same-shape.ts';
import { random } from '../core/testing/random.ts';
import type { Kernel } from './load.ts';
import { readOnce, sharedKernel } from './testing/shared-kernel.ts';
import { writeStep, type StepNode } from './testing/write-step.ts';

/* eslint-disable @typescript-eslint/no-explicit-any -- shapes of the kernel */

// Pairs of files, written by the kernel's own writer, whose every difference is known: parts off every plane, turned by
// odd angles, several of one name, listed in any order.

let k: Kernel;
let s: Solids;
beforeAll(async () => {
  k = await sharedKernel();
  s = new Solids(k);
});

const keyOf = (g: Parameters<typeof packGeometry>[0]) => createHash('sha256').update(packGeometry(g)).digest('hex');
const read = (bytes: Uint8Array, name = 'model.step'): Promise<ImportResult> => readOnce([{ name, bytes }]);

/** Rotation by degrees about an axis through the origin (Rodrigues), then a shift. */
function place(axis: Vec3, degrees: number, at: Vec3): Placement {
  const [x, y, z] = normalize(axis);
  const [c, n] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  const t = 1 - c;
  return [
    ...[t * x * x + c, t * x * y - n * z, t * x * z + n * y, at[0]],
    ...[t * x * y + n * z, t * y * y + c, t * y * z - n * x, at[1]],
    ...[t * x * z - n * y, t * y * z + n * x, t * z * z + c, at[2]],
  ];
}

/** Turned about a point of its own, wherever its origin lies. */
const turnedAbout = (at: Placement, middle: Vec3, axis: Vec3, degrees: number): Placement =>
  combine(at, combine(translation(middle), combine(place(axis, degrees, [0, 0, 0]), translation([-middle[0], -middle[1], -middle[2]]))));

async function compare(
  before: readonly StepNode[],
  after: readonly StepNode[],
  units: readonly [string, string] = ['MM', 'MM'],
  decisions: readonly Decision[] = [],
) {
  const [a, b] = [await read(writeStep(k, 'Machine', before, units[0])), await read(writeStep(k, 'Machine', after, units[1]))];
  const geometries = new Map([...a.geometries, ...b.geometries]);
  const matching = matchAssemblies(a.assembly, b.assembly, decisions, shapeTeller(geometries));
  return { a: a.assembly, b: b.assembly, matching, ...changeReport(a.assembly, b.assembly, matching, geometries) };
}
const brief = (r: { readonly changes: readonly { kind: string; name: string; text: string }[] }) => r.changes.map((c) => [c.kind, c.name, c.text]);

/** A plate of 80 × 50 × 10 with a hole, none of its corners in the origin. */
const plate = (diameter = 6.6, at: readonly [number, number] = [30, 20]) =>
  s.cut(s.box([5, 3, 2], [85, 53, 12]), s.cylinder([at[0], at[1], 0], 'z', diameter, 20));
/** An angle with legs of unequal length: unlike its mirror image. */
const angle = () => s.fuse(s.box([0, 0, 0], [60, 8, 30]), s.box([0, 0, 0], [8, 40, 30]), s.box([0, 0, 0], [20, 20, 5]));
const pin = (length = 40) =>
  s.turned([
    [0, 0],
    [4, 0],
    [4, length - 6],
    [3, length],
    [0, length],
  ]);

const A = (): StepNode => ({ name: 'Plate', shape: plate(), placement: place([1, 2, 3], 37, [100, 200, 300]), color: '#336699' });

describe('what is the same', () => {
  test('the same assembly in another order, with other entity numbers, in inches, has no change', async () => {
    const [p, q, r] = [plate(), angle(), pin()];
    // 10.125 mm against 0.398622… inch: figures in the last place.
    const nodes: StepNode[] = [
      { name: 'Plate', shape: p, placement: place([1, 2, 3], 37, [10.125, -200.0625, 30]) },
      { name: 'Angle', shape: q, placement: place([0, 1, 1], 11, [10.125, 57.3, 0]) },
      { name: 'Angle', shape: s.box([0, 0, 0], [60, 8, 30.3]), placement: place([0, 1, 1], 71, [310.125, 57.3, 0]) },
      ...[0, 1, 2, 3].map((i): StepNode => ({ name: 'Pin', shape: r, placement: place([3, 1, 1], 20 * i, [100 * i, 40, 7]) })),
    ];
    const result = await compare(nodes, [...nodes].reverse(), ['MM', 'INCH']);
    expect(brief(result)).toEqual([]);
    expect(result.unchanged).toBe(7);
    expect(result.b.unit).toBe('inch');
  });

  test('a part whose own frame lies elsewhere, and that stands where it stood', async () => {
    const shift = turnedAbout(translation([12, -7, 30]), [4, 5, 6], [1, 1, 0], 25);
    const t = new (k as any).gp_Trsf_1();
    t.SetValues(...(shift as number[]));
    const shape = angle();
    const moved = new (k as any).BRepBuilderAPI_Transform_2(shape, t, true).Shape();
    const at = place([1, 0, 2], 50, [10, 20, 30]);
    const back = (m: Placement): Placement => {
      const row = (c: number) => [m[c]!, m[4 + c]!, m[8 + c]!, -(m[c]! * m[3]! + m[4 + c]! * m[7]! + m[8 + c]! * m[11]!)];
      return [...row(0), ...row(1), ...row(2)];
    };
    const result = await compare([{ name: 'Angle', shape, placement: at }], [{ name: 'Angle', shape: moved, placement: combine(at, back(shift)) }]);
    expect(brief(result)).toEqual([]);
    expect(result.unchanged).toBe(1);
  });

  // as1 of the CAx-IF rounds (npm occt-import-js 0.0.23), by three systems: other meshes, faces split otherwise, and in the
  // third the same numbers in inches and every part turned otherwise in its frame.
  test('one design by three systems', async () => {
    const file = (n: string) => read(new Uint8Array(readFileSync(join(process.cwd(), `node_modules/occt-import-js/test/testfiles/cax-if/${n}`))));
    const [oc, tu, inches] = [await file('as1-oc-214.stp'), await file('as1-tu-203.stp'), await file('as1_pe_203.stp')];
    const pe = rescaleModel(inches.assembly, inches.geometries, 1, keyOf);
    for (const [x, y] of [
      [oc, tu],
      [tu, oc],
      [oc, pe],
      [pe, tu],
    ] as const) {
      const geometries = new Map([...x.geometries, ...y.geometries]);
      const m = matchAssemblies(x.assembly, y.assembly, [], shapeTeller(geometries));
      expect(m.components.filter((c) => c >= 0).length).toBe(18);
      const { changes } = changeReport(x.assembly, y.assembly, m, geometries);
      // The third system's bolt is 40 long, the others' 37.
      const reshaped = x === pe || y === pe ? [['reshaped', expect.stringMatching(/^bolt$/i)]] : [];
      expect(changes.filter((c) => !['renamed', 'colour', 'moved', 'turned'].includes(c.kind)).map((c) => [c.kind, c.name])).toEqual(reshaped);
    }
  });
});

describe('what changed about a shape', () => {
  test.each([
    ['a hole that moved', () => plate(6.6, [34, 23]), 'A hole Ø6.6 moved by 5 mm.'],
    ['a hole of another size', () => plate(8), 'A hole Ø6.6 became Ø8. Its volume changed by −0.4 %.'],
    ['one more hole', () => s.cut(plate(), s.cylinder([60, 30, 0], 'z', 5, 20)), 'A hole Ø5 is new. Its volume changed by −0.5 %.'],
    ['no hole', () => s.box([5, 3, 2], [85, 53, 12]), 'A hole Ø6.6 is gone. Its volume changed by +0.86 %.'],
    [
      'longer by a tenth',
      () => s.cut(s.box([5, 3, 2], [85.1, 53, 12]), s.cylinder([30, 20, 0], 'z', 6.6, 20)),
      'Its size 80 × 50 × 10 mm became 80.1 × 50 × 10 mm. Its volume changed by +0.13 %.',
    ],
    ['a rounded corner', () => s.round(plate(), 0.8, ([x, y]) => x === 5 && y === 3), 'Its shape changed, its volume did not.'],
  ])('%s', async (_, shape, text) => {
    expect(brief(await compare([A()], [{ ...A(), shape: shape() }]))).toEqual([['reshaped', 'Plate', text]]);
  });

  test('a hole that went to the other side of a plate with both sides alike did not turn the plate', async () => {
    const square = (at: number) => s.cut(s.box([-20, -20, 0], [20, 20, 5]), s.cylinder([at, 0, -1], 'z', 6, 10));
    const at = place([1, 1, 0], 15, [7, 8, 9]);
    const result = await compare([{ name: 'Cover', shape: square(-12), placement: at }], [{ name: 'Cover', shape: square(12), placement: at }]);
    expect(brief(result)).toEqual([['reshaped', 'Cover', 'A hole Ø6 moved by 24 mm.']]);
  });

  test('its mirror image: taken for the same part until the drafter says no', async () => {
    const mirrored = s.mirroredX(angle());
    const nodes = (shape: any): StepNode[] => [{ ...A() }, { name: 'Angle', shape, placement: place([0, 1, 2], 33, [1, 2, 3]) }];
    const before = nodes(angle());
    const result = await compare(before, nodes(mirrored));
    expect(brief(result)).toEqual([['reshaped', 'Angle', 'It is now its mirror image.']]);
    expect(result.matching.doubtful).toMatchObject([{ why: 'The newer one is its mirror image.', assumed: true }]);
    const apart = await compare(before, nodes(mirrored), ['MM', 'MM'], [{ before: 'Angle', after: 'Angle', same: false }]);
    expect(brief(apart).map(([kind, name]) => [kind, name])).toEqual([
      ['removed', 'Angle'],
      ['added', 'Angle'],
    ]);
    const told = await compare(before, nodes(mirrored), ['MM', 'MM'], [{ before: 'Angle', after: 'Angle', same: true }]);
    expect([brief(told).length, told.matching.doubtful]).toEqual([1, []]);
  });
});

describe('what became of a component', () => {
  test('turned in place: about its own middle, by how much, about which axis', async () => {
    // The middle of the plate's box lies 45, 28 and 7 mm from its origin.
    const b = { ...A(), placement: turnedAbout(A().placement, [45, 28, 7], [0, 0, 1], 30) };
    const { changes } = await compare([A()], [b]);
    expect(changes).toMatchObject([{ kind: 'turned', pieces: 1, degrees: expect.closeTo(30, 3) }]);
    expect(changes[0]!.text).toMatch(/^One piece turned in place by 30° about \(/);
  });
  test('turned about the model’s z, upside down', async () => {
    const at = translation([50, 60, 70]);
    const flat = (placement: Placement): StepNode => ({ name: 'Plate', shape: plate(), placement });
    const { changes } = await compare([flat(at)], [flat(turnedAbout(at, [45, 28, 7], [0, 0, 1], 180))]);
    expect(changes.map((c) => c.text)).toEqual(['One piece turned in place by 180° about z.']);
  });
  test('moved and turned are two entries', async () => {
    const turned = turnedAbout(A().placement, [45, 28, 7], [1, 0, 0], 90);
    const { changes, unchanged } = await compare([A()], [{ ...A(), placement: combine(translation([3, 4, 12]), turned) }]);
    expect(changes).toMatchObject([
      { kind: 'moved', mm: expect.closeTo(13, 6), pieces: 1 },
      { kind: 'turned', degrees: expect.closeTo(90, 6), pieces: 1 },
    ]);
    expect(unchanged).toBe(0);
  });
  test('another colour, of one piece or of all', async () => {
    const [p] = [pin()];
    const pins = (colors: readonly string[]) =>
      colors.map((color, i): StepNode => ({ name: 'Pin', shape: p, color, placement: place([1, 1, 1], 10, [50 * i, 3, 4]) }));
    expect((await compare(pins(['#aa0000', '#aa0000']), pins(['#00bb00', '#00bb00']))).changes).toMatchObject([
      { kind: 'colour', name: 'Pin', from: '#aa0000', to: '#00bb00', pieces: 2 },
    ]);
  });
  test('a sub-assembly that moved as a whole counts for each of its parts', async () => {
    const [p, q] = [plate(), pin()];
    const group = (placement: Placement): StepNode => ({
      name: 'Group',
      placement,
      children: [
        { name: 'Plate', shape: p, placement: place([1, 0, 1], 15, [1, 2, 3]) },
        ...[0, 1].map((i): StepNode => ({ name: 'Pin', shape: q, placement: place([0, 1, 0], 40, [20 * i, 0, 40]) })),
      ],
    });
    const loose: StepNode = { name: 'Pin', shape: q, placement: translation([500, 0, 0]) };
    const at = place([0, 0, 1], 5, [10, 20, 30]);
    const { changes, unchanged } = await compare([group(at), loose], [loose, group(combine(translation([0, 0, 7]), at))]);
    expect(changes.map((c) => [c.kind, c.name, c.pieces, c.mm])).toEqual([
      ['moved', 'Plate', 1, expect.closeTo(7, 6)],
      ['moved', 'Pin', 2, expect.closeTo(7, 6)],
    ]);
    expect(unchanged).toBe(1);
  });
  test('equal pieces that moved a little and are listed otherwise are not exchanged', async () => {
    const p = pin();
    const at: Vec3[] = [
      [0, 0, 5],
      [115, 3, 9],
      [60, 90, -20],
      [20, 30, 40],
    ];
    const pins = (by: Vec3, order: readonly number[], names?: readonly string[]) =>
      order.map((i): StepNode => {
        const [x, y, z] = at[i]!;
        return { name: 'Pin', shape: p, placement: place([1, 2, 2], 25, [x + by[0], y + by[1], z + by[2]]), ...(names ? { occurrence: names[i]! } : {}) };
      });
    const { changes, matching, a, b } = await compare(pins([0, 0, 0], [0, 1, 2, 3]), pins([2, -1, 2], [2, 3, 0, 1]));
    expect(changes).toMatchObject([{ kind: 'moved', pieces: 4, mm: expect.closeTo(3, 6) }]);
    const [old, fresh] = [componentsOf(a), componentsOf(b)];
    matching.components.forEach((j, i) => expect(fresh[j]!.placement[3]! - old[i]!.placement[3]!).toBeCloseTo(2, 6));
  });
  test('names of occurrences that are kept tell which piece went far', async () => {
    const p = pin();
    const named = (list: readonly (readonly [string, Vec3])[]) =>
      list.map(([occurrence, at]): StepNode => ({ name: 'Pin', shape: p, occurrence, placement: place([1, 2, 2], 25, at) }));
    // The one on the left goes to the far right, past the middle one, which moves too.
    const { matching, a, b } = await compare(
      named([
        ['left', [0, 0, 0]],
        ['middle', [50, 1, 2]],
        ['lone', [0, 900, 0]],
      ]),
      named([
        ['lone', [0, 900, 0]],
        ['middle', [30, 1, 2]],
        ['left', [70, 0, 0]],
      ]),
    );
    expect(matching.components.map((j, i) => [a.nodes[componentsOf(a)[i]!.node]!.occurrence, b.nodes[componentsOf(b)[j]!.node]!.occurrence])).toEqual([
      ['left', 'left'],
      ['middle', 'middle'],
      ['lone', 'lone'],
    ]);
  });
  test('two different parts of one name are told apart by their shape', async () => {
    const [short, long] = [pin(30), pin(55)];
    const both = (x: number): StepNode[] => [
      { name: 'Pin', shape: short, placement: place([1, 0, 3], 10, [0, 2, 3]) },
      { name: 'Pin', shape: long, placement: place([1, 0, 3], 10, [x, 2, 3]) },
    ];
    const result = await compare(both(80), both(95).reverse());
    expect(brief(result)).toEqual([['moved', 'Pin', 'One piece moved by 15 mm.']]);
    expect(result.unchanged).toBe(1);
  });
});

describe('pairs with known edits of every kind, six machines', () => {
  /** What a pair is made of, and what must be reported of it: kind and name, with pieces where they count. */
  function machine(seed: number): { before: StepNode[]; after: StepNode[]; truth: string[]; unchanged: number } {
    const r = random(seed);
    const anywhere = (i: number): Placement =>
      place([r() - 0.5, r() - 0.5, r() + 0.1], 360 * r(), [150 * (i % 5) + 20 * r(), 150 * Math.floor(i / 5) + 20 * r(), 300 * r()]);
    const before: StepNode[] = [];
    const after: StepNode[] = [];
    const truth: string[] = [];
    let unchanged = 0;
    let n = 0;
    const both = (node: Omit<StepNode, 'placement'>, change: (n: StepNode) => StepNode | undefined) => {
      const old: StepNode = { ...node, placement: anywhere(n++) };
      before.push(old);
      const now = change(old);
      if (now) after.push(now);
      if (now === old) unchanged++;
    };
    const move = (o: StepNode, by: Vec3): StepNode => ({ ...o, placement: combine(translation(by), o.placement) });
    both({ name: 'Base', shape: plate(9) }, (o) => o);
    both({ name: 'Drilled', shape: plate(6.6) }, (o) => (truth.push('reshaped Drilled'), { ...o, shape: plate(8) }));
    both({ name: 'Shifted', shape: plate(7) }, (o) => (truth.push('reshaped Shifted'), { ...o, shape: plate(7, [30 + 0.5 + r(), 20]) }));
    both({ name: 'Hand', shape: angle() }, (o) => (truth.push('reshaped Hand'), { ...o, shape: s.mirroredX(angle()) }));
    both(
      { name: 'Turned', shape: plate(5) },
      (o) => (truth.push('turned Turned 1'), { ...o, placement: turnedAbout(o.placement, [45, 28, 7], [1, 1, 0], 5 + 80 * r()) }),
    );
    both(
      { name: 'Old name', shape: s.cut(plate(4), s.box([5, 3, 2], [15, 13, 5])) },
      (o) => (truth.push('renamed Called otherwise'), { ...o, name: 'Called otherwise' }),
    );
    both({ name: 'Gone', shape: s.box([1, 1, 1], [9, 19, 90]) }, () => void truth.push('removed Gone 1'));
    both({ name: 'Painted', shape: plate(3), color: '#808080' }, (o) => (truth.push('colour Painted 1'), { ...o, color: '#804020' }));
    both({ name: 'Twin', shape: pin(30) }, (o) => o);
    both({ name: 'Twin', shape: pin(31) }, (o) => (truth.push('moved Twin 1'), move(o, [1 + r(), 0, 0])));
    const pieces = pin(52);
    for (let i = 0; i < 6; i++)
      both({ name: 'Dowel', shape: pieces, occurrence: `Dowel:${i + 1}` }, (o) =>
        i < 2 ? o : i === 5 ? undefined : move(o, [3 * r() + 0.1, 2 * r(), 4 * r()]),
      );
    truth.push('moved Dowel 3', 'count Dowel 1');
    after.push({ name: 'Novelty', shape: s.box([0, 0, 0], [33, 7, 5]), placement: anywhere(n++) });
    truth.push('added Novelty 1');
    // Listed in another order, with occurrences numbered anew.
    const shuffled = after
      .map((node) => ({ node, at: r() }))
      .sort((x, y) => x.at - y.at)
      .map(({ node }, i) => (node.occurrence ? { ...node, occurrence: `Dowel:${i + 1}` } : node));
    return { before, after: shuffled, truth, unchanged };
  }

  test('precision and recall of the change list are 1', async () => {
    const wrong: string[] = [];
    for (let seed = 1; seed <= 6; seed++) {
      const { before, after, truth, unchanged } = machine(seed);
      const result = await compare(before, after, seed % 3 === 0 ? ['MM', 'INCH'] : ['MM', 'MM']);
      const found = result.changes.map((c) => `${c.kind} ${c.name}${['reshaped', 'renamed'].includes(c.kind) ? '' : ` ${c.pieces}`}`);
      for (const f of found) if (!truth.includes(f)) wrong.push(`${seed}: false ${f}`);
      for (const t of truth) if (!found.includes(t)) wrong.push(`${seed}: missed ${t}`);
      if (result.unchanged !== unchanged) wrong.push(`${seed}: ${result.unchanged} unchanged instead of ${unchanged}`);
    }
    expect(wrong).toEqual([]);
  });
});
