import { breaksOf } from '../break-out';
import { beforeEach, describe, expect, test, vi } from 'vitest';

const said: [string, string][] = [];
vi.mock('$lib/shared/notices.svelte', () => ({ notify: (kind: string, text: string) => said.push([kind, text]), toaster: {} }));

import { recordsOf, type SheetRecord, type ViewRecord } from '$core/document/records';
import { namedFrame } from '$core/outline/directions';
import { openBench, type Bench } from '$lib/testing/fake-job';
import { Tools } from '$lib/sheets/tools.svelte';

let bench: Bench;
let tools: Tools;
beforeEach(async () => {
  said.length = 0;
  bench = await openBench(said);
  tools = new Tools(bench.drawing);
});
const view = (id: string) => bench.drawing.document[id] as ViewRecord;
const newest = () => recordsOf(bench.document(), 'view').find((v) => v.id.startsWith('view:section') && v.id !== 'view:section')!;
const GRACE = 0.5;

describe('a cutting line', () => {
  test('two presses and Enter: a section of the next letter, in line with its parent where there is room, what lies along it kept whole', async () => {
    bench = await openBench(said, (d) => ({ ...d, 'sheet:1': { ...d['sheet:1'], size: 'A1' } as SheetRecord }));
    tools = new Tools(bench.drawing);
    const top = view('view:top');
    tools.take('section');
    const { sections } = tools;
    // Level on the plan through the post's middle, 25 mm before the middle; the second press is a little off level.
    sections.press(top, [70, -25.2], GRACE);
    sections.hover(top, [-70, -24], GRACE);
    expect(sections.points).toEqual([[70, -25]]);
    expect(sections.next).toEqual([-70, -25]);
    sections.press(top, [-70, -24], GRACE);
    await sections.finish();
    await bench.settled();
    const made = newest();
    expect(made).toMatchObject({
      name: 'Section B–B',
      parent: 'view:top',
      align: 'upright',
      label: true,
      scale: top.scale,
      cut: { letter: 'B', shownIn: 'view:top' },
    });
    // Seen from behind: in first angle it stands below the plan.
    expect(made.cut!.d).toBeCloseTo(-25, 9);
    expect(made.at[1]).toBeGreaterThan(top.at[1]);
    made.cut!.normal.forEach((v, k) => expect(v).toBeCloseTo([0, 1, 0][k]!, 9));
    expect([...made.cut!.keptWhole].sort()).toEqual(['Post']);
    // In line: the same place across.
    expect(made.at[0] - made.pivot[0] * made.scale).toBeCloseTo(top.at[0] - top.pivot[0] * top.scale, 6);
    expect([tools.tool, bench.drawing.selection, bench.kept]).toEqual(['pick', { kind: 'record', id: made.id }, ['Section B–B']]);
  });
  test('without room in line it stands free, on the same sheet', async () => {
    const top = view('view:top');
    tools.sections.press(top, [-70, -25], GRACE);
    tools.sections.press(top, [70, -25], GRACE);
    await tools.sections.finish();
    await bench.settled();
    expect(newest()).toMatchObject({ parent: null, align: null, sheet: 'sheet:1', cut: { shownIn: 'view:top' } });
    expect(said).toEqual([['trouble', expect.stringMatching(/no room .* where projection has it/)]]);
  });
  test('a press on the last corner ends it too; a line that means no cut is told', async () => {
    const top = view('view:top');
    const { sections } = tools;
    sections.press(top, [-70, 12], GRACE);
    sections.press(top, [0, 12], GRACE);
    sections.press(top, [20, 31], GRACE);
    sections.press(top, [44, -3], GRACE);
    sections.press(top, [44.1, -3], GRACE);
    await bench.settled();
    expect(said[0]![0]).toBe('trouble');
    expect(bench.kept).toEqual([]);
    // What was drawn is still there to be mended.
    expect(sections.points).toHaveLength(4);
    expect(sections.stepBack()).toBe(true);
    expect(sections.points).toHaveLength(3);
  });
  test('a press on another view begins anew; the last corner taken back clears it', () => {
    const { sections } = tools;
    sections.press(view('view:top'), [0, 33], GRACE);
    sections.press(view('view:front'), [3, 33], GRACE);
    expect([sections.view!.id, sections.points.length]).toEqual(['view:front', 1]);
    sections.hover(view('view:top'), [0, 0], GRACE);
    expect(sections.next).toBeUndefined();
    expect(sections.stepBack()).toBe(true);
    expect([sections.view, sections.stepBack()]).toEqual([undefined, false]);
  });
  test('through what is selected, level or upright', async () => {
    const ring = bench.drawing.components.find((c) => c.name === 'Ring')!.index;
    await tools.sections.through(view('view:front'), ring, true);
    await bench.settled();
    const made = newest();
    // Upright through the middle of the ring in the front view: seen from the right, x = 0.
    expect(made).toMatchObject({ ...namedFrame('right') });
    expect(made.cut!.d).toBeCloseTo(0, 0);
    bench.drawing.results.delete('view:top');
    await tools.sections.through(view('view:top'), ring, true);
    expect(bench.kept).toHaveLength(1);
  });
  test('the server away: a word, and nothing is changed', async () => {
    bench.away = true;
    const { sections } = tools;
    sections.press(view('view:top'), [-70, 12], GRACE);
    sections.press(view('view:top'), [70, 12], GRACE);
    await sections.finish();
    expect(said).toEqual([['trouble', 'The server does not answer. Your changes wait on this page until it does.']]);
    expect([bench.kept, sections.busy]).toEqual([[], false]);
  });
});

