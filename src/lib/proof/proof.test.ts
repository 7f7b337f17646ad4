import { describe, expect, test } from 'vitest';
import type { DrawingDocumentRecord } from '$core/document/records';
import type { Item } from '$core/ledger/items';
import { areaText, heatRows, shade } from './heat-map';
import { markText, marksOf } from './marks';
import { changeBetween } from './proof-line';

const item = (number: number): Item => ({ number, part: `p${number}` }) as Item;
const cell = (n: number, view: string, visibleMm2: number, balloon = false) => ({ item: n, view, visibleMm2, share: 0.5, balloon });

describe('the heat map', () => {
  test('begins with what is seen nowhere, then what has no balloon, then goes by number', () => {
    const cells = [cell(1, 'a', 50, true), cell(2, 'a', 30), cell(3, 'a', 0.4), cell(4, 'b', 12, true)];
    expect(heatRows([1, 2, 3, 4].map(item), cells).map((r) => r.item.number)).toEqual([3, 2, 1, 4]);
    expect(heatRows([item(9)], [])).toMatchObject([{ most: 0, balloons: 0 }]);
  });
  test('is darker where more is seen, and never empty where something is', () => {
    expect([shade(0, 100), shade(100, 100)]).toEqual([0, 1]);
    const row = [0.01, 1, 10, 50, 100].map((v) => shade(v, 100));
    expect([...row].sort((a, b) => a - b)).toEqual(row);
    expect(row[0]).toBeGreaterThan(0.05);
  });
  test('writes areas as people read them', () => {
    expect([1234.4, 10.2, 9.96, 0.84, 0.01].map(areaText)).toEqual(['1234', '10', '10.0', '0.8', '0']);
  });
});

describe('what is told to the proof', () => {
  const record = (id: string) => ({ type: 'sheet', id }) as unknown as DrawingDocumentRecord;
  const [a, b] = [record('a'), record('b')];
  test('is what is other, and what is gone', () => {
    const b2 = record('b');
    expect(changeBetween({ a, b }, { a, b: b2 })).toEqual({ put: [b2], drop: [] });
    expect(changeBetween({ a, b }, { b })).toEqual({ put: [], drop: ['a'] });
    expect(changeBetween({}, { a })).toEqual({ put: [a], drop: [] });
  });
  test('is nothing when nothing is', () => {
    const doc = { a, b };
    expect(changeBetween(doc, doc)).toBeUndefined();
    expect(changeBetween(doc, { ...doc })).toBeUndefined();
  });
});

describe('where open findings are', () => {
  const finding = (code: string, severity: 'must' | 'should' | 'look', sheet: string | null, about: string[], items: number[], more = {}) => ({
    code: code as 'OVERLAP',
    severity,
    sheet,
    about,
    text: `${code} said`,
    items,
    ...more,
  });
  const document = {
    'view:1': { type: 'view', id: 'view:1' },
    'balloon:1': { type: 'balloon', id: 'balloon:1', view: 'view:1' },
    'note:1': { type: 'note', id: 'note:1', view: null },
  } as unknown as Parameters<typeof marksOf>[1];
  const marks = marksOf(
    {
      findings: [
        finding('OVERLAP', 'should', 'sheet:1', ['balloon:1', 'note:1'], [3]),
        finding('LEADERS_CROSS', 'must', 'sheet:1', ['balloon:1/a'], [3]),
        finding('LIST_GAP', 'should', null, ['part'], [4]),
        finding('LEADER_LONG', 'look', 'sheet:1', ['balloon:1'], [3]),
        finding('NOT_IDENTIFIED', 'must', null, ['part'], [5], { accepted: { reason: 'a note says it', when: '' } }),
      ],
      cells: [],
      open: 0,
    },
    document,
  );
  test('on sheets and in views: what must and should be put right, the worst said first', () => {
    expect(marks.sheets).toEqual(new Map([['sheet:1', { must: 1, should: 1, first: 'LEADERS_CROSS said' }]]));
    expect(marks.views).toEqual(new Map([['view:1', { must: 1, should: 1, first: 'LEADERS_CROSS said' }]]));
    expect(markText(marks.sheets.get('sheet:1')!)).toBe('1 must, 1 should: LEADERS_CROSS said');
  });
  test('of items: gaps stand in their rows already, and what was accepted is open no more', () => {
    expect([...marks.items.keys()]).toEqual([3]);
  });
});
