import { describe, expect, test } from 'vitest';
import type { Assembly, AssemblyNode, Part } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import { translation } from '../base/placement.ts';
import { without } from '../base/without.ts';
import { BLANK_DRAWING, type BalloonRecord, type DrawingDocument, type SpreadRecord, type ViewRecord } from '../document/records.ts';
import { SCHEMAS } from '../document/schemas.ts';
import { applySteps } from '../document/steps.ts';
import { itemsOf } from '../ledger/items.ts';
import { changeReport } from './changes.ts';
import { matchAssemblies } from './match.ts';
import { takeOver, withOldIds } from './take-over.ts';

/** Repeatable numbers 0…1. */
function random(seed: number): () => number {
  let s = seed;
  return () => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0;
    return s / 2 ** 32;
  };
}

interface Piece {
  /** The same for the same piece in both models. */
  truth: number;
  name: string;
  size: [number, number, number];
  at: [number, number, number];
}

function assemblyFrom(pieces: readonly Piece[]): Assembly {
  const parts: Part[] = [];
  const nodes: AssemblyNode[] = [{ parent: -1, name: 'Machine', product: 'Machine', placement: translation([0, 0, 0]), part: -1 }];
  for (const p of pieces) {
    const geometryKey = p.size.join('x');
    let part = parts.findIndex((q) => q.name === p.name && q.geometryKey === geometryKey);
    if (part < 0) {
      const [x, y, z] = p.size;
      let id = p.name;
      for (let n = 2; parts.some((q) => q.id === id); n++) id = `${p.name}~${n}`;
      parts.push({
        id,
        name: p.name,
        geometryKey,
        volumeMm3: x * y * z,
        areaMm2: 2 * (x * y + y * z + z * x),
        centroid: [0, 0, 0],
        box: [0, 0, 0, x, y, z],
        properties: {},
      });
      part = parts.length - 1;
    }
    nodes.push({ parent: 0, name: p.name, product: p.name, placement: translation(p.at), part });
  }
  return { name: 'Machine', schema: 'test', unit: 'mm', parts, nodes, properties: {}, notices: [] };
}

const WORDS = ['Frame', 'Plate', 'Shaft', 'Bracket', 'Cover', 'Lever', 'Guide', 'Wheel', 'Block', 'Rail'];

/** Some 60 parts, a few of them used several times. */
function machine(seed: number): Piece[] {
  const r = random(seed);
  const pieces: Piece[] = [];
  for (let i = 0; i < 60; i++) {
    const size: Piece['size'] = [5 + Math.round(r() * 200), 5 + Math.round(r() * 100), 5 + Math.round(r() * 50)];
    const uses = r() < 0.25 ? 4 : 1;
    for (let u = 0; u < uses; u++)
      pieces.push({ truth: pieces.length, name: `${WORDS[i % 10]!} ${i}`, size, at: [Math.round(r() * 2000), Math.round(r() * 2000), Math.round(r() * 500)] });
  }
  return pieces;
}

/** The same with known edits of every kind. */
function edited(pieces: readonly Piece[], seed: number): Piece[] {
  const r = random(seed);
  const names = [...new Set(pieces.map((p) => p.name))];
  const some = (n: number) => new Set(Array.from({ length: n }, () => names[Math.floor(r() * names.length)]!));
  const [renamed, reshaped, removed, moved] = [some(5), some(5), some(3), some(8)];
  const out = pieces
    .filter((p) => !removed.has(p.name))
    .map((p): Piece => ({
      ...p,
      name: renamed.has(p.name) && !reshaped.has(p.name) ? `Item ${p.name.split(' ')[1]!}X` : p.name,
      size: reshaped.has(p.name) ? [p.size[0] + 7, p.size[1], p.size[2] + 3] : p.size,
      at: moved.has(p.name) ? [p.at[0] + 12, p.at[1], p.at[2] - 5] : p.at,
    }));
  // One more of something, two that swap places, and three new ones; the file lists them in another order.
  out.push({ ...out[3]!, truth: -1, at: [5000, 0, 0] });
  [out[10]!.at, out[20]!.at] = [out[20]!.at, out[10]!.at];
  for (let i = 0; i < 3; i++) out.push({ truth: -1, name: `Novelty ${i}`, size: [301 + i, 203, 107], at: [6000 + i * 400, 0, 0] });
  return out.sort(() => r() - 0.5);
}

