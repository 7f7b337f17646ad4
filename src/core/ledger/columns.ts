import type { ColumnKind, LedgerRecord, OwnColumn } from '../document/records.ts';
import { massText, numberText, PROPERTY_KEYS, PROPERTY_TITLES, SOURCES, type Item, type PropertyKey } from './items.ts';
import { MATERIALS } from './materials.ts';

/** A column of the properties grid. */
export interface GridColumn {
  readonly key: string;
  readonly title: string;
  readonly kind: ColumnKind | 'mass' | 'fixed';
  readonly editable: boolean;
  readonly width: number;
  readonly options?: readonly string[];
  /** Choices are proposals: other texts are fine too. */
  readonly open?: boolean;
  readonly unit?: string;
}

const WIDTHS: Readonly<Record<string, number>> = {
  item: 48,
  description: 210,
  quantity: 48,
  source: 92,
  unit: 52,
  mass: 92,
  drawingNumber: 130,
  partNumber: 120,
  material: 130,
};

/** What a list needs first stands first. */
const ORDER: readonly string[] = [
  'item',
  'description',
  'source',
  'drawingNumber',
  'partNumber',
  'material',
  'mass',
  'quantity',
  'supplier',
  'supplierNumber',
  'finish',
  'unit',
  'remark',
];

const BUILT_IN: readonly GridColumn[] = [
  { key: 'item', title: 'No.', kind: 'fixed', editable: false, width: 48 } satisfies GridColumn,
  ...PROPERTY_KEYS.map((key): GridColumn => {
    const base = { key, title: PROPERTY_TITLES[key], editable: true, width: WIDTHS[key] ?? 120 };
    if (key === 'source') return { ...base, kind: 'choice', options: SOURCES };
    if (key === 'material') return { ...base, kind: 'choice', options: MATERIALS.map((m) => m.name), open: true };
    return { ...base, kind: 'text' };
  }),
  { key: 'mass', title: 'Mass', kind: 'mass', editable: true, width: 92 } satisfies GridColumn,
  { key: 'quantity', title: 'Qty', kind: 'fixed', editable: false, width: 48 } satisfies GridColumn,
].sort((a, b) => ORDER.indexOf(a.key) - ORDER.indexOf(b.key));

const ownColumn = (c: OwnColumn): GridColumn => ({
  key: c.key,
  title: c.title,
  kind: c.kind,
  editable: true,
  width: 120,
  ...(c.kind === 'yesno' ? { options: ['yes', 'no'] } : c.options ? { options: c.options } : {}),
  ...(c.unit ? { unit: c.unit } : {}),
});

/** All columns in the order of the ledger; hidden ones too. */
export function allColumns(ledger: LedgerRecord): GridColumn[] {
  const all = [...BUILT_IN, ...ledger.own.map(ownColumn)].map((c) => {
    const materials = c.key === 'material' && ledger.materials.length ? { options: [...ledger.materials.map((m) => m.name), ...(c.options ?? [])] } : {};
    return { ...c, width: ledger.widths[c.key] ?? c.width, ...materials };
  });
  const place = new Map(ledger.order.map((k, i) => [k, i]));
  return all
    .map((c, i) => [c, place.get(c.key) ?? ledger.order.length + i] as const)
    .sort((a, b) => a[1] - b[1])
    .map(([c]) => c);
}

export const visibleColumns = (ledger: LedgerRecord): GridColumn[] => allColumns(ledger).filter((c) => !ledger.hidden.includes(c.key));

/** Text of a cell as it is shown, copied and exported. */
export function gridText(item: Item, column: GridColumn, massUnit: 'kg' | 'lb' = 'kg'): string {
  switch (column.key) {
    case 'item':
      return numberText(item);
    case 'quantity':
      return item.quantityText ?? String(item.quantity);
    case 'mass':
      return massText(item.massKg, massUnit);
    default:
      return column.key.startsWith('own:') ? (item.own[column.key] ?? '') : (item.values[column.key as PropertyKey]?.text ?? '');
  }
}

/** Where a cell's value comes from, for one line under it. */
export function gridOrigin(item: Item, column: GridColumn): string {
  if (column.key === 'mass') return item.massOrigin;
  if (column.key === 'item') return item.locked ? 'Typed here.' : 'Given by the ledger.';
  if (column.key === 'quantity') return 'Counted in the assembly.';
  return column.key.startsWith('own:') ? (column.key in item.own ? 'Typed here.' : 'Not typed.') : item.values[column.key as PropertyKey].origin;
}

export const isTyped = (item: Item, key: string): boolean =>
  key === 'mass' ? item.massTyped : key.startsWith('own:') ? key in item.own : item.values[key as PropertyKey]?.from === 'typed';

export const isGap = (item: Item, key: string): boolean => item.gaps.includes(key as PropertyKey);

/** A text as a column takes it, or a sentence why it does not. An empty text is always taken. */
export function accepted(column: GridColumn, text: string): { readonly text: string } | { readonly wrong: string } {
  const t = text.trim();
  if (t === '') return { text: '' };
  switch (column.kind) {
    case 'number': {
      const n = Number(t.replace(',', '.').replace(new RegExp(`\\s*${escaped(column.unit ?? '')}$`), ''));
      return Number.isFinite(n) ? { text: String(n) } : { wrong: `${column.title} takes a number${column.unit ? ` in ${column.unit}` : ''}, not “${t}”.` };
    }
    case 'yesno':
      if (/^(yes|y|true|1|ja|oui|x)$/i.test(t)) return { text: 'yes' };
      if (/^(no|n|false|0|nein|non)$/i.test(t)) return { text: 'no' };
      return { wrong: `${column.title} takes yes or no, not “${t}”.` };
    case 'choice': {
      const found = column.options?.find((o) => o.toLowerCase() === t.toLowerCase());
      if (found !== undefined) return { text: found };
      return column.open ? { text: t } : { wrong: `${column.title} takes one of ${column.options?.join(', ') ?? ''}, not “${t}”.` };
    }
    case 'link':
      return /^(https?:\/\/|mailto:)\S+$/i.test(t) ? { text: t } : { wrong: `${column.title} takes an address that begins with https://, not “${t}”.` };
    case 'mass':
      return /^\d+([.,]\d+)?\s*(kg|g|t|lbs?|oz)?$/i.test(t) ? { text: t } : { wrong: `${column.title} takes a mass such as 1.2 kg or 84 g, not “${t}”.` };
    default:
      return { text: t };
  }
}

const escaped = (s: string) => s.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
