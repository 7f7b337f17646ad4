import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { viewRecord } from '../testing/records.ts';
import { changeStandard, resizeSheet, scaleView } from './moves.ts';
import { moveView, shiftsOf } from '../../elements/view/move.ts';
import { BLANK_DRAWING, recordsOf, type DrawingDocument, type DrawingDocumentRecord, type ViewRecord } from './records.ts';
import { nextLetter } from '../../elements/view/letters.ts';
import { applySteps, dropWithDependants, type Step } from './steps.ts';

const view = (id: string, sheet: string, at: readonly [number, number], more: Partial<ViewRecord> = {}): ViewRecord =>
  viewRecord({ id, sheet, name: id, at, ...more });
const records: readonly DrawingDocumentRecord[] = [
  { ...BLANK_DRAWING, title: 'T' },
  { type: 'sheet', id: 'sheet:1', order: 1, name: 'GA', size: 'A3', landscape: true },
  { type: 'sheet', id: 'sheet:2', order: 2, name: 'Section', size: 'A3', landscape: true },
  view('front', 'sheet:1', [200, 100]),
  view('top', 'sheet:1', [200, 180], { parent: 'front', align: 'upright' }),
  view('right', 'sheet:1', [90, 100], { parent: 'front', align: 'level' }),
  view('loose', 'sheet:1', [300, 60]),
  view('second', 'sheet:1', [330, 200]),
  view('its right', 'sheet:1', [260, 200], { parent: 'second', align: 'level' }),
  view('section', 'sheet:2', [200, 120], { parent: 'front' }),
  view('other', 'sheet:2', [100, 120]),
  view('beside', 'sheet:2', [100, 200], { parent: 'other', align: 'upright' }),
  { type: 'list', id: 'list:1', sheet: 'sheet:1', columns: [{ key: 'item', title: 'Item', widthMm: 10 }] },
  { type: 'balloon', id: 'b1', view: 'front', component: 'Bolt', anchor: [1, 2], offset: [30, -20], end: 'arrow' },
  { type: 'balloon', id: 'b2', view: 'top', component: 'Nut', anchor: [3, 4], offset: [-30, 20], end: 'dot' },
];
const inOrder = (list: readonly DrawingDocumentRecord[]): DrawingDocument => Object.fromEntries(list.map((r) => [r.id, r]));
const doc = inOrder(records);
const apply = (d: DrawingDocument, steps: readonly Step[]) => {
  const r = applySteps(d, steps);
  if (!r.ok) throw new Error(r.reason);
  return r;
};
const at = (d: DrawingDocument, id: string) => (d[id] as ViewRecord).at;
const undone = (d: DrawingDocument, steps: readonly Step[]) => {
  const r = apply(d, steps);
  return apply(r.document, r.inverse).document;
};

describe('dropping a sheet', () => {
  test('goes with all that stands on it, whatever the order of the records, and undo brings it back', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray([...records], { minLength: records.length }), (list) => {
        const shuffled = inOrder(list);
        const steps = dropWithDependants(shuffled, 'sheet:1');
        const { document } = apply(shuffled, steps);
        expect(Object.keys(document).sort()).toEqual(['beside', 'drawing', 'other', 'section', 'sheet:2']);
        // What hung on a view that is gone is free; what did not is as it was.
        expect(document['section']).toMatchObject({ parent: null, align: null });
        expect(document['beside']).toBe(shuffled['beside']);
        expect(undone(shuffled, steps)).toEqual(doc);
      }),
      { numRuns: 120, seed: 3 },
    );
  });
  test('a list alone', () => {
    expect(dropWithDependants(doc, 'list:1')).toEqual([{ op: 'drop', id: 'list:1' }]);
  });
});

describe('another standard', () => {
  // ISO 5456-2: first angle puts the view from above below the front and the view from the right to its left.
  const { document } = apply(doc, changeStandard(doc, 'asme'));
  const span = (d: DrawingDocument, ids: readonly string[], k: 0 | 1) => {
    const values = ids.map((id) => at(d, id)[k]);
    return (Math.min(...values) + Math.max(...values)) / 2;
  };
  test('mirrors each family about its parent and keeps the family’s middle where it was', () => {
    expect(at(document, 'top')[1]).toBeLessThan(at(document, 'front')[1]);
    expect(at(document, 'right')[0]).toBeGreaterThan(at(document, 'front')[0]);
    for (const k of [0, 1] as const) {
      expect(span(document, ['front', 'top', 'right', 'section'], k)).toBeCloseTo(span(doc, ['front', 'top', 'right'], k), 9);
      expect(span(document, ['other', 'beside'], k)).toBeCloseTo(span(doc, ['other', 'beside'], k), 9);
      // A second family on the same sheet.
      expect(span(document, ['second', 'its right'], k)).toBeCloseTo(span(doc, ['second', 'its right'], k), 9);
    }
    // As far from each other as before.
    expect(at(document, 'front')[0] - at(document, 'right')[0]).toBe(-110);
    expect(at(document, 'front')[1] - at(document, 'top')[1]).toBe(80);
  });
  test('leaves what is in no family, and there and back is where it was', () => {
    expect([at(document, 'loose'), at(document, 'section')]).toEqual([at(doc, 'loose'), at(doc, 'section')]);
    const back = apply(document, changeStandard(document, 'iso')).document;
    for (const v of recordsOf(doc, 'view')) at(back, v.id).forEach((x, k) => expect(x).toBeCloseTo(v.at[k]!, 9));
    expect(undone(doc, changeStandard(doc, 'asme'))).toEqual(doc);
  });
  test('the one it has changes nothing', () => {
    expect(changeStandard(doc, 'iso')).toEqual([]);
  });
});

