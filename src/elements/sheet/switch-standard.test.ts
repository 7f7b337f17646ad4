import { describe, expect, test } from 'vitest';
import { recordsOf, type DrawingDocument, type ViewRecord } from '../../core/document/records.ts';
import { applySteps } from '../../core/document/steps.ts';
import { findingsOf } from '../../core/proof/findings.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { overlaps, rectOf } from '../../core/base/rect.ts';
import { composeSheet } from '../compose.ts';
import { viewRect } from '../view/draw.ts';
import type { NoteRecord } from '../note/words.ts';
import { sceneWith } from '../testing/scene-with.ts';
import { sizeIn, switchStandard, whatSwitches } from './switch-standard.ts';

const drawn = await draftAll(smallMachine());
/** Near the lower edge of an A3: a B sheet is 18 mm lower. */
const note: NoteRecord = { type: 'note', id: 'note:low', view: null, sheet: 'sheet:1', at: [24, 280], text: 'Lowest line' };
const scene = sceneWith(drawn, note);
const done = (steps: Parameters<typeof applySteps>[1], from: DrawingDocument): DrawingDocument => {
  const r = applySteps(from, steps);
  if (!r.ok) throw new Error(r.reason);
  return r.document;
};
const WRONG = new Set(['PROJECTION', 'OUT_OF_LINE', 'OUTSIDE_FRAME', 'OVERLAP']);
const wrong = (document: DrawingDocument) => findingsOf(scene.with(document)).filter((f) => WRONG.has(f.code));

// ISO 5457 and ASME Y14.1: which sheet is taken for which is common practice.
test.each([
  ['asme', 'A3', 'B'],
  ['asme', 'A0', 'E'],
  ['iso', 'C', 'A2'],
  ['iso', 'A', 'A4'],
  ['iso', 'A3', 'A3'],
  ['asme', '600x400', '600x400'],
] as const)('in %s %s is %s', (standard, size, other) => expect(sizeIn(standard, size)).toBe(other));

describe('a drawing switched to ASME', () => {
  const { steps, says, crowded } = switchStandard(scene, 'asme');
  const now = done(steps, scene.document);
  test('is third angle on inch sheets, every sheet arranged: nothing lands on anything, nothing leaves the frame', () => {
    expect(crowded).toEqual([]);
    expect(recordsOf(now, 'sheet').map((s) => s.size)).toEqual(recordsOf(now, 'sheet').map(() => 'B'));
    expect(wrong(scene.document)).toEqual([]);
    expect(wrong(now)).toEqual([]);
    const [front, top] = ['view:front', 'view:top'].map((id) => now[id] as ViewRecord);
    expect(top!.at[1]).toBeLessThan(front!.at[1]);
    expect((scene.document['view:top'] as ViewRecord).at[1]).toBeGreaterThan((scene.document['view:front'] as ViewRecord).at[1]);
  });
  test('says what it changes: projection, units, title block, sizes', () => {
    expect(says).toEqual(whatSwitches(scene, 'asme'));
    expect(says.join(' ')).toMatch(/first angle → third angle; \d views in line.*millimetres → inches.*ISO 7200 → ASME Y14\.1.*A3 → B.*One undo/);
  });
  test('a note at the foot of the sheet comes inside its frame', () => {
    const low = now['note:low'] as NoteRecord;
    expect(low.at[1]).toBeLessThan(note.at[1]);
    const { frame } = scene.with(now).page('sheet:1').geometry;
    expect(low.at[1]).toBeLessThan(frame.y + frame.height - 2);
  });
  test('is taken back in one, and switched back it is first angle on A3', () => {
    const made = applySteps(scene.document, steps);
    if (!made.ok) throw new Error(made.reason);
    expect(done(made.inverse, now)).toEqual(scene.document);
    const back = done(switchStandard(scene.with(now), 'iso').steps, now);
    expect(wrong(back)).toEqual([]);
    expect(new Set(recordsOf(back, 'sheet').map((s) => s.size))).toEqual(new Set(['A3']));
    // Nothing shrinks by going there and back.
    const scales = (d: DrawingDocument) => recordsOf(d, 'view').map((v) => [v.id, v.scale]);
    expect(scales(back)).toEqual(scales(scene.document));
  });
  test('a unit that someone chose stays, and that is said; the standard it has changes nothing', () => {
    const metric = sceneWith(drawn, { ...scene.drawing, values: { unit: 'mm' } });
    expect(whatSwitches(metric, 'asme')).toContain('Dimensions stay in millimetres.');
    expect(switchStandard(scene, 'iso')).toEqual({ steps: [], says: [], crowded: [] });
  });
});

test('views are arranged clear of a revision table', () => {
  // It stands where the front view would go without it.
  const without = scene.with(done(switchStandard(scene, 'asme').steps, scene.document));
  const front = rectOf(viewRect(without.one('view', 'view:front')!, without.result('view:front')));
  const table = { type: 'revisions', id: 'revisions:1', sheet: 'sheet:1', at: [front.x, front.y] } as const;
  const row = (letter: string, order: number) =>
    ({ type: 'revision', id: `revision:${letter}`, letter, order, date: '2026-01-01', by: 'A. Drafter', text: 'Bracket moved' }) as const;
  const revised = sceneWith(drawn, table, row('A', 0), row('B', 1));
  const now = revised.with(done(switchStandard(revised, 'asme').steps, revised.document));
  const box = rectOf(composeSheet(now, 'sheet:1').groups.find((g) => g.role === 'revisions')!.box);
  for (const v of now.viewsOn('sheet:1')) expect([v.id, overlaps(rectOf(viewRect(v, now.result(v.id))), box)]).toEqual([v.id, false]);
});
