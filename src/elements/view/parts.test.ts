import { describe, expect, test } from 'vitest';
import type { ViewRecord } from '../../core/document/records.ts';
import { rescaleDrawing } from '../../core/document/rescale.ts';
import { applySteps, type Step } from '../../core/document/steps.ts';
import { pointsOfPath } from '../../core/testing/paths.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { lengthsOf } from '../../core/outline/linework.ts';
import { specified } from '../../core/views/view-spec.ts';
import { copiesOf, movedToSheet } from '../copy.ts';
import { shifted } from '../change.ts';
import { composeSheet } from '../compose.ts';
import { kindOf } from '../kinds.ts';
import { removed, withProjected } from '../remove.ts';
import { Scene } from '../scene.ts';
import { newDetail } from './detail-of.ts';
import { drawGaps } from './draw-border.ts';
import { suggestGap } from './interrupt.ts';
import { halved } from './settings.ts';
import { turnRound } from './sections.ts';

const drawn = await draftAll(smallMachine());
const front = drawn.document['view:front'] as ViewRecord;
/** The drawing after some steps; views that show what another one shows have its result. */
function after(...steps: readonly Step[]): Scene {
  const r = applySteps(drawn.document, steps);
  if (!r.ok) throw new Error(r.reason);
  const byText = new Map(
    Object.values(drawn.document).flatMap((v) =>
      v.type === 'view' ? [[specified(v, drawn.document, drawn.assembly).text, drawn.results.get(v.id)!] as const] : [],
    ),
  );
  const results = { get: (id: string) => byText.get(specified(r.document[id] as ViewRecord, r.document, drawn.assembly).text) };
  return new Scene({ document: r.document, assembly: drawn.assembly, results });
}
const put = (record: ViewRecord): Step => ({ op: 'put', record });
const circle = { kind: 'circle', at: [0, 30], radius: 12 } as const;
const detail = newDetail(drawn.scene, front, circle, 'view:detail').record;
const texts = (scene: Scene, id: string) =>
  composeSheet(scene, 'sheet:1')
    .groups.find((g) => g.id === id)!
    .items.flatMap((i) => (i.kind === 'text' ? [i.text] : []));

