import { beforeEach, describe, expect, test, vi } from 'vitest';

const said: [string, string][] = [];
vi.mock('../shared/notices.svelte', () => ({ notify: (kind: string, text: string) => said.push([kind, text]), toaster: {} }));

import { rectOf } from '$core/base/rect';
import type { DrawingDocumentRecord, ListRecord, ViewRecord } from '$core/document/records';
import { listColumnsFor } from '$core/ledger/list-rows';
import { boxOf } from '$elements/together';
import { isElement, kindOf } from '$elements/kinds';
import { sectionAt } from '$elements/view/section-at';
import { actionFor, type Action } from '../shared/action';
import { openBench, type Bench } from '../testing/fake-job';
import { actionsOf } from './actions';
import { actionsIn, menuAt, sheetMenu, type Menu } from './menu';
import { placeOfSelection } from './place-of-selection';
import type { Press } from './tool';
import { Tools } from './tools.svelte';

let bench: Bench;
let tools: Tools;
beforeEach(async () => {
  said.length = 0;
  bench = await openBench(said);
  tools = new Tools(bench.drawing);
});
const view = (id: string) => bench.drawing.document[id] as ViewRecord;
const press = (x: number, y: number, more: Partial<Press> = {}): Press => ({ at: [x, y], grace: 1, ...more });
const action = (id: string): Action => actionsOf(bench.drawing, tools).find((a) => a.id === id)!;
const box = (id: string) => {
  const r = bench.drawing.document[id]!;
  if (!isElement(r)) throw new Error(id);
  return boxOf(bench.drawing.scene, r)!;
};
/** A place in a view where it shows a component. */
const onView = (id: string): readonly [number, number] => {
  const b = box(id);
  for (let k = 1; k < 20; k++) {
    const at = [b.x + (b.width * k) / 20, b.y + b.height * 0.5] as const;
    const v = view(id);
    if (kindOf(v).press?.(v, at, bench.drawing.scene, 1)) return at;
  }
  throw new Error('nothing shows');
};
const drag = (from: Press, to: Press) => {
  tools.current.down(from);
  tools.current.move(to);
  tools.current.up(to);
};
const viewsHere = () => bench.drawing.scene.viewsOn(bench.drawing.sheetId).map((v) => v.id);
const labels = (m: Menu) => actionsIn(m).map((a) => a.label);
const run = (m: Menu, id: string) =>
  actionsIn(m)
    .find((a) => a.id === id)!
    .run();

describe('selecting several', () => {
  test('a window takes what lies inside; with Alt what it touches; with Shift it adds', () => {
    const b = box('view:front');
    const around = (k: number) => press(b.x + b.width + k, b.y + b.height + k);
    drag(press(b.x - 3, b.y - 3), around(3));
    expect(bench.drawing.chosen).toEqual(['view:front']);
    // Half of it is not inside, but touched.
    drag(press(b.x - 3, b.y - 3), press(b.x + b.width / 2, b.y + b.height / 2));
    expect(bench.drawing.chosen).toEqual([]);
    drag(press(b.x - 3, b.y - 3), press(b.x + b.width / 2, b.y + b.height / 2, { free: true }));
    expect(bench.drawing.chosen).toEqual(['view:front']);
    const t = box('view:top');
    drag(press(t.x - 3, t.y - 3, { add: true }), press(t.x + t.width + 3, t.y + t.height + 3, { add: true }));
    expect([...bench.drawing.chosen].sort()).toEqual(['view:front', 'view:top']);
    expect(bench.kept).toEqual([]);
  });
  test('the window shows while it is drawn, and Escape lets go of it', () => {
    tools.current.down(press(5, 5));
    tools.current.move(press(60, 40));
    expect(tools.current.sketches()).toEqual([{ kind: 'window', box: { x: 5, y: 5, width: 55, height: 35 }, touches: false }]);
    tools.stepBack();
    expect(tools.current.sketches()).toEqual([]);
  });
  test('Shift and a press add one and take it out again; a press on one of several takes that one alone', () => {
    const [front, top] = [onView('view:front'), onView('view:top')];
    bench.drawing.select({ kind: 'record', id: 'view:front' });
    tools.current.down(press(...top, { add: true }));
    tools.current.up(press(...top, { add: true }));
    expect(bench.drawing.chosen).toEqual(['view:front', 'view:top']);
    tools.current.down(press(...front, { add: true }));
    tools.current.up(press(...front, { add: true }));
    expect(bench.drawing.chosen).toEqual(['view:top']);
    bench.drawing.choose(['view:front', 'view:top']);
    tools.current.down(press(...front));
    tools.current.up(press(...front));
    expect(bench.drawing.chosen).toEqual(['view:front']);
  });
  test('everything on the sheet, every one of a kind, all that belongs to a view', () => {
    action('select-all').run();
    expect(viewsHere().every((id) => bench.drawing.chosen.includes(id))).toBe(true);
    bench.drawing.sheetId = 'sheet:3';
    const at = onView('view:exploded');
    run(menuAt(bench.drawing, tools, press(...at)), 'in-view');
    expect(bench.drawing.chosen.length).toBeGreaterThan(2);
    expect(bench.drawing.chosen.every((id) => bench.drawing.document[id]?.type === 'balloon')).toBe(true);
  });
});

