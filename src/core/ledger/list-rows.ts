import type { ListColumn, ListRecord } from '../document/records.ts';
import { KG_PER, massText, numberText, PROPERTY_KEYS, PROPERTY_TITLES, type Item, type PropertyKey } from './items.ts';

/** Columns whose cells are counted, weighed or measured, never typed. */
const COMPUTED = [
  'quantity',
  'identifyingNumber',
  'mass',
  'totalMass',
  'level',
  'stock',
  'length',
  'width',
  'thickness',
  'box',
  'totalLength',
  'area',
  'ends',
] as const;

export const LIST_COLUMN_KEYS = ['item', ...COMPUTED.slice(0, 1), ...PROPERTY_KEYS, ...COMPUTED.slice(1)] as const;

export const LIST_COLUMN_TITLES: Readonly<Record<string, string>> = {
  item: 'Item',
  quantity: 'Qty',
  ...PROPERTY_TITLES,
  identifyingNumber: 'Identifying number',
  mass: 'Mass',
  totalMass: 'Total mass',
  level: 'Level',
  stock: 'Stock',
  length: 'Length',
  width: 'Width',
  thickness: 'Thickness',
  box: 'Least box',
  totalLength: 'Total length',
  area: 'Area',
  ends: 'Ends',
};

/** Columns of a parts list by ISO 7573, 180 mm in all: as wide as the title block. */
export const DEFAULT_LIST_COLUMNS: readonly ListColumn[] = [
  { key: 'item', title: 'Item', widthMm: 10 },
  { key: 'quantity', title: 'Qty', widthMm: 9 },
  { key: 'description', title: 'Description', widthMm: 62, long: 'wrap' },
  { key: 'drawingNumber', title: 'Drawing number', widthMm: 30, long: 'wrap' },
  { key: 'material', title: 'Material', widthMm: 41, long: 'wrap' },
  { key: 'mass', title: 'Mass', widthMm: 28 },
];

/** Columns of a parts list by ASME Y14.34: find number, quantity required, identifying number, nomenclature, material or specification. */
const ASME_COLUMNS: readonly ListColumn[] = [
  { key: 'item', title: 'FIND NO.', widthMm: 15 },
  { key: 'quantity', title: 'QTY REQD', widthMm: 16 },
  { key: 'identifyingNumber', title: 'PART OR IDENTIFYING NO.', widthMm: 38, long: 'wrap' },
  { key: 'description', title: 'NOMENCLATURE OR DESCRIPTION', widthMm: 50, long: 'wrap' },
  { key: 'material', title: 'MATERIAL / SPEC', widthMm: 39.75, long: 'wrap' },
];

const CUT_COLUMNS: readonly ListColumn[] = [
  { key: 'item', title: 'Item', widthMm: 10 },
  { key: 'quantity', title: 'Qty', widthMm: 9 },
  { key: 'description', title: 'Description', widthMm: 41, long: 'wrap' },
  { key: 'stock', title: 'Stock', widthMm: 34, long: 'wrap' },
  { key: 'length', title: 'Length', widthMm: 15 },
  { key: 'width', title: 'Width', widthMm: 14 },
  { key: 'thickness', title: 'Thick', widthMm: 13 },
  { key: 'material', title: 'Material', widthMm: 27, long: 'wrap' },
  { key: 'totalLength', title: 'Total', widthMm: 17 },
];

const BUYING_COLUMNS: readonly ListColumn[] = [
  { key: 'item', title: 'Item', widthMm: 10 },
  { key: 'quantity', title: 'Qty', widthMm: 9 },
  { key: 'description', title: 'Description', widthMm: 61, long: 'wrap' },
  { key: 'supplier', title: 'Supplier', widthMm: 40, long: 'wrap' },
  { key: 'supplierNumber', title: "Supplier's number", widthMm: 35, long: 'wrap' },
  { key: 'remark', title: 'Remark', widthMm: 25, long: 'wrap' },
];

/** Layouts that are ready to be taken, as wide as their standard's title block. */
export const LIST_STYLES = [
  { name: 'ISO 7573', columns: DEFAULT_LIST_COLUMNS },
  { name: 'ASME Y14.34', columns: ASME_COLUMNS },
  { name: 'Cut list', columns: CUT_COLUMNS, rows: 'stock' },
  { name: 'Buying', columns: BUYING_COLUMNS },
] as const satisfies readonly { readonly name: string; readonly columns: readonly ListColumn[]; readonly rows?: 'stock' }[];

