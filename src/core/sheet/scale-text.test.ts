import { describe, expect, test } from 'vitest';
import { scaleText } from './paper.ts';
import { scaleFrom } from './scale-text.ts';

describe('a scale as it is typed', () => {
  test.each([
    ['1:5', 0.2],
    ['2:1', 2],
    ['0.7:1', 0.7],
    ['1.25:1', 1.25],
    ['3/8', 0.375],
    ['1:15', 1 / 15],
    ['1:1.5', 1 / 1.5],
    ['1:2,5', 0.4],
    [' 3 : 8 ', 0.375],
    ['.5', 0.5],
    ['4', 4],
  ])('%s', (text, scale) => expect(scaleFrom(text)).toBeCloseTo(scale, 12));
  test.each(['', 'one', '1:0', '0:1', '1:', ':2', '1:2:3', '-1:2', '1e9:1', '1:99999999'])('“%s” is none', (text) => expect(scaleFrom(text)).toBeUndefined());
  test.each(['1:2.5', '1:1.5', '3:8', '0.7:1', '1.25:1', '3:4', '2.5:1', '1:15', '20:1', '1:2000'])('%s is written as it was typed', (text) =>
    expect(scaleText(scaleFrom(text)!)).toBe(text),
  );
  test('what is written is read again', () => {
    for (const s of [0.7, 1.25, 3 / 8, 1 / 15, 0.1, 20]) expect(scaleFrom(scaleText(s))! / s).toBeCloseTo(1, 3);
  });
});
