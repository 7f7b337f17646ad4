import { describe, expect, test } from 'vitest';
import { emFor, fitText, textWidth, wrapped, wrapText } from './lettering.ts';

describe('lettering', () => {
  // ISO 3098: the size of lettering is the height of its capitals.
  test('the height of capitals is what is asked for', () => {
    expect((emFor(3.5) * 1510) / 2048).toBeCloseTo(3.5, 9);
  });
  test('width grows with the text and with its height', () => {
    expect(textWidth('Bolt M8', 2.5)).toBeGreaterThan(textWidth('Bolt', 2.5));
    expect(textWidth('Bolt', 5)).toBeCloseTo(2 * textWidth('Bolt', 2.5), 9);
  });
  test('an unknown letter counts as nine tenths of an em', () => {
    expect(textWidth('\u{1F529}', 3.5)).toBeCloseTo(0.9 * emFor(3.5), 9);
  });
  test('what does not fit is cut short and says so', () => {
    expect(fitText('Bolt', 2.5, 50)).toBe('Bolt');
    const short = fitText('Bearing, flanged, self-aligning', 2.5, 20);
    expect(short.endsWith('...')).toBe(true);
    expect(textWidth(short, 2.5)).toBeLessThanOrEqual(20);
  });
  test('long titles break at spaces into the lines there are', () => {
    const lines = wrapText('Shoreline sampling winch with a very long name', 3.5, 60, 2);
    expect(lines.length).toBe(2);
    for (const l of lines) expect(textWidth(l, 3.5)).toBeLessThanOrEqual(60);
  });
  test('a line takes as many words as fit and no more, the last one the rest', () => {
    const words = 'one two three four five six seven eight nine ten';
    for (const width of [12, 20, 33, 47]) {
      const [first, second, ...none] = wrapText(words, 2.5, width, 2);
      expect(none).toEqual([]);
      expect(textWidth(first!, 2.5)).toBeLessThanOrEqual(width);
      expect(words.startsWith(first!)).toBe(true);
      // One word more would not have fitted.
      const next = words.slice(first!.length + 1).split(' ')[0];
      expect(textWidth(`${first} ${next}`, 2.5)).toBeGreaterThan(width);
      expect(second!.startsWith(next!.slice(0, 3))).toBe(true);
    }
    expect(wrapText('one   two\nthree', 2.5, 500, 3)).toEqual(['one two three']);
    expect(wrapText('', 2.5, 50, 2)).toEqual([]);
    expect(wrapText('one two three', 2.5, textWidth('one two', 2.5), 3)).toEqual(['one two', 'three']);
  });
  test('what is cut short has as many letters as there is room for', () => {
    const full = 'Bearing, flanged';
    for (const width of [8, 15, 22]) {
      const short = fitText(full, 2.5, width);
      const n = short.length - 3;
      expect(textWidth(short, 2.5)).toBeLessThanOrEqual(width);
      expect(textWidth(`${full.slice(0, n + 2).trimEnd()}...`, 2.5)).toBeGreaterThan(width);
    }
    // One letter stays, however little room there is; what fits exactly is whole.
    expect(fitText('Bolt', 2.5, 0.1)).toBe('B...');
    expect(fitText('Bolt', 2.5, textWidth('Bolt', 2.5))).toBe('Bolt');
    expect(fitText('Bolt M8 long', 2.5, textWidth('Bolt M8...', 2.5))).toBe('Bolt M8...');
  });
  test('a word that is wider than a line is broken at its joints, and nothing of it is lost', () => {
    const width = textWidth('NQ-2026-00', 2.5);
    expect(wrapText('NQ-2026-0017', 2.5, width, 3)).toEqual(['NQ-2026-', '0017']);
    expect(wrapText('Xylophonehousing', 2.5, textWidth('Xylophone', 2.5), 3).join('')).toBe('Xylophonehousing');
    expect(wrapText('a Xylophonehousing b', 2.5, textWidth('Xylophone', 2.5), 9).join('').replaceAll(' ', '')).toBe('aXylophonehousingb');
  });
  test('it is told whether something is missing', () => {
    expect(wrapped('one two three', 2.5, textWidth('one two', 2.5), 2)).toEqual({ lines: ['one two', 'three'], cut: false });
    expect(wrapped('one two three', 2.5, textWidth('one two', 2.5), 1).cut).toBe(true);
    expect(wrapped('one two three', 2.5, 500, 0).cut).toBe(true);
  });
});
