import { describe, expect, test } from 'vitest';
import { viewRecord } from '../testing/records.ts';
import { changesBetween, changesOnto } from './between.ts';
import { BLANK_DRAWING, type DrawingDocument, type SheetRecord } from './records.ts';
import { applySteps } from './steps.ts';

const sheet = (id: string, name = 'GA'): SheetRecord => ({ type: 'sheet', id, order: 1, name, size: 'A3', landscape: true });
const docOf = (...records: DrawingDocument[string][]): DrawingDocument => Object.fromEntries([BLANK_DRAWING, ...records].map((r) => [r.id, r]));
const view = viewRecord({ id: 'view:front', sheet: 'sheet:1', scale: 1 });
const late = viewRecord({ id: 'view:late', sheet: 'sheet:1', scale: 1 });
const applied = (present: DrawingDocument, before: DrawingDocument, after: DrawingDocument) => {
  const result = applySteps(present, changesOnto(present, before, after));
  if (!result.ok) throw new Error(result.reason);
  return result.document;
};

describe('the steps between two documents', () => {
  test('make the one of the other, whatever the order of keys', () => {
    const before = docOf(sheet('sheet:1'), view);
    const turned = Object.fromEntries(Object.entries(view).reverse()) as unknown as typeof view;
    const after = docOf(sheet('sheet:1', 'Other'), turned, late);
    const steps = changesBetween(before, after);
    expect(steps).toHaveLength(2);
    expect(applySteps(before, steps)).toMatchObject({ ok: true, document: { 'sheet:1': { name: 'Other' }, 'view:late': {} } });
    expect(changesBetween(after, before)).toContainEqual({ op: 'drop', id: 'view:late' });
  });
});

describe('what was made while somebody else worked', () => {
  const before = docOf(sheet('sheet:1'), view);
  const after = docOf(sheet('sheet:1', 'Renamed by the program'), sheet('sheet:2'), view, late);

  test('is added, and changes what nobody touched', () => {
    expect(applied(before, before, after)).toEqual(after);
  });

  test('leaves what was changed or taken away meanwhile', () => {
    const present = docOf(sheet('sheet:1', 'Mine'), { ...view, scale: 0.5 });
    expect(applied(present, before, after)).toMatchObject({ 'sheet:1': { name: 'Mine' }, 'view:front': { scale: 0.5 }, 'view:late': {}, 'sheet:2': {} });
    const emptied = applied(docOf(sheet('sheet:9')), before, after);
    expect(Object.keys(emptied).sort()).toEqual(['drawing', 'sheet:2', 'sheet:9']);
  });

  test('does not take away what something was hung on meanwhile', () => {
    const child = viewRecord({ id: 'view:child', sheet: 'sheet:1', scale: 1, parent: 'view:front', align: 'upright' });
    const gone = docOf(sheet('sheet:1'));
    expect(applied(docOf(sheet('sheet:1'), view, child), before, gone)['view:front']).toEqual(view);
    expect(applied(before, before, gone)['view:front']).toBeUndefined();
  });
});
