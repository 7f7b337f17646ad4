import type { Assembly, Part } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import { recordsOf, type DrawingDocument } from '../document/records.ts';
import { densityOf } from './materials.ts';

/** Built-in properties, in the order of the grid. */
export const PROPERTY_KEYS = ['description', 'partNumber', 'drawingNumber', 'material', 'finish', 'source', 'supplier', 'supplierNumber', 'remark'] as const;
export type PropertyKey = (typeof PROPERTY_KEYS)[number];

export const PROPERTY_TITLES: Readonly<Record<PropertyKey, string>> = {
  description: 'Description',
  partNumber: 'Part number',
  drawingNumber: 'Drawing number',
  material: 'Material',
  finish: 'Finish',
  source: 'Source',
  supplier: 'Supplier',
  supplierNumber: "Supplier's number",
  remark: 'Remark',
};

export const SOURCES = ['made', 'bought', 'standard'] as const;

export interface Value {
  readonly text: string;
  /** Where it comes from: typed by someone, read from the file, worked out, or not there. */
  readonly from: 'typed' | 'file' | 'computed' | 'none';
  /** One sentence for the user. */
  readonly origin: string;
}

/** A row of the ledger: one distinct part. */
export interface Item {
  readonly number: number;
  /** Id of the part. */
  readonly part: string;
  readonly quantity: number;
  /** Indices of its components. */
  readonly components: readonly number[];
  readonly values: Readonly<Record<PropertyKey, Value>>;
  readonly massKg: number | undefined;
  readonly massOrigin: string;
  /** Wanted values that are missing. */
  readonly gaps: readonly PropertyKey[];
}

/** Items in the order in which the tree first uses them. Level: parts only. */
export function itemsOf(assembly: Assembly, doc: DrawingDocument): Item[] {
  const typed = new Map(recordsOf(doc, 'property').map((r) => [r.part, r.values]));
  const components = new Map<number, number[]>();
  for (const c of componentsOf(assembly)) {
    const list = components.get(c.part);
    if (list) list.push(c.index);
    else components.set(c.part, [c.index]);
  }
  return [...components].map(([index, list], i) => {
    const part = assembly.parts[index]!;
    const values = valuesOf(part, typed.get(part.id) ?? {});
    const mass = massOf(part, values.material.text);
    return {
      number: i + 1,
      part: part.id,
      quantity: list.length,
      components: list,
      values,
      massKg: mass.kg,
      massOrigin: mass.origin,
      gaps: gapsOf(values),
    };
  });
}

/** Names under which files carry the built-in properties, compared without case, blanks and punctuation. */
const FILE_NAMES: Readonly<Record<PropertyKey, readonly string[]>> = {
  description: ['description', 'title', 'designation'],
  partNumber: ['partnumber', 'partno', 'number', 'itemnumber'],
  drawingNumber: ['drawingnumber', 'drawingno', 'drawing'],
  material: ['material'],
  finish: ['finish', 'surface', 'treatment'],
  source: ['source', 'makeorbuy'],
  supplier: ['supplier', 'vendor', 'manufacturer', 'maker'],
  supplierNumber: ['suppliernumber', 'suppliersnumber', 'ordernumber', 'vendornumber'],
  remark: ['remark', 'note', 'comment'],
};

function valuesOf(part: Part, typed: Readonly<Record<string, string>>): Record<PropertyKey, Value> {
  const fromFile = new Map(Object.entries(part.properties).map(([k, v]) => [k.toLowerCase().replace(/[^a-z]/g, ''), v]));
  const out = {} as Record<PropertyKey, Value>;
  for (const key of PROPERTY_KEYS) {
    const own = typed[key];
    const file = FILE_NAMES[key].map((n) => fromFile.get(n)).find((v) => v !== undefined && v !== '');
    if (own !== undefined) out[key] = { text: own, from: 'typed', origin: 'Typed here.' };
    else if (file !== undefined) out[key] = { text: file, from: 'file', origin: 'From a property in the file.' };
    else if (key === 'material' && part.material) out[key] = { text: part.material, from: 'file', origin: 'From the material in the file.' };
    else if (key === 'description') out[key] = { text: part.name, from: 'file', origin: 'From the product name in the file.' };
    else out[key] = { text: '', from: 'none', origin: 'Not in the file, not typed.' };
  }
  return out;
}

function massOf(part: Part, material: string): { kg: number | undefined; origin: string } {
  const density = densityOf(material) ?? (material === part.material ? part.densityKgM3 : undefined) ?? part.densityKgM3;
  if (!density) return { kg: undefined, origin: material ? `No density is known for “${material}”.` : 'No material, so no mass.' };
  return { kg: part.volumeMm3 * 1e-9 * density, origin: `Volume ${Math.round(part.volumeMm3)} mm³ × ${Math.round(density)} kg/m³.` };
}

/** What is wanted depends on the source: bought parts carry no drawing number (common practice). */
function gapsOf(v: Readonly<Record<PropertyKey, Value>>): PropertyKey[] {
  const wanted: PropertyKey[] = ['description', 'source'];
  if (v.source.text === 'bought') wanted.push('supplier', 'supplierNumber');
  else if (v.source.text === 'standard') wanted.push('material');
  else wanted.push('material', 'drawingNumber');
  return wanted.filter((k) => v[k].text.trim() === '');
}

/** Mass with three significant digits: `1.27 kg`, `84.2 g`. */
export function massText(kg: number | undefined): string {
  if (kg === undefined) return '';
  const [v, unit] = kg < 0.1 ? [kg * 1000, 'g'] : [kg, 'kg'];
  return `${Number(v.toPrecision(3))} ${unit}`;
}

/** Total of the known masses, kg, and whether any is missing. */
export function totalMass(items: readonly Item[]): { kg: number; complete: boolean } {
  let kg = 0;
  for (const i of items) kg += (i.massKg ?? 0) * i.quantity;
  return { kg, complete: items.every((i) => i.massKg !== undefined) };
}
