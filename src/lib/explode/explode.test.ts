import { beforeEach, describe, expect, test, vi } from 'vitest';

const said: [string, string][] = [];
vi.mock('../shared/notices.svelte', () => ({ notify: (kind: string, text: string) => said.push([kind, text]), toaster: {} }));

import { viewMapOf } from '$core/views/view-map';
import { recordsOf, type BalloonRecord, type SpreadRecord, type ViewRecord } from '$core/document/records';
import type { CheckAnswer } from '$core/explode/requests';
import { compute } from './compute';
import { openBench, type Bench } from '../testing/fake-job';
import { explodeActions } from './actions';
import { axisText, Explode, screenFrame } from './explode.svelte';
import { lookFrom, plan, proposeDirections, heldText, tighten, untilClear } from './planning';
import {
  addPull,
  addTurn,
  bend,
  changePull,
  holdTogether,
  mergeNext,
  mirror,
  movePull,
  removePull,
  setDistance,
  showLines,
  spaceEvenly,
  split,
  typePull,
} from './pull-edits';
import { pullPicture } from './pull-picture';
import { duplicate, newSpread, removeSpread, showIn } from './spreads';

let bench: Bench;
let explode: Explode;
beforeEach(async () => {
  said.length = 0;
  bench = await openBench(said);
  explode = new Explode(bench.drawing);
});
const index = (name: string) => bench.drawing.components.find((c) => c.name === name)!.index;
const pick = (...names: string[]) => explode.choose(new Set(names.map(index)));
const pulls = () => (bench.document()['spread:1'] as SpreadRecord).pulls;
const start = async (list: SpreadRecord['pulls']) => {
  explode.put('start', { pulls: list });
  await bench.settled();
  bench.kept.length = 0;
};
const up = (components: readonly string[], distanceMm = 40) => ({ components, direction: [0, 0, 1] as const, distanceMm });

describe('picking', () => {
  test('what holds together is picked together, and one piece is told from its item', async () => {
    explode.put('x', { together: [['Post', 'Ring']] });
    await bench.settled();
    pick('Ring');
    expect([...explode.chosen].sort()).toEqual([index('Post'), index('Ring')]);
    pick('Cap');
    expect(bench.drawing.selection).toEqual({ kind: 'item', part: 'Cap', component: index('Cap') });
    explode.choose(new Set());
    expect(bench.drawing.selection).toEqual({ kind: 'none' });
  });
  test('a pull picks what it moves and gives its direction', async () => {
    await start([up(['Cap']), { ...up(['Tower', 'Ring']), direction: [1, 0, 0] }]);
    explode.choosePull(1);
    expect([[...explode.chosen].sort(), explode.direction]).toEqual([[index('Tower'), index('Ring')].sort(), [1, 0, 0]]);
    explode.choosePull(undefined);
    expect(explode.pull).toBeUndefined();
  });
  test('a whole level of the tree', () => {
    explode.chooseLevel(1);
    expect(explode.chosen.size).toBe(7);
  });
});