describe('a detail', () => {
  test('is twice as large or more, lettered on, and needs nothing computed', () => {
    // 1:1 and 2:1 are neighbours in the row of ISO 5455, 2:1 and 5:1 are not: at least twice.
    expect(detail.scale / front.scale).toBeGreaterThanOrEqual(2);
    expect(detail.scale / front.scale).toBeLessThanOrEqual(2.5);
    expect([detail.detail, detail.name]).toEqual([{ of: 'view:front', letter: 'B', on: 'Post' }, 'Detail B']);
    const scene = after(put(detail));
    expect(specified(detail, scene.document, drawn.assembly).text).toBe(specified(front, drawn.document, drawn.assembly).text);
    const part = scene.result('view:detail')!;
    expect(part.box).toEqual([-12, 18, 12, 42]);
    expect(lengthsOf(part.lines).visible.sharp).toBeGreaterThan(20);
  });
  // ISO 128-3: a narrow outline with a letter on the view, the letter and the scale at the detail.
  test('its outline and letter stand on its view, letter and scale under itself', () => {
    const scene = after(put(detail));
    expect(texts(scene, 'view:front')).toEqual(['B']);
    expect(texts(scene, 'view:detail')[0]).toMatch(/^B \(\d+:1\)$/);
    const { style } = scene.page('sheet:1');
    const mark = composeSheet(scene, 'sheet:1')
      .groups.find((g) => g.id === 'view:front')!
      .items.find((i) => i.kind === 'stroke' && i.d.includes('A') && i.width === style.narrow && !i.source);
    expect(mark).toMatchObject({ d: expect.stringContaining(`A${12 * front.scale} ${12 * front.scale}`) as string });
  });
  test('follows its view: another direction, a cut, hidden components', () => {
    const cut = (drawn.document['view:section'] as ViewRecord).cut;
    const shown = after(put(detail), put({ ...front, cut, shows: { only: false, of: ['Tower'] } }));
    const seen = shown.seenAs(detail);
    expect([seen.cut, seen.shows, seen.scale]).toEqual([cut, { only: false, of: ['Tower'] }, detail.scale]);
  });
  test('is dragged by its centre and its rim on the view that it is of, and stays where it is', () => {
    const scene = after(put(detail));
    const { handles, drag } = kindOf(detail);
    const at = (name: string) => handles!(detail, scene).find((h) => h.name === name)!.at;
    expect(at('outline-all')).toEqual(scene.map(front).toPaper([0, 30]));
    const [moved] = drag!(detail, [3, 2], scene, 'outline-all');
    const k = 1 / front.scale;
    expect(moved).toMatchObject({ record: { within: { at: [3 * k, 30 - 2 * k], radius: 12 }, at: detail.at, pivot: [3 * k, 30 - 2 * k] } });
    const [larger] = drag!(detail, [4, 4], scene, 'outline-rim');
    const rim = 12 * Math.SQRT1_2 + 4 * k;
    expect((larger as { record: ViewRecord }).record.within).toMatchObject({ kind: 'circle', radius: expect.closeTo(Math.hypot(rim, rim), 9) as number });
  });
  test('goes where the component goes that it is around, as in a newer model or another spread; what it shows stays in its place', () => {
    const moved = kindOf(detail).follow!(
      detail,
      shifted(
        (id, path) => (id === 'view:detail' && path === 'Post' ? [7, 3] : undefined),
        () => 1,
      ),
    );
    expect(moved).toMatchObject({ within: { kind: 'circle', at: [7, 33], radius: 12 }, pivot: [7, 33], at: detail.at });
    expect(
      kindOf(detail).follow!(
        detail,
        shifted(
          (_, path) => (path === 'Plate' ? [7, 3] : undefined),
          () => 1,
        ),
      ),
    ).toBe(detail);
  });
  test('of a model ten times as large encloses the same, as large on paper', () => {
    const { document } = after(put(detail));
    const r = applySteps(document, rescaleDrawing(document, 10));
    expect(r.ok && r.document['view:detail']).toMatchObject({ within: { at: [0, 300], radius: 120 }, pivot: [0, 300], at: detail.at });
    expect(r.ok && (r.document['view:detail'] as ViewRecord).scale).toBeCloseTo(detail.scale / 10, 9);
  });
  test('of a section turns round with it', () => {
    const section = drawn.document['view:section'] as ViewRecord;
    const of = newDetail(drawn.scene, section, { kind: 'circle', at: [10, 30], radius: 8 }, 'view:detail').record;
    const scene = after(put(of));
    const { steps } = turnRound(scene, section);
    const r = applySteps(scene.document, steps);
    expect(r.ok && r.document['view:detail']).toMatchObject({ within: { at: [10, -30], radius: 8 }, pivot: [10, -30] });
  });
  test('stays with its look when its view is removed; goes when all that was projected goes', () => {
    const scene = after(put({ ...front, hidden: true, faint: ['Cap'] }), put(detail));
    const r = applySteps(scene.document, removed(scene, ['view:front']));
    expect(r.ok && r.document['view:detail']).toMatchObject({ detail: { of: null, letter: 'B' }, faint: ['Cap'], toward: front.toward });
    expect(withProjected(scene, 'view:front').sort()).toEqual(['view:detail', 'view:front', 'view:right', 'view:section', 'view:top']);
  });
  test('copied, it is one more of the same view, with a letter of its own', () => {
    const scene = after(put(detail));
    const [copy] = copiesOf(scene, [detail], { sheet: 'sheet:1', by: [10, 10], freshId: (b) => `${b}~1` });
    expect(copy).toMatchObject({ detail: { of: 'view:front', letter: 'C' }, name: 'Detail C' });
  });
});
describe('an interrupted view', () => {
  const gap = { axis: 'x', from: -20, to: 20 } as const;
  const interrupted: ViewRecord = { ...front, gaps: [gap], gapMm: 5 };
  const lines = (breaks: ViewRecord['breaks']) => {
    const scene = after(put(breaks ? { ...interrupted, breaks } : interrupted));
    const view = scene.one('view', 'view:front')!;
    return drawGaps(view, scene.result('view:front')!, scene.map(view), scene.page('sheet:1').style).map((i) =>
      i.kind === 'stroke' ? pointsOfPath(i.d).flat() : [],
    );
  };
  test('is shorter on paper, and its pieces stand as far apart as asked', () => {
    const [whole, now] = [after(), after(put(interrupted))].map((s) => composeSheet(s, 'sheet:1').groups.find((g) => g.id === 'view:front')!.box[2]);
    expect(now).toBeCloseTo(whole! - 40 * front.scale + 5, 6);
  });
  test('has two break lines, as high as what is broken off there', () => {
    const scene = after(put(interrupted));
    const map = scene.map(interrupted);
    const drawnLines = lines(undefined);
    expect(drawnLines).toHaveLength(2);
    // The plate of 8 mm below and the blocks beside it: at x = ±20 only the plate is met, and the tower stands within ±10.
    const heights = drawnLines.map((p) => [Math.min(...p.map((q) => q[1]!)), Math.max(...p.map((q) => q[1]!))]);
    for (const [top, foot] of heights) {
      expect(top).toBeCloseTo(map.y(8), 3);
      expect(foot).toBeCloseTo(map.y(0), 3);
    }
    // A free-hand line: it ends at its border and bulges off it by no more than a millimetre (ISO 128-2, 01.1).
    for (const p of drawnLines) for (const q of p) expect(Math.min(Math.abs(q[0]! - map.x(-20)), Math.abs(q[0]! - map.x(20)))).toBeLessThanOrEqual(1);
  });
  test('zigzags run straight past both ends', () => {
    const scene = after(put(interrupted));
    const [first] = lines('zigzag');
    expect(first![0]).toEqual([expect.closeTo(scene.map(interrupted).x(-20), 3), expect.closeTo(scene.map(interrupted).y(0) + 3, 3)]);
    expect(first!.length).toBeGreaterThan(5);
  });
  test('its gaps are dragged by their borders and never close', () => {
    const scene = after(put(interrupted));
    const drag = (name: string, by: readonly [number, number]) =>
      (kindOf(interrupted).drag!(interrupted, by, scene, name)[0] as { record: ViewRecord }).record.gaps![0]!;
    expect(drag('gap-0-to', [10, 0])).toEqual({ ...gap, to: 20 + 10 / front.scale });
    expect(drag('gap-0-from', [500, 0]).from).toBeLessThan(20);
  });
  test('is suggested where nothing but straight lines along it run, with a margin at both ends', () => {
    const found = suggestGap(
      {
        ...drawn.results.get('view:front')!,
        box: [0, 0, 100, 10],
        lines: {
          xy: Float64Array.of(0, 0, 100, 0, 0, 10, 100, 10, 0, 0, 0, 10, 20, 0, 20, 10, 100, 0, 100, 10),
          start: Uint32Array.of(0, 2, 4, 6, 8, 10),
          kind: new Uint8Array(5),
          component: new Uint32Array(5),
          edge: new Int32Array(5),
          arc: new Float64Array(35),
        },
      },
      'x',
    );
    expect(found!.from).toBeCloseTo(20 + 0.12 * 80, 9);
    expect(found!.to).toBeCloseTo(100 - 0.12 * 80, 9);
    // The small machine has something everywhere.
    expect(suggestGap(drawn.results.get('view:right')!, 'y')).toBeUndefined();
  });
});