describe('several at once', () => {
  test('are dragged, nudged, aligned and removed as one edit each', async () => {
    const [a, b] = [view('view:front').at, view('view:isometric')?.at ?? view('view:top').at];
    const other = view('view:isometric') ? 'view:isometric' : 'view:top';
    bench.drawing.choose(['view:front', other]);
    const at = onView('view:front');
    drag(press(...at, { free: true }), press(at[0] + 9, at[1] + 5, { free: true }));
    expect(view('view:front').at).toEqual([a[0] + 9, a[1] + 5]);
    expect(view(other).at).toEqual([b[0] + 9, b[1] + 5]);
    expect(bench.drawing.chosen).toHaveLength(2);
    tools.pick.nudge([1, 0]);
    tools.pick.nudge([1, 0]);
    tools.pick.up();
    expect(view(other).at[0]).toBe(b[0] + 11);
    action('remove').run();
    await bench.settled();
    expect(bench.kept).toEqual(['Move 2 elements', 'Move 2 elements', 'Remove 2 elements']);
    expect(bench.document()['view:front']).toBeUndefined();
    bench.drawing.undo();
    await bench.settled();
    expect(bench.document()['view:front']).toBeDefined();
  });
  test('every view and the list can go: nothing is a fixture', async () => {
    const list = Object.values(bench.drawing.document).find((r): r is ListRecord => r.type === 'list')!;
    for (const sheet of bench.drawing.sheets) {
      bench.drawing.sheetId = sheet.id;
      const there = bench.drawing.scene.viewsOn(sheet.id).map((v) => v.id);
      bench.drawing.choose(list.sheet === sheet.id ? [list.id, ...there] : there);
      action('remove').run();
    }
    await bench.settled();
    expect(Object.values(bench.document()).filter((r) => r.type === 'view' || r.type === 'list' || r.type === 'balloon')).toEqual([]);
    expect(bench.drawing.picture!.groups.map((g) => g.role)).toEqual(['frame', 'title']);
  });
});

describe('bringing into line', () => {
  test('a drag snaps to a neighbour and shows a guide; Alt switches it off', () => {
    const free = bench.drawing.scene.viewsOn('sheet:1').find((v) => v.parent === null && v.id !== 'view:front')!;
    const [own, front] = [box(free.id), box('view:front')];
    // Its left edge comes half a millimetre beside that of the front view.
    const by = front.x - own.x + 0.5;
    const at = onView(free.id);
    tools.current.down(press(...at));
    tools.current.move(press(at[0] + by, at[1]));
    expect(tools.current.sketches().some((s) => s.kind === 'line' && s.look === 'guide')).toBe(true);
    tools.current.move(press(at[0] + by, at[1], { free: true }));
    expect(tools.current.sketches().some((s) => s.kind === 'line' && s.look === 'guide')).toBe(false);
    tools.current.move(press(at[0] + by, at[1]));
    tools.current.up(press(at[0] + by, at[1]));
    expect(box(free.id).x).toBeCloseTo(front.x, 6);
  });
});