describe('pulls', () => {
  test('one of what is picked, after the one at hand', async () => {
    await start([up(['Cap']), up(['Ring'])]);
    explode.active = 0;
    pick('Tower');
    await addPull(explode, [2, 0, 0], 30);
    await bench.settled();
    expect(pulls().map((p) => p.components)).toEqual([['Cap'], ['Tower'], ['Ring']]);
    expect(pulls()[1]).toEqual({ components: ['Tower'], direction: [1, 0, 0], distanceMm: 30, typed: true });
    expect([explode.active, explode.time]).toEqual([1, 2]);
    // Without a word a round distance: a fifth of the largest part, 144 mm.
    pick('Post');
    await addPull(explode);
    expect(explode.spread!.pulls[2]!.distanceMm).toBe(30);
  });
  test('begins in a direction that is free; one that was chosen is kept', async () => {
    await start([]);
    // The cap stands on the others: downwards it would run into them.
    pick('Cap');
    explode.direction = [0, 0, -1];
    await addPull(explode);
    await bench.settled();
    const { direction, distanceMm } = explode.spread!.pulls[0]!;
    const answer = await compute<CheckAnswer>(bench.drawing.id, {
      kind: 'check',
      pulls: [{ components: [bench.drawing.components.find((c) => c.path === 'Cap')!.index], direction, distanceMm }],
    });
    expect(answer.clear).toEqual([true]);
    await start([]);
    pick('Cap');
    explode.direction = [0, 0, -1];
    explode.aimed = true;
    await addPull(explode);
    expect(explode.spread!.pulls[0]!.direction).toEqual([0, 0, -1]);
  });
  test('of nothing: a word what to do', () => {
    explode.choose(new Set());
    void addPull(explode);
    addTurn(explode);
    expect(said.map((s) => s[1].slice(0, 30))).toEqual(['Pick the parts to be pulled fi', 'Pick a hole, a shaft, a face o']);
  });
  test('a turn about what was picked: an axis before a face', async () => {
    await start([]);
    pick('Ring');
    explode.picked = [
      { direction: [1, 0, 0], at: [1, 1, 1], what: 'face', kind: 'face' },
      { direction: [0, 0, 1], at: [0, -25, 20], what: 'bore', kind: 'axis' },
    ];
    addTurn(explode);
    await bench.settled();
    expect(pulls()[0]).toMatchObject({ distanceMm: 0, turn: { axis: [0, 0, 1], through: [0, -25, 20], angle: Math.PI / 2 } });
    expect(explode.handle).toBeUndefined();
    expect(typePull(explode, 0, '45')).toBe(true);
    expect(explode.spread!.pulls[0]!.turn!.angle).toBeCloseTo(Math.PI / 4, 12);
  });
  test('typed as an expression; what is none is told', async () => {
    await start([{ ...up(['Cap']), leg: true }]);
    expect(typePull(explode, 0, '2*12.5')).toBe(true);
    expect(explode.spread!.pulls[0]).toEqual({ components: ['Cap'], direction: [0, 0, 1], distanceMm: 25, typed: true });
    expect(typePull(explode, 0, 'far')).toBe(false);
    expect(said[0]![1]).toMatch(/^“far” is no length/);
    setDistance(explode, 0, 33);
    await bench.settled();
    expect(bench.kept).toEqual(['Distance 25 mm', 'Distance 33 mm']);
  });
  test('reordered, within the list; removed', async () => {
    await start([up(['Cap']), up(['Ring']), up(['Tower'])]);
    movePull(explode, 0, 2);
    expect([explode.spread!.pulls.map((p) => p.components[0]), explode.active]).toEqual([['Ring', 'Tower', 'Cap'], 2]);
    movePull(explode, 2, -4);
    expect([explode.spread!.pulls[0]!.components[0], explode.active]).toEqual(['Cap', 0]);
    removePull(explode, 1);
    expect([explode.spread!.pulls.map((p) => p.components[0]), explode.active]).toEqual([['Cap', 'Tower'], undefined]);
    await bench.settled();
    expect(bench.kept).toEqual(['Reorder pulls', 'Reorder pulls', 'Remove pull']);
  });
  test('merged with the next, split by items', async () => {
    await start([up(['Cap']), up(['Ring'], 90), up(['Tower'])]);
    mergeNext(explode, 0);
    expect(explode.spread!.pulls.map((p) => [p.components, p.distanceMm])).toEqual([
      [['Cap', 'Ring'], 40],
      [['Tower'], 40],
    ]);
    split(explode, 0);
    expect(explode.spread!.pulls.map((p) => p.components)).toEqual([['Cap'], ['Ring'], ['Tower']]);
    split(explode, 0);
    expect(said.at(-1)![1]).toMatch(/nothing to split/);
    mergeNext(explode, 2);
    await bench.settled();
    expect(bench.kept).toEqual(['Merge pulls', 'Split pull']);
  });
  test('evenly spaced in the order in which parts stand along it; and back', async () => {
    await start([{ ...up(['Cap', 'Plate', 'Ring']) }]);
    // Centroids of the test’s shapes are their origins: 48, 0 and 20 mm up.
    spaceEvenly(explode, 0);
    expect(explode.spread!.pulls[0]!.ranks).toEqual([3, 1, 2]);
    spaceEvenly(explode, 0);
    expect(explode.spread!.pulls[0]).not.toHaveProperty('ranks');
  });
  test('copied to the other side where equal parts stand, else told', async () => {
    await start([{ ...up(['Block left']), direction: [-1, 0, 0] }]);
    mirror(explode, 0);
    expect(explode.spread!.pulls).toMatchObject([{ components: ['Block left'] }, { components: ['Block right'], direction: [1, 0, 0], distanceMm: 40 }]);
    await start([up(['Tower'])]);
    mirror(explode, 0);
    expect(said).toEqual([['trouble', 'No equal parts stand on the other side.']]);
    expect(explode.spread!.pulls).toHaveLength(1);
  });
  test('a bend: to the side along an axis of the model, half as far', async () => {
    await start([up(['Cap'], 41)]);
    bend(explode, 0);
    await bench.settled();
    const [, second] = pulls();
    expect([second!.components, second!.distanceMm, Math.abs(second!.direction[2])]).toEqual([['Cap'], 21, 0]);
    expect(Math.hypot(...second!.direction)).toBeCloseTo(1, 12);
    expect(Math.max(...second!.direction.map(Math.abs))).toBe(1);
  });
  test('held together, let go, and moved from one set to another', async () => {
    await start([]);
    pick('Cap', 'Post');
    holdTogether(explode);
    expect(explode.spread!.together).toEqual([['Post', 'Cap'].sort((a, b) => index(b) - index(a))]);
    holdTogether(explode);
    expect(explode.spread!.together).toEqual([]);
    pick('Cap');
    holdTogether(explode);
    expect(said.at(-1)![1]).toMatch(/^Pick the parts that shall move as one/);
  });
  test('pull lines of some parts off and on', async () => {
    await start([up(['Cap', 'Ring'])]);
    showLines(explode, ['Cap', 'Ring'], false);
    expect(explode.spread!.linesOff).toEqual(['Cap', 'Ring']);
    showLines(explode, ['Cap'], true);
    expect(explode.spread!.linesOff).toEqual(['Ring']);
  });
  test('balloons go along with what they point at, as far as the view sees it move', async () => {
    await start([up(['Cap'], 40)]);
    const view = bench.drawing.document['view:exploded'] as ViewRecord;
    const before = bench.drawing.document['balloon:Cap'] as BalloonRecord;
    changePull(explode, 0, 'farther', { distanceMm: 50 });
    const after = bench.drawing.document['balloon:Cap'] as BalloonRecord;
    const rise = 10 * view.up[2];
    expect(after.anchor[1] - before.anchor[1]).toBeCloseTo(rise, 9);
    const m = viewMapOf(view);
    // The leader keeps its length and slant on paper.
    expect(after.offset[1] - before.offset[1]).toBeCloseTo(m.y(after.anchor[1]) - m.y(before.anchor[1]), 9);
  });
});