/** Usual columns: of the list of a first drawing, or of a cut list. */
export const listColumnsFor = (standard: 'iso' | 'asme', rows?: ListRecord['rows']): readonly ListColumn[] =>
  rows === 'stock' ? CUT_COLUMNS : standard === 'asme' ? ASME_COLUMNS : DEFAULT_LIST_COLUMNS;

/** Text of a cell that the item alone answers, own columns too. @param quantity of its row */
export function cellText(item: Item, key: string, massUnit: 'kg' | 'lb' = 'kg', quantity: number = item.quantity): string {
  switch (key) {
    case 'item':
      return numberText(item);
    case 'quantity':
      return item.quantityText ?? String(quantity);
    case 'identifyingNumber':
      // The number by which it is made or ordered, whichever it has (ASME Y14.34, from memory).
      return item.values.partNumber.text || item.values.drawingNumber.text || item.values.supplierNumber.text;
    case 'mass':
      return massText(item.massKg, massUnit);
    case 'totalMass':
      return massText(item.massKg === undefined ? undefined : item.massKg * quantity, massUnit);
    default:
      return item.values[key as PropertyKey]?.text ?? item.own[key] ?? '';
  }
}

const FIGURES: readonly string[] = ['quantity', 'mass', 'totalMass', 'length', 'width', 'thickness', 'totalLength', 'area'];

/** Figures stand to the right, words to the left (ISO 7573). */
export function cellAlignment(key: string): 'start' | 'end' | 'middle' {
  return key === 'item' || key === 'level' ? 'middle' : FIGURES.includes(key) ? 'end' : 'start';
}

/** One unit and one number of decimals for all masses of a list, so that they are read down a column. */
export interface MassColumn {
  readonly unit: 'kg' | 'g' | 'lb';
  readonly decimals: number;
}

const massColumns = new WeakMap<readonly Item[], Map<string, MassColumn>>();

/** The unit of masses: that of the job; grams where nothing weighs a tenth of a kilogram. @param items of the ledger */
export function massColumn(items: readonly Item[], unit: 'kg' | 'lb' = 'kg'): MassColumn {
  const known = massColumns.get(items) ?? new Map<string, MassColumn>();
  massColumns.set(items, known);
  let column = known.get(unit);
  if (!column) {
    const most = items.reduce((m, i) => Math.max(m, (i.massKg ?? 0) * i.quantity), 0);
    const grams = unit === 'kg' && most < 0.1;
    const value = most / KG_PER[unit]!;
    column = grams ? { unit: 'g', decimals: most * 1000 >= 10 ? 1 : 2 } : { unit, decimals: value >= 1000 ? 1 : value >= 100 ? 2 : 3 };
    known.set(unit, column);
  }
  return column;
}

/** A mass as a figure of such a column. */
export function massFigure(kg: number | undefined, { unit, decimals }: MassColumn): string {
  if (kg === undefined) return '';
  const value = kg / KG_PER[unit]!;
  const least = 10 ** -decimals;
  return value > 0 && value < least / 2 ? `< ${least.toFixed(decimals)}` : (value * (1 + 1e-12)).toFixed(decimals);
}

/** The head of a column as it is printed: masses say their unit; in a list of capitals all heads are capitals. */
export function headOf(column: Pick<ListColumn, 'key' | 'title'>, columns: readonly Pick<ListColumn, 'title'>[], mass: MassColumn): string {
  const capitals = columns.filter((c) => /\p{L}/u.test(c.title) && c.title === c.title.toUpperCase()).length * 2 > columns.length;
  const cased = (text: string) => (capitals ? text.toUpperCase() : text);
  if (column.key !== 'mass' && column.key !== 'totalMass') return cased(column.title);
  if (/\b(kg|g|lb)\b/.test(column.title)) return column.title;
  // Of one piece, or of all that the row counts.
  const each = column.key === 'mass' && !/\b(each|piece|unit)\b/i.test(column.title) ? `${column.title} each` : column.title;
  return `${cased(each)} (${mass.unit})`;
}
