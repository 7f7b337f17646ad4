import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { viewRecord } from '../testing/records.ts';
import { BLANK_DRAWING, recordsOf, type DrawingDocument, type ViewRecord } from './records.ts';
import { applySteps, dropWithDependants, type Step } from './steps.ts';

const view = (id: string, at: [number, number], more: Partial<ViewRecord> = {}): ViewRecord => viewRecord({ id, name: id, at, ...more });
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
    expect(applySteps(doc, [{ op: 'drop', id: 'front' }])).toMatchObject({ ok: false, reason: '“top” would point at no view' });
    expect(applySteps(doc, [{ op: 'drop', id: 'drawing' }])).toMatchObject({ ok: false });
    expect(applySteps(doc, [{ op: 'put', record: view('x', [0, 0], { sheet: 'sheet:9' }) }])).toMatchObject({ ok: false });
  });

  test('a view goes with its balloons and lets its neighbours go free', () => {
    const { document } = apply(doc, dropWithDependants(doc, 'front'));
    expect(Object.keys(document).sort()).toEqual(['drawing', 'right', 'sheet:1', 'top']);
    expect(recordsOf(document, 'view').every((v) => v.parent === null)).toBe(true);
  });
});
