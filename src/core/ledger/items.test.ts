import { describe, expect, test } from 'vitest';
import { PLAIN_LEDGER, type DrawingDocument, type DrawingDocumentRecord } from '../document/records.ts';
import { smallMachine } from '../testing/drafting.ts';
import { assemblyOf, box, cylinder } from '../testing/shapes.ts';
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

// Masses per metre from memory of the tables of EN 10060 (round bar), EN 10058 (flat bar), EN 10210-2 (tube) and the
// usual handbook table of aluminium bar: what a drafter would look up.
describe('masses against the tables of the trade', () => {
  const round = (d: number) => cylinder(d / 2, 1000, 720);
  const tube = (d: number, wall: number) => cylinder(d / 2, 1000, 720, d / 2 - wall);
  test.each([
    ['round steel bar 20', round(20), 'S235', 2.47],
    ['round steel bar 50', round(50), 'S355', 15.4],
    ['flat steel bar 50 × 5', box([0, 0, 0], [50, 5, 1000]), 'S235JR', 1.96],
    ['steel tube 48.3 × 3.2', tube(48.3, 3.2), 'S235', 3.56],
    ['steel tube 114.3 × 5', tube(114.3, 5), 'S355J2H', 13.5],
    ['round aluminium bar 20', round(20), 'EN AW-6082', 0.848],
  ])('%s weighs what its table says per metre', (name, geometry, material, kg) => {
    const made = assemblyOf([{ name, geometry, material }]).assembly;
    expect(Math.abs(itemsOf(made, {})[0]!.massKg! / kg - 1)).toBeLessThan(0.005);
  });
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
    ['Stainless steel', 7900],
    ['steel, mild', 7850],
    ['X5CrNi18-10 (1.4301)', 7900],
    ['AISI 316L', 7980],
    ['Nylon', 1140],
    ['unobtainium', undefined],
    ['', undefined],
  ])('density of %s', (name, density) => {
    expect(densityOf(name)).toBe(density);
  });
});

describe('where a mass comes from', () => {
  const [part] = assembly.parts;
  const withPart = (more: object) => ({ ...assembly, parts: [{ ...part!, ...more }, assembly.parts[1]!] });
  const mass = (more: object, doc: DrawingDocument = {}) => itemsOf(withPart(more), doc)[0]!;
  const materials = (name: string, densityKgM3: number): DrawingDocument => ({ ledger: { ...PLAIN_LEDGER, materials: [{ name, densityKgM3 }] } });

  test('the file’s density goes before the table’s, the ledger’s own before both', () => {
    expect(mass({ densityKgM3: 7800 }).massKg).toBeCloseTo(0.78, 9);
    expect(mass({ densityKgM3: 7800 }, materials('s 355', 7000)).massKg).toBeCloseTo(0.7, 9);
    expect(mass({ densityKgM3: 7800 }, materials('S275', 7000)).massKg).toBeCloseTo(0.78, 9);
  });
  test('a material typed instead of the file’s does not weigh what the file’s weighs', () => {
    expect(mass({ densityKgM3: 7800 }, typed('Plate', { material: 'unobtainium' }))).toMatchObject({
      massKg: undefined,
      massOrigin: 'No density is known for “unobtainium”: add it to the materials, or type the mass.',
    });
    expect(mass({ densityKgM3: 7800 }, typed('Plate', { material: 'PA6' })).massKg).toBeCloseTo(0.114, 9);
    expect(mass({ densityKgM3: 7800 }, typed('Plate', { material: 'S355' })).massKg).toBeCloseTo(0.78, 9);
    expect(mass({ material: undefined }).massOrigin).toBe('No material, so no mass.');
  });
  test('an open surface weighs nothing until its mass is typed', () => {
    expect(mass({ volumeMm3: 0 })).toMatchObject({ massKg: undefined, massTyped: false, massOrigin: expect.stringMatching(/^The surface is open/) });
    expect(mass({ volumeMm3: -5 }).massKg).toBeUndefined();
    expect(mass({ volumeMm3: 0 }, typed('Plate', { mass: '84 g' }))).toMatchObject({ massKg: 0.084, massTyped: true, massOrigin: 'Typed here.' });
  });
});

describe('rows of the drafter’s own', () => {
  const machine = smallMachine();
  const row = (id: string, more: object = {}) => ({ type: 'row', id, quantity: '1', order: 0, ...more }) as const;
  const words = (part: string, values: Record<string, string>) => ({ type: 'property', id: `property:${part}`, part, values }) as const;
  const docOf = (...records: readonly DrawingDocumentRecord[]) => Object.fromEntries(records.map((r) => [r.id, r]));
  const rows = (...records: readonly DrawingDocumentRecord[]) => itemsOf(machine.assembly, docOf(...records)).slice(machine.assembly.parts.length);

  test('come after the parts, numbered on from them, in their order; without a number where that is not wanted', () => {
    const found = rows(row('row~b', { order: 1 }), row('row~a'), row('row~c', { order: 2, unnumbered: true }), row('row~d', { order: 3 }));
    expect(found.map((i) => [i.part, cellText(i, 'item')])).toEqual([
      ['row~a', '8'],
      ['row~b', '9'],
      ['row~c', ''],
      ['row~d', '10'],
    ]);
    // A number that was given once stays.
    const numbers = { type: 'numbers', id: 'numbers', of: { 'row~a': 20 }, last: 20 } as const;
    expect(rows(row('row~a'), row('row~b', { order: 1 }), numbers).map((i) => i.number)).toEqual([20, 21]);
  });
  test('say their quantity as it is written, and what is typed of them', () => {
    const [grease, bolts] = rows(
      row('row~a', { quantity: 'as needed' }),
      row('row~b', { quantity: '4', order: 1 }),
      words('row~a', { description: 'Grease' }),
      words('row~b', { description: 'Anchor bolt', mass: '0.5 kg' }),
    );
    expect(['quantity', 'description', 'mass', 'totalMass'].map((k) => cellText(grease!, k))).toEqual(['as needed', 'Grease', '', '']);
    expect(['quantity', 'description', 'mass', 'totalMass'].map((k) => cellText(bolts!, k))).toEqual(['4', 'Anchor bolt', '0.5 kg', '2 kg']);
    expect(grease!.gaps).toEqual([]);
    expect(rows(row('row~a'))[0]!.gaps).toEqual(['description']);
  });
  test('count in the total mass where a mass is typed; without one they leave it complete', () => {
    const items = rows(row('row~a'), row('row~b', { quantity: '2', order: 1 }), words('row~b', { mass: '3 kg' }));
    expect(totalMass(items)).toEqual({ kg: 6, complete: true });
  });
});
