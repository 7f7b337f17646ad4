import { beforeEach, describe, expect, test, vi } from 'vitest';

const said: [string, string][] = [];
vi.mock('$lib/shared/notices.svelte', () => ({ notify: (kind: string, text: string) => said.push([kind, text]), toaster: {} }));

import type { Vec2 } from '$core/base/vector';
import { recordsOf, type ViewRecord } from '$core/document/records';
import { namedFrame } from '$core/outline/directions';
import { openBench, type Bench } from '$lib/testing/fake-job';
import { Tools } from '$lib/sheets/tools.svelte';
import { actionsOf } from '$lib/sheets/actions';
import { kindOf } from '../../kinds';
import { shifted } from '../../change';
import { viewOffers } from './offers';
import type { OutlineTool } from './outline-tool.svelte';
import type { PlaceTool } from './place-tool.svelte';

let bench: Bench;
let tools: Tools;
beforeEach(async () => {
  said.length = 0;
  bench = await openBench(said);
  tools = new Tools(bench.drawing);
  bench.drawing.sheetId = 'sheet:1';
});
const view = (id: string) => bench.drawing.document[id] as ViewRecord;
const paper = (id: string, at: Vec2): Vec2 => bench.drawing.scene.map(view(id)).toPaper(at);
const press = (at: Vec2) => ({ at, grace: 1 });
/** A drag with the tool in hand, through places on paper. */
async function drag(...places: readonly Vec2[]) {
  tools.current.down(press(places[0]!));
  for (const p of places.slice(1)) tools.current.move(press(p));
  tools.current.up(press(places.at(-1)!));
  await bench.settled();
}
const act = (id: string) => actionsOf(bench.drawing, tools).find((a) => a.id === id)!;
const views = () => recordsOf(bench.document(), 'view');

const cornersOf = (v: ViewRecord): readonly Vec2[] => (v.within?.kind === 'free' ? v.within.points : []);

describe('an outline', () => {
  const way = (w: OutlineTool['way']) => ((tools.current as OutlineTool).way = w);
  test('as a circle: a detail, selected, and the pick tool is back in hand', async () => {
    tools.take('detail');
    await drag(paper('view:front', [0, 30]), paper('view:front', [9, 42]));
    const made = views().find((v) => v.detail)!;
    expect(made).toMatchObject({ within: { kind: 'circle', radius: expect.closeTo(15, 6) as number }, detail: { of: 'view:front' } });
    expect([bench.drawing.selection, tools.tool]).toEqual([{ kind: 'record', id: made.id }, 'pick']);
  });
  test('a detail is put where one presses, when that is asked for; Escape leaves it', async () => {
    tools.take('detail');
    const tool = tools.current as OutlineTool;
    tool.byHand = true;
    await drag(paper('view:front', [0, 30]), paper('view:front', [9, 42]));
    expect(tool.places).toBe(true);
    expect(tool.cancel()).toBe(true);
    expect([tool.places, views().some((v) => v.detail)]).toEqual([false, false]);
    await drag(paper('view:front', [0, 30]), paper('view:front', [9, 42]));
    tool.move({ at: [200, 60], grace: 1 });
    expect(tool.sketches()).toHaveLength(1);
    await drag([210, 70]);
    expect(views().find((v) => v.detail)!.at).toEqual([210, 70]);
    expect(tools.tool).toBe('pick');
  });
  test('as a rectangle: a part of the view; a detail is none again', async () => {
    tools.take('partial');
    await drag(paper('view:front', [-60, 0]), paper('view:front', [10, 40]));
    expect(view('view:front').within).toEqual({
      kind: 'box',
      from: [expect.closeTo(-60, 6), expect.closeTo(0, 6)],
      to: [expect.closeTo(10, 6), expect.closeTo(40, 6)],
    });
    expect(bench.kept).toEqual(['Show a part of the view']);
  });
  test('corner by corner, closed by its first corner; Escape takes the last one back', async () => {
    tools.take('partial');
    way('corners');
    const corners: readonly Vec2[] = [
      [-50, 0],
      [50, 0],
      [50, 60],
      [0, 70],
    ];
    for (const c of corners) await drag(paper('view:front', c));
    expect(tools.current.cancel()).toBe(true);
    expect(tools.current.sketches().filter((s) => s.kind === 'ring')).toHaveLength(3);
    await drag(paper('view:front', [-50, 0]));
    expect(view('view:front').within).toMatchObject({ kind: 'free' });
    expect(cornersOf(view('view:front'))).toHaveLength(3);
  });
  test('in one stroke: with no more corners than its shape takes, each to be pulled', async () => {
    tools.take('detail');
    way('stroke');
    const steps = Array.from({ length: 100 }, (_, i): Vec2 => {
      const t = (i / 100) * 4;
      const k = t - Math.floor(t);
      return (
        [
          [k, 0],
          [1, k],
          [1 - k, 1],
          [0, 1 - k],
        ] as const
      )[Math.floor(t)]!;
    });
    await drag(...steps.map(([x, y]) => paper('view:front', [-30 + 60 * x, 60 * y])));
    const points = cornersOf(views().find((v) => v.detail)!);
    expect(points.length).toBeGreaterThanOrEqual(4);
    expect(points.length).toBeLessThan(12);
  });
  test('of nothing, or begun on no view, is told and changes nothing', async () => {
    tools.take('detail');
    await drag(paper('view:front', [0, 30]));
    await drag([415, 292]);
    expect(said.map(([kind]) => kind)).toEqual(['trouble', 'trouble']);
    expect(bench.kept).toEqual([]);
  });
});

