import { describe, expect, test } from 'vitest';
import { emFor, fitText, textWidth, wrapText } from './lettering.ts';

describe('lettering', () => {
  // ISO 3098: the size of lettering is the height of its capitals.
  test('the height of capitals is what is asked for', () => {
    expect((emFor(3.5) * 1510) / 2048).toBeCloseTo(3.5, 9);
  });
  test('width grows with the text and with its height', () => {
    expect(textWidth('Bolt M8', 2.5)).toBeGreaterThan(textWidth('Bolt', 2.5));
    expect(textWidth('Bolt', 5)).toBeCloseTo(2 * textWidth('Bolt', 2.5), 9);
  });
  test('what does not fit is cut short and says so', () => {
    expect(fitText('Bolt', 2.5, 50)).toBe('Bolt');
    const short = fitText('Bearing, flanged, self-aligning', 2.5, 20);
    expect(short.endsWith('.')).toBe(true);
    expect(textWidth(short, 2.5)).toBeLessThanOrEqual(20);
  });
  test('long titles break at spaces into the lines there are', () => {
    const lines = wrapText('Shoreline sampling winch with a very long name', 3.5, 60, 2);
    expect(lines.length).toBe(2);
    for (const l of lines) expect(textWidth(l, 3.5)).toBeLessThanOrEqual(60);
  });
});
