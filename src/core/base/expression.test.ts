import { expect, test } from 'vitest';
import { evaluateLength } from './expression.ts';

test.each([
  ['45', 45],
  [' 12,5 ', 12.5],
  ['2*12.5', 25],
  ['(30+4)/2 - 1', 16],
  ['-3 + -2', -5],
  ['2 in', 50.8],
  ['1 cm + 2 mm', 12],
  ['10-2-3', 5],
  ['8/2/2', 2],
])('%s is %f mm', (text, mm) => expect(evaluateLength(text)).toBeCloseTo(mm, 9));

test.each(['', 'abc', '2*', '(3', '3)', '1/0', '1..2', '4 apples', '2 ** 3', 'alert(1)'])('“%s” is no length', (text) =>
  expect(evaluateLength(text)).toBeUndefined(),
);
