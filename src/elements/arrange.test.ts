import { EMPTY_LINEWORK } from '../core/outline/linework.ts';
import { describe, expect, test } from 'vitest';
import type { Rect } from '../core/base/rect.ts';
import {
  BLANK_DRAWING,
  type BalloonRecord,
  type DrawingDocument,
  type DrawingDocumentRecord,
  type SheetRecord,
  type ViewRecord,
} from '../core/document/records.ts';
import { applySteps, type Step } from '../core/document/steps.ts';
import { namedFrame } from '../core/outline/directions.ts';
import { viewRecord } from '../core/testing/records.ts';
import { assemblyOf, box } from '../core/testing/shapes.ts';
import type { ViewResult } from '../core/views/compute-view.ts';
import { composeSheet } from './compose.ts';
import { copiesOf, movedToSheet, withBelongings } from './copy.ts';
import { Scene } from './scene.ts';
import { addSheet, duplicateSheet, reorderSheet } from './sheet/sheets.ts';
import { snapLinesOn, snapped } from './snap.ts';
import { aligned, boxOf, distributed, movable, movedTogether } from './together.ts';

const { assembly } = assemblyOf([{ name: 'Block', geometry: box([0, 0, 0], [40, 20, 30]) }]);
const sheet = (n: number, more: Partial<SheetRecord> = {}): SheetRecord => ({
  type: 'sheet',
  id: `sheet:${n}`,
  order: n,
  name: `Sheet ${n}`,
  size: 'A3',
  landscape: true,
  ...more,
});
/** A view of some width and height with its middle at a place. */
const view = (id: string, at: readonly [number, number], more: Partial<ViewRecord> = {}) => viewRecord({ id, at, scale: 1, ...more });
const size = (w: number, h: number) =>
  ({
    box: [-w / 2, -h / 2, w / 2, h / 2],
    lines: EMPTY_LINEWORK,
    phantom: EMPTY_LINEWORK,
    caps: [],
    pulls: [],
    visibleArea: [],
    visibleShare: [],
    map: { window: { minX: 0, maxY: 0, pixelMm: 1, width: 0, height: 0 }, component: new Int16Array() },
    shading: null,
    uncut: [],
    unhatched: [],
  }) as unknown as ViewResult;
const balloon = (id: string, of: string): BalloonRecord => ({
  type: 'balloon',
  id,
  view: of,
  component: 'Block',
  anchor: [0, 0],
  offset: [10, 10],
  end: 'arrow',
});
const sceneOf = (records: readonly DrawingDocumentRecord[], sizes: Record<string, ViewResult> = {}) => {
  const document: DrawingDocument = Object.fromEntries([BLANK_DRAWING, ...records].map((r) => [r.id, r]));
  return new Scene({ document, assembly, results: new Map(Object.entries(sizes)) });
};
const after = (scene: Scene, steps: readonly Step[]): Scene => {
  const result = applySteps(scene.document, steps);
  if (!result.ok) throw new Error(result.reason);
  return scene.with(result.document);
};
const places = (scene: Scene) => Object.fromEntries(scene.all('view').map((v) => [v.id, v.at]));
const letters = () => {
  let n = 0;
  return (base: string) => `${base}~${++n}`;
};

describe('several views at once', () => {
  const three = [view('a', [50, 60]), view('b', [120, 100]), view('c', [220, 150])];
  const sizes = { a: size(20, 10), b: size(40, 30), c: size(60, 20) };
  const scene = sceneOf([sheet(1), ...three], sizes);
  const boxes = (s: Scene) => s.all('view').map((v) => boxOf(s, v)!);

  test.each([
    ['left', (b: { x: number }) => b.x, 40],
    ['right', (b: { x: number; width: number }) => b.x + b.width, 250],
    ['centre', (b: { x: number; width: number }) => b.x + b.width / 2, 145],
    ['top', (b: { y: number }) => b.y, 55],
    ['bottom', (b: { y: number; height: number }) => b.y + b.height, 160],
    ['middle', (b: { y: number; height: number }) => b.y + b.height / 2, 107.5],
  ] as const)('%s: on one line, moved along one direction only', (edge, of, at) => {
    const now = after(scene, aligned(scene, ['a', 'b', 'c'], edge));
    for (const b of boxes(now)) expect(of(b as never)).toBeCloseTo(at, 9);
    const k = ['left', 'right', 'centre'].includes(edge) ? 1 : 0;
    for (const v of now.all('view')) expect(v.at[k]).toBe(scene.one('view', v.id)!.at[k]);
  });
  test('spaced evenly: equal gaps between boxes, the outermost stay, whatever the order they are named in', () => {
    const now = after(scene, distributed(scene, ['c', 'a', 'b'], 'across'));
    const [a, b, c] = boxes(now) as unknown as [Rect, Rect, Rect];
    expect([a.x, c.x]).toEqual([40, 190]);
    expect(b.x - (a.x + a.width)).toBeCloseTo(c.x - (b.x + b.width), 9);
    expect(distributed(scene, ['a', 'b'], 'across')).toEqual([]);
    const down = after(scene, distributed(scene, ['a', 'b', 'c'], 'down'));
    const [p, q, r] = boxes(down) as unknown as [Rect, Rect, Rect];
    expect(q.y - (p.y + p.height)).toBeCloseTo(r.y - (q.y + q.height), 9);
  });
  test('views in line move once, whichever of them are chosen; what belongs to a view is not moved twice', () => {
    const family = sceneOf([
      sheet(1),
      view('front', [100, 100]),
      view('left', [200, 100], { parent: 'front', align: 'level' }),
      view('top', [100, 200], { parent: 'front', align: 'upright' }),
      balloon('one', 'front'),
    ]);
    const ids = ['top', 'left', 'front', 'one'];
    expect(places(after(family, movedTogether(family, ids, [7, 3])))).toEqual({ front: [107, 103], left: [207, 103], top: [107, 203] });
    expect(movable(family, ids).map((r) => r.id)).toEqual(['top', 'left', 'front']);
    // A neighbour alone goes along its line only.
    expect(places(after(family, movedTogether(family, ['left'], [7, 3])))).toMatchObject({ left: [207, 100] });
  });
  test('aligning a neighbour with its parent moves what it can', () => {
    const pair = sceneOf([sheet(1), view('front', [100, 100]), view('left', [200, 100], { parent: 'front', align: 'level' })], {
      front: size(20, 20),
      left: size(20, 40),
    });
    const now = after(pair, aligned(pair, ['front', 'left'], 'left'));
    expect(now.one('view', 'left')!.at[0]).toBe(100);
    expect(now.one('view', 'front')!.at[0]).toBe(100);
  });
});

