import { expect, test } from 'vitest';
import { draftAll, smallMachine } from '$core/testing/drafting';
import { lengthsOf } from './lengths';

// 1 in is 25.4 mm exactly (International yard and pound agreement, 1959).
test('lengths are read and typed in the unit of the drawing', async () => {
  const { scene } = await draftAll(smallMachine(), { bare: true });
  const mm = lengthsOf(scene);
  expect([mm.unit, mm.text(12.5), mm.mm('12,5'), mm.mm(' ')]).toEqual(['mm', '12.5', 12.5, NaN]);
  const inch = lengthsOf(scene.with({ ...scene.document, drawing: { ...scene.drawing, standard: 'asme', values: { ...scene.drawing.values, unit: 'inch' } } }));
  expect([inch.unit, inch.text(25.4), inch.text(3.175), inch.mm('0.5')]).toEqual(['in', '1', '0.125', 12.7]);
  expect(inch.mm('x')).toBeNaN();
});
