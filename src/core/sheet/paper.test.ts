import { describe, expect, test } from 'vitest';
import { paperByName, ISO_SCALES, scalesFor, scaleText, sheetGeometry, PAPER_SIZES, styleFor } from './paper.ts';

describe('sheet sizes', () => {
  // ISO 5457:1999, table 1 (trimmed sheet).
  test.each([
    ['A0', 1189, 841],
    ['A1', 841, 594],
    ['A2', 594, 420],
    ['A3', 420, 297],
    ['A4', 297, 210],
  ])('%s is %d × %d mm', (name, long, short) => {
    expect(paperByName(name)).toMatchObject({ long, short });
  });
  // ASME Y14.1: A 8.5×11 … E 34×44 in.
  test.each([
    ['A', 11, 8.5],
    ['B', 17, 11],
    ['C', 22, 17],
    ['D', 34, 22],
    ['E', 44, 34],
  ])('%s is %d × %d in', (name, long, short) => {
    expect(paperByName(name)!.long / 25.4).toBeCloseTo(long, 9);
    expect(paperByName(name)!.short / 25.4).toBeCloseTo(short, 9);
  });
  test('D printed at half size fills B', () => {
    expect(paperByName('D')!.long / 2).toBeCloseTo(paperByName('B')!.long, 9);
  });
  // ISO 5457: 20 mm at the filing edge, 10 mm elsewhere.
  test('the frame of A3 leaves 20 mm on the left and 10 mm elsewhere', () => {
    expect(sheetGeometry(paperByName('A3')!, true).frame).toEqual({ x: 20, y: 10, width: 390, height: 277 });
  });
});

describe('scales', () => {
  // ISO 5455:1979.
  test('are 1:1, 2, 5 and 10 and their powers', () => {
    for (const s of ISO_SCALES) expect(scaleText(s)).toMatch(/^(1:[125]0*|[125]0*:1)$/);
  });
  test('are written as ratios', () => {
    expect([1, 1 / 2, 5, 3 / 8, 1 / 16].map(scaleText)).toEqual(['1:1', '1:2', '5:1', '3:8', '1:16']);
  });
});

describe('lines and lettering', () => {
  // ISO 128-20 widths, ISO 3098 heights, ISO 6433 item references clearly larger than other text.
  test.each(PAPER_SIZES.map((f) => [f.name, f] as const))('%s: widths and heights are of the standard rows', (_, f) => {
    const s = styleFor(f);
    expect([0.13, 0.18, 0.25, 0.35, 0.5, 0.7, 1, 1.4, 2]).toEqual(expect.arrayContaining([s.wide, s.narrow]));
    expect(s.wide / s.narrow).toBeCloseTo(2, 1);
    for (const h of [s.text, s.item, s.letter]) expect([2.5, 3.5, 5, 7, 10]).toContain(h);
    expect(s.item / s.text).toBeGreaterThanOrEqual(1.4);
  });
});

describe('scales for a size', () => {
  const texts = (standard: 'iso' | 'asme', mm: number) => scalesFor(standard, mm).map(scaleText);
  test('those at which it is on a sheet at all, largest first: between 1 mm and 2 m', () => {
    expect(texts('iso', 500)).toEqual(['2:1', '1:1', '1:2', '1:5', '1:10', '1:20', '1:50', '1:100', '1:200', '1:500']);
    expect(texts('asme', 1024)).toEqual(['1:1', '1:2', '3:8', '1:4', '1:8', '1:16', '1:32', '1:64', '1:128', '1:256', '1:512', '1:1024']);
  });
  // ISO 5455: the row may be extended in either direction by multiples of ten.
  test('the row goes on as far as that takes', () => {
    expect(texts('iso', 2e7)).toEqual([
      '1:10000',
      '1:20000',
      '1:50000',
      '1:100000',
      '1:200000',
      '1:500000',
      '1:1000000',
      '1:2000000',
      '1:5000000',
      '1:10000000',
      '1:20000000',
    ]);
    expect(texts('iso', 0.5)).toEqual(['2000:1', '1000:1', '500:1', '200:1', '100:1', '50:1', '20:1', '10:1', '5:1', '2:1']);
    expect(texts('asme', 10)[0]).toBe('128:1');
  });
  test('each once, falling', () => {
    for (const mm of [1e-3, 1, 77, 5e4, 1e9])
      for (const standard of ['iso', 'asme'] as const) {
        const list = scalesFor(standard, mm);
        expect(list.length).toBeGreaterThan(6);
        for (let i = 1; i < list.length; i++) expect(list[i]!).toBeLessThan(list[i - 1]! * 0.8);
      }
  });
});
