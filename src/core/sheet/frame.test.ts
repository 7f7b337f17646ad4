import { describe, expect, test } from 'vitest';
import { BLANK_DRAWING } from '../document/records.ts';
import { drawFrame } from './frame.ts';
import { formatByName, sheetGeometry, SHEET_FORMATS, styleFor } from './formats.ts';
import { drawTitleBlock, projectionSymbol, titleBlockRect, type TitleFields } from './title-block.ts';

const page = (name: string) => {
  const format = formatByName(name)!;
  return { geometry: sheetGeometry(format, name !== 'A4'), style: styleFor(format) };
};

describe('the border', () => {
  // ISO 5457:1999, fields of the grid reference: A0 24 × 16, A1 16 × 12, A2 12 × 8, A3 8 × 6, A4 4 × 6 upright (from memory).
  test.each([
    ['A0', 24, 16],
    ['A1', 16, 12],
    ['A2', 12, 8],
    ['A3', 8, 6],
    ['A4', 4, 6],
  ])('of %s has %d by %d fields', (name, columns, rows) => {
    const { geometry, style } = page(name);
    const texts = drawFrame(geometry, style).items.flatMap((i) => (i.kind === 'text' ? [i.text] : []));
    const [numbers, letters] = [texts.filter((t) => /^\d+$/.test(t)), texts.filter((t) => /^[A-Z]$/.test(t))];
    // Each stands at both ends.
    expect([numbers.length / 2, letters.length / 2]).toEqual([columns, rows]);
    expect(letters).not.toContain('I');
    expect(letters).not.toContain('O');
  });
  // ISO 5457: fields are 50 mm long from the axes of symmetry, the corners take the rest (from memory).
  test.each([
    ['A3', [60, 110, 160, 210, 260, 310, 360], [48.5, 98.5, 148.5, 198.5, 248.5]],
    ['A4', [55, 105, 155], [48.5, 98.5, 148.5, 198.5, 248.5]],
    ['A2', [47, 97, 147, 197, 247, 297, 347, 397, 447, 497, 547], [60, 110, 160, 210, 260, 310, 360]],
  ])('the fields of %s end at', (name, columns, rows) => {
    const { geometry, style } = page(name);
    const marks = drawFrame(geometry, style).items.flatMap((i) => (i.kind === 'stroke' && i.width === 0.25 && !/[hv]/.test(i.d) ? [i.d.match(/-?[\d.]+/g)!.map(Number)] : []));
    const distinct = (list: readonly number[]) => [...new Set(list)].sort((a, b) => a - b);
    expect(distinct(marks.flatMap(([x0, , x1]) => (x0 === x1 ? [x0!] : [])))).toEqual(columns);
    expect(distinct(marks.flatMap(([, y0, , y1]) => (y0 === y1 ? [y0!] : [])))).toEqual(rows);
  });
  test('numbers run from the left, letters from the top, each in the middle of its field', () => {
    const { geometry, style } = page('A3');
    const texts = drawFrame(geometry, style).items.flatMap((i) => (i.kind === 'text' ? [i] : []));
    const at = (t: string) => texts.filter((x) => x.text === t).map((x) => [x.x, x.y]);
    // The first column is 40 wide, from the filing edge at 20; the top strip lies at y = 5…10.
    expect(at('1').map(([x]) => x)).toEqual([40, 40]);
    expect(at('8').map(([x]) => x)).toEqual([385, 385]);
    expect(at('A').map(([, y]) => y)).toEqual([(10 + 48.5) / 2 + style.text / 2, (10 + 48.5) / 2 + style.text / 2]);
    expect(at('F')[0]![1]).toBeGreaterThan(at('A')[0]![1]!);
  });
  test.each(SHEET_FORMATS.map((f) => f.name))('of %s stays on the sheet, with centring marks on the axes of symmetry of the trimmed sheet', (name) => {
    const { geometry, style } = page(name);
    const strokes = drawFrame(geometry, style).items.flatMap((i) => (i.kind === 'stroke' ? [i] : []));
    const marks = strokes.filter((s) => s.width === 0.7 && !/[hv]/.test(s.d)).map((s) => s.d.match(/-?[\d.]+/g)!.map(Number));
    expect(marks).toHaveLength(4);
    for (const [x0, y0, x1, y1] of marks as [number, number, number, number][])
      expect((x0 === x1 && Math.abs(x0 - geometry.width / 2) < 0.01) || (y0 === y1 && Math.abs(y0 - geometry.height / 2) < 0.01)).toBe(true);
    for (const s of strokes)
      for (const v of s.d.match(/M-?[\d.]+ -?[\d.]+/g)!.map((m) => m.slice(1).split(' ').map(Number))) {
        expect(v[0]).toBeGreaterThanOrEqual(0);
        expect(v[0]).toBeLessThanOrEqual(geometry.width);
        expect(v[1]).toBeGreaterThanOrEqual(0);
        expect(v[1]).toBeLessThanOrEqual(geometry.height);
      }
  });
});