describe('a gap', () => {
  test('runs from where the press began to where it ended, along the larger way', async () => {
    tools.take('interrupt');
    await drag(paper('view:front', [-20, 4]), paper('view:front', [20, 7]));
    expect(view('view:front').gaps).toEqual([{ axis: 'x', from: expect.closeTo(-20, 6), to: expect.closeTo(20, 6) }]);
  });
  test('shorter than what is seen of it would make the view longer', async () => {
    tools.take('interrupt');
    await drag(paper('view:front', [0, 4]), [paper('view:front', [0, 4])[0] + 3, paper('view:front', [0, 4])[1]]);
    expect([bench.kept, said.length]).toEqual([[], 1]);
  });
});

describe('a neighbour', () => {
  test('is pulled out of the selected view, whichever is under the pointer; the view stays selected for the next one', async () => {
    bench.drawing.select({ kind: 'record', id: 'view:front' });
    tools.take('project');
    const [x, y, width] = bench.drawing.picture!.groups.find((g) => g.id === 'view:front')!.box;
    await drag([x + width + 5, y + 10], [x + width + 60, y + 4]);
    // First angle: at the right stands what is seen from the left (ISO 5456-2).
    expect(views().find((v) => v.name === 'Left')).toMatchObject({ ...namedFrame('left'), parent: 'view:front', align: 'level' });
    expect(bench.drawing.selection).toEqual({ kind: 'record', id: 'view:front' });
  });
  test('let go over the view itself is none', async () => {
    bench.drawing.select({ kind: 'record', id: 'view:front' });
    tools.take('project');
    await drag(paper('view:front', [0, 10]), paper('view:front', [5, 12]));
    expect([bench.kept, said.length]).toEqual([[], 1]);
  });
});

describe('a view placed', () => {
  test('stands where it was pressed, at the scale of its sheet, with what was chosen', async () => {
    tools.take('place');
    const tool = tools.current as PlaceTool;
    tool.choose('Back', namedFrame('back'));
    tool.hidden = true;
    tool.move(press([300, 200]));
    expect(tool.sketches().map((s) => s.kind)).toEqual(['window', 'lines', 'text']);
    await drag([300, 200]);
    expect(views().find((v) => v.name === 'Back')).toMatchObject({
      ...namedFrame('back'),
      at: [300, 200],
      scale: view('view:front').scale,
      hidden: true,
      parent: null,
    });
    expect(tools.tool).toBe('pick');
  });
});

describe('a pull line by hand', () => {
  test('goes from one component to another, through the centre of a circle, and follows when they move', async () => {
    bench.drawing.sheetId = 'sheet:1';
    tools.take('hand-line');
    tools.current.down(press([415, 292]));
    expect(said).toHaveLength(1);
    // The post's circle is seen from above at (0, −25): a press a little beside it means its centre.
    const [x, y] = paper('view:top', [0, -25]);
    tools.current.move(press([x + 0.6, y]));
    tools.current.down(press([x + 0.6, y]));
    tools.current.down(press(paper('view:top', [33, 4])));
    await bench.settled();
    const [line] = view('view:top').handLines!;
    expect(line!.from).toMatchObject({ of: 'Cap', at: [expect.closeTo(0, 6), expect.closeTo(-25, 6)] });
    expect(line!.to.of).toBe('Block right');
    expect(tools.tool).toBe('pick');
    const drawnLine = bench.drawing.picture!.groups.find((g) => g.id === 'view:top')!.items;
    expect(drawnLine.some((i) => i.kind === 'stroke' && i.dash?.join() === '6,1,1,1')).toBe(true);
    // The cap goes 40 mm to the right: the line's end goes with it, the other stays.
    const moved = kindOf(view('view:top')).follow!(
      view('view:top'),
      shifted(
        (id, path) => (id === 'view:top' && path === 'Cap' ? [40, 0] : undefined),
        () => 1,
      ),
    );
    expect(moved.handLines![0]).toMatchObject({ from: { at: [expect.closeTo(40, 6), expect.closeTo(-25, 6)] }, to: line!.to });
    bench.drawing.select({ kind: 'record', id: 'view:top' });
    act('hand-lines-off').run();
    expect(view('view:top')).not.toHaveProperty('handLines');
    await bench.settled();
  });
});

