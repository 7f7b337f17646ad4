import { describe, expect, test } from 'vitest';
import { textWidth } from '../picture/lettering.ts';
import { random } from '../testing/random.ts';
import { layOutValue } from './value-layout.ts';
import { decimalText, fractionOf, MM_PER_INCH, plainText, valueParts, wholeStyle, type ValueKind, type ValueStyle, type ValueText } from './value.ts';

const written = (value: number, kind: ValueKind = 'length', style: ValueStyle = {}, text: ValueText = {}, standard: 'iso' | 'asme' = 'iso') =>
  plainText(valueParts(value, kind, wholeStyle(standard, style), text));

describe('numbers', () => {
  // ISO 129-1 (from memory): no zeros at the end; ASME Y14.5 (from memory): inches with a fixed number of decimals, no nought before the point.
  test('as the standard writes them', () => {
    expect([written(200), written(7.5), written(640.254), written(0.5)]).toEqual(['200', '7.5', '640.25', '0.5']);
    const asme = (v: number, style: ValueStyle = {}) => written(v, 'length', style, {}, 'asme');
    expect([asme(25.4), asme(12.7), asme(12.7, { unit: 'mm' })]).toEqual(['1.00', '.50', '12.7']);
  });
  test('by choice: decimals, zeros, comma, both units', () => {
    expect(written(7.5, 'length', { decimals: 3, zeros: true, sign: 'comma' })).toBe('7,500');
    expect(written(25.4, 'length', { unit: 'both' })).toBe('25.4 [1]');
    expect(written(25.4, 'length', { unit: 'both' }, {}, 'asme')).toBe('1.00 [25.40]');
    expect([0, 1, 6].map((decimals) => written(1 / 3, 'length', { decimals }))).toEqual(['0', '0.3', '0.333333']);
  });
  test('halves go up, and what is nought has no sign', () => {
    const of = (v: number, decimals = 0) => decimalText(v, { decimals, zeros: true, sign: 'point' });
    expect([of(0.5), of(1.5), of(-0.5), of(-0.2), of(2.675, 2), of(1.005, 2)]).toEqual(['1', '2', '-1', '0', '2.68', '1.01']);
  });
  test('signs of what is measured', () => {
    expect([written(20, 'diameter'), written(5, 'radius'), written(Math.PI / 6, 'angle'), written(0.05, 'slope')]).toEqual(['Ø20', 'R5', '30°', '1:20']);
  });
});

describe('fractions', () => {
  test.each([
    [0.40625, 32, 0, 13, 32],
    [7.40625, 32, 7, 13, 32],
    [0.5, 64, 0, 1, 2],
    [0.999, 16, 1, 0, 1],
    [3, 8, 3, 0, 1],
    [1 / 128, 64, 0, 1, 64],
  ])('%f inch to 1/%d', (inches, part, whole, over, under) => {
    expect(fractionOf(inches, part)).toEqual({ whole, over, under });
  });
  test('are the nearest one, in lowest terms, whatever the value', () => {
    const next = random(5);
    for (let i = 0; i < 2000; i++) {
      const part = 2 ** (1 + Math.floor(next() * 6));
      const inches = next() * 100;
      const f = fractionOf(inches, part);
      const value = f.whole + f.over / f.under;
      expect(Math.abs(value - inches)).toBeLessThanOrEqual(0.5 / part + 1e-9);
      expect(f.over < f.under && part % f.under === 0).toBe(true);
      if (f.over) expect(f.over % 2).toBe(1);
    }
  });
  test('are written with the whole before them; nought whole is not written', () => {
    const of = (inches: number) => written(inches * MM_PER_INCH, 'length', { unit: 'inch', fraction: 32 });
    expect([of(7.40625), of(0.40625), of(12), of(0)]).toEqual(['7 13/32', '13/32', '12', '0']);
  });
});

