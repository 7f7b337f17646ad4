import { beforeEach, describe, expect, test, vi } from 'vitest';

const said: [string, string][] = [];
vi.mock('../shared/notices.svelte', () => ({ notify: (kind: string, text: string) => said.push([kind, text]), toaster: {} }));

import { componentAt } from '$core/views/compute-view';
import { viewMapOf } from '$core/views/view-map';
import { balloonPlace } from '$elements/balloon/draw';
import { viewRect } from '$elements/view/draw';
import { overlaps } from '$core/base/rect';
import { rectOf } from '$core/base/rect';
import { namedFrame } from '$core/outline/directions';
import { recordsOf, type BalloonRecord, type ViewRecord } from '$core/document/records';
import { findingsOf } from '$core/proof/findings';
import { actionFor, type Action } from '../shared/action';
import { openBench, type Bench } from '../testing/fake-job';
import { kindOf } from '$elements/kinds';
import type { PlaceTool } from '$elements/view/face/place-tool.svelte';
import { boxFromParts } from '$elements/view/extent';
import { chosenSteps, showing } from '$elements/view/shows';
import { actionsOf } from './actions';
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
/** The pointer at a place on the sheet, paper mm. */
const press = (x: number, y: number): Press => ({ at: [x, y], grace: 1 });
const action = (id: string): Action => actionsOf(bench.drawing, tools).find((a) => a.id === id)!;

describe('removing', () => {
  test('a balloon: one edit that undo takes back', async () => {
    bench.drawing.select({ kind: 'record', id: 'balloon:Ring' });
    tools.remove();
    expect(bench.drawing.document['balloon:Ring']).toBeUndefined();
    expect(bench.drawing.selection).toEqual({ kind: 'none' });
    await bench.settled();
    expect(bench.document()['balloon:Ring']).toBeUndefined();
    bench.drawing.undo();
    await bench.settled();
    expect(bench.document()['balloon:Ring']).toBeDefined();
    expect(bench.kept).toEqual(['Remove balloon', 'undo Remove balloon']);
  });
  test('a view goes with its balloons, the sheet under it stays', async () => {
    bench.drawing.select({ kind: 'record', id: 'view:exploded' });
    tools.remove();
    await bench.settled();
    expect(recordsOf(bench.document(), 'balloon').filter((b) => b.view === 'view:exploded')).toEqual([]);
    expect(bench.document()['sheet:3']).toBeDefined();
  });
  test('a sheet goes with everything on it; the last one stays', async () => {
    bench.drawing.select({ kind: 'record', id: 'sheet:1' });
    tools.remove();
    await bench.settled();
    expect(bench.drawing.sheets.map((s) => s.id)).toEqual(['sheet:3']);
    expect(bench.drawing.sheetId).toBe('sheet:3');
    bench.drawing.select({ kind: 'record', id: 'sheet:3' });
    tools.remove();
    expect(said).toEqual([['trouble', 'A drawing has at least one sheet: add another one first.']]);
    expect(bench.drawing.sheets).toHaveLength(1);
  });
  test('nothing when nothing is selected, or an item', () => {
    tools.remove();
    bench.drawing.select({ kind: 'item', part: 'Ring' });
    tools.remove();
    expect(bench.kept).toEqual([]);
    expect(action('remove').disabled).toBe(true);
  });
});