describe('matching (generated pairs with known edits)', () => {
  test('pairs of components: precision and recall over twenty machines', () => {
    let [right, found, wanted] = [0, 0, 0];
    for (let seed = 1; seed <= 20; seed++) {
      const before = machine(seed);
      const after = edited(before, seed + 1000);
      const [a, b] = [assemblyFrom(before), assemblyFrom(after)];
      // What is asked is answered as the drafter would.
      const truthOf = (list: readonly Piece[], assembly: Assembly, part: number) =>
        new Set(
          componentsOf(assembly)
            .filter((c) => c.part === part)
            .map((c) => list[c.index]!.truth),
        );
      const first = matchAssemblies(a, b);
      const decisions = first.doubtful.map((d) => ({
        before: a.parts[d.before]!.id,
        after: b.parts[d.after]!.id,
        same: [...truthOf(before, a, d.before)].some((t) => truthOf(after, b, d.after).has(t)),
      }));
      const { components } = matchAssemblies(a, b, decisions);
      const truths = new Set(after.map((p) => p.truth));
      wanted += before.filter((p) => truths.has(p.truth)).length;
      // Equal pieces of one part that changed places are taken for each other: nobody can tell them apart.
      const alike = (x: Piece, y: Piece) => x.truth === y.truth || (x.name === y.name && x.truth >= 0);
      components.forEach((j, i) => {
        if (j < 0) return;
        found++;
        if (alike(before[i]!, after[j]!) || before.some((p) => p.truth === after[j]!.truth && p.name === before[i]!.name)) right++;
      });
    }
    const [precision, recall] = [right / found, right / wanted];
    // Measured: both 1.000; pieces of one part count as equal.
    expect(precision).toBeGreaterThan(0.995);
    expect(recall).toBeGreaterThan(0.985);
  });

  const base: Piece[] = [
    { truth: 0, name: 'Frame', size: [100, 80, 10], at: [0, 0, 0] },
    { truth: 1, name: 'Bolt', size: [8, 8, 30], at: [10, 0, 0] },
    { truth: 2, name: 'Bolt', size: [8, 8, 30], at: [90, 0, 0] },
    { truth: 3, name: 'Cover', size: [60, 40, 3], at: [0, 0, 50] },
    { truth: 4, name: 'Handle left', size: [20, 20, 120], at: [200, 0, 0] },
  ];
  const report = (after: readonly Piece[]) => {
    const [a, b] = [assemblyFrom(base), assemblyFrom(after)];
    return changeReport(a, b, matchAssemblies(a, b));
  };
  test('nothing changed: nothing is reported', () => {
    expect(report([...base].reverse())).toMatchObject({ changes: [], unchanged: 5 });
  });
  test('each kind of change is named, with its measure', () => {
    const { changes } = report([
      { ...base[0]!, size: [100, 80, 12] },
      base[1]!,
      base[2]!,
      { ...base[1]!, truth: 9, at: [50, 0, 0] },
      { ...base[3]!, name: 'Lid', at: [0, 0, 60] },
      { truth: 8, name: 'Spring', size: [5, 5, 40], at: [0, 0, 0] },
    ]);
    expect(changes.map((c) => [c.kind, c.name, c.text])).toEqual([
      ['reshaped', 'Frame', 'Its size 100 × 80 × 10 mm became 100 × 80 × 12 mm. Its volume changed by +20 %.'],
      ['count', 'Bolt', '2 became 3.'],
      ['renamed', 'Lid', '“Cover” is now “Lid”.'],
      ['moved', 'Lid', 'One piece moved by 10 mm.'],
      ['removed', 'Handle left', 'One piece is gone.'],
      ['added', 'Spring', 'One piece is new.'],
    ]);
  });
  test('what is only alike is asked, and the answer counts', () => {
    const after = [...base.slice(0, 4), { truth: 4, name: 'Handle right', size: [22, 20, 118] as Piece['size'], at: [200, 0, 0] as Piece['at'] }];
    const [a, b] = [assemblyFrom(base), assemblyFrom(after)];
    const asked = matchAssemblies(a, b);
    expect(asked.doubtful).toMatchObject([{ before: 3, after: 3, why: expect.stringMatching(/50 % of the words/) }]);
    const decide = (same: boolean) => matchAssemblies(a, b, [{ before: 'Handle left', after: 'Handle right', same }]);
    expect(decide(true).components[4]).toBe(4);
    expect(decide(false).doubtful).toEqual([]);
    expect(decide(false).components[4]).toBe(-1);
  });
  test('a file written anew, with other meshes and figures in the last place, is the same', () => {
    const a = assemblyFrom(base);
    const b: Assembly = { ...a, parts: a.parts.map((p) => ({ ...p, geometryKey: `${p.geometryKey}'`, volumeMm3: p.volumeMm3 * 1.0002 })) };
    expect(changeReport(a, b, matchAssemblies(a, b)).changes).toEqual([]);
  });
});

