import { describe, expect, test } from 'vitest';
import { PLAIN_LEDGER, PLAIN_VIEW, recordsOf, type DrawingDocument, type ViewRecord } from '../document/records.ts';
import { featuresSource } from '../features/part-features.ts';
import { bentStrip } from '../testing/bent.ts';
import { assemblyOf, box } from '../testing/shapes.ts';
import { computeView } from '../views/compute-view.ts';
import { specOf, specText } from '../views/view-spec.ts';
import { componentsOf } from '../assembly/components.ts';
import { listColumnsFor } from '../ledger/list-rows.ts';
import { listTable } from '../../elements/list/rows.ts';
import { Scene } from '../../elements/scene.ts';
import { BLANK_DRAWING } from '../document/records.ts';
import { chosenK, chosenKs, flatKey, parseK, readFlatKey } from './k-factor.ts';

const DEG = Math.PI / 180;
// One bend of 90°, inner radius 2, 2 thick, legs of 50 and 30.
const { assembly, geometries } = assemblyOf([
  { name: 'Angle', geometry: bentStrip([{ length: 50, angle: 90 * DEG, radius: 2 }, { length: 30 }], 2, 60), material: 'S235' },
  { name: 'Block', geometry: box([0, 0, 100], [30, 30, 130]), material: 'S235' },
]);
const components = componentsOf(assembly);
const view: ViewRecord = {
  ...PLAIN_VIEW,
  type: 'view',
  id: 'view:flat',
  sheet: 'sheet:1',
  name: 'Flat',
  right: [1, 0, 0],
  up: [0, 1, 0],
  toward: [0, 0, 1],
  laid: true,
  shows: { only: true, of: ['Angle'] },
};
const typed = (k: string) => ({ type: 'property', id: 'property:Angle', part: 'Angle', values: { kFactor: k } }) as const;
const ledger = (k: number) => ({ ...PLAIN_LEDGER, materials: [{ name: 's235', densityKgM3: 7850, k }] });
const doc = (...records: readonly DrawingDocument[string][]): DrawingDocument =>
  Object.fromEntries(
    [BLANK_DRAWING, { type: 'sheet', id: 'sheet:1', order: 0, name: '', size: 'A3', landscape: true } as const, view, ...records].map((r) => [r.id, r]),
  );
/** BA = angle × (Ri + K t), by hand. */
const flatLength = (k: number) => 50 + 30 + (Math.PI / 2) * (2 + k * 2);
const widthOf = (d: DrawingDocument) => {
  const { box: b } = computeView(assembly, geometries, specOf(view, d, components, assembly));
  return b[2] - b[0];
};

describe('the K of a bent part', () => {
  test('is typed for the part, else for its material, else by DIN 6935', () => {
    expect(chosenK(doc(), 'Angle', 'S235')).toBeUndefined();
    expect(chosenK(doc(ledger(0.42)), 'Angle', 'S235')).toBe(0.42);
    expect(chosenK(doc(ledger(0.42), typed('0,5')), 'Angle', 'S235')).toBe(0.5);
    expect(chosenK(doc(ledger(0.42), typed('much')), 'Angle', 'S235')).toBe(0.42);
    expect([...chosenKs(assembly, doc(typed('0.5')))]).toEqual([[assembly.parts[0]!.geometryKey, 0.5]]);
    expect([parseK(''), parseK('1.2'), parseK(' 0.44 ')]).toEqual([undefined, undefined, 0.44]);
  });
  test('decides how long the flat pattern is, and the view is computed anew for it', () => {
    // r / s = 1: k = 0.65 of half the thickness (DIN 6935, from memory).
    expect(widthOf(doc())).toBeCloseTo(flatLength(0.325), 4);
    expect(widthOf(doc(ledger(0.42)))).toBeCloseTo(flatLength(0.42), 4);
    expect(widthOf(doc(typed('0.5')))).toBeCloseTo(flatLength(0.5), 4);
    const text = (d: DrawingDocument) => specText(specOf(view, d, components, assembly), assembly);
    expect(new Set([text(doc()), text(doc(ledger(0.42))), text(doc(typed('0.5')))]).size).toBe(3);
  });
  test('is what dimensions on the pattern are measured by', () => {
    const extent = (d: DrawingDocument) => {
      const scene = new Scene({ document: d, assembly, results: new Map(), features: featuresSource(geometries) });
      const { box: b } = scene.featuresIn(recordsOf(d, 'view')[0]!, 0)!;
      return b[3]! - b[0]!;
    };
    expect(extent(doc())).toBeCloseTo(flatLength(0.325), 4);
    expect(extent(doc(typed('0.5')))).toBeCloseTo(flatLength(0.5), 4);
  });
  test('decides the size of the plate that the cut list asks for', () => {
    const rows = (d: DrawingDocument) =>
      listTable(
        { type: 'list', id: 'list:1', sheet: 'sheet:1', rows: 'stock', columns: listColumnsFor('iso', 'stock') },
        new Scene({ document: d, assembly, results: new Map(), features: featuresSource(geometries) }),
      );
    const angle = (d: DrawingDocument) => rows(d).find((r) => r.includes('Angle'))!;
    expect(angle(doc())).toEqual(expect.arrayContaining(['Plate 2', flatLength(0.325).toFixed(1), '60', '2']));
    expect(angle(doc(typed('0.5')))).toContain(flatLength(0.5).toFixed(1));
  });
  test('names what is measured, and is read from the name again', () => {
    expect(flatKey('abc', undefined)).toBe('abc');
    expect(readFlatKey(flatKey('abc', 0.44))).toEqual({ geometryKey: 'abc', k: 0.44 });
    expect(readFlatKey('abc')).toEqual({ geometryKey: 'abc' });
  });
});