describe('playing and what is shown', () => {
  test('pulls switched off are passed over; time and record find each other', async () => {
    await start([up(['Cap']), { ...up(['Ring']), off: true }, up(['Tower'])]);
    expect([explode.made.map((p) => p.record), explode.timeOf(2), explode.timeOf(1)]).toEqual([[0, 2], 2, 2]);
    explode.time = 0.5;
    expect(explode.motions[index('Cap')]![11]).toBe(20);
    expect(explode.motions[index('Tower')]![11]).toBe(0);
  });
  test('whoever looks at the whole goes on doing so', async () => {
    await start([up(['Cap'])]);
    explode.time = explode.made.length;
    explode.put('more', { pulls: [up(['Cap']), up(['Ring'])] });
    expect(explode.time).toBe(2);
    explode.time = 1;
    explode.put('more', { pulls: [up(['Cap']), up(['Ring']), up(['Tower'])] });
    expect(explode.time).toBe(1);
  });
  test('the handle stands at the piece that goes all the way, a dragged distance shows at once', async () => {
    await start([{ ...up(['Cap', 'Ring']), ranks: [2, 1] }]);
    explode.choosePull(0);
    expect(explode.handle).toEqual({ at: [0, -25, 88], direction: [0, 0, 1] });
    explode.drag = 100;
    expect(explode.handle!.at).toEqual([0, -25, 148]);
    expect(pulls()[0]!.distanceMm).toBe(40);
  });
  test('names say what moves', async () => {
    await start([]);
    expect([explode.nameOf(up(['Cap'])), explode.nameOf(up(['Cap', 'Ring', 'Post', 'Plate'])), explode.nameOf({ ...up(['Cap']), name: 'Lid off' })]).toEqual([
      'Cap',
      'Cap, Ring and 2 more',
      'Lid off',
    ]);
    expect([axisText([0, 0, 1]), axisText([-1, 0, 0]), axisText([0.6, 0.8, 0])]).toEqual(['+Z', '−X', '(0.6, 0.8, 0)']);
    expect(screenFrame([0, 0, 1]).up).toEqual([0, 1, 0]);
  });
  test('pictures: of the part, or of several as they stand', () => {
    const key = (name: string) => bench.drawing.assembly.parts[bench.drawing.components[index(name)]!.part]!.geometryKey;
    expect(pullPicture(bench.drawing, up(['Cap']))).toBe(`/api/parts/${key('Cap')}`);
    expect(pullPicture(bench.drawing, up(['Cap', 'Ring']))).toBe(`/api/jobs/${bench.drawing.id}/picture?of=${index('Cap')},${index('Ring')}&model=`);
    expect(pullPicture(bench.drawing, up(['gone']))).toBe('');
  });
});

