import { NAME_SOURCE_TEXT } from '../assembly/naming.ts';
import type { Assembly, Part } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import { ledgerOf, recordsOf, type DrawingDocument, type LedgerRecord, type NumbersRecord, type RecordOf } from '../document/records.ts';
import { densityAmong, densityOf } from './materials.ts';

/** Built-in properties, in the order of the grid. */
export const PROPERTY_KEYS = [
  'description',
  'partNumber',
  'drawingNumber',
  'material',
  'finish',
  'source',
  'supplier',
  'supplierNumber',
  'unit',
  'remark',
] as const;
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
  unit: 'Unit',
  remark: 'Remark',
};

export const SOURCES = ['made', 'bought', 'standard'] as const;

export interface Value {
  readonly text: string;
  /** Where it comes from: typed by someone, read from the file, worked out, or not there. */
  readonly from: 'typed' | 'file' | 'computed' | 'default' | 'none';
  /** One sentence for the user. */
  readonly origin: string;
}

/** A row of the ledger: one distinct part, or a row of the drafter's own, which has no components. */
export interface Item {
  readonly number: number;
  /** What is written instead of the number: `3.1`. */
  readonly label?: string;
  /** Giving numbers anew leaves its number. */
  readonly locked?: true;
  /** Id of the part. */
  readonly part: string;
  readonly quantity: number;
  /** Of a row of one's own, as it is written. */
  readonly quantityText?: string;
  /** A row of one's own without an item number; its number is 0. */
  readonly unnumbered?: true;
  /** Indices of its components. */
  readonly components: readonly number[];
  readonly values: Readonly<Record<PropertyKey, Value>>;
  /** Typed texts of own columns. */
  readonly own: Readonly<Record<string, string>>;
  readonly massKg: number | undefined;
  /** Typed, or volume × density. */
  readonly massTyped: boolean;
  readonly massOrigin: string;
  /** Wanted values that are missing. */
  readonly gaps: readonly PropertyKey[];
}

/** Items in the order in which the tree first uses them. Level: parts only. */
export function itemsOf(assembly: Assembly, doc: DrawingDocument): Item[] {
  const typed = new Map(recordsOf(doc, 'property').map((r) => [r.part, r]));
  const { materials } = ledgerOf(doc);
  const given = doc['numbers']?.type === 'numbers' ? doc['numbers'] : undefined;
  const numbers = given?.of ?? {};
  const components = new Map<number, number[]>();
  for (const c of componentsOf(assembly)) {
    const list = components.get(c.part);
    if (list) list.push(c.index);
    else components.set(c.part, [c.index]);
  }
  const modelled = [...components].map(([index, list], i): Item => {
    const part = assembly.parts[index]!;
    const record = typed.get(part.id);
    const values = valuesOf(part, record?.values ?? {}, record?.when ?? {});
    const mass = massOf(part, values.material, record?.values['mass'], materials);
    return {
      number: numbers[part.id] ?? i + 1,
      ...writtenAs(given, part.id),
      part: part.id,
      quantity: list.length,
      components: list,
      values,
      own: Object.fromEntries(Object.entries(record?.values ?? {}).filter(([k]) => k.startsWith('own:'))),
      massKg: mass.kg,
      massTyped: mass.typed,
      massOrigin: mass.origin,
      gaps: gapsOf(values),
    };
  });
  return [...modelled, ...ownRows(doc, typed, given, modelled)];
}

/** Rows of the drafter's own, after those of the model; they want a description, nothing else. */
function ownRows(doc: DrawingDocument, typed: ReadonlyMap<string, RecordOf<'property'>>, given: NumbersRecord | undefined, modelled: readonly Item[]): Item[] {
  const rows = [...recordsOf(doc, 'row')].sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));
  const numbers = given?.of ?? {};
  let last = Math.max(0, ...modelled.map((i) => i.number));
  return rows.map((r): Item => {
    const record = typed.get(r.id);
    const values = valuesOf(NO_PART, record?.values ?? {}, record?.when ?? {});
    const massKg = record?.values['mass'] === undefined ? undefined : parseMass(record.values['mass']);
    const count = Number(r.quantity.replace(',', '.'));
    if (!r.unnumbered) last = Math.max(last + 1, numbers[r.id] ?? 0);
    return {
      number: r.unnumbered ? 0 : (numbers[r.id] ?? last),
      ...writtenAs(given, r.id),
      part: r.id,
      quantity: r.quantity.trim() !== '' && Number.isFinite(count) ? count : 1,
      quantityText: r.quantity,
      ...(r.unnumbered ? { unnumbered: true as const } : {}),
      components: [],
      values,
      own: Object.fromEntries(Object.entries(record?.values ?? {}).filter(([k]) => k.startsWith('own:'))),
      massKg,
      massTyped: massKg !== undefined,
      massOrigin: massKg === undefined ? 'Not typed: it counts for nothing.' : 'Typed here.',
      gaps: values.description.text.trim() === '' ? ['description'] : [],
    };
  });
}

function writtenAs(given: NumbersRecord | undefined, part: string): Pick<Item, 'label' | 'locked'> {
  const label = given?.labels?.[part];
  return { ...(label ? { label } : {}), ...(given?.locked?.includes(part) ? { locked: true as const } : {}) };
}

/** The number of an item as it is written. */
export const numberText = (i: Item): string => (i.unnumbered ? '' : (i.label ?? String(i.number)));

const NO_PART = { name: '', properties: {} } as Pick<Part, 'name' | 'properties'> as Part;

/** Is it in the model, so that it can be seen and pointed at? */
export const isModelled = (i: Item): boolean => i.components.length > 0;

