import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { namedFrame } from '../outline/directions.ts';
import { changeStandard, moveView, resizeSheet, scaleView } from './moves.ts';
import { BLANK_DRAWING, recordsOf, type DrawingDocument, type ViewRecord } from './records.ts';
import { applySteps, dropWithDependants, type Step } from './steps.ts';

const view = (id: string, at: [number, number], more: Partial<ViewRecord> = {}): ViewRecord => ({
  type: 'view',
  id,
  sheet: 'sheet:1',
  name: id,
  ...namedFrame('front'),
  scale: 0.5,
  at,
  pivot: [0, 0],
  hidden: false,
  tangent: false,
  shaded: false,
  label: false,
  parent: null,
  align: null,
  cut: null,
  spread: null,
  pullLines: false,
  ...more,
});
const doc: DrawingDocument = Object.fromEntries(
  [
    { ...BLANK_DRAWING, title: 'T', number: 'N' },
    { type: 'sheet', id: 'sheet:1', order: 1, name: 'GA', size: 'A3', landscape: true } as const,
    view('front', [200, 100]),
    view('top', [200, 180], { parent: 'front', align: 'upright' }),
    view('right', [100, 100], { parent: 'front', align: 'level' }),
    { type: 'balloon', id: 'b1', view: 'front', component: 'Bolt', anchor: [1, 2], offset: [30, -20], end: 'arrow' } as const,
  ].map((r) => [r.id, r]),
);
const apply = (d: DrawingDocument, steps: readonly Step[]) => {
  const r = applySteps(d, steps);
  if (!r.ok) throw new Error(r.reason);
  return r;
};
const at = (d: DrawingDocument, id: string) => (d[id] as ViewRecord).at;

describe('steps', () => {
  const step: fc.Arbitrary<Step> = fc.oneof(
    fc.tuple(fc.constantFrom('front', 'top', 'right', 'new'), fc.integer(), fc.integer()).map(([id, x, y]): Step => ({ op: 'put', record: view(id, [x, y]) })),
    fc.constantFrom('b1', 'top', 'right').map((id): Step => ({ op: 'drop', id })),
  );

  test('the inverse brings the document back, whatever was done', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), (steps) => {
        const r = applySteps(doc, steps);
        if (!r.ok) return;
        expect(apply(r.document, r.inverse).document).toEqual(doc);
      }),
      { numRuns: 200, seed: 11 },
    );
  });

  test('what does not fit is an answer and changes nothing', () => {
    expect(applySteps(doc, [{ op: 'drop', id: 'front' }])).toMatchObject({ ok: false, reason: expect.stringContaining('b1') as string });
    expect(applySteps(doc, [{ op: 'drop', id: 'drawing' }])).toMatchObject({ ok: false });
    expect(applySteps(doc, [{ op: 'put', record: view('x', [0, 0], { sheet: 'sheet:9' }) }])).toMatchObject({ ok: false });
  });

  test('a view goes with its balloons and lets its neighbours go free', () => {
    const { document } = apply(doc, dropWithDependants(doc, 'front'));
    expect(Object.keys(document).sort()).toEqual(['drawing', 'right', 'sheet:1', 'top']);
    expect(recordsOf(document, 'view').every((v) => v.parent === null)).toBe(true);
  });
});

describe('moving views', () => {
  test('neighbours stay level or in line with their parent', () => {
    const { document } = apply(doc, moveView(doc, 'front', 10, -5));
    expect([at(document, 'front'), at(document, 'top'), at(document, 'right')]).toEqual([
      [210, 95],
      [210, 180],
      [100, 95],
    ]);
  });
  test('a neighbour moves along its line only', () => {
    expect(at(apply(doc, moveView(doc, 'top', 30, 8)).document, 'top')).toEqual([200, 188]);
  });
  test('one scale for all that are aligned; balloons keep their proportion', () => {
    const { document } = apply(doc, scaleView(doc, 'top', 1));
    expect(recordsOf(document, 'view').map((v) => v.scale)).toEqual([1, 1, 1]);
    expect(document['b1']).toMatchObject({ offset: [60, -40] });
    expect(at(document, 'top')[0]).toBe(at(document, 'front')[0]);
  });
  // ISO 5456-2: first angle puts the view from above below the front; third angle above it.
  test('another standard turns the arrangement around', () => {
    const { document } = apply(doc, changeStandard(doc, 'asme'));
    expect(at(document, 'top')[1]).toBeLessThan(at(document, 'front')[1]);
    expect(at(document, 'right')[0]).toBeGreaterThan(at(document, 'front')[0]);
  });
  test('a smaller sheet takes the next smaller standard scale', () => {
    const { document } = apply(doc, resizeSheet(doc, 'sheet:1', 'A4', true));
    expect((document['front'] as ViewRecord).scale).toBe(0.2);
  });
});
