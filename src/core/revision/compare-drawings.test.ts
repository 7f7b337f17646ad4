import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { contains, overlaps } from '../base/rect.ts';
import type { DrawingDocument, DrawingDocumentRecord } from '../document/records.ts';
import { composeSheet } from '../../elements/compose.ts';
import { Scene } from '../../elements/scene.ts';
import { draftAll, smallMachine } from '../testing/drafting.ts';
import { changeWords, compareDrawings, compareTables, placesOf } from './compare-drawings.ts';

const drawn = await draftAll(smallMachine(), { bare: true });
const pictured = (document: DrawingDocument) => {
  const scene = new Scene({ ...drawn, document });
  return scene.sheets.map((s) => ({ id: s.id, name: s.name, picture: composeSheet(scene, s.id) }));
};
const before = pictured(drawn.document);
const withRecord = (...records: readonly DrawingDocumentRecord[]) => pictured({ ...drawn.document, ...Object.fromEntries(records.map((r) => [r.id, r])) });
const without = (...ids: readonly string[]) => pictured(Object.fromEntries(Object.entries(drawn.document).filter(([id]) => !ids.includes(id))));
const [balloon] = drawn.scene.all('balloon');
const view = drawn.scene.one('view', balloon!.view)!;
const changesOf = (after: ReturnType<typeof pictured>) => compareDrawings(before, after).flatMap((d) => d.changes.map((c) => `${c.kind} ${c.id}`));

describe('two states of a drawing', () => {
  test('that are the same have no change, and nothing is in two inks', () => {
    for (const d of compareDrawings(before, pictured(drawn.document))) expect([d.kind, d.changes, d.gone, d.come]).toEqual(['same', [], [], []]);
  });
  test('what moved, came and went is told apart', () => {
    expect(changesOf(withRecord({ ...balloon!, offset: [balloon!.offset[0] + 9, balloon!.offset[1]] }))).toEqual([`moved ${balloon!.id}`]);
    expect(changesOf(without(balloon!.id))).toEqual([`removed ${balloon!.id}`]);
    const note: DrawingDocumentRecord = { type: 'note', id: 'note:1', sheet: view.sheet, view: null, at: [40, 40], text: 'Grease' };
    expect(changesOf(withRecord(note))).toEqual(['added note:1']);
    const list = drawn.scene.all('list')[0]!;
    expect(changesOf(withRecord({ ...list, at: [30, 30] }))).toContain(`moved ${list.id}`);
  });
  test('a moved text is moved, not another one', () => {
    const note: DrawingDocumentRecord = { type: 'note', id: 'note:1', sheet: view.sheet, view: null, at: [40, 40], text: 'Grease' };
    const [old, now] = [withRecord(note), withRecord({ ...note, at: [52, 44] })];
    expect(compareDrawings(old, now).flatMap((d) => d.changes.map((c) => c.kind))).toEqual(['moved']);
  });
  test('sheets that came and went', () => {
    const sheet: DrawingDocumentRecord = { type: 'sheet', id: 'sheet:new', order: 99, name: 'New', size: 'A4', landscape: true };
    expect(compareDrawings(before, withRecord(sheet)).map((d) => d.kind)).toContain('added');
    expect(compareDrawings(withRecord(sheet), before).map((d) => d.kind)).toContain('removed');
  });
  test('what stays is in one ink with what comes it makes the sheet as it is, with what went the sheet as it was', () => {
    const after = withRecord({ ...balloon!, offset: [balloon!.offset[0] + 9, balloon!.offset[1]] });
    const found = compareDrawings(before, after);
    found.forEach((d, i) => {
      const ink = (items: readonly { readonly kind: string }[]) => items.length;
      const whole = (s: (typeof after)[number]) => s.picture.groups.reduce((n, g) => n + g.items.length, 0);
      expect(ink(d.same) + ink(d.come)).toBeGreaterThanOrEqual(whole(after[i]!));
      expect(ink(d.gone)).toBe(d.kind === 'same' ? 0 : ink(d.gone));
    });
    // The place of the change is where the balloon is now.
    const change = found.flatMap((d) => d.changes)[0]!;
    const at: readonly [number, number] = [view.at[0] + balloon!.offset[0] + 9, view.at[1] + balloon!.offset[1]];
    expect(change.boxes.some((b) => contains(b, at))).toBe(true);
  });
});

test('places that are near each other are one; no two that are left are near', () => {
  const rect = fc.record({
    x: fc.integer({ min: 0, max: 300 }),
    y: fc.integer({ min: 0, max: 200 }),
    width: fc.integer({ min: 0, max: 30 }),
    height: fc.integer({ min: 0, max: 30 }),
  });
  fc.assert(
    fc.property(fc.array(rect, { maxLength: 30 }), (boxes) => {
      const places = placesOf(boxes);
      for (const b of boxes)
        expect(places.some((p) => p.x <= b.x && p.y <= b.y && p.x + p.width >= b.x + b.width && p.y + p.height >= b.y + b.height)).toBe(true);
      places.forEach((p, i) => places.slice(i + 1).forEach((q) => expect(overlaps(p, q, 0)).toBe(false)));
    }),
    { numRuns: 100, seed: 4 },
  );
});

describe('tables', () => {
  const old = [
    ['Item', 'What'],
    ['1', 'Plate'],
    ['2', 'Bolt'],
    ['3', 'Nut'],
  ];
  const now = [
    ['Item', 'What'],
    ['1', 'Plate'],
    ['2', 'Bolt M8'],
    ['4', 'Pin'],
  ];
  test('rows that came, went and changed', () => {
    const rows = compareTables(old, now, (r) => r[0]!);
    expect(rows).toEqual([
      { kind: 'changed', row: ['2', 'Bolt M8'], before: ['2', 'Bolt'] },
      { kind: 'added', row: ['4', 'Pin'] },
      { kind: 'removed', row: ['3', 'Nut'] },
    ]);
    expect(changeWords([], rows, 1)).toEqual(['Pin added', 'Nut removed', 'Bolt M8 changed in the list']);
  });
  test('many are counted', () => {
    const many = Array.from({ length: 5 }, (_, i) => ({ kind: 'added' as const, row: [String(i), `Part ${i}`] }));
    expect(changeWords([], many, 1)).toEqual(['5 items added']);
  });
});