describe('a section that stands', () => {
  test('turned round it is seen from the other side, its plane stays', async () => {
    const before = view('view:section');
    tools.sections.turnRound(before);
    await bench.settled();
    const after = view('view:section');
    after.toward.forEach((v, k) => expect(v).toBeCloseTo(-before.toward[k]!, 9));
    after.cut!.normal.forEach((v, k) => expect(v).toBeCloseTo(-before.cut!.normal[k]!, 9));
    expect(after.cut!.d).toBeCloseTo(-before.cut!.d, 9);
    // Its line runs level on the plan: what is level stays, above and below change places.
    expect([after.right, after.pivot]).toEqual([before.right, [before.pivot[0], -before.pivot[1]]]);
    tools.sections.turnRound(view('view:front'));
    expect(bench.kept).toEqual(['Turn the section round']);
  });
  test('says what it would keep whole, and why', async () => {
    const list = await tools.sections.suggestions(view('view:section'));
    expect(list.map((k) => k.path).sort()).toEqual(['Post']);
    for (const k of list) expect(k.why).toMatch(/^[A-Z].*\.$/);
    expect(await tools.sections.suggestions(view('view:front'))).toEqual([]);
  });
  test('slices at distances from it, in one edit, of no depth, each with its letter', async () => {
    tools.sections.slices(view('view:section'), [-5, 0, 12]);
    await bench.settled();
    const slices = recordsOf(bench.document(), 'view').filter((v) => v.id.startsWith('view:slice'));
    expect(slices.map((s) => [s.name, s.cut!.d - view('view:section').cut!.d, s.cut!.behindMm, s.parent])).toEqual([
      ['Slice B–B', -5, 0, null],
      ['Slice C–C', 0, 0, null],
      ['Slice D–D', 12, 0, null],
    ]);
    expect(bench.kept).toEqual(['3 slices']);
    tools.sections.slices(view('view:section'), []);
    expect(bench.kept).toHaveLength(1);
  });
});

describe('a break', () => {
  const around = [
    [-20, 10],
    [20, 10],
    [20, 60],
    [-20, 60],
  ] as const;
  test('goes down to the middle of what lies in its middle', async () => {
    await tools.sections.breakOut(view('view:front'), { kind: 'free', points: around });
    await bench.settled();
    const { cut } = view('view:front');
    expect(cut).toMatchObject({ letter: '', shownIn: null, shape: { kind: 'local', outline: around.flat() } });
    // Before the tower and the post stands nothing at (0, 35) but the post, whose axis lies at y = −25.
    expect(cut!.d).toBeCloseTo(25, 6);
    expect(bench.kept).toEqual(['Broken-out section']);
  });
  test('another one of the same view has its own outline and depth; one closed leaves the other', async () => {
    await tools.sections.breakOut(view('view:front'), { kind: 'free', points: around });
    await bench.settled();
    await tools.sections.breakOut(view('view:front'), { kind: 'box', from: [-30, 0], to: [-22, 8] });
    await bench.settled();
    const breaks = breaksOf(view('view:front'));
    expect(breaks).toHaveLength(2);
    expect(breaks[1]!.set(7).cut).toMatchObject({ d: breaks[0]!.d, shape: { kind: 'local', more: [{ outline: [-30, 0, -22, 0, -22, 8, -30, 8], d: 7 }] } });
    expect(breaks[0]!.remove().cut).toMatchObject({ d: breaks[1]!.d, shape: { outline: [-30, 0, -22, 0, -22, 8, -30, 8] } });
    expect(breaks[0]!.remove().cut!.shape).not.toHaveProperty('more');
    expect(breaksOf(breaks[0]!.remove())[0]!.remove().cut).toBeNull();
  });
});
