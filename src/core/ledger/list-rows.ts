import type { ListColumn } from '../document/records.ts';
import { massText, PROPERTY_KEYS, PROPERTY_TITLES, type Item, type PropertyKey } from './items.ts';

export const LIST_COLUMN_KEYS = ['item', 'quantity', ...PROPERTY_KEYS, 'mass', 'totalMass'] as const;

export const LIST_COLUMN_TITLES: Readonly<Record<string, string>> = {
  item: 'Item',
  quantity: 'Qty',
  ...PROPERTY_TITLES,
  mass: 'Mass',
  totalMass: 'Total mass',
};

/** Columns of a parts list by ISO 7573, 180 mm in all: as wide as the title block. */
export const DEFAULT_LIST_COLUMNS: readonly ListColumn[] = [
  { key: 'item', title: 'Item', widthMm: 10 },
  { key: 'quantity', title: 'Qty', widthMm: 9 },
  { key: 'description', title: 'Description', widthMm: 69 },
  { key: 'drawingNumber', title: 'Drawing number', widthMm: 30 },
  { key: 'material', title: 'Material', widthMm: 41 },
  { key: 'mass', title: 'Mass', widthMm: 21 },
];

/** Text of one cell, own columns too. */
export function cellText(item: Item, key: string, massUnit: 'kg' | 'lb' = 'kg'): string {
  switch (key) {
    case 'item':
      return item.unnumbered ? '' : String(item.number);
    case 'quantity':
      return item.quantityText ?? String(item.quantity);
    case 'mass':
      return massText(item.massKg, massUnit);
    case 'totalMass':
      return massText(item.massKg === undefined ? undefined : item.massKg * item.quantity, massUnit);
    default:
      return item.values[key as PropertyKey]?.text ?? item.own[key] ?? '';
  }
}

/** Figures stand to the right, words to the left (ISO 7573). */
export function cellAlignment(key: string): 'start' | 'end' | 'middle' {
  return key === 'item' ? 'middle' : key === 'quantity' || key === 'mass' || key === 'totalMass' ? 'end' : 'start';
}
