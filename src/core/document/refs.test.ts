import { describe, expect, test } from 'vitest';
import { viewRecord } from '../testing/records.ts';
import { BLANK_DRAWING, type DrawingDocument, type DrawingDocumentRecord, type SpreadRecord } from './records.ts';
import { brokenReference, followed, referencesOf } from './refs.ts';
import { SCHEMAS } from './schemas.ts';

const view = viewRecord({
  id: 'v',
  parent: 'p',
  align: 'level',
  spread: 's',
  cut: { normal: [0, -1, 0], d: 0, letter: 'A', keptWhole: ['Bolt', 'Nut'], shownIn: 'q' },
});
const spread: SpreadRecord = {
  type: 'spread',
  id: 's',
  name: 'S',
  pulls: [
    { components: ['A', 'B', 'C'], ranks: [1, 2, 3], direction: [0, 0, 1], distanceMm: 10 },
    { components: ['D'], direction: [0, 0, 1], distanceMm: 10 },
  ],
  together: [
    ['A', 'B'],
    ['C', 'D', 'E'],
  ],
  linesOff: ['B', 'E'],
};
const balloon: DrawingDocumentRecord = { type: 'balloon', id: 'b', view: 'v', component: 'Bolt', anchor: [0, 0], offset: [0, 0], end: 'arrow' };
const without = (...gone: readonly string[]) => ({
  record: (id: string) => (gone.includes(id) ? undefined : id),
  path: (p: string) => (gone.includes(p) ? undefined : p),
});

describe('what records point at', () => {
  test('is read from their schemas', () => {
    expect(referencesOf(view).map((h) => [h.reference.to, h.reference.whenGone, h.value])).toEqual([
      ['record', 'dropWith', 'sheet:1'],
      ['record', 'clear', 'p'],
      ['path', 'leaveOut', 'Bolt'],
      ['path', 'leaveOut', 'Nut'],
      ['record', 'clear', 'q'],
      ['record', 'clear', 's'],
    ]);
    expect(referencesOf(balloon).map((h) => h.value)).toEqual(['v', 'Bolt']);
    expect(referencesOf({ ...BLANK_DRAWING })).toEqual([]);
  });
  test('is declared for every field of a record that names a view, a sheet or a spread', () => {
    // A field by such a name without a declaration would be forgotten when its target goes.
    for (const [type, schema] of SCHEMAS) {
      const shape = (schema as unknown as { _zod: { def: { innerType: { shape: Record<string, unknown> } } } })._zod.def.innerType.shape;
      const sample = { ...viewRecord(), ...balloon, type, id: 'x', sheet: 'sheet:1', view: 'v', spread: 's' } as DrawingDocumentRecord;
      const named = Object.keys(shape).filter((k) => ['sheet', 'view', 'spread'].includes(k));
      const held = referencesOf(sample)
        .filter((h) => h.reference.to === 'record')
        .map((h) => h.value);
      for (const k of named) expect([type, k, held.includes((sample as unknown as Record<string, string>)[k]!)]).toEqual([type, k, true]);
    }
  });
});

describe('following them', () => {
  test('nothing changes: the same object', () => {
    for (const r of [view, spread, balloon]) expect(followed(r, {}).record).toBe(r);
  });
  test('a record goes with what it stands on', () => {
    expect(followed(view, without('sheet:1')).record).toBeUndefined();
    expect(followed(balloon, without('v')).record).toBeUndefined();
  });
  test('a field is cleared, and those that hang on it', () => {
    expect(followed(view, without('p')).record).toEqual({ ...view, parent: null, align: null });
    expect(followed(view, without('q')).record).toEqual({ ...view, cut: { ...view.cut!, shownIn: null } });
    expect(followed(view, without('s')).record).toEqual({ ...view, spread: null });
  });
  test('lists shrink, with what runs beside them; what moves nothing, and sets of one, go', () => {
    expect(followed(spread, without('B')).record).toEqual({
      ...spread,
      pulls: [{ ...spread.pulls[0]!, components: ['A', 'C'], ranks: [1, 3] }, spread.pulls[1]],
      together: [['C', 'D', 'E']],
      linesOff: ['E'],
    });
    expect(followed(spread, without('D')).record!.pulls).toEqual([spread.pulls[0]]);
    expect(followed(view, without('Bolt')).record!.cut!.keptWhole).toEqual(['Nut']);
  });
  test('a balloon stays stale; renamed it follows', () => {
    expect(followed(balloon, without('Bolt'))).toEqual({ record: balloon, stale: ['Bolt'] });
    expect(followed(balloon, { path: (p) => `new ${p}` }).record).toEqual({ ...balloon, component: 'new Bolt' });
  });
  test('an edge that is gone is lost, or left out of its list; a lost one stays as it is', () => {
    const edge = { component: 'Cap', geometry: 'k', edge: 3 };
    const mark: DrawingDocumentRecord = { type: 'centre', id: 'c', view: 'v', circle: edge, off: [edge, { ...edge, edge: 4 }] };
    const gone = followed(mark, { edge: (e) => (e.edge === 3 ? undefined : { ...e, edge: 9 }) });
    expect(gone).toEqual({ record: { ...mark, circle: { ...edge, lost: true }, off: [{ ...edge, edge: 9 }] }, stale: ['Cap'] });
    const again = followed(gone.record!, { edge: () => undefined });
    expect(again.record).toMatchObject({ circle: { lost: true }, off: [] });
  });
});

test('references to what is not there, or is something else, are told by name', () => {
  const sheet: DrawingDocumentRecord = { type: 'sheet', id: 'sheet:1', order: 1, name: '', size: 'A3', landscape: true };
  const plain = viewRecord({ id: 'v' });
  const doc = (...records: readonly DrawingDocumentRecord[]): DrawingDocument => Object.fromEntries(records.map((r) => [r.id, r]));
  expect(brokenReference(doc(sheet, plain, balloon))).toBeUndefined();
  expect(brokenReference(doc(plain))).toBe('“v” would be on no sheet');
  expect(brokenReference(doc(sheet, balloon))).toBe('“b” would belong to no view');
  expect(brokenReference(doc(sheet, { ...plain, parent: 'sheet:1' }))).toBe('“v” would point at no view');
  // Own keys only: every object has a constructor.
  expect(brokenReference(doc(sheet, { ...plain, spread: 'constructor' }))).toBe('“v” would point at no spread');
  expect(brokenReference(doc(sheet, { ...plain, spread: 'none' }, balloon), [balloon])).toBeUndefined();
});