describe('spreads', () => {
  test('a new one, a copy, and another opened', async () => {
    newSpread(explode);
    expect([explode.spread!.name, explode.spread!.pulls]).toEqual(['Spread 2', []]);
    explode.open('spread:1');
    const n = explode.spread!.pulls.length;
    duplicate(explode);
    await bench.settled();
    expect([explode.spread!.name, explode.spread!.pulls.length]).toEqual(['Spread 1 copy', n]);
    expect(explode.spreads.map((s) => s.name)).toEqual(['Spread 1', 'Spread 1 copy', 'Spread 2']);
    expect(new Set(explode.spreads.map((s) => s.id)).size).toBe(3);
  });
  test('removed: views that showed it show the parts together, and it is told', async () => {
    removeSpread(explode);
    await bench.settled();
    expect(bench.document()['spread:1']).toBeUndefined();
    expect(bench.document()['view:exploded']).toMatchObject({ spread: null });
    expect(said).toEqual([['good', 'Exploded view shows the parts together now. Undo brings the spread back.']]);
    bench.drawing.undo();
    await bench.settled();
    expect(bench.document()['view:exploded']).toMatchObject({ spread: 'spread:1' });
  });
  test('shown in another view, and taken out of it', async () => {
    const top = () => bench.drawing.document['view:top'] as ViewRecord;
    showIn(explode, top(), true);
    expect(top()).toMatchObject({ spread: 'spread:1', pullLines: true });
    showIn(explode, top(), false);
    await bench.settled();
    expect(top()).toMatchObject({ spread: null, pullLines: false });
  });
});

