import { describe, expect, test } from 'vitest';
import { drawFrame, zonesAlong } from './frame.ts';
import { ISO_FORM, usualForm } from '../../core/sheet/form.ts';
import { paperByName, sheetGeometry, PAPER_SIZES, styleFor } from '../../core/sheet/paper.ts';
import { pointsOfPath } from '../../core/testing/paths.ts';

const page = (name: string) => {
  const format = paperByName(name)!;
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
    const texts = drawFrame(geometry, style, usualForm(geometry.standard)).items.flatMap((i) => (i.kind === 'text' ? [i.text] : []));
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
    const marks = drawFrame(geometry, style, usualForm(geometry.standard)).items.flatMap((i) =>
      i.kind === 'stroke' && i.width === 0.25 && !/[hv]/.test(i.d) ? [i.d.match(/-?[\d.]+/g)!.map(Number)] : [],
    );
    const distinct = (list: readonly number[]) => [...new Set(list)].sort((a, b) => a - b);
    expect(distinct(marks.flatMap(([x0, , x1]) => (x0 === x1 ? [x0!] : [])))).toEqual(columns);
    expect(distinct(marks.flatMap(([, y0, , y1]) => (y0 === y1 ? [y0!] : [])))).toEqual(rows);
  });
  test.each([
    ['A3', 5],
    ['A4', 0],
  ])('the centring mark at the foot of %s reaches %d mm into the frame: never into the title block', (name, into) => {
    const { width, frame } = sheetGeometry(paperByName(name)!, true);
    const { style } = page(name);
    const marks = drawFrame(sheetGeometry(paperByName(name)!, true), style, ISO_FORM).items.flatMap((i) =>
      i.kind === 'stroke' && i.width === 0.7 && !/[hv]/.test(i.d) ? [i.d.match(/-?[\d.]+/g)!.map(Number)] : [],
    );
    const foot = frame.y + frame.height;
    expect(marks.find(([x0, y0, x1]) => x0 === width / 2 && x0 === x1 && y0! > foot)![3]).toBeCloseTo(foot - into, 6);
  });
  test('numbers run from the left, letters from the top, each in the middle of its field', () => {
    const { geometry, style } = page('A3');
    const texts = drawFrame(geometry, style, usualForm(geometry.standard)).items.flatMap((i) => (i.kind === 'text' ? [i] : []));
    const at = (t: string) => texts.filter((x) => x.text === t).map((x) => [x.x, x.y]);
    // The first column is 40 wide, from the filing edge at 20; the top strip lies at y = 5…10.
    expect(at('1').map(([x]) => x)).toEqual([40, 40]);
    expect(at('8').map(([x]) => x)).toEqual([385, 385]);
    expect(at('A').map(([, y]) => y)).toEqual([(10 + 48.5) / 2 + style.text / 2, (10 + 48.5) / 2 + style.text / 2]);
    expect(at('F')[0]![1]).toBeGreaterThan(at('A')[0]![1]!);
  });
  test.each(PAPER_SIZES.map((f) => f.name))('of %s stays on the sheet, with centring marks on the axes of symmetry of the trimmed sheet', (name) => {
    const { geometry, style } = page(name);
    const strokes = drawFrame(geometry, style, usualForm(geometry.standard)).items.flatMap((i) => (i.kind === 'stroke' ? [i] : []));
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
  test('is a wide frame, a strip of 5 mm around it for the fields, and marks that reach from it 5 mm inwards', () => {
    const { geometry, style } = page('A3');
    const strokes = drawFrame(geometry, style, usualForm(geometry.standard)).items.flatMap((i) => (i.kind === 'stroke' ? [i] : []));
    const corners = (d: string) => {
      const [p] = pointsOfPath(d);
      const [x, y] = [p!.map((v) => v[0]), p!.map((v) => v[1])];
      return [Math.min(...x), Math.min(...y), Math.max(...x), Math.max(...y)];
    };
    // ISO 5457: 20 mm at the filing edge, 10 mm elsewhere; the frame 0.7 wide.
    expect([strokes[0]!.width, corners(strokes[0]!.d)]).toEqual([0.7, [20, 10, 410, 287]]);
    expect([strokes[1]!.width, corners(strokes[1]!.d)]).toEqual([0.25, [15, 5, 415, 292]]);
    const marks = strokes
      .slice(2)
      .filter((s) => s.width === 0.7)
      .map((s) => corners(s.d));
    expect(marks).toEqual([
      [210, 5, 210, 15],
      [210, 282, 210, 292],
      [15, 148.5, 25, 148.5],
      [410, 148.5, 415, 148.5],
    ]);
    // Divisions cross the strip on both sides.
    const divisions = strokes
      .slice(2)
      .filter((s) => s.width === 0.25)
      .map((s) => corners(s.d));
    expect(divisions.filter((d) => d[0] === 60)).toEqual([
      [60, 5, 60, 10],
      [60, 287, 60, 292],
    ]);
    expect(divisions.filter((d) => d[1] === 98.5)).toEqual([
      [15, 98.5, 20, 98.5],
      [410, 98.5, 415, 98.5],
    ]);
  });
  test('field texts stand in the middle of the strip, upright', () => {
    const { geometry, style } = page('A3');
    const texts = drawFrame(geometry, style, usualForm(geometry.standard)).items.flatMap((i) => (i.kind === 'text' ? [i] : []));
    for (const t of texts) {
      expect([t.height, t.anchor]).toEqual([2.5, 'middle']);
      const middle = t.y - t.height / 2;
      const across = /\d/.test(t.text) ? [middle, [7.5, 289.5]] : [t.x, [17.5, 412.5]];
      expect(across[1]).toContain(across[0]);
    }
  });
  test('inch sheets divide evenly, an even number of fields, at least two', () => {
    expect(zonesAlong(432, 12.7, 419.1, true)).toHaveLength(9);
    expect(zonesAlong(60, 10, 50, true)).toEqual([10, 30, 50]);
    const z = zonesAlong(432, 12.7, 419.1, true);
    for (let i = 1; i < z.length; i++) expect(z[i]! - z[i - 1]!).toBeCloseTo((419.1 - 12.7) / 8, 9);
  });
});