describe('the depth of a break', () => {
  test('is taken from a view that shows it, not from one that does not', async () => {
    await tools.sections.breakOut(view('view:front'), { kind: 'box', from: [-20, 10], to: [20, 60] });
    await bench.settled();
    tools.take('depth');
    // The isometric shows no depth in true length.
    await drag(paper('view:isometric', [0, 0]));
    expect(said).toHaveLength(1);
    await drag(paper('view:top', [12, 3]));
    expect(view('view:front').cut!.d).toBeCloseTo(-3, 0);
  });
});

describe('what can be done with views', () => {
  test('halves, the whole again, hidden and back, an arrow, a lock, the sheet arranged', async () => {
    bench.drawing.select({ kind: 'record', id: 'view:front' });
    act('half-right').run();
    expect(view('view:front')).toMatchObject({ within: { kind: 'box' }, border: 'symmetry' });
    act('whole-view').run();
    expect(view('view:front')).not.toHaveProperty('within');
    expect(act('arrow').disabled).toBe(true);
    bench.drawing.select({ kind: 'record', id: 'view:right' });
    act('arrow').run();
    expect(view('view:right').arrow).toBe('B');
    act('lock').run();
    const { at } = view('view:right');
    act('arrange-sheet').run();
    expect(view('view:right').at).toEqual(at);
    act('view-off').run();
    expect(view('view:right').off).toBe(true);
    act('views-on').run();
    expect(view('view:right')).not.toHaveProperty('off');
    await bench.settled();
    expect(bench.kept.slice(0, 4)).toEqual(['Right half', 'Show the whole view', 'Arrow and letter', 'Lock']);
  });
  test('removed with all that was projected from it', async () => {
    bench.drawing.select({ kind: 'record', id: 'view:front' });
    act('remove-projected').run();
    await bench.settled();
    expect(
      views()
        .map((v) => v.id)
        .sort(),
    ).toEqual(['view:exploded', 'view:isometric']);
  });
  test('an item selected in a view is hidden, alone, faint there', async () => {
    bench.drawing.select({ kind: 'item', part: 'Tower', view: 'view:front' });
    act('only-item').run();
    expect(view('view:front').shows).toEqual({ only: true, of: ['Tower'] });
    act('hide-item').run();
    act('show-all').run();
    act('faint-item').run();
    expect(view('view:front')).toMatchObject({ faint: ['Tower'] });
    expect(view('view:front')).not.toHaveProperty('shows');
    await bench.settled();
  });
  test('a cut face under a right press: its hatching, and what stays whole in every section', async () => {
    const result = bench.drawing.scene.result('view:section')!;
    const cap = result.caps[0]!;
    const component = bench.drawing.components[cap.component]!;
    const inside = (() => {
      const { window: w, component: map } = result.map;
      const i = map.indexOf(cap.component);
      return [w.minX + ((i % w.width) + 0.5) * w.pixelMm, w.maxY - (Math.floor(i / w.width) + 0.5) * w.pixelMm] as const;
    })();
    const offers = () => viewOffers(view('view:section'), press(paper('view:section', inside)), bench.drawing, tools).offers;
    const run = (id: string) =>
      offers()
        .find((o) => o.id === id)!
        .run();
    run('hatch-turn');
    expect(view('view:section').hatch![0]!.angle).toBeCloseTo(Math.PI / 3, 9);
    run('hatch-none');
    expect(view('view:section').hatch).toMatchObject([{ pattern: 'none' }]);
    run('hatch-usual');
    expect(view('view:section')).not.toHaveProperty('hatch');
    run('whole-everywhere');
    expect(view('view:section').cut!.keptWhole).toContain(component.path);
    await bench.settled();
  });
});
