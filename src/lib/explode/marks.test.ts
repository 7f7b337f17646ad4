import { expect, test } from 'vitest';
import { marksApart } from './marks';

test('what is hit at one place has one mark, with all names; what lies apart has its own', () => {
  const marks = marksApart([
    { through: 4, point: [100, 100] },
    { through: 7, point: [108, 95] },
    { through: 9, point: [200, 100] },
  ]);
  expect(marks).toEqual([
    { point: [100, 100], through: [4, 7] },
    { point: [200, 100], through: [9] },
  ]);
  expect(marksApart([])).toEqual([]);
});
