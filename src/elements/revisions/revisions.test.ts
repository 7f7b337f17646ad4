import { describe, expect, test } from 'vitest';
import { overlaps, rectOf } from '../../core/base/rect.ts';
import type { DrawingDocument, DrawingDocumentRecord } from '../../core/document/records.ts';
import { applySteps } from '../../core/document/steps.ts';
import { inkOf, segmentsOf } from '../../core/picture/ink.ts';
import { findingsOf } from '../../core/proof/findings.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { boxOfCloud, cloudKind, type CloudRecord } from '../cloud/kind.ts';
import { composeSheet } from '../compose.ts';
import { Scene } from '../scene.ts';
import { sceneWith } from '../testing/scene-with.ts';
import { issueSteps, nextRevision, placedTable } from './issue.ts';
import { revisionsKind, type RevisionsRecord } from './kind.ts';

const drawn = await draftAll(smallMachine());
const { scene } = drawn;
const said = { revision: 'A', date: '2026-01-31', drawn: 'A. Drafter', checked: 'B', approved: 'C', words: ['First issue', 'and more'] };
const issued = (from: Scene, words: typeof said, order: number): Scene => {
  const r = applySteps(from.document, issueSteps(from, words, order));
  if (!r.ok) throw new Error(r.reason);
  return new Scene({ ...drawn, document: r.document as DrawingDocument });
};
const rows = (s: Scene, record: RevisionsRecord) => revisionsKind.draw(record, s)[0]!.items.flatMap((i) => (i.kind === 'text' ? [[i.text, i.y] as const] : []));

// Letters that are left out: ASME Y14.35, from memory.
test.each([
  [undefined, 'A'],
  ['A', 'B'],
  ['H', 'J'],
  ['N', 'P'],
  ['P', 'R'],
  ['Y', 'AA'],
  ['AA', 'AB'],
  ['AY', 'BA'],
  ['1', '2'],
  ['9', '10'],
  ['01', '02'],
  ['P3', 'P4'],
])('after %s comes %s', (last, next) => {
  expect(nextRevision(last)).toBe(next);
});