describe('moving and scaling', () => {
  test('what one move shifts, and by how much', () => {
    expect([...shiftsOf(doc, 'front', 7, -3)]).toEqual([
      ['front', [7, -3]],
      ['top', [7, 0]],
      ['right', [0, -3]],
    ]);
    expect([...shiftsOf(doc, 'top', 7, -3)]).toEqual([['top', [0, -3]]]);
    expect(moveView(doc, 'sheet:1', 1, 1)).toEqual([]);
  });
  test('a family is scaled about its parent', () => {
    const { document } = apply(doc, scaleView(doc, 'front', 0.2));
    expect(['front', 'top', 'right', 'loose'].map((id) => [(document[id] as ViewRecord).scale, at(document, id)])).toEqual([
      [0.2, [200, 100]],
      [0.2, [200, 132]],
      [0.2, [156, 100]],
      [0.5, [300, 60]],
    ]);
    expect([document['b1'], document['b2']]).toMatchObject([
      { offset: [12, -8], anchor: [1, 2] },
      { offset: [-12, 8], anchor: [3, 4] },
    ]);
  });
  test('a sheet put upright keeps its views inside the frame in proportion', () => {
    const { document } = apply(doc, resizeSheet(doc, 'sheet:1', 'A2', false));
    expect(document['sheet:1']).toMatchObject({ size: 'A2', landscape: false });
    // A3 lying: frame 390 × 277 from (20, 10); A2 upright: 390 × 574 (ISO 5457).
    expect(at(document, 'front')).toEqual([20 + 180, 10 + (90 * 574) / 277]);
    expect((document['front'] as ViewRecord).scale).toBe(0.5);
    expect(at(document, 'section')).toEqual(at(doc, 'section'));
    expect(resizeSheet(doc, 'sheet:1', 'A9', true)).toEqual([]);
  });
});

describe('resizing a sheet', () => {
  test('balloons keep their proportion to the view’s scale', () => {
    const { document } = apply(doc, resizeSheet(doc, 'sheet:1', 'A4', true));
    // A4 lying has room for 1:5 where A3 had it for 1:2.
    expect(document['front']).toMatchObject({ scale: 0.2 });
    expect(document['b1']).toMatchObject({ offset: [12, -8], anchor: [1, 2] });
    expect(undone(doc, resizeSheet(doc, 'sheet:1', 'A4', true))).toEqual(doc);
  });
  test('nothing becomes larger than it was on its way back', () => {
    const small = apply(doc, resizeSheet(doc, 'sheet:1', 'A4', true)).document;
    const back = apply(small, resizeSheet(small, 'sheet:1', 'A3', true)).document;
    for (const v of recordsOf(back, 'view')) {
      expect(v.scale).toBeLessThanOrEqual((doc[v.id] as ViewRecord).scale);
      v.at.forEach((x, k) => expect(x).toBeCloseTo(at(doc, v.id)[k]!, 9));
    }
  });
});

describe('documents that hold together', () => {
  const refused = (steps: readonly Step[]) => {
    const r = applySteps(doc, steps);
    return r.ok ? 'fits' : r.reason;
  };
  test('what would hang in the air is refused with its name', () => {
    expect(refused([{ op: 'drop', id: 'sheet:2' }])).toMatch(/^“(section|other|beside)” would be on no sheet$/);
    expect(refused([{ op: 'put', record: { ...(doc['list:1'] as Extract<DrawingDocumentRecord, { type: 'list' }>), sheet: 'front' } }])).toBe(
      '“list:1” would be on no sheet',
    );
    expect(refused([{ op: 'put', record: view('front', 'sheet:1', [0, 0], { spread: 'none' }) }])).toBe('“front” would point at no spread');
    expect(refused([{ op: 'put', record: { ...BLANK_DRAWING, id: 'front' } as never }])).toBe('“front” is a view, not a drawing');
    expect(refused([{ op: 'drop', id: 'nothing' }])).toBe('“nothing” is not there any more');
    expect(refused([{ op: 'drop', id: 'toString' }])).toBe('“toString” is not there any more');
    expect(refused([{ op: 'drop', id: 'drawing' }])).toBe('the drawing itself cannot be removed');
  });
  test('order inside an edit does not matter, only the end', () => {
    expect(
      refused([
        { op: 'drop', id: 'front' },
        { op: 'drop', id: 'b1' },
        ...['top', 'right', 'section'].map((id): Step => ({ op: 'put', record: { ...(doc[id] as ViewRecord), parent: null, align: null } })),
      ]),
    ).toBe('fits');
  });
});

describe('letters of sections', () => {
  test('the next free one; those that are misread are left out; then twice', () => {
    expect(nextLetter(new Set())).toBe('A');
    expect(nextLetter(new Set(['A', 'B', 'D']))).toBe('C');
    const all = new Set<string>();
    for (let i = 0; i < 22; i++) all.add(nextLetter(all));
    expect([...all].join(' ')).toBe('A B C D E F G H J K L M N P R T U V W Y AA BB');
  });
});