describe('taking a newer model over', () => {
  const before = assemblyFrom([
    { truth: 0, name: 'Frame', size: [100, 80, 10], at: [0, 0, 0] },
    { truth: 1, name: 'Bolt', size: [8, 8, 30], at: [10, 0, 0] },
    { truth: 2, name: 'Bolt', size: [8, 8, 30], at: [90, 0, 0] },
    { truth: 3, name: 'Grip', size: [20, 20, 120], at: [200, 0, 0] },
  ]);
  const after = assemblyFrom([
    { truth: 9, name: 'Cover', size: [70, 70, 2], at: [0, 0, 100] },
    { truth: 0, name: 'Main frame', size: [100, 80, 10], at: [0, 0, 0] },
    { truth: 2, name: 'Bolt', size: [8, 8, 30], at: [90, 0, 0] },
  ]);
  const balloon = (id: string, component: string): BalloonRecord => ({
    type: 'balloon',
    id,
    view: 'view:1',
    component,
    anchor: [0, 0],
    offset: [0, 0],
    end: 'arrow',
  });
  const spread: SpreadRecord = {
    type: 'spread',
    id: 'spread:1',
    name: 'Spread 1',
    pulls: [
      { components: ['Bolt', 'Bolt:2'], direction: [0, 0, 1], distanceMm: 50 },
      { components: ['Grip'], direction: [1, 0, 0], distanceMm: 50 },
    ],
  };
  const doc = {
    drawing: BLANK_DRAWING,
    'property:Frame': { type: 'property', id: 'property:Frame', part: 'Frame', values: { material: 'S355' } },
    'b:frame': balloon('b:frame', 'Frame'),
    'b:bolt': balloon('b:bolt', 'Bolt'),
    'b:grip': balloon('b:grip', 'Grip'),
    'spread:1': spread,
    'view:1': {
      type: 'view',
      id: 'view:1',
      right: [1, 0, 0],
      up: [0, 0, 1],
      toward: [0, -1, 0],
      sheet: 'sheet:1',
      scale: 1,
      spread: null,
      cut: { normal: [0, 0, 1], d: 5, letter: 'A', keptWhole: ['Bolt', 'Grip'], shownIn: null },
    },
    'sheet:1': { type: 'sheet', id: 'sheet:1', order: 1, name: '', size: 'A3', landscape: true },
  } as unknown as DrawingDocument;
  const model = { type: 'model', id: 'model', model: '00000000-0000-4000-8000-000000000000', name: 'rev2.step' } as const;
  const done = takeOver(before, after, doc, matchAssemblies(before, after), model);
  const result = applySteps(doc, done.steps);
  if (!result.ok) throw new Error(result.reason);
  const items = itemsOf(done.assembly, result.document);

  test('typed properties and numbers stay with their parts; new items get the next number, old ones are not given again', () => {
    expect(items.map((i) => [i.number, i.values.description.text, i.values.material.text])).toEqual([
      [4, 'Cover', ''],
      [1, 'Main frame', 'S355'],
      [2, 'Bolt', ''],
    ]);
    // Another model later: the grip's number 3 stays free.
    const later = withOldIds(done.assembly, after, matchAssemblies(done.assembly, after));
    expect(later.parts.map((p) => p.id)).toEqual(['Cover', 'Frame', 'Bolt']);
  });
  test('asked to, numbers of removed items are given again, lowest first', () => {
    const again = takeOver(before, after, doc, matchAssemblies(before, after), model, { reuseNumbers: true });
    const done = applySteps(doc, again.steps);
    if (!done.ok) throw new Error(done.reason);
    expect(itemsOf(again.assembly, done.document).map((i) => [i.values.description.text, i.number])).toEqual([
      ['Cover', 3],
      ['Main frame', 1],
      ['Bolt', 2],
    ]);
  });
  test('balloons, kept-whole choices and pulls follow; what lost its target is told', () => {
    expect(result.document['b:frame']).toMatchObject({ component: 'Main frame' });
    // The bolt that is left stands 80 mm to the right of the one that is gone.
    expect(result.document['b:bolt']).toMatchObject({ component: 'Bolt', anchor: [80, 0] });
    expect(result.document['b:frame']).toMatchObject({ anchor: [0, 0] });
    expect((result.document['view:1'] as ViewRecord).cut!.keptWhole).toEqual([]);
    expect((result.document['spread:1'] as SpreadRecord).pulls).toEqual([{ components: ['Bolt'], direction: [0, 0, 1], distanceMm: 50 }]);
    expect(done.losses.map((l) => l.text)).toEqual([
      'A balloon pointed at “Grip”, which is gone.',
      'One pull of Spread 1 moved nothing but parts that are gone.',
    ]);
  });
  test('numbers that were given once are not given again, also by models before this one', () => {
    const numbered = { ...doc, numbers: { type: 'numbers', id: 'numbers', of: { Frame: 1, Bolt: 2, Grip: 3 }, last: 9 } } as unknown as DrawingDocument;
    const taken = takeOver(before, after, numbered, matchAssemblies(before, after), model);
    const r = applySteps(numbered, taken.steps);
    if (!r.ok) throw new Error(r.reason);
    expect(itemsOf(taken.assembly, r.document).map((i) => [i.values.description.text, i.number])).toEqual([
      ['Cover', 10],
      ['Main frame', 1],
      ['Bolt', 2],
    ]);
  });
  test('a leader follows its component as far as the view sees it move', () => {
    const base: Piece[] = [{ truth: 0, name: 'Frame', size: [100, 80, 10], at: [0, 0, 0] }];
    const [a, b] = [assemblyFrom(base), assemblyFrom([{ ...base[0]!, at: [30, 7, 5] }])];
    // A front view: x to the right, z up; the 7 mm of depth do not show.
    const seen = { ...doc, 'view:1': { ...doc['view:1'], right: [1, 0, 0], up: [0, 0, 1], toward: [0, -1, 0] } } as unknown as DrawingDocument;
    const { steps } = takeOver(a, b, seen, matchAssemblies(a, b), model);
    const moved = steps.find((s) => s.op === 'put' && s.record.id === 'b:frame');
    expect(moved).toMatchObject({ record: { anchor: [30, 5], offset: [0, 0] } });
  });
  test('one undo brings everything back', () => {
    const back = applySteps(result.document, result.inverse);
    expect(back.ok && back.document).toEqual(doc);
  });
  test('what runs beside the components of a pull goes along: ranks, sets that move as one, lines that are off', () => {
    const ranked = {
      ...doc,
      'spread:1': {
        ...spread,
        pulls: [{ components: ['Bolt', 'Grip', 'Bolt:2'], direction: [0, 0, 1], distanceMm: 60, ranks: [1, 2, 3] }],
        together: [
          ['Frame', 'Grip'],
          ['Frame', 'Bolt:2'],
        ],
        linesOff: ['Grip', 'Bolt:2'],
      },
    } as unknown as DrawingDocument;
    const { steps } = takeOver(before, after, ranked, matchAssemblies(before, after), model);
    // The second bolt is the first one now, and the only one; the frame has another name.
    expect(steps.find((s) => s.op === 'put' && s.record.id === 'spread:1')).toMatchObject({
      record: {
        pulls: [{ components: ['Bolt'], distanceMm: 60, ranks: [3] }],
        together: [['Main frame', 'Bolt']],
        linesOff: ['Bolt'],
      },
    });
  });
});

