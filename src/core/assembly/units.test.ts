import { describe, expect, test } from 'vitest';
import { assemblyOf, box } from '../testing/shapes.ts';
import { guessUnitMm, isLikelySize, mmPerUnit, sizeOf, sizeText, unitChoices, unitName, unlikelySize } from './units.ts';

const beam = (length: number, unit = 'mm') => {
  const { assembly } = assemblyOf([{ name: 'Beam', geometry: box([0, 0, 0], [length, length / 10, length / 20]), at: [5, 6, 7] }]);
  return { ...assembly, unit };
};

describe('units', () => {
  // Exact by definition: the inch is 25.4 mm, the foot twelve of them.
  test.each([
    ['mm', 1],
    ['cm', 10],
    ['m', 1000],
    ['inch', 25.4],
    ['foot', 304.8],
  ])('%s is %d mm', (name, mm) => {
    expect([mmPerUnit(name), unitName(mm)]).toEqual([mm, name]);
  });
  test('what is no unit has none, and a strange one is told in mm', () => {
    expect([mmPerUnit('cubit'), unitName(457.2)]).toEqual([undefined, '457.2 mm']);
  });
  test('where a format has no unit, small numbers are metres', () => {
    expect([guessUnitMm([10, 10, 10]), guessUnitMm([1.2, 0.4, 0.9]), guessUnitMm([0, 0, 0])]).toEqual([1, 1000, 1]);
  });
});

describe('a size that cannot be', () => {
  test.each([
    [0.9, false],
    [1, true],
    [100_000, true],
    [100_001, false],
  ])('%d mm is likely: %s', (mm, likely) => {
    expect(isLikelySize([mm / 2, mm, 0.1])).toBe(likely);
  });
  test('the size of the whole, wherever it stands', () => {
    expect(sizeOf(beam(200))).toEqual([200, 20, 10]);
    expect([sizeText([1999, 20, 1.2345]), sizeText([2000, 20, 5])]).toEqual(['2000 × 20 × 1.23 mm', '2 × 0.02 × 0.005 m']);
  });
  test('743 m: the likely unit comes first, with what it would give', () => {
    expect(unlikelySize(beam(743_000, 'm'))).toMatchObject({
      code: 'SIZE_UNLIKELY',
      text: 'The whole would be 743 × 74.3 × 37.1 m: is m its unit? In millimetres it would be 743 × 74.3 × 37.1 mm.',
    });
    expect(unitChoices([743, 74.3, 37.15]).map((c) => [c.unit, Math.max(...c.sizeMm)])).toEqual([
      ['mm', 743],
      ['cm', 7430],
      ['inch', expect.closeTo(18872.2, 6)],
      ['foot', expect.closeTo(226466.4, 6)],
      ['m', 743_000],
    ]);
  });
  test('half a millimetre is asked too, half a metre is not', () => {
    expect(unlikelySize(beam(0.5))!.text).toContain('In metres it would be 500 × 50 × 25 mm.');
    expect(unlikelySize(beam(500))).toBeUndefined();
  });
});
