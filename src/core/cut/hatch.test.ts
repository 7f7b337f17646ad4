import { describe, expect, test } from 'vitest';
import type { Cap } from './cut-scene.ts';
import { capStyles, type CapStyle } from './hatch-styles.ts';
import { hatchLines, measureLoops } from './hatch.ts';

const square = (x: number, y: number, w: number, h: number) => Float64Array.of(x, y, x + w, y, x + w, y + h, x, y + h);
const cap = (component: number, ...loops: Float64Array[]) => ({ component, loops }) as unknown as Cap;
const lines = (s: CapStyle) => {
  if (s.solid) throw new Error('solid');
  return s.hatch;
};
const segments = (flat: readonly number[]) =>
  Array.from({ length: flat.length / 4 }, (_, i) => flat.slice(i * 4, i * 4 + 4) as [number, number, number, number]);
const lengthOf = (flat: readonly number[]) => segments(flat).reduce((s, [a, b, c, d]) => s + Math.hypot(c - a, d - b), 0);

describe('hatch lines', () => {
  test('at 45° through a square: as long as its area over their distance, all of one slope, inside it', () => {
    const h = hatchLines([square(10, 20, 40, 40)], { angle: Math.PI / 4, spacing: 2, phase: 0 });
    expect(Math.abs(lengthOf(h) / (1600 / 2) - 1)).toBeLessThan(0.02);
    for (const [a, b, c, d] of segments(h)) {
      expect((d - b) / (c - a)).toBeCloseTo(1, 9);
      for (const [x, y] of [
        [a, b],
        [c, d],
      ])
        expect(x! > 10 - 1e-9 && x! < 50 + 1e-9 && y! > 20 - 1e-9 && y! < 60 + 1e-9).toBe(true);
    }
  });
  test('leave holes free', () => {
    const h = hatchLines([square(0, 0, 40, 40), Float64Array.from([10, 10, 10, 30, 30, 30, 30, 10])], { angle: 0, spacing: 1, phase: 0.5 });
    for (const [a, , c, ,] of segments(h)) expect(Math.min(c, 40) - Math.max(a, 0)).toBeGreaterThan(0);
    const at = (y: number) =>
      segments(h)
        .filter((s) => Math.abs(s[1] - y) < 1e-9)
        .map(([a, , c]) => [a, c]);
    expect(at(5.5)).toEqual([[0, 40]]);
    expect(at(20.5)).toEqual([
      [0, 10],
      [30, 40],
    ]);
  });
  test('a phase shifts them across, by whole spacings not at all', () => {
    const of = (phase: number) => segments(hatchLines([square(0, 0, 10, 10)], { angle: 0, spacing: 2, phase })).map((s) => s[1]);
    expect(of(0.25)[0]! - of(2.25)[0]!).toBeCloseTo(0, 9);
    expect(of(0.25)).toEqual([0.25, 2.25, 4.25, 6.25, 8.25]);
  });
  test('area and outline of loops with a hole', () => {
    expect(measureLoops([square(0, 0, 40, 40), Float64Array.from([10, 10, 10, 30, 30, 30, 30, 10])])).toEqual({ area: 1600 - 400, perimeter: 160 + 80 });
  });
});

describe('what a cap looks like', () => {
  // Twice area over outline is the width of a long strip: 5 mm of sheet are 1 mm at 1:5 and 0.5 mm at 1:10 (ISO 128-50: thin sections may be filled).
  test.each([
    [1, false],
    [0.2, false],
    [0.17, true],
    [0.1, true],
    [0.01, true],
  ])('a strip 5 mm thick at scale %d: solid %s', (scale, solid) => {
    expect(capStyles([cap(0, square(0, 0, 2000, 5))], scale)[0]!.solid).toBe(solid);
  });
  test('a thin one is solid where a thick one beside it is hatched', () => {
    expect(capStyles([cap(0, square(0, 0, 300, 300)), cap(1, square(0, 300, 300, 2))], 0.2).map((s) => s.solid)).toEqual([false, true]);
  });
  test('touching parts differ in direction or spacing, one part is alike in all its caps', () => {
    const row = [0, 1, 2, 3].map((i) => cap(i, square(20 * i, 0, 20, 20)));
    const styles = capStyles([...row, cap(0, square(0, 100, 20, 20))], 1).map(lines);
    for (let i = 0; i < 3; i++) expect(styles[i]!.angle === styles[i + 1]!.angle && styles[i]!.spacing === styles[i + 1]!.spacing).toBe(false);
    expect(styles[4]).toEqual(styles[0]);
    // Those that do not touch need not differ.
    expect(styles[2]!.angle).toBe(styles[0]!.angle);
  });
  test('at 45° or 135° to the sheet, 1 to 4 mm apart', () => {
    const around = [cap(0, square(0, 0, 60, 60)), ...[0, 1, 2, 3, 4].map((i) => cap(i + 1, square(60, 12 * i, 20, 12)))];
    for (const s of capStyles(around, 1).map(lines)) {
      expect([45, 135]).toContain(Math.round((s.angle * 180) / Math.PI));
      expect(s.spacing).toBeGreaterThanOrEqual(0.9);
      expect(s.spacing).toBeLessThanOrEqual(6);
    }
  });
  test('materials: single lines, crossed, in pairs, broken', () => {
    const style = (family: 'metal' | 'plastic' | 'wood' | 'glass') =>
      capStyles([cap(0, square(0, 0, 50, 50))], 1, () => family)[0]! as Exclude<CapStyle, { solid: true }>;
    expect([style('metal').also, style('metal').dash]).toEqual([undefined, undefined]);
    expect(style('plastic').also!.angle - style('plastic').hatch.angle).toBeCloseTo(Math.PI / 2, 9);
    expect(style('wood').also!.angle).toBe(style('wood').hatch.angle);
    expect(style('wood').also!.phase).not.toBe(style('wood').hatch.phase);
    expect(style('glass').dash).toHaveLength(2);
  });
});
