import { describe, expect, test } from 'vitest';
import type { DrawingDocument } from '../document/records.ts';
import { assemblyOf, box } from '../testing/shapes.ts';
import { itemsOf, massText, totalMass } from './items.ts';
import { cellText, DEFAULT_LIST_COLUMNS } from './list-rows.ts';
import { densityOf } from './materials.ts';

const { assembly } = assemblyOf([
  { name: 'Plate', geometry: box([0, 0, 0], [100, 100, 10]), properties: { 'Drawing Number': 'N-1', SOURCE: 'made' }, material: 'S355' },
  { name: 'Grip', geometry: box([0, 0, 0], [10, 10, 10]), properties: { Source: 'bought' } },
]);
const typed = (part: string, values: Record<string, string>): DrawingDocument => ({
  [`property:${part}`]: { type: 'property', id: `property:${part}`, part, values },
});

describe('items', () => {
  test('read the file’s properties whatever their case, and say where each comes from', () => {
    const [plate] = itemsOf(assembly, {});
    expect(plate!.values.drawingNumber).toMatchObject({ text: 'N-1', from: 'file' });
    expect(plate!.values.description).toMatchObject({ text: 'Plate', from: 'file' });
    expect(plate!.values.finish).toMatchObject({ text: '', from: 'none' });
  });
  test('a typed value wins, also an empty one', () => {
    expect(itemsOf(assembly, typed('Plate', { drawingNumber: 'X' }))[0]!.values.drawingNumber).toMatchObject({ text: 'X', from: 'typed' });
    expect(itemsOf(assembly, typed('Plate', { drawingNumber: '' }))[0]!.gaps).toEqual(['drawingNumber']);
  });
  // Common practice: bought parts carry no drawing number but their maker's.
  test('what is wanted depends on the source', () => {
    const [plate, grip] = itemsOf(assembly, {});
    expect(plate!.gaps).toEqual([]);
    expect(grip!.gaps).toEqual(['supplier', 'supplierNumber']);
  });
  // 100 × 100 × 10 mm of steel at 7850 kg/m³.
  test('mass is volume times density', () => {
    const items = itemsOf(assembly, {});
    expect(items[0]!.massKg).toBeCloseTo(0.785, 9);
    expect(items[1]!.massKg).toBeUndefined();
    expect(totalMass(items)).toEqual({ kg: items[0]!.massKg, complete: false });
    expect(totalMass(itemsOf(assembly, typed('Grip', { material: 'PA6' }))).complete).toBe(true);
  });
  test('masses read in kg or g with three digits', () => {
    expect([0.785, 0.0123456, 12.3456, undefined].map((kg) => massText(kg))).toEqual(['0.785 kg', '12.3 g', '12.3 kg', '']);
  });
  test('cells of the list', () => {
    const [plate] = itemsOf(assembly, {});
    expect(DEFAULT_LIST_COLUMNS.map((c) => cellText(plate!, c.key))).toEqual(['1', '1', 'Plate', 'N-1', 'S355', '0.785 kg']);
    expect(DEFAULT_LIST_COLUMNS.reduce((s, c) => s + c.widthMm, 0)).toBe(180);
  });
  // Densities from memory of common tables.
  test.each([
    ['S355J2+N', 7850],
    ['1.4404', 7980],
    ['EN AW-6082 T6', 2700],
    ['PA6', 1140],
    ['unobtainium', undefined],
  ])('density of %s', (name, density) => {
    expect(densityOf(name)).toBe(density);
  });
});