describe('cut, copy and paste', () => {
  test('a view with its balloons on another sheet; again beside itself', async () => {
    const before = bench.drawing.scene.all('balloon').length;
    const own = bench.drawing.scene.at('view:exploded').length;
    bench.drawing.sheetId = 'sheet:3';
    bench.drawing.select({ kind: 'record', id: 'view:exploded' });
    action('copy').run();
    bench.drawing.sheetId = 'sheet:1';
    action('paste').run();
    await bench.settled();
    const [id] = bench.drawing.chosen;
    expect(view(id!)).toMatchObject({ sheet: 'sheet:1', at: view('view:exploded').at });
    expect(bench.drawing.scene.all('balloon')).toHaveLength(before + own);
    bench.drawing.sheetId = 'sheet:3';
    action('paste').run();
    action('paste').run();
    const [second] = bench.drawing.chosen;
    expect(view(second!).at[0]).toBeGreaterThan(view('view:exploded').at[0] + 8);
    expect(new Set(bench.drawing.scene.all('view').map((v) => v.id)).size).toBe(bench.drawing.scene.all('view').length);
  });
  test('what is cut comes back where it stood, and undo of both is undo of both', async () => {
    const at = view('view:front').at;
    bench.drawing.select({ kind: 'record', id: 'view:front' });
    action('cut').run();
    expect(view('view:front')).toBeUndefined();
    action('paste').run();
    const [id] = bench.drawing.chosen;
    expect(view(id!).at).toEqual(at);
    await bench.settled();
    bench.drawing.undo();
    bench.drawing.undo();
    await bench.settled();
    expect(bench.document()['view:front']).toBeDefined();
    expect(bench.document()[id!]).toBeUndefined();
  });
  test('a balloon alone belongs to a view: to its own, or the one that is selected', async () => {
    const balloon = bench.drawing.scene.all('balloon')[0]!;
    bench.drawing.sheetId = bench.drawing.scene.sheetOf(balloon)!.id;
    bench.drawing.select({ kind: 'record', id: balloon.id });
    action('duplicate').run();
    const copy = bench.drawing.document[bench.drawing.chosen[0]!];
    expect(copy).toMatchObject({ type: 'balloon', view: balloon.view, component: balloon.component, anchor: balloon.anchor });
    expect(copy).not.toMatchObject({ offset: balloon.offset });
  });
  // Whatever stands on the sheet: a copy never lands exactly on what it was made of.
  const onSheet = 'sheet:1';
  const ONE_OF_EACH: readonly DrawingDocumentRecord[] = [
    { type: 'note', id: 'note:x', view: null, sheet: onSheet, at: [40, 40], text: 'Grease' },
    { type: 'table', id: 'table:x', sheet: onSheet, at: [60, 60], widths: [20, 20], rows: [['a', 'b']] },
    { type: 'code', id: 'code:x', sheet: onSheet, at: [90, 60], sizeMm: 20, says: 'x' },
    { type: 'cloud', id: 'cloud:x', sheet: onSheet, at: [40, 80], to: [60, 95], revision: 'A' },
    {
      type: 'figure',
      id: 'figure:x',
      sheet: onSheet,
      shape: 'line',
      points: [
        [40, 100],
        [70, 110],
      ],
    },
    { type: 'sign', id: 'sign:x', view: null, sheet: onSheet, at: [80, 120], is: { sign: 'datum', letter: 'A' } },
    { type: 'sign', id: 'sign:y', view: 'view:front', sheet: null, at: [60, 0], is: { sign: 'flag', shape: 'triangle', text: '1' } },
    { type: 'block', id: 'block:x', sheet: onSheet, at: [100, 100], columns: [20], rows: [8], cells: [] },
    { type: 'list', id: 'list:x', sheet: onSheet, at: [120, 60], columns: listColumnsFor('iso') },
    { type: 'revisions', id: 'revisions:x', sheet: onSheet, at: [120, 120] },
    { type: 'balloon', id: 'balloon:x', view: 'view:front', component: 'Tower', anchor: [0, 40], offset: [50, -50], end: 'arrow' },
    { type: 'note', id: 'note:y', view: 'view:front', sheet: null, at: [30, 30], text: 'of the view' },
  ];
  test.each(ONE_OF_EACH.map((r) => [r.id, r] as const))('a copy of %s stands beside it, duplicated or pasted', (id, record) => {
    const { drawing } = bench;
    drawing.edit('One', [{ op: 'put', record }]);
    const placeOf = (of: string): readonly [number, number] => {
      const b = rectOf(drawing.picture!.groups.find((g) => g.id.split('/')[0] === of)!.box);
      return [b.x, b.y];
    };
    const [x, y] = placeOf(id);
    const beside = (times: number) => {
      const [copy] = drawing.chosen;
      expect(copy).not.toBe(id);
      const [cx, cy] = placeOf(copy!);
      expect(cx).toBeCloseTo(x + 8 * times, 6);
      expect(cy).toBeCloseTo(y + 8 * times, 6);
    };
    drawing.select({ kind: 'record', id });
    action('duplicate').run();
    beside(1);
    drawing.select({ kind: 'record', id });
    action('copy').run();
    action('paste').run();
    beside(1);
    action('paste').run();
    beside(2);
  });
  test('to the next sheet, to a new one, onto a thumbnail', async () => {
    bench.drawing.select({ kind: 'record', id: 'view:front' });
    action('to-next').run();
    expect(view('view:front').sheet).toBe('sheet:3');
    expect(bench.drawing.sheetId).toBe('sheet:3');
    action('to-new').run();
    const { sheetId, sheets } = bench.drawing;
    expect(view('view:front').sheet).toBe(sheetId);
    expect(sheets.map((s) => s.id)).toEqual(['sheet:1', 'sheet:3', sheetId]);
    tools.clipboard.moveTo('sheet:1', ['view:front']);
    await bench.settled();
    expect(bench.document()['view:front']).toMatchObject({ sheet: 'sheet:1' });
    const balloon = bench.drawing.scene.all('balloon')[0]!;
    tools.clipboard.moveTo('sheet:3', [balloon.id]);
    expect(said.at(-1)).toEqual(['trouble', 'Only views and lists stand on a sheet by themselves: select the view.']);
  });
});

