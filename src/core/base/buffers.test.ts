import { expect, test } from 'vitest';
import { Floats, Ints } from './buffers.ts';

test('arrays that grow hold everything in order, and no more', () => {
  const [floats, ints] = [new Floats(2), new Ints(2)];
  for (let i = 0; i < 9; i++) {
    floats.push(i / 2);
    ints.push(-i);
  }
  floats.push3(7.5, 8.5, 9.5);
  expect([...floats.trimmed()]).toEqual([0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4, 7.5, 8.5, 9.5]);
  expect([...ints.trimmed()]).toEqual([0, -1, -2, -3, -4, -5, -6, -7, -8].map((v) => v + 0));
  expect([floats.length, ints.length]).toEqual([12, 9]);
});