describe('snapping', () => {
  const scene = sceneOf([sheet(1), view('a', [100, 100]), view('b', [200, 160]), balloon('n', 'a')], { a: size(20, 10), b: size(40, 30) });
  const b = scene.one('view', 'b')!;
  const lines = snapLinesOn(scene, 'sheet:1', b, new Set(['b']));

  test('to edges and middles of neighbours, the frame and the middle of the sheet; not to itself, nor to balloons', () => {
    const { frame } = scene.page('sheet:1').geometry;
    const xs = lines.upright.map((l) => l.at);
    expect(xs).toEqual(expect.arrayContaining([90, 100, 110, frame.x, frame.x + frame.width, 210]));
    expect(xs).not.toContain(180);
    expect(xs).not.toContain(220);
    expect(xs.filter((x) => Math.abs(x - (100 + 10)) < 1e-9)).toHaveLength(1);
  });
  test('within reach the nearest is taken, and shown from one box to the other', () => {
    const box0 = boxOf(scene, b)!;
    // Its left edge comes to 90.6: the left edge of the other one is at 90.
    const { by, guides } = snapped(box0, [-89.4, -20], lines, false, 2);
    expect(by).toEqual([-90, -20]);
    expect(guides).toEqual([
      [
        [90, 95],
        [90, 155],
      ],
    ]);
  });
  test('both directions at once; out of reach nothing', () => {
    const box0 = boxOf(scene, b)!;
    const both = snapped(box0, [-100.5, -59], lines, false, 2);
    expect(both.by).toEqual([-100, -60]);
    expect(both.guides).toHaveLength(2);
    expect(snapped(box0, [-30, -20], lines, false, 0.5)).toEqual({ by: [-30, -20], guides: [] });
  });
  test('balloons look at the middles of balloons', () => {
    const two = sceneOf([sheet(1), view('a', [100, 100]), balloon('n', 'a'), { ...balloon('m', 'a'), offset: [10, 25] }]);
    const moving = two.one('balloon', 'n')!;
    const own = boxOf(two, moving)!;
    const of = snapLinesOn(two, 'sheet:1', moving, new Set(['n']));
    const result = snapped(own, [0.8, 3], of, true, 2);
    expect(result.by[0]).toBeCloseTo(0, 9);
    const other = boxOf(two, two.one('balloon', 'm')!)!;
    expect(of.upright.some((l) => Math.abs(l.at - (other.x + other.width / 2)) < 1e-9)).toBe(true);
    expect(of.upright.some((l) => Math.abs(l.at - other.x) < 1e-9)).toBe(false);
  });
});