describe('what is computed', () => {
  test('the check says of each pull whether its way is free, else through what and how far', async () => {
    await start([up(['Cap'], 30), { ...up(['Post'], 60), direction: [0, 0, -1] }]);
    explode.recheck();
    await vi.waitFor(() => expect(explode.checking).toBe(false), { timeout: 5000 });
    expect(explode.wordOn(0)).toEqual({ clear: true, text: 'clear' });
    // Down through the plate, 8 mm thick: from the touch on until its whole length is through it.
    expect(explode.wordOn(1)).toMatchObject({ clear: false, text: expect.stringMatching(/^passes through 1 Plate for \d+(\.\d+)? mm$/) });
    explode.active = 1;
    expect(explode.hits).toHaveLength(1);
    explode.active = 0;
    expect(explode.hits).toEqual([]);
  });
  test('a plan of the whole frees everything and can be undone in one', async () => {
    const before = pulls();
    await start([]);
    await plan(explode, 'all');
    await bench.settled();
    expect(new Set(pulls().flatMap((p) => p.components)).size).toBeGreaterThanOrEqual(6);
    expect([explode.time, explode.active, explode.work, explode.held]).toEqual([explode.made.length, undefined, undefined, []]);
    expect(bench.kept).toEqual(['Plan']);
    expect(before.length).toBeGreaterThan(0);
  });
  test('a plan for what is picked leaves the pulls of others', async () => {
    await start([up(['Tower'], 77)]);
    explode.choose(new Set());
    await plan(explode, 'chosen');
    expect(said).toEqual([['trouble', 'Pick the parts to be planned first.']]);
    pick('Cap');
    await plan(explode, 'chosen');
    await bench.settled();
    expect(pulls().find((p) => p.components.includes('Tower'))!.distanceMm).toBe(77);
    expect(pulls().some((p) => p.components.includes('Cap'))).toBe(true);
    expect(heldText(explode, { components: ['Cap'], by: ['Ring'], direction: [0, 0, 1] })).toBe(
      'Cap comes off in no direction that was tried: even +Z Ring holds it.',
    );
  });
  test('tightening keeps what was typed, fits the sheet, and says so', async () => {
    await start([{ ...up(['Cap'], 300), typed: true }, up(['Ring'], 500), up(['Tower'], 400)]);
    await tighten(explode);
    await bench.settled();
    expect(pulls()[0]!.distanceMm).toBe(300);
    expect(pulls()[2]!.distanceMm).toBeLessThan(400);
    expect(bench.kept[0]).toBe('Tighten');
    expect(said[0]).toEqual(['good', expect.stringMatching(/^Fits \d+ × \d+ mm at \d+:\d+, parts [\d.]+ mm apart on paper\.$/)]);
    await start([]);
    await tighten(explode);
    expect(said.at(-1)![1]).toBe('There are no pulls to be tightened. Plan first.');
  });
  test('directions of view are proposed, and one of them taken', async () => {
    await proposeDirections(explode);
    expect(explode.proposals.length).toBeGreaterThan(2);
    const other = explode.proposals.find((p) => Math.abs(p.frame.toward[0] - explode.frame.toward[0]) > 0.1)!;
    await lookFrom(explode, other.frame);
    await bench.settled();
    const view = bench.document()['view:exploded'] as ViewRecord;
    view.toward.forEach((v, k) => expect(v).toBeCloseTo(other.frame.toward[k]!, 9));
    expect(explode.proposals).toEqual([]);
  });
  test('until clear: as far as needed, and typed from then on', async () => {
    await start([up(['Cap'], 1)]);
    await untilClear(explode, 0);
    await bench.settled();
    // The cap sits on the post, inside nothing: it need not go far.
    expect(pulls()[0]!.distanceMm).toBeGreaterThan(1);
    expect(pulls()[0]!.distanceMm).toBeLessThan(40);
  });
  test('the server away: a word, nothing is lost', async () => {
    const before = pulls();
    bench.away = true;
    await plan(explode, 'all');
    expect(said).toEqual([['trouble', 'The server does not answer. Try it again.']]);
    expect([pulls(), explode.work]).toEqual([before, undefined]);
  });
});

describe('actions', () => {
  test('are off where there is nothing for them, and each key is one', async () => {
    await start([]);
    explode.choose(new Set());
    const all = () => explodeActions(explode, { fit: () => undefined, toggle: () => undefined, step: () => undefined });
    const off = (id: string) => all().find((a) => a.id === id)!.disabled;
    expect(['pull', 'tighten', 'play', 'remove', 'hold'].map(off)).toEqual([true, true, true, true, true]);
    pick('Cap', 'Ring');
    all()
      .find((a) => a.id === 'pull')!
      .run();
    await vi.waitFor(() => expect(explode.spread!.pulls).toHaveLength(1));
    expect(['pull', 'tighten', 'play', 'remove', 'hold'].map(off)).toEqual([false, false, false, false, false]);
    const keys = all()
      .map((a) => a.key)
      .filter(Boolean);
    expect(new Set(keys).size).toBe(keys.length);
    all()
      .find((a) => a.id === 'lines')!
      .run();
    expect(explode.spread!.noLines).toBe(true);
    expect(recordsOf(bench.drawing.document, 'spread')).toHaveLength(1);
  });
});