describe('what is under the pointer', () => {
  test('a component: its balloon, a section through it, its pieces; the view’s own commands follow', async () => {
    bench.drawing.sheetId = 'sheet:1';
    const m = menuAt(bench.drawing, tools, press(...onView('view:front')));
    expect(m.title).toMatch(/^Item \d+ {2}\S/);
    expect(labels(m)).toEqual(
      expect.arrayContaining(['Section through it, level', 'Section through it, upright', 'Hidden lines on', 'Cut', 'Duplicate', 'Remove']),
    );
    expect(labels(m).some((l) => l.startsWith('Balloon for item'))).toBe(true);
    expect(bench.drawing.selection).toMatchObject({ kind: 'item', view: 'view:front' });
    const before = bench.drawing.scene.all('balloon').length;
    run(m, 'balloon-here');
    expect(bench.drawing.scene.all('balloon')).toHaveLength(before + 1);
    run(m, 'hidden');
    // The command is about the view, whatever was selected since.
    run(menuAt(bench.drawing, tools, press(...onView('view:front'))), 'remove');
    expect(view('view:front')).toBeUndefined();
  });
  test('a cutting line: its section', () => {
    const section = bench.drawing.scene.all('view').find((v) => v.cut?.shownIn)!;
    const parent = view(section.cut!.shownIn!);
    bench.drawing.sheetId = parent.sheet;
    const b = box(parent.id);
    let at: readonly [number, number] | undefined;
    for (let y = b.y - 12; y < b.y + b.height + 12 && !at; y += 0.5)
      for (const x of [b.x - 5, b.x + b.width + 5, b.x + b.width / 2]) if (sectionAt(bench.drawing.scene, parent.sheet, [x, y], 0.6) === section) at = [x, y];
    for (let x = b.x - 12; x < b.x + b.width + 12 && !at; x += 0.5)
      if (sectionAt(bench.drawing.scene, parent.sheet, [x, b.y - 5], 0.6) === section) at = [x, b.y - 5];
    const m = menuAt(bench.drawing, tools, press(...at!));
    expect(m.title).toBe(`Cutting line ${section.cut!.letter}–${section.cut!.letter}`);
    run(m, 'hide-line');
    expect(view(section.id).cut!.shownIn).toBeNull();
  });
  test('a cell of the list, a field of the title block: edited here', () => {
    const list = bench.drawing.scene.all('list')[0]!;
    bench.drawing.sheetId = list.sheet;
    const cell = kindOf(list).texts!(list, bench.drawing.scene).find((t) => t.label.startsWith('Material of item'))!;
    const middle = press(cell.box.x + cell.box.width / 2, cell.box.y + cell.box.height / 2);
    const m = menuAt(bench.drawing, tools, middle);
    expect(m.title).toBe(cell.label);
    expect(labels(m)).toEqual(expect.arrayContaining([`Edit here: ${cell.label}`, 'Column Material to the left', 'Column Material off', 'Remove']));
    run(m, 'edit-here');
    expect(tools.editing).toEqual({ record: list.id, name: cell.name });
    const title = rectOf(bench.drawing.picture!.groups.find((g) => g.role === 'title')!.box);
    const field = menuAt(bench.drawing, tools, press(title.x + title.width - 4, title.y + 4));
    expect(labels(field)).toContain('Edit here: Title');
    expect(labels(field)).not.toContain('Remove');
  });
  test('empty paper: the sheet; several: what is done with several; a balloon: its end', () => {
    expect(menuAt(bench.drawing, tools, press(2, 2)).title).toBe('Sheet 1');
    expect(labels(sheetMenu(bench.drawing, tools))).toEqual(expect.arrayContaining(['Name this sheet', 'Add a sheet after this one', 'Duplicate this sheet']));
    bench.drawing.choose(['view:front', 'view:top']);
    const m = menuAt(bench.drawing, tools, press(...onView('view:front')));
    expect(m.title).toBe('2 elements');
    expect(labels(m)).toContain('Align left edges');
    expect(bench.drawing.chosen).toHaveLength(2);
    const balloon = bench.drawing.scene.all('balloon')[0]!;
    bench.drawing.sheetId = bench.drawing.scene.sheetOf(balloon)!.id;
    const b = box(balloon.id);
    run(menuAt(bench.drawing, tools, press(b.x + b.width / 2, b.y + b.height / 2)), 'end');
    expect(bench.drawing.document[balloon.id]).toMatchObject({ end: balloon.end === 'dot' ? 'arrow' : 'dot' });
  });
  test('about twelve entries are in sight, whatever was pressed: what is done every day first, duplicate and remove among them', () => {
    for (const { id } of bench.drawing.sheets) {
      bench.drawing.sheetId = id;
      for (const g of bench.drawing.picture!.groups) {
        const [x, y, width, height] = g.box;
        for (const share of [0.02, 0.3, 0.5, 0.8]) {
          const m = menuAt(bench.drawing, tools, press(x + width * share, y + height * share));
          expect(m.groups.flat().length, m.title).toBeLessThanOrEqual(12);
          const record = bench.drawing.document[g.id];
          if (record?.type === 'view' && m.title.startsWith('Item')) {
            const inSight = m.groups.flat().map((e) => e.id);
            expect(inSight).toEqual(expect.arrayContaining(['only', 'duplicate', 'remove']));
          }
        }
      }
    }
  });
  test('the menu key has a place for whatever is selected', () => {
    bench.drawing.select({ kind: 'record', id: 'view:front' });
    const b = box('view:front');
    expect(placeOfSelection(bench.drawing, tools)).toEqual([b.x + b.width / 2, b.y + b.height / 2]);
    for (let n = 0; n < 2; n++) {
      tools.current.down(press(...onView('view:front')));
      tools.current.up(press(0, 0));
    }
    const at = placeOfSelection(bench.drawing, tools)!;
    expect(menuAt(bench.drawing, tools, press(...at)).title).toMatch(/^Item/);
    bench.drawing.select({ kind: 'none' });
    expect(placeOfSelection(bench.drawing, tools)).toBeUndefined();
  });
});