describe('pairs that lie nowhere near the ground, by their change list', () => {
  interface Made {
    name: string;
    size: [number, number, number];
    at: [number, number, number];
    /** About z, degrees. */
    turn?: number;
    number?: string;
    material?: string;
    properties?: Record<string, string>;
    color?: string;
    occurrence?: string;
  }
  /** Each piece is a part of its own unless another of the same name and size came before it. */
  function made(list: readonly Made[]): Assembly {
    const plain = assemblyFrom(list.map((m, truth) => ({ truth, name: m.name, size: m.size, at: m.at })));
    return {
      ...plain,
      parts: plain.parts.map((p) => {
        const m = list.find((x) => x.name === p.name && x.size.join('x') === p.geometryKey)!;
        return {
          ...p,
          centroid: [m.size[0] / 2, m.size[1] / 2, m.size[2] / 2],
          properties: { ...(m.number ? { 'Part number': m.number } : {}), ...m.properties },
          ...(m.material ? { material: m.material } : {}),
          ...(m.color ? { color: m.color } : {}),
        };
      }),
      nodes: plain.nodes.map((n, i) => {
        const m = list[i - 1];
        if (!m) return n;
        const [c, s] = [Math.cos(((m.turn ?? 0) * Math.PI) / 180), Math.sin(((m.turn ?? 0) * Math.PI) / 180)];
        return { ...n, placement: [c, -s, 0, m.at[0], s, c, 0, m.at[1], 0, 0, 1, m.at[2]], ...(m.occurrence ? { occurrence: m.occurrence } : {}) };
      }),
    };
  }
  const base: Made[] = [
    { name: 'Housing', size: [120, 80, 60], at: [13, -47, 5], turn: 17, number: '100-1', color: '#112233' },
    { name: 'Lid', size: [120, 80, 6], at: [13, -47, 65], turn: 17, number: '100-2', material: 'S235' },
    { name: 'Lever', size: [90, 14, 9], at: [40, 52, 33], turn: 61 },
    { name: 'Stud', size: [8, 8, 40], at: [-20, 31, 12], turn: 5, occurrence: 'left' },
    { name: 'Stud', size: [8, 8, 40], at: [150, 29, 12], turn: 5, occurrence: 'right' },
  ];
  const changes = (after: readonly Made[], before: readonly Made[] = base) => {
    const [a, b] = [made(before), made(after)];
    const r = changeReport(a, b, matchAssemblies(a, b));
    return { list: r.changes.map((c) => `${c.kind} ${c.name}: ${c.text}`), ...r };
  };
  const with1 = (i: number, change: Partial<Made>) => base.map((m, k) => (k === i ? { ...m, ...change } : m));

  test('nothing, whatever the order', () => {
    expect(changes([...base].reverse())).toMatchObject({ list: [], unchanged: 5 });
  });
  test('a part number holds what has another name and another shape', () => {
    expect(changes(with1(1, { name: 'Cover plate', size: [120, 80, 7] })).list).toEqual([
      'reshaped Cover plate: Its size 120 × 80 × 6 mm became 120 × 80 × 7 mm. Its volume changed by +17 %.',
      'renamed Cover plate: “Lid” is now “Cover plate”.',
    ]);
  });
  test('two numbers that were exchanged: the numbers are trusted, not the names', () => {
    const { list } = changes([{ ...base[0]!, number: '100-2' }, { ...base[1]!, number: '100-1' }, ...base.slice(2)]);
    expect(list.filter((l) => l.startsWith('renamed'))).toEqual(['renamed Lid: “Housing” is now “Lid”.', 'renamed Housing: “Lid” is now “Housing”.']);
  });
  test('renamed and reshaped without a number, at its place: taken for the same, and asked', () => {
    const [a, b] = [made(base), made(with1(2, { name: 'Handle', size: [92, 14, 9] }))];
    const m = matchAssemblies(a, b);
    expect(m.doubtful).toMatchObject([{ assumed: true, why: expect.stringContaining('they stand at the same place') }]);
    expect(changeReport(a, b, m).changes.map((c) => [c.kind, c.name])).toEqual([
      ['reshaped', 'Handle'],
      ['renamed', 'Handle'],
    ]);
    const apart = matchAssemblies(a, b, [{ before: 'Lever', after: 'Handle', same: false }]);
    expect(changeReport(a, b, apart).changes.map((c) => [c.kind, c.name])).toEqual([
      ['removed', 'Lever'],
      ['added', 'Handle'],
    ]);
    expect(apart.doubtful).toEqual([]);
  });
  test('turned about its middle, which is not its origin', () => {
    // The lever's middle lies 45 mm along it and 7 mm across: turning it by 30° moves the origin by 23.6 mm.
    const middle = (turn: number): [number, number] => {
      const a = (turn * Math.PI) / 180;
      return [45 * Math.cos(a) - 7 * Math.sin(a), 45 * Math.sin(a) + 7 * Math.cos(a)];
    };
    const [m, n] = [middle(61), middle(91)];
    const at: [number, number, number] = [40 + m[0] - n[0], 52 + m[1] - n[1], 33];
    const { changes: list } = changes(with1(2, { turn: 91, at }));
    expect(list).toMatchObject([{ kind: 'turned', name: 'Lever', pieces: 1, degrees: 30, text: 'One piece turned in place by 30° about z.' }]);
  });
  test('two twins that moved: each by its own way, not to the other’s place', () => {
    const { list, changes: found, unchanged } = changes([...base.slice(0, 3), { ...base[4]!, at: [150, 33, 12] }, { ...base[3]!, at: [-20, 34, 16] }]);
    expect(list).toEqual(['moved Stud: 2 pieces moved by 5 mm at most.']);
    expect(found[0]).toMatchObject({ pieces: 2, mm: 5, components: ['Stud:2', 'Stud'] });
    expect(unchanged).toBe(3);
  });
  test('what hangs on the first component follows it too', () => {
    const [a, b] = [made(base), made([...base.slice(1), base[0]!])];
    const m = matchAssemblies(a, b);
    expect(m.components).toEqual([4, 0, 1, 2, 3]);
    const balloon = { type: 'balloon', id: 'b', view: 'view:1', component: 'Housing', anchor: [0, 0], offset: [0, 0], end: 'arrow' } as const;
    const renamed = made([{ ...base[0]!, name: 'Case' }, ...base.slice(1)]);
    const { steps, losses } = takeOver(a, renamed, { drawing: BLANK_DRAWING, b: balloon } as DrawingDocument, matchAssemblies(a, renamed), {
      type: 'model',
      id: 'model',
      model: '00000000-0000-4000-8000-000000000000',
      name: 'x',
    });
    expect(losses).toEqual([]);
    expect(steps.find((s) => s.op === 'put' && s.record.id === 'b')).toMatchObject({ record: { component: 'Case' } });
  });
  test('properties, material and colour, in one entry each', () => {
    const { changes: list } = changes([
      { ...base[0]!, color: '#445566', properties: { Finish: 'painted' } },
      { ...base[1]!, material: 'S355' },
      ...base.slice(2),
    ]);
    expect(list.map(({ kind, name, from, to, text }) => [kind, name, from, to, text])).toEqual([
      ['property', 'Housing', '', 'painted', 'Finish: empty became painted.'],
      ['colour', 'Housing', '#112233', '#445566', 'Its colour changed: #112233 became #445566.'],
      ['property', 'Lid', 'S235', 'S355', 'Material: S235 became S355.'],
    ]);
  });
  test('a component is unchanged only when nothing about it changed', () => {
    const left = (i: number, change: Partial<Made>) => changes(with1(i, change)).unchanged;
    expect([
      left(1, { material: 'S355' }),
      left(1, { name: 'Cover plate' }),
      left(1, { size: [120, 80, 7] }),
      left(0, { color: '#445566' }),
      left(2, { at: [40, 52, 40] }),
      left(3, { at: [-20, 31, 30] }),
      left(1, { at: [13, -47, 65.005] }),
    ]).toEqual([4, 4, 4, 4, 4, 4, 5]);
  });
  test('a number is read under its usual names, and a blank one is none', () => {
    const numbered = (key: string, value: (i: number) => string) => (list: readonly Made[]) =>
      list.map((m, i): Made => {
        const rest = without(m, 'number');
        return i < 2 ? { ...rest, properties: { [key]: value(i) } } : rest;
      });
    // Numbers exchanged, names and shapes not: where they count, both are renamed.
    const exchanged = (key: string, before: readonly string[], after: readonly string[]) =>
      changes(numbered(key, (i) => after[i]!)(base), numbered(key, (i) => before[i]!)(base)).list.filter((l) => l.startsWith('renamed')).length;
    for (const key of ['Part number', 'PART_NO', 'partno.', 'Part-Number']) expect([key, exchanged(key, ['1', '2'], ['2', '1'])]).toEqual([key, 2]);
    expect(exchanged('Part number', ['1', '2'], [' 2 ', '1 '])).toBe(2);
    for (const key of ['Spare part number', 'Part number of the supplier', 'Colour']) expect([key, exchanged(key, ['1', '2'], ['2', '1'])]).toEqual([key, 0]);
    expect(exchanged('Part number', [' ', '2'], ['3', ' '])).toBe(0);
  });
  test('what is new and what is gone names its pieces; changes come in the order of the older model', () => {
    const ring: Made = { name: 'Ring', size: [30, 30, 4], at: [300, 0, 0] };
    const { changes: list, unchanged } = changes(
      [
        { ...ring },
        { ...ring, at: [340, 0, 0] },
        ...base
          .slice(0, 3)
          .reverse()
          .map((m): Made => ({ ...m, color: '#010203' })),
      ],
      base,
    );
    expect(list.map((c) => [c.kind, c.name, c.components, c.pieces])).toEqual([
      ['colour', 'Housing', ['Housing'], 1],
      ['colour', 'Lid', ['Lid'], 1],
      ['colour', 'Lever', ['Lever'], 1],
      ['removed', 'Stud', ['Stud', 'Stud:2'], 2],
      ['added', 'Ring', ['Ring', 'Ring:2'], 2],
    ]);
    expect(unchanged).toBe(0);
  });
  test('another density of one material is told, of another material it goes without saying', () => {
    const dense = (kg: number | undefined, material = 'S235') => {
      const a = made(with1(1, { material }));
      return { ...a, parts: a.parts.map((p) => (p.name === 'Lid' && kg ? { ...p, densityKgM3: kg } : p)) };
    };
    const told = (a: Assembly, b: Assembly) => changeReport(a, b, matchAssemblies(a, b)).changes.map((c) => c.text);
    expect(told(dense(7850), dense(7800))).toEqual(['Density: 7850 kg/m³ became 7800 kg/m³.']);
    expect(told(dense(7850), dense(7850.0001))).toEqual([]);
    expect(told(dense(7850), dense(undefined))).toEqual([]);
    expect(told(dense(7850), dense(2700, 'EN AW-6082'))).toEqual(['Material: S235 became EN AW-6082.']);
  });
  test('several properties at once are told side by side', () => {
    const [first] = changes(with1(1, { material: 'S355', properties: { Finish: 'zinc' } })).changes;
    expect([first!.from, first!.to]).toEqual(['Material: S235; Finish: ', 'Material: S355; Finish: zinc']);
  });
  test('a count that changed, with the pieces that are still where they were', () => {
    const more = changes([...base, { ...base[3]!, at: [65, 90, 12], occurrence: 'middle' }]);
    expect(more.changes).toMatchObject([{ kind: 'count', name: 'Stud', from: '2', to: '3', pieces: 1 }]);
    expect(more.unchanged).toBe(5);
    const fewer = changes(base.slice(0, 4));
    expect(fewer.changes).toMatchObject([{ kind: 'count', from: '2', to: '1', pieces: 1 }]);
    expect(fewer.unchanged).toBe(4);
  });
});