describe('the title block', () => {
  const fields: TitleFields = {
    ...BLANK_DRAWING,
    title: 'Sampling winch',
    number: 'SW-40-00',
    revision: 'B',
    date: '2026-01-31',
    owner: 'Tidewater',
    drawnBy: 'A. Example',
    approvedBy: 'C. Example',
    sheet: 2,
    sheets: 3,
    size: 'A3',
    scale: '1:5',
    mass: '16 kg',
    sheetName: 'Section',
  };
  const { geometry, style } = page('A3');
  const rect = titleBlockRect(geometry);
  const texts = (f = fields) => drawTitleBlock(rect, f, style).flatMap((i) => (i.kind === 'text' ? [i] : []));

  // ISO 7200: 180 mm wide, in the lower right corner of the frame.
  test('is 180 mm wide and stands in the lower right corner', () => {
    expect(rect.width).toBe(180);
    expect([rect.x + rect.width, rect.y + rect.height]).toEqual([geometry.frame.x + geometry.frame.width, geometry.frame.y + geometry.frame.height]);
  });
  // ISO 7200, table of mandatory data fields.
  test('has every mandatory field', () => {
    const shown = new Set(texts().flatMap((t) => t.source?.field ?? []));
    for (const field of ['owner', 'number', 'date', 'sheet', 'title', 'approvedBy', 'drawnBy', 'sheetName']) expect([...shown]).toContain(field);
    expect(texts().map((t) => t.text)).toEqual(expect.arrayContaining(['Sampling winch', 'SW-40-00', '2 of 3', '1:5', '2026-01-31']));
  });
  test('keeps long texts inside its cells', () => {
    const long = 'An assembly with a title that goes on and on until nobody could read it on one line of any sheet';
    const lines = texts({ ...fields, title: long, number: 'SW-40-00-WITH-A-VERY-LONG-NUMBER' }).filter(
      (t) => t.source?.field === 'title' && t.text !== 'Title',
    );
    expect(lines).toHaveLength(2);
    expect(lines.map((l) => l.text).join(' ')).toMatch(/^An assembly with a title/);
    for (const t of texts({ ...fields, title: long })) {
      expect(t.x).toBeGreaterThanOrEqual(rect.x);
      expect(t.y).toBeLessThanOrEqual(rect.y + rect.height);
    }
  });
  // ISO 5456-2: in first angle the cone's end view stands to the right of its side view, in third angle to the left.
  test('shows the projection by its symbol', () => {
    const circlesAt = (standard: 'iso' | 'asme') =>
      projectionSymbol(0, 0, standard, 0.25).flatMap((i) => (i.kind === 'stroke' && i.d.includes('A') ? [Number(i.d.match(/^M(-?[\d.]+)/)![1])] : []));
    expect(circlesAt('iso').every((x) => x > 0)).toBe(true);
    expect(circlesAt('asme').every((x) => x < 0)).toBe(true);
  });
});