describe('balloons', () => {
  test('one for the component under the pointer, its leader on the nearest edge of it', async () => {
    const front = view('view:front');
    const result = bench.drawing.results.get('view:front')!;
    const m = viewMapOf(front);
    // Somewhere on the tower.
    const tower = bench.drawing.components.find((c) => c.name === 'Tower')!.index;
    const { window: w, component } = result.map;
    const at = component.indexOf(tower);
    const [x, y] = [w.minX + (at % w.width) * w.pixelMm, w.maxY - Math.floor(at / w.width) * w.pixelMm];
    tools.take('balloon');
    const p = press(m.x(x), m.y(y));
    tools.current.move(p);
    // Seen before it is made: leader and circle.
    expect(tools.current.sketches().map((k) => k.kind)).toEqual(['line', 'circle']);
    tools.current.down(p);
    await bench.settled();
    const made = recordsOf(bench.document(), 'balloon').find((b) => b.view === 'view:front')!;
    expect(made).toMatchObject({ component: 'Tower', end: 'arrow' });
    expect(bench.drawing.selection).toEqual({ kind: 'record', id: made.id });
    expect(tools.tool).toBe('pick');
    expect(bench.kept[0]).toMatch(/^Add balloon \d$/);
    // Beside the view, on the pointer's side.
    const [bx, , bw] = viewRect(front, result);
    const left = m.x(x) < bx + bw / 2;
    expect(front.at[0] + made.offset[0]).toBeCloseTo(left ? bx - 13 : bx + bw + 13, 6);
    // The end lies on the tower, within a pixel of the map.
    const around = [-1, 0, 1].flatMap((i) =>
      [-1, 0, 1].map((j) => componentAt(result, made.anchor[0] + i * 2 * w.pixelMm, made.anchor[1] + j * 2 * w.pixelMm)),
    );
    expect(around).toContain(tower);
  });
  test('none for what has no edge there', () => {
    tools.take('balloon');
    expect([tools.current.down(press(1, 1)), tools.current.sketches(), bench.kept]).toEqual([false, [], []]);
  });
  test('for all that are left: those that are seen and have none yet', async () => {
    for (const part of ['Ring', 'Cap']) bench.drawing.edit('x', [{ op: 'drop', id: `balloon:${part}` }]);
    bench.drawing.select({ kind: 'record', id: 'view:exploded' });
    action('identify').run();
    await bench.settled();
    expect(bench.kept.at(-1)).toBe('Identify 2 items');
    const parts = recordsOf(bench.document(), 'balloon').map((b) => bench.drawing.itemOfPath(b.component)!.part);
    expect(new Set(parts).size).toBe(7);
    expect(findingsOf(bench.drawing.scene).filter((f) => f.code === 'LEADERS_CROSS' || f.code === 'OVERLAP' || f.code === 'NOT_IDENTIFIED')).toEqual([]);
    action('identify').run();
    expect(said.at(-1)).toEqual(['good', 'Every item has its balloon.']);
  });
  test('arranged anew around the one that was put somewhere by hand', async () => {
    const own = recordsOf(bench.drawing.document, 'balloon').filter((b) => b.view === 'view:exploded');
    const [first, second] = own as [BalloonRecord, BalloonRecord];
    bench.drawing.edit('by hand', [
      { op: 'put', record: { ...first, byHand: true, offset: [first.offset[0] + 1, first.offset[1] - 2] } },
      { op: 'put', record: { ...second, offset: [second.offset[0] + 40, second.offset[1] + 31] } },
    ]);
    await bench.settled();
    const moved = bench.drawing.document[second.id];
    bench.drawing.select({ kind: 'record', id: 'view:exploded' });
    action('arrange').run();
    await vi.waitFor(() => expect(bench.kept).toContain('Arrange balloons'), { timeout: 5000 });
    expect(bench.drawing.document[first.id]).toMatchObject({ offset: [first.offset[0] + 1, first.offset[1] - 2] });
    expect(bench.drawing.document[second.id]).not.toEqual(moved);
  });
});

describe('views', () => {
  test('one more from another side, at the scale of its neighbours or the next smaller, over nothing', async () => {
    bench.drawing.sheetId = 'sheet:1';
    const before = bench.drawing.picture!.groups.filter((g) => g.role !== 'frame').map((g) => rectOf(g.box));
    action('view-back').run();
    await bench.settled();
    const made = recordsOf(bench.document(), 'view').find((v) => v.name === 'Back')!;
    expect(made).toMatchObject({ sheet: 'sheet:1', name: 'Back', parent: null, cut: null, spread: null, ...namedFrame('back') });
    expect(made.scale).toBeLessThanOrEqual(view('view:section').scale);
    expect(bench.drawing.selection).toEqual({ kind: 'record', id: made.id });
    const [x, y, width, height] = viewRect(made, bench.drawing.results.get(made.id) ?? { box: [-60, 0, 60, 70] });
    for (const o of before) expect(overlaps({ x, y, width, height }, o)).toBe(false);
  });
  test('an exploded one with its parts together', async () => {
    bench.drawing.select({ kind: 'record', id: 'view:exploded' });
    action('together').run();
    await bench.settled();
    expect(recordsOf(bench.document(), 'view').find((v) => v.name === 'Exploded view, together')).toMatchObject({
      spread: null,
      pullLines: false,
      sheet: 'sheet:3',
    });
  });
  test('a full section becomes a half one and back', async () => {
    bench.drawing.select({ kind: 'record', id: 'view:section' });
    const { pivot, right } = view('view:section');
    action('half').run();
    await bench.settled();
    expect(view('view:section').cut!.shape).toEqual({ kind: 'half', across: right, from: pivot[0] });
    expect(action('half').label).toBe('Full section');
    action('half').run();
    await bench.settled();
    expect(view('view:section').cut).not.toHaveProperty('shape');
  });
  test.each(['hidden', 'tangent', 'shaded', 'label'] as const)('%s on and off', async (key) => {
    bench.drawing.select({ kind: 'record', id: 'view:front' });
    const was = view('view:front')[key];
    expect(action(key).label.endsWith(was ? 'off' : 'on')).toBe(true);
    action(key).run();
    await bench.settled();
    expect((bench.document()['view:front'] as ViewRecord)[key]).toBe(!was);
  });
});