test('rows of one’s own keep their number and their words with a newer model', () => {
  const before = assemblyFrom(machine(1));
  const after = assemblyFrom(edited(machine(1), 2));
  const doc: DrawingDocument = {
    drawing: BLANK_DRAWING,
    'row~a': { type: 'row', id: 'row~a', quantity: '2', order: 0 },
    'row~b': { type: 'row', id: 'row~b', quantity: '', order: 1, unnumbered: true },
    'property:row~a': { type: 'property', id: 'property:row~a', part: 'row~a', values: { description: 'Grease' } },
  };
  const model = { type: 'model', id: 'model', model: '00000000-0000-4000-8000-000000000000', name: 'rev2.step' } as const;
  const own = (assembly: Assembly, d: DrawingDocument) => itemsOf(assembly, d).slice(-2);
  for (const reuseNumbers of [false, true]) {
    const taken = takeOver(before, after, doc, matchAssemblies(before, after), model, { reuseNumbers });
    const applied = applySteps(doc, taken.steps);
    if (!applied.ok) throw new Error(applied.reason);
    // Numbers that are kept are numbers: a row without one has none.
    for (const r of Object.values(applied.document)) expect(SCHEMAS.get(r.type)!.safeParse(r).success).toBe(true);
    expect(own(taken.assembly, applied.document).map((i) => [i.part, i.number, i.values.description.text])).toEqual(
      own(before, doc).map((i) => [i.part, i.number, i.values.description.text]),
    );
  }
});