/** Values of what has only a name in the model: a sub-assembly. */
export const valuesOfNamed = (name: string, typed: Readonly<Record<string, string>>, when: Readonly<Record<string, string>>): Record<PropertyKey, Value> =>
  valuesOf({ ...NO_PART, name }, typed, when);

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
  unit: ['unit', 'unitofquantity'],
  remark: ['remark', 'note', 'comment'],
};

function valuesOf(part: Part, typed: Readonly<Record<string, string>>, when: Readonly<Record<string, string>>): Record<PropertyKey, Value> {
  const fromFile = new Map(Object.entries(part.properties).map(([k, v]) => [k.toLowerCase().replace(/[^a-z]/g, ''), [k, v] as const]));
  const out = {} as Record<PropertyKey, Value>;
  const entity = (what: string) => (part.entities?.[what] ? ` (entity ${part.entities[what]})` : '');
  for (const key of PROPERTY_KEYS) {
    const own = typed[key];
    const file = FILE_NAMES[key].map((n) => fromFile.get(n)).find((v) => v !== undefined && v[1] !== '');
    if (own !== undefined) out[key] = { text: own, from: 'typed', origin: when[key] ? `Typed on ${when[key].slice(0, 10)}.` : 'Typed here.' };
    else if (file !== undefined)
      out[key] = { text: file[1], from: 'file', origin: `From the property “${file[0]}” of the product in the file${entity(`property:${file[0]}`)}.` };
    else if (key === 'material' && part.material)
      out[key] = { text: part.material, from: 'file', origin: `From the material in the file${entity('material')}.` };
    else if (key === 'description')
      out[key] = { text: part.name, from: 'file', origin: `From ${NAME_SOURCE_TEXT[part.nameFrom ?? 'product']}${entity('name')}.` };
    else if (key === 'unit') out[key] = { text: 'pc', from: 'default', origin: 'Counted in pieces unless you say otherwise.' };
    else out[key] = { text: '', from: 'none', origin: 'Not in the file, not typed.' };
  }
  return out;
}

interface Mass {
  readonly kg: number | undefined;
  readonly typed: boolean;
  readonly origin: string;
}

/** The ledger's own density goes before the file's, that before the table's; the file's is not for a material typed instead. */
function massOf(part: Part, { text: material, from }: Value, typed: string | undefined, own: LedgerRecord['materials']): Mass {
  const given = typed === undefined ? undefined : parseMass(typed);
  if (given !== undefined) return { kg: given, typed: true, origin: 'Typed here.' };
  const density = densityAmong(material, own) ?? (from === 'typed' && material !== part.material ? undefined : part.densityKgM3) ?? densityOf(material);
  if (!density)
    return {
      kg: undefined,
      typed: false,
      origin: material ? `No density is known for “${material}”: add it to the materials, or type the mass.` : 'No material, so no mass.',
    };
  if (!(part.volumeMm3 > 0)) return { kg: undefined, typed: false, origin: 'The surface is open, so there is no volume: type the mass.' };
  return { kg: part.volumeMm3 * 1e-9 * density, typed: false, origin: `Volume ${Math.round(part.volumeMm3)} mm³ × ${Math.round(density)} kg/m³.` };
}

/** Kilograms of one of a unit. */
export const KG_PER: Readonly<Record<string, number>> = { kg: 1, g: 1e-3, t: 1000, lb: 0.45359237, lbs: 0.45359237, oz: 0.028349523125 };

/** `1.2 kg`, `84 g`, `3 lb`; a number alone is in `unit`. @returns kg, undefined for anything else */
export function parseMass(text: string, unit: 'kg' | 'lb' = 'kg'): number | undefined {
  const m = /^\s*(\d+(?:[.,]\d+)?)\s*([a-z]*)\s*$/i.exec(text);
  const factor = m ? KG_PER[m[2]!.toLowerCase() || unit] : undefined;
  return m && factor ? Number(m[1]!.replace(',', '.')) * factor : undefined;
}

/** What is wanted depends on the source: bought parts carry no drawing number (common practice). */
function gapsOf(v: Readonly<Record<PropertyKey, Value>>): PropertyKey[] {
  const wanted: PropertyKey[] = ['description', 'source'];
  if (v.source.text === 'bought') wanted.push('supplier', 'supplierNumber');
  else if (v.source.text === 'standard') wanted.push('material');
  else wanted.push('material', 'drawingNumber');
  return wanted.filter((k) => v[k].text.trim() === '');
}

/** Mass with three significant digits: `1.27 kg`, `84.2 g`, `2.8 lb`. */
export function massText(kg: number | undefined, unit: 'kg' | 'lb' = 'kg'): string {
  if (kg === undefined) return '';
  const { value, name } = massIn(kg, unit);
  // Half of the last figure goes up, also where the number in the machine lies a hair below it.
  return `${Number((value * (1 + 1e-12)).toPrecision(3))} ${name}`;
}

/** A mass in the unit that it is written in: grams under a tenth of a kilogram. */
export function massIn(kg: number, unit: 'kg' | 'lb' = 'kg'): { readonly value: number; readonly name: string } {
  return unit === 'lb' ? { value: kg / KG_PER['lb']!, name: 'lb' } : kg < 0.1 ? { value: kg * 1000, name: 'g' } : { value: kg, name: 'kg' };
}

/** Total of the known masses, kg, and whether any is missing. */
export function totalMass(items: readonly Item[]): { kg: number; complete: boolean } {
  let kg = 0;
  for (const i of items) kg += (i.massKg ?? 0) * i.quantity;
  return { kg, complete: items.every((i) => i.massKg !== undefined || !isModelled(i)) };
}