describe('picking and dragging', () => {
  const balloon = () => recordsOf(bench.drawing.document, 'balloon').find((b) => b.component === 'Ring')!;
  const place = () => balloonPlace(balloon(), view(balloon().view));
  const drag = (from: readonly [number, number], by: readonly [number, number]) => {
    tools.current.down(press(...from));
    tools.current.move(press(from[0] + by[0], from[1] + by[1]));
  };
  beforeEach(() => {
    bench.drawing.sheetId = balloon() ? view(balloon().view).sheet : '';
  });

  test('a press selects what is there and is no edit, also on the ring at a leader’s end', async () => {
    const { x, y, tipX, tipY } = place();
    tools.current.down(press(x, y));
    tools.current.up(press(x, y));
    expect(bench.drawing.selection).toEqual({ kind: 'record', id: balloon().id });
    tools.current.down(press(tipX, tipY));
    tools.current.move(press(tipX + 0.2, tipY));
    tools.current.up(press(tipX + 0.2, tipY));
    expect([bench.kept, bench.drawing.selection]).toEqual([[], { kind: 'record', id: balloon().id }]);
  });
  test('a balloon goes where it is dragged and stays there by hand; it is seen on the way', async () => {
    const { x, y } = place();
    const { offset, id } = balloon();
    drag([x, y], [12, -7]);
    const seen = tools.pick.preview.get(id);
    expect(seen && 'drawn' in seen && seen.drawn[0]!.box[0]).toBeCloseTo(x + 12 - 5, 6);
    expect(bench.drawing.document[id]).toMatchObject({ offset });
    tools.current.up(press(x + 12, y - 7));
    await bench.settled();
    const [dx, dy] = balloon().offset;
    expect([dx - offset[0], dy - offset[1], balloon().byHand]).toEqual([expect.closeTo(12, 9), expect.closeTo(-7, 9), true]);
    expect(bench.kept).toEqual(['Move balloon']);
  });
  test('Escape lets go of a drag before anything else', () => {
    const { x, y } = place();
    drag([x, y], [30, 30]);
    tools.stepBack();
    tools.current.up(press(x + 30, y + 30));
    expect([bench.kept, tools.pick.preview.size, bench.drawing.selection]).toEqual([[], 0, { kind: 'record', id: balloon().id }]);
  });
  test('a leader that ends with a dot ends where it is dropped, an arrow on the nearest edge', async () => {
    const result = bench.drawing.results.get(balloon().view)!;
    const own = view(balloon().view);
    // A pixel well inside the plate.
    const plate = bench.drawing.components.find((c) => c.name === 'Plate')!.index;
    const { window: w, component } = result.map;
    const inside = (k: number) => [-3, 0, 3].every((i) => [-3, 0, 3].every((j) => component[k + j * w.width + i] === plate));
    const k = component.findIndex((_, i) => inside(i));
    const at: [number, number] = [w.minX + ((k % w.width) + 0.5) * w.pixelMm, w.maxY - (Math.floor(k / w.width) + 0.5) * w.pixelMm];
    const [px, py] = viewMapOf(own).toPaper(at);
    for (const end of ['dot', 'arrow'] as const) {
      bench.drawing.edit('x', [{ op: 'put', record: { ...balloon(), end } }]);
      const { tipX, tipY } = balloonPlace(balloon(), own);
      bench.drawing.select({ kind: 'record', id: balloon().id });
      drag([tipX, tipY], [px - tipX, py - tipY]);
      tools.current.up(press(px, py));
      await bench.settled();
      const now = bench.drawing.document[bench.drawing.selection.kind === 'record' ? bench.drawing.selection.id : ''] as BalloonRecord;
      expect(now.component).toBe('Plate');
      const off = Math.hypot(now.anchor[0] - at[0], now.anchor[1] - at[1]);
      if (end === 'dot') expect(off).toBeLessThan(1e-6);
      else expect(off).toBeGreaterThan(w.pixelMm);
      bench.drawing.undo();
      await bench.settled();
    }
  });
  test('a view takes its balloons and its neighbours along while it is dragged', async () => {
    bench.drawing.sheetId = 'sheet:1';
    const front = view('view:front');
    const [x, y, width, height] = viewRect(front, bench.drawing.results.get('view:front'));
    const from = [x + width / 2, y + height + 5] as const;
    drag(from, [8, 3]);
    // The plan is in line: it goes along across the sheet only; the isometric stands free.
    expect(tools.pick.preview.get('view:front')).toEqual({ shift: [expect.closeTo(8, 9), expect.closeTo(3, 9)] });
    expect(tools.pick.preview.get('view:top')).toEqual({ shift: [expect.closeTo(8, 9), expect.closeTo(0, 9)] });
    expect(tools.pick.preview.has('view:isometric')).toBe(false);
    tools.current.up(press(from[0] + 8, from[1] + 3));
    await bench.settled();
    expect(view('view:front').at).toEqual([expect.closeTo(front.at[0] + 8, 9), expect.closeTo(front.at[1] + 3, 9)]);
    expect(bench.kept).toEqual(['Move view']);
  });
  test('a held arrow key is one edit, made when it is let go', async () => {
    const { id, offset } = balloon();
    bench.drawing.select({ kind: 'record', id });
    for (let i = 0; i < 5; i++) expect(tools.pick.nudge([1, 0])).toBe(true);
    expect(bench.kept).toEqual([]);
    tools.pick.up();
    await bench.settled();
    expect([balloon().offset[0] - offset[0], bench.kept]).toEqual([expect.closeTo(5, 9), ['Move balloon']]);
    bench.drawing.select({ kind: 'none' });
    expect(tools.pick.nudge([1, 0])).toBe(false);
  });
  test('a row of the list is its item, a cell of the title block its field, empty paper nothing', () => {
    const list = bench.drawing.picture!.groups.find((g) => g.role === 'list')!;
    const text = list.items.find((i) => i.kind === 'text' && i.text === 'Ring');
    if (text?.kind !== 'text') throw new Error('no row');
    tools.current.down(press(text.x + 1, text.y - 1));
    expect(bench.drawing.selection).toEqual({ kind: 'item', part: 'Ring' });
    const title = bench.drawing.picture!.groups.find((g) => g.role === 'title')!;
    const cell = title.items.find((i) => i.kind === 'text' && i.source?.field === 'number');
    if (cell?.kind !== 'text') throw new Error('no cell');
    tools.current.down(press(cell.x + 1, cell.y - cell.height / 2));
    expect(bench.drawing.selection).toEqual({ kind: 'field', field: 'number' });
    // Empty paper: a window begins there, for a finger the sheet is moved.
    expect(tools.current.down({ ...press(5, 5), finger: true })).toBe(false);
    expect(tools.current.down(press(5, 5))).toBe(true);
    tools.current.up(press(5, 5));
    expect(bench.drawing.selection).toEqual({ kind: 'none' });
  });
});