describe('editing where it stands', () => {
  test('a double press opens the text there; F2 that of what is selected', () => {
    const title = rectOf(bench.drawing.picture!.groups.find((g) => g.role === 'title')!.box);
    expect(tools.editAt(press(title.x + title.width - 4, title.y + 4))).toBe(true);
    expect(tools.editing).toEqual({ record: 'sheet:1', name: 'title' });
    expect(tools.editAt(press(2, 2))).toBe(false);
    const list = bench.drawing.scene.all('list')[0]!;
    bench.drawing.sheetId = list.sheet;
    bench.drawing.select({ kind: 'item', part: bench.drawing.items[0]!.part });
    action('edit').run();
    expect(tools.editing).toMatchObject({ record: list.id });
    expect(tools.editing!.name).toMatch(new RegExp(`^${bench.drawing.items[0]!.part}/`));
    bench.drawing.select({ kind: 'field', field: 'number' });
    action('edit').run();
    expect(tools.editing).toEqual({ record: list.sheet, name: 'number' });
  });
});

describe('sheets', () => {
  const names = () => bench.drawing.sheets.map((s) => s.id);
  test('added, duplicated, put in order and removed, each one edit', async () => {
    action('sheet-add').run();
    const added = bench.drawing.sheetId;
    expect(names()).toEqual(['sheet:1', added, 'sheet:3']);
    action('sheet-later').run();
    expect(names()).toEqual(['sheet:1', 'sheet:3', added]);
    action('sheet-earlier').run();
    action('sheet-earlier').run();
    expect(names()[0]).toBe(added);
    expect(action('sheet-earlier').disabled).toBe(true);
    bench.drawing.sheetId = 'sheet:3';
    action('sheet-copy').run();
    const copy = bench.drawing.sheetId;
    expect(names()).toEqual([added, 'sheet:1', 'sheet:3', copy]);
    expect(bench.drawing.scene.viewsOn(copy)).toHaveLength(bench.drawing.scene.viewsOn('sheet:3').length);
    action('sheet-remove').run();
    await bench.settled();
    expect(bench.document()[copy]).toBeUndefined();
    expect(bench.kept).toEqual(['Add sheet', 'Order of sheets', 'Order of sheets', 'Order of sheets', 'Duplicate sheet', 'Remove sheet']);
  });
});

test('keys: Alt and Shift with a named key are keys of their own', () => {
  const actions = actionsOf(bench.drawing, tools);
  const key = (k: Partial<KeyboardEvent>) => actionFor(actions, { target: { closest: () => null }, ...k } as unknown as KeyboardEvent)?.id;
  expect(key({ key: 'PageDown', altKey: true })).toBe('sheet-later');
  expect(key({ key: 'PageDown' })).toBe('next');
  expect(key({ key: 'a', ctrlKey: true })).toBe('select-all');
  expect(key({ key: 'F10', shiftKey: true })).toBeUndefined();
});