describe('half of a symmetric view', () => {
  // ISO 128-3: the axis carries two short parallel lines across it at each end.
  test('ends at its axis, which carries the signs of symmetry', () => {
    const half = halved(front, drawn.results.get('view:front')!, 'right');
    const scene = after(put(half));
    const [x0, , x1] = scene.result('view:front')!.box;
    expect([x0, x1]).toEqual([0, 60]);
    const group = composeSheet(scene, 'sheet:1').groups.find((g) => g.id === 'view:front')!;
    const map = scene.map(half);
    const across = group.items
      .flatMap((i) => (i.kind === 'stroke' && !i.source ? [pointsOfPath(i.d).flat()] : []))
      .filter((p) => p.length === 2 && p.every((q) => Math.abs(Math.abs(q[0]! - map.x(0)) - 1.75) < 1e-3));
    expect(across).toHaveLength(4);
    // What stands under it stands clear of them.
    const label = composeSheet(after(put({ ...half, label: true })), 'sheet:1')
      .groups.find((g) => g.id === 'view:front')!
      .items.find((i) => i.kind === 'text' && i.text.startsWith('Front'));
    const lowest = Math.max(...across.flatMap((p) => p.map((q) => q[1]!)));
    expect(label?.kind === 'text' && label.y - label.height).toBeGreaterThan(lowest);
  });
});

describe('views placed elsewhere', () => {
  test('a neighbour moved to another sheet leaves an arrow with a letter and the number of its sheet on its parent (ISO 128-3)', () => {
    const scene = after(...movedToSheet(drawn.scene, ['view:right'], 'sheet:3'));
    const right = scene.one('view', 'view:right')!;
    expect(right).toMatchObject({ sheet: 'sheet:3', align: null, parent: 'view:front', arrow: 'B' });
    expect(texts(scene, 'view:front')).toEqual(['B', 'sheet 2']);
    // First angle or third: one looks from the right, so the arrow stands at the right and points left.
    const { box, items } = composeSheet(scene, 'sheet:1').groups.find((g) => g.id === 'view:front')!;
    const letter = items.find((i) => i.kind === 'text' && i.text === 'B');
    expect(letter?.kind === 'text' && letter.x).toBeGreaterThan(box[0] + box[2]);
  });
  test('a hidden view is not drawn, nor what belongs to it; its neighbours stay', () => {
    const scene = after(put({ ...front, off: true }), {
      op: 'put',
      record: { type: 'balloon', id: 'b', view: 'view:front', component: 'Plate', anchor: [0, 0], offset: [30, 30], end: 'arrow' },
    });
    const ids = composeSheet(scene, 'sheet:1').groups.map((g) => g.id);
    expect(ids).toContain('view:top');
    expect(ids).not.toContain('view:front');
    expect(ids).not.toContain('b');
  });
});