describe('tools and keys', () => {
  test('a tool is taken, and put down by its own key and by Escape', () => {
    action('balloon').run();
    expect([tools.tool, action('balloon').on]).toEqual(['balloon', true]);
    action('balloon').run();
    expect(tools.tool).toBe('pick');
    action('section').run();
    tools.stepBack();
    expect(tools.tool).toBe('pick');
    bench.drawing.select({ kind: 'record', id: 'view:front' });
    tools.stepBack();
    expect(bench.drawing.selection).toEqual({ kind: 'none' });
  });
  test('sheets one after the other, not past the ends', () => {
    expect([action('previous').disabled, action('next').disabled]).toEqual([true, false]);
    action('next').run();
    expect([bench.drawing.sheetId, action('next').disabled]).toEqual(['sheet:3', true]);
    action('previous').run();
    expect(bench.drawing.sheetId).toBe('sheet:1');
  });
  test('the list is chosen on its sheet', () => {
    action('list').run();
    expect([bench.drawing.sheetId, bench.drawing.selection]).toEqual(['sheet:3', { kind: 'record', id: 'list:1' }]);
  });
  test('no two actions share a key, and each has a name', () => {
    bench.drawing.select({ kind: 'record', id: 'view:section' });
    const all = actionsOf(bench.drawing, tools);
    const keys = all.map((a) => a.key).filter(Boolean);
    expect(new Set(keys).size).toBe(keys.length);
    expect(new Set(all.map((a) => a.id)).size).toBe(all.length);
    for (const a of all) expect(a.label).toMatch(/^\p{Lu}.{2,60}$/u);
  });
  test('keys mean what they say, but not while someone types', () => {
    const typed = (key: string, more: Partial<KeyboardEvent> = {}, typing = false) =>
      actionFor(actionsOf(bench.drawing, tools), { key, target: { closest: () => (typing ? {} : null) }, ...more } as unknown as KeyboardEvent)?.id;
    expect([typed('b'), typed('B'), typed('n'), typed('PageDown'), typed('=')]).toEqual(['balloon', 'balloon', 'section', 'next', 'in']);
    expect([typed('b', {}, true), typed('k', { ctrlKey: true }, true)]).toEqual([undefined, 'quick']);
    // Nothing to undo yet: its key does nothing.
    expect(typed('z', { ctrlKey: true })).toBeUndefined();
    bench.drawing.edit('x', [{ op: 'drop', id: 'balloon:Ring' }]);
    expect(typed('z', { ctrlKey: true })).toBe('undo');
    expect(typed('y', { metaKey: true })).toBeUndefined();
  });
});