describe('what stands with a value', () => {
  test('tolerances', () => {
    expect(written(25, 'length', {}, { tolerance: { kind: 'equal', mm: 0.2 } })).toBe('25 ±0.2');
    expect(written(25, 'length', {}, { tolerance: { kind: 'limits', upper: 0.1, lower: -0.05 } })).toBe('25 (+0.1/-0.05)');
    expect(written(25, 'length', {}, { tolerance: { kind: 'limits', upper: 0.1, lower: -0.05, asSizes: true } })).toBe('25.1/24.95');
    expect(written(25, 'diameter', {}, { tolerance: { kind: 'fit', fit: 'H7', shows: 'both' } })).toBe('Ø25 (+0.021/0) H7');
    expect(written(25, 'diameter', {}, { tolerance: { kind: 'fit', fit: 'H7', shows: 'class' } })).toBe('Ø25 H7');
    const angle = { tolerance: { kind: 'limits', upper: 0.5, lower: 0 } } as const;
    expect(written(Math.PI / 6, 'angle', { unit: 'inch' }, { tolerance: { kind: 'equal', mm: 0.5 } })).toBe('30° ±0.5°');
    expect(written(Math.PI / 6, 'angle', {}, angle)).toBe('30° (+0.5°/0°)');
    expect(written(Math.PI / 6, 'angle', {}, { tolerance: { ...angle.tolerance, asSizes: true } })).toBe('30.5°/30°');
    expect(written(50, 'diameter', {}, { tolerance: { kind: 'fit', fit: 'h9', shows: 'deviations' } })).toBe('Ø50 (0/-0.062)');
  });
  test('words before, after, above and below, brackets, a typed text', () => {
    expect(written(640, 'length', {}, { after: 'C-C', before: '4×' })).toBe('4× 640 C-C');
    expect(written(640, 'length', {}, { above: 'TYP', below: 'both sides', form: 'reference' })).toBe('TYP (640) both sides');
    expect(written(640, 'diameter', {}, { typed: 'as needed' })).toBe('as needed');
  });
});

describe('how it is laid out', () => {
  const lay = (value: number, style: ValueStyle = {}, text: ValueText = {}, height = 2.5) =>
    layOutValue(valueParts(value, 'length', wholeStyle('iso', style), text), wholeStyle('iso', style), height);
  test('a plain value is as wide as its text and as high as its capitals', () => {
    expect(lay(640.25)).toMatchObject({ width: textWidth('640.25', 2.5), rise: 2.5, drop: 0 });
  });
  test('a stacked fraction stands about the middle of the figures, its stroke as wide as the wider number', () => {
    const { pieces, strokes } = lay(7.40625 * 25.4, { unit: 'inch', fraction: 32 });
    const [whole, over, under] = pieces;
    expect(pieces.map((p) => p.text)).toEqual(['7', '13', '32']);
    expect(over!.y).toBeLessThan(-1.25);
    expect(under!.y - under!.height).toBeGreaterThan(-1.25);
    expect(over!.x).toBeGreaterThan(whole!.x + textWidth('7', 2.5));
    expect(strokes).toEqual([[expect.any(Number), -1.25, expect.any(Number), -1.25]]);
    const slanted = lay(7.40625 * 25.4, { unit: 'inch', fraction: 32, stack: 'slanted' });
    expect(slanted.strokes[0]![3]).toBeLessThan(slanted.strokes[0]![1]);
    expect(lay(7.40625 * 25.4, { unit: 'inch', fraction: 32, stack: 'line' }).pieces.map((p) => p.text)).toEqual(['7', '13/32']);
  });
  test('a basic value has a frame around it, one not to scale a line under it', () => {
    expect(lay(50, {}, { form: 'basic' }).strokes).toHaveLength(4);
    const [[x0, y0, x1, y1]] = lay(50, {}, { form: 'notToScale' }).strokes as [[number, number, number, number]];
    expect([x0, y0 > 0, x1, y0 === y1]).toEqual([0, true, textWidth('50', 2.5), true]);
  });
  test('lines above and below stand in the middle and clear of the value', () => {
    const p = lay(50, {}, { above: 'TYP', below: 'both sides' });
    const [, above, below] = p.pieces;
    expect(above!.y).toBeLessThan(-2.5);
    expect(below!.y - 2.5).toBeGreaterThan(0);
    expect(p.rise).toBeGreaterThan(5);
  });
});
