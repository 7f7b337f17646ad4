import { describe, expect, test } from 'vitest';
import { fitDeviations, toleranceGrade } from './fits.ts';

const RANGES = [0, 3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500];
const steps = RANGES.slice(1).map((to, i) => ({ from: RANGES[i]!, to, mean: Math.sqrt(Math.max(1, RANGES[i]!) * to) }));

// ISO 286-1:2010, annex: tolerance unit i = 0.45 ∛D + 0.001 D (µm), grades 5 to 18 are multiples of it (from memory).
describe('tolerance grades against the formula they come from', () => {
  const multiples = [7, 10, 16, 25, 40, 64, 100, 160, 250, 400, 640, 1000, 1600, 2500];
  test.each(multiples.map((k, i) => [i + 5, k] as const))('IT%d is %d i, rounded', (grade, k) => {
    for (const { to, mean } of steps) {
      const exact = k * (0.45 * Math.cbrt(mean) + 0.001 * mean);
      const table = toleranceGrade(to, grade)! * 1000;
      // The standard rounds for regularity: up to a seventh for the smallest sizes.
      expect(Math.abs(table - exact) / exact).toBeLessThan(to <= 3 ? 0.16 : to <= 6 ? 0.12 : 0.06);
    }
  });
  test('each grade is wider than the one before, for every size', () => {
    for (const { to } of steps) for (let g = 2; g <= 18; g++) expect(toleranceGrade(to, g)!).toBeGreaterThan(toleranceGrade(to, g - 1)!);
  });
});

// Annex of ISO 286-1 (from memory): es = −16 D^0.44 for d, −11 D^0.41 for e, −5.5 D^0.41 for f, −2.5 D^0.34 for g; ei = 5 D^0.34 for n.
describe('basic deviations against their formulas', () => {
  test.each<[string, (d: number) => number]>([
    ['d8', (d) => -16 * d ** 0.44],
    ['e8', (d) => -11 * d ** 0.41],
    ['f7', (d) => -5.5 * d ** 0.41],
    ['g6', (d) => -2.5 * d ** 0.34],
  ])('%s', (fit, formula) => {
    for (const { to, mean } of steps.slice(1)) {
      const es = fitDeviations(to, fit)!.upper * 1000;
      expect(Math.abs(es - formula(mean))).toBeLessThan(Math.max(1, 0.06 * Math.abs(es)));
    }
  });
  test('n6', () => {
    for (const { to, mean } of steps.slice(1)) expect(Math.abs(fitDeviations(to, 'n6')!.lower * 1000 - 5 * mean ** 0.34)).toBeLessThan(1.6);
  });
});

// ISO 286-2 tables, as printed in common handbooks (from memory).
describe('classes that every workshop knows', () => {
  test.each<[number, string, number, number]>([
    [25, 'H7', 21, 0],
    [25, 'H8', 33, 0],
    [50, 'H7', 25, 0],
    [50, 'h9', 0, -62],
    [20, 'h6', 0, -13],
    [20, 'g6', -7, -20],
    [20, 'f7', -20, -41],
    [30, 'k6', 15, 2],
    [40, 'm6', 25, 9],
    [40, 'n6', 33, 17],
    [60, 'p6', 51, 32],
    [60, 's6', 72, 53],
    [100, 'r6', 73, 51],
    [10, 'd9', -40, -76],
    [25, 'js7', 10.5, -10.5],
    [30, 'j6', 9, -4],
    [25, 'F8', 53, 20],
    [40, 'K7', 7, -18],
    [40, 'N7', -8, -33],
    [40, 'P7', -17, -42],
    [40, 'JS7', 12.5, -12.5],
    [300, 'M6', -9, -41],
    [20, 'N9', 0, -52],
    [100, 'c11', -170, -390],
  ])('Ø%d %s: %d / %d µm', (size, fit, upper, lower) => {
    const d = fitDeviations(size, fit)!;
    expect([d.upper * 1000, d.lower * 1000]).toEqual([expect.closeTo(upper, 6), expect.closeTo(lower, 6)]);
  });
  test('a size at the end of a range belongs to it', () => {
    expect(fitDeviations(30, 'H7')!.upper).toBe(0.021);
    expect(fitDeviations(30.01, 'H7')!.upper).toBe(0.025);
  });
  test('what the tables do not have is nothing, not a guess', () => {
    expect([fitDeviations(600, 'H7'), fitDeviations(20, 'q7'), fitDeviations(20, 'H19'), fitDeviations(0, 'H7'), fitDeviations(20, 'H')]).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
  });
});