describe('a press in a view', () => {
  const tower = (): Press => {
    const { components, results } = bench.drawing;
    const index = components.find((c) => c.name === 'Tower')!.index;
    const { window: w, component } = results.get('view:front')!.map;
    const i = component.findIndex((c, k) => c === index && component[k + 3] === index && component[k + 3 * w.width] === index);
    const [x, y] = [w.minX + ((i % w.width) + 2) * w.pixelMm, w.maxY - (Math.floor(i / w.width) + 2) * w.pixelMm];
    return press(...viewMapOf(view('view:front')).toPaper([x, y]));
  };
  const pressed = (p: Press) => {
    tools.pick.down(p);
    tools.pick.up();
  };

  test('selects the view, and keys act on it: it is copied and removed', async () => {
    pressed(tower());
    expect(bench.drawing.selection).toEqual({ kind: 'record', id: 'view:front' });
    expect(tools.pick.selected?.id).toBe('view:front');
    for (const id of ['copy', 'duplicate', 'remove']) expect(action(id).disabled, id).toBe(false);
    action('remove').run();
    await bench.settled();
    expect(bench.document()['view:front']).toBeUndefined();
  });
  test('again selects the component: the view is framed no longer, and no key removes it', () => {
    pressed(tower());
    pressed(tower());
    expect(bench.drawing.selection).toMatchObject({ kind: 'item', part: 'Tower', view: 'view:front' });
    expect(tools.pick.selected).toBeUndefined();
    expect(tools.activeView?.id).toBe('view:front');
    expect(action('remove').disabled).toBe(true);
    // In the same view another component is selected at once.
    pressed(tower());
    expect(bench.drawing.selection.kind).toBe('item');
  });
});