describe('an issue', () => {
  const first = issued(scene, said, 1);
  test('brings the title block up to date, gives the table a row, and puts the table where it stands on nothing', () => {
    expect(first.drawing).toMatchObject({ revision: 'A', date: '2026-01-31', drawnBy: 'A. Drafter', checkedBy: 'B', approvedBy: 'C' });
    expect(first.all('revision')).toMatchObject([{ letter: 'A', text: 'First issue; and more', by: 'A. Drafter', order: 1 }]);
    const [table] = first.all('revisions');
    const { groups } = composeSheet(first, table!.sheet);
    const own = groups.find((g) => g.id === table!.id)!;
    for (const g of groups) if (g.role !== 'frame' && g !== own) expect([g.id, overlaps(g.ink, own.ink, -0.3)]).toEqual([g.id, false]);
    expect(findingsOf(first).filter((f) => f.about.includes(table!.id))).toEqual([]);
  });
  test('the next one adds a row and keeps the table; clouds of the one before go', () => {
    const cloud: CloudRecord = { type: 'cloud', id: 'cloud:1', sheet: first.sheets[0]!.id, at: [40, 40], to: [60, 55], revision: 'A' };
    const second = issued(new Scene({ ...drawn, document: { ...first.document, 'cloud:1': cloud } }), { ...said, revision: 'B', words: ['Ring larger'] }, 2);
    expect(second.all('revisions')).toHaveLength(1);
    expect(second.all('revision').map((r) => r.letter)).toEqual(['A', 'B']);
    expect(second.all('cloud')).toEqual([]);
    // The same letter again says what it says now: it has one row.
    expect(
      issued(second, { ...said, revision: 'B', words: ['Ring and cap larger'] }, 3)
        .all('revision')
        .map((r) => r.text),
    ).toEqual(['First issue; and more', 'Ring and cap larger']);
  });
  test('beside the title block the latest is on top and the head at the foot; free, it reads downward', () => {
    const second = issued(first, { ...said, revision: 'B', words: ['Ring larger'] }, 2);
    const docked: RevisionsRecord = { type: 'revisions', id: 'revisions:9', sheet: second.sheets[0]!.id };
    const at = (record: RevisionsRecord, word: string) => rows(second, record).find(([t]) => t === word)![1];
    expect([at(docked, 'B') < at(docked, 'A'), at(docked, 'A') < at(docked, 'Rev')]).toEqual([true, true]);
    const free = { ...docked, at: [40, 40] as const };
    expect([at(free, 'Rev') < at(free, 'A'), at(free, 'A') < at(free, 'B')]).toEqual([true, true]);
    // Every text stands inside the table.
    for (const r of [docked, free]) {
      const [d] = revisionsKind.draw(r, second);
      const box = rectOf(d!.box);
      for (const i of inkOf(d!.items))
        expect([i.x >= box.x - 0.01, i.x + i.width <= box.x + box.width + 0.01, i.y >= box.y - 0.01, i.y + i.height <= box.y + box.height + 0.01]).toEqual([
          true,
          true,
          true,
          true,
        ]);
    }
  });
  test('with a row more it reaches into something: it goes where it has room, and stays as it is where it reaches nothing', () => {
    const [table] = first.all('revisions');
    const [own] = revisionsKind.draw(table!, first);
    const [x, y, width] = own!.box;
    const second = (note: DrawingDocumentRecord | undefined) =>
      issued(note ? new Scene({ ...drawn, document: { ...first.document, [note.id]: note } }) : first, { ...said, revision: 'B', words: ['Ring larger'] }, 2);
    expect(second(undefined).all('revisions')).toEqual([table]);
    // Words right over the table, where the next row comes.
    const inWay: DrawingDocumentRecord = { type: 'note', id: 'note:1', view: null, sheet: table!.sheet, at: [x + width / 2, y - 2], text: 'Grease' };
    const after = second(inWay);
    const [moved] = after.all('revisions');
    expect(moved!.id).toBe(table!.id);
    expect(moved).not.toEqual(table);
    expect(findingsOf(after).filter((f) => f.code === 'OVERLAP' && f.about.includes(table!.id))).toEqual([]);
  });
  test('its words are changed where they stand; dragged, it stands free', () => {
    const [table] = first.all('revisions');
    const [text] = revisionsKind.texts!(table!, first);
    expect(text!.value).toBe('First issue; and more');
    expect(text!.write('Issued', '')).toMatchObject([{ record: { type: 'revision', text: 'Issued' } }]);
    const box = revisionsKind.draw(table!, first)[0]!.box;
    expect(revisionsKind.drag!(table!, [5, -7], first)).toMatchObject([{ record: { at: [box[0] + 5, box[1] - 7] } }]);
  });
  test('where no sheet has room there is no table rather than one over something', () => {
    const full = scene.sheets.map((s): DrawingDocumentRecord => {
      const { frame } = scene.page(s.id).geometry;
      return {
        type: 'table',
        id: `table:${s.id}`,
        sheet: s.id,
        at: [frame.x, frame.y],
        widths: [frame.width / 2, frame.width / 2],
        rows: Array.from({ length: 60 }, () => ['x', 'y']),
        heightMm: 5,
      };
    });
    expect(placedTable(sceneWith(drawn, ...full))).toBeUndefined();
  });
});

describe('a revision cloud', () => {
  const cloud: CloudRecord = { type: 'cloud', id: 'cloud:1', sheet: scene.sheets[0]!.id, at: [60, 80], to: [100, 110], revision: 'B' };
  const draw = (s: Scene) => cloudKind.draw(cloud, s)[0]!;
  test('goes around what it stands for, with its letter in a flag; its inside is left free', () => {
    const [line] = draw(scene).items.filter((i) => i.kind === 'stroke');
    if (line?.kind !== 'stroke') throw new Error('no line');
    const box = boxOfCloud(cloud);
    // Scallops end on its border, bulge outward, and close.
    const ends = segmentsOf(line.d);
    for (const [, , x, y] of ends)
      expect([x, y].some((v) => [box.x, box.x + box.width, box.y, box.y + box.height].some((e) => Math.abs(v - e) < 0.01))).toBe(true);
    expect([ends.at(-1)![2], ends.at(-1)![3]]).toEqual([box.x, box.y]);
    expect(draw(scene).items.flatMap((i) => (i.kind === 'text' ? [i.text] : []))).toEqual(['B']);
    expect(draw(scene).solid.rects).toEqual([]);
  });
  test('all of them are switched off for a drawing that has to be clean', () => {
    expect(draw(sceneWith(drawn, { ...scene.drawing, cloudsOff: true })).items).toEqual([]);
  });
  test('its corners and itself are dragged', () => {
    expect(cloudKind.drag!(cloud, [5, 5], scene, 'to')).toMatchObject([{ record: { at: [60, 80], to: [105, 115] } }]);
    expect(cloudKind.drag!(cloud, [5, 5], scene)).toMatchObject([{ record: { at: [65, 85], to: [105, 115] } }]);
  });
});
