import { expect, test } from 'vitest';
import { paperByName, sheetGeometry } from './paper.ts';
import { foldsToA4, foldsToLetter } from './folds.ts';

const of = (name: string, level = true) => sheetGeometry(paperByName(name)!, level);
/** Widths of the panels between folds. */
const panels = (folds: readonly number[], length: number) => [0, ...folds].map((at, i) => Math.round(((folds[i] ?? length) - at) * 100) / 100);

// DIN 824:1981, form A, table of folds from the filing edge to the title block (from memory).
test.each([
  ['A0', [210, 109.5, 109.5, 190, 190, 190, 190], [247, 297, 297]],
  ['A1', [210, 125.5, 125.5, 190, 190], [297, 297]],
  ['A2', [210, 192, 192], [123, 297]],
  ['A3', [125, 105, 190], [297]],
])('%s is folded into panels of %j across and %j down', (name, across, down) => {
  const g = of(name);
  const { x, y } = foldsToA4(g);
  expect(panels(x, g.width)).toEqual(across);
  expect(panels(y, g.height)).toEqual(down);
});
test('A4 upright is not folded', () => {
  expect(foldsToA4(of('A4', false))).toEqual({ x: [], y: [] });
});
test.each(['A0', 'A1', 'A2', 'A3', 'A3.1', 'A2.0'])('%s: folded back and forth it is no wider than A4, and its title block lies on top', (name) => {
  const g = of(name);
  const widths = panels(foldsToA4(g).x, g.width);
  let [at, way, least, most] = [0, 1, 0, 0];
  for (const w of widths) {
    at += way * w;
    way = -way;
    [least, most] = [Math.min(least, at), Math.max(most, at)];
  }
  expect(most - least).toBeLessThanOrEqual(210 + 1e-6);
  // The last panel goes to the right: its face is up, and it ends where A4 does.
  expect([widths.length % 2, Math.round(at)]).toEqual([1, 210]);
});
// Common practice, no source: 34 × 22 in is folded to 8.5 × 11 in.
test('an inch sheet is folded into equal parts of a letter sheet', () => {
  const { x, y } = foldsToLetter(of('D'));
  expect([x.map((v) => v / 25.4), y.map((v) => v / 25.4)]).toEqual([[8.5, 17, 25.5].map((v) => expect.closeTo(v, 2) as number), [expect.closeTo(11, 2)]]);
});