describe('sheets', () => {
  const scene = sceneOf([sheet(1), sheet(2), sheet(3), view('a', [100, 100], { sheet: 'sheet:2' }), balloon('n', 'a')]);
  const order = (s: Scene) => s.sheets.map((x) => x.id);

  test('a new one stands after another, with what it takes over', () => {
    const now = after(scene, addSheet(scene, 'new', 'sheet:1', { ...sheet(1), size: 'A4', landscape: false, name: 'Notes' }));
    expect(order(now)).toEqual(['sheet:1', 'new', 'sheet:2', 'sheet:3']);
    expect(now.one('sheet', 'new')).toMatchObject({ size: 'A4', landscape: false, name: 'Notes' });
  });
  test('are put in another order; those that stay are not written', () => {
    expect(order(after(scene, reorderSheet(scene, 'sheet:3', 0)))).toEqual(['sheet:3', 'sheet:1', 'sheet:2']);
    const numbered = sceneOf([sheet(0), sheet(1), sheet(2)]);
    expect(reorderSheet(numbered, 'sheet:1', 1)).toEqual([]);
    expect(reorderSheet(numbered, 'sheet:2', 1)).toHaveLength(2);
  });
  test('a copy has everything that stands on the sheet, and nothing points at the original', () => {
    const { steps, id } = duplicateSheet(scene, 'sheet:2', letters());
    const now = after(scene, steps);
    expect(order(now)).toEqual(['sheet:1', 'sheet:2', id, 'sheet:3']);
    const [copy] = now.viewsOn(id);
    expect(copy).toMatchObject({ at: [100, 100], sheet: id });
    expect(now.at(copy!.id)).toMatchObject([{ type: 'balloon', component: 'Block' }]);
    expect(now.viewsOn('sheet:2')).toHaveLength(1);
  });
  test('without frame or title block nothing of them is drawn, and the corner is free', () => {
    const roles = (more: Partial<SheetRecord>) => composeSheet(sceneOf([sheet(1, more)]), 'sheet:1').groups.map((g) => g.role);
    expect(roles({})).toEqual(['frame', 'title']);
    expect(roles({ noFrame: true })).toEqual(['title']);
    expect(roles({ noFrame: true, noTitle: true })).toEqual([]);
    const list = { type: 'list', id: 'list', sheet: 'sheet:1', columns: [{ key: 'number', title: 'Item', widthMm: 20 }] } as const;
    const foot = (more: Partial<SheetRecord>) => {
      const s = sceneOf([sheet(1, more), list]);
      const b = boxOf(s, s.one('list', 'list')!)!;
      return b.y + b.height;
    };
    expect(foot({ noTitle: true }) - foot({})).toBe(42);
  });
});

describe('copies', () => {
  const section = view('s', [250, 100], {
    name: 'Section A–A',
    parent: 'a',
    align: 'level',
    cut: { normal: [0, -1, 0], d: -10, letter: 'A', keptWhole: [], shownIn: 'a' },
    ...namedFrame('front'),
  });
  const scene = sceneOf([sheet(1), sheet(2), view('a', [100, 100]), section, balloon('n', 'a')]);
  const to = (more: object = {}) => ({ sheet: 'sheet:2', by: [5, 5] as const, freshId: letters(), ...more });

  test('go with all that belongs to them', () => {
    expect(withBelongings(scene, ['a']).map((r) => r.id)).toEqual(['a', 'n']);
    expect(withBelongings(scene, ['sheet:1']).map((r) => r.id)).toEqual(['sheet:1', 'a', 's', 'n']);
    expect(withBelongings(scene, ['n', 'nothing', 'drawing'])).toHaveLength(1);
  });
  test('point at each other; a section has a letter of its own', () => {
    const copies = copiesOf(scene, withBelongings(scene, ['a', 's']), to());
    const [a, s] = copies as [ViewRecord, ViewRecord];
    expect(a).toMatchObject({ sheet: 'sheet:2', at: [105, 105] });
    expect(s).toMatchObject({ parent: a.id, align: 'level', name: 'Section B–B', cut: { letter: 'B', shownIn: a.id } });
    expect(copies[2]).toMatchObject({ type: 'balloon', view: a.id });
    expect(
      applySteps(
        scene.document,
        copies.map((record) => ({ op: 'put', record })),
      ).ok,
    ).toBe(true);
  });
  test('stand free of what is not copied', () => {
    const [s] = copiesOf(scene, withBelongings(scene, ['s']), to()) as [ViewRecord];
    expect(s).toMatchObject({ parent: null, align: null, cut: { shownIn: null } });
  });
  test('of a balloon alone go to another view, or nowhere', () => {
    expect(copiesOf(scene, withBelongings(scene, ['n']), to())).toEqual([]);
    expect(copiesOf(scene, withBelongings(scene, ['n']), to({ view: 's' }))).toMatchObject([{ view: 's' }]);
  });
  test('can be made of what is not there any more', () => {
    const cut = withBelongings(scene, ['a']);
    const gone = sceneOf([sheet(1), sheet(2)]);
    const copies = copiesOf(gone, cut, to());
    expect(
      applySteps(
        gone.document,
        copies.map((record) => ({ op: 'put', record })),
      ).ok,
    ).toBe(true);
    expect(copies).toHaveLength(2);
  });
  test('moved to another sheet a view keeps its balloons, and nothing stays in line across sheets', () => {
    const alone = after(scene, movedToSheet(scene, ['a', 'n'], 'sheet:2'));
    expect(alone.one('view', 'a')!.sheet).toBe('sheet:2');
    expect(alone.one('view', 's')).toMatchObject({ sheet: 'sheet:1', parent: 'a', align: null });
    expect(alone.sheetOf(alone.one('balloon', 'n')!)!.id).toBe('sheet:2');
    const both = after(scene, movedToSheet(scene, ['a', 's'], 'sheet:2'));
    expect(both.one('view', 's')).toMatchObject({ sheet: 'sheet:2', align: 'level' });
    expect(movedToSheet(scene, ['a'], 'sheet:1')).toEqual([]);
  });
});