describe('what is drawn small and near', () => {
  test('“show only” keeps the view where it was by its middle, inside the frame, and what is in line goes along', async () => {
    const { scene } = bench.drawing;
    const front = { ...view('view:front'), scale: 2 };
    bench.drawing.edit('Larger', [{ op: 'put', record: front }]);
    const tower = scene.components.find((c) => c.name === 'Tower')!.path;
    const middle = (v: ViewRecord) => {
      const b = boxFromParts(bench.drawing.scene, v, v);
      return viewMapOf(v).toPaper([(b[0] + b[2]) / 2, (b[1] + b[3]) / 2]);
    };
    const before = middle(view('view:front'));
    const top = view('view:top').at;
    bench.drawing.edit('Only', chosenSteps(bench.drawing.scene, view('view:front'), showing(view('view:front'), 'only', [tower])));
    const after = middle(view('view:front'));
    const { frame } = bench.drawing.scene.page('sheet:1').geometry;
    const r = rectOf(viewRect(view('view:front'), { box: boxFromParts(bench.drawing.scene, view('view:front'), view('view:front')) }));
    expect(r.x).toBeGreaterThanOrEqual(frame.x);
    expect(r.y).toBeGreaterThanOrEqual(frame.y);
    expect(r.x + r.width).toBeLessThanOrEqual(frame.x + frame.width);
    expect(Math.hypot(after[0] - before[0], after[1] - before[1])).toBeLessThan(60);
    // The top view stays in line: the same place of the model is at the same place across.
    expect(view('view:top').at[0] - top[0]).toBeCloseTo(view('view:front').at[0] - front.at[0], 6);
  });
  test('a view that is in line moves along its line only', () => {
    const right = view('view:right');
    const ring = bench.drawing.scene.components.find((c) => c.name === 'Ring')!.path;
    const steps = chosenSteps(bench.drawing.scene, right, showing(right, 'only', [ring]));
    const put = steps.flatMap((s) => (s.op === 'put' && s.record.id === right.id ? [s.record as ViewRecord] : []))[0]!;
    expect(put.at[1]).toBeCloseTo(right.at[1], 9);
    expect(put.shows).toEqual({ only: true, of: [ring] });
  });
});

describe('placing a view', () => {
  test('its scale is chosen while it is placed, by wheel and keys; the next one fits by itself again', async () => {
    tools.take('place');
    const place = tools.current as PlaceTool;
    expect(place.wheel(true)).toBe(false);
    place.move(press(100, 100));
    const usual = place.scale;
    expect(place.wheel(false)).toBe(true);
    expect(place.scale).toBeLessThan(usual);
    expect(place.key('+')).toBe(true);
    expect(place.scale).toBe(usual);
    place.key('-');
    place.key('-');
    const chosen = place.scale;
    expect(place.scales).toContain(chosen);
    place.up(press(100, 100));
    await bench.settled();
    const made = bench.drawing.document[bench.drawing.chosen[0]!] as ViewRecord;
    expect(made.scale).toBe(chosen);
    expect(place.scale).toBe(usual);
    expect(place.key('x')).toBe(false);
  });
});

describe('balloons for all in a view', () => {
  test('every item it shows gets one there, whatever other views say; once more is no error', async () => {
    bench.drawing.select({ kind: 'record', id: 'view:front' });
    action('identify').run();
    await bench.settled();
    const { scene } = bench.drawing;
    const here = scene.all('balloon').filter((b) => b.view === 'view:front');
    const seen = scene.items.filter((i) => i.components.some((c) => (scene.result('view:front')!.visibleArea[c] ?? 0) > 0));
    expect(new Set(here.map((b) => scene.itemAt(b.component)?.part))).toEqual(new Set(seen.map((i) => i.part)));
    bench.drawing.select({ kind: 'record', id: 'view:front' });
    action('identify').run();
    expect(said.at(-1)).toEqual(['good', 'Every item has its balloon.']);
  });
});

test('a new sheet takes over size and format of the one before, not its document type', () => {
  bench.drawing.sheetId = 'sheet:1';
  action('sheet-add').run();
  const made = bench.drawing.scene.one('sheet', bench.drawing.sheetId)!;
  expect(made).toMatchObject({ size: bench.drawing.scene.one('sheet', 'sheet:1')!.size, name: '' });
  expect(made.from).toBeUndefined();
});
test('the rings of a cutting line are gone when the view that carries it is hidden', () => {
  const section = bench.drawing.scene.all('view').find((v) => v.cut?.shownIn)!;
  const parent = view(section.cut!.shownIn!);
  expect(kindOf(section).handles!(section, bench.drawing.scene).length).toBeGreaterThan(0);
  bench.drawing.edit('Hide', [{ op: 'put', record: { ...parent, off: true } }]);
  expect(kindOf(section).handles!(section, bench.drawing.scene)).toEqual([]);
});
