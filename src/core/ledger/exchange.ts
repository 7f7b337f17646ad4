import type { LedgerRecord } from '../document/records.ts';
import { accepted, allColumns, gridText, type GridColumn } from './columns.ts';
import type { CellChange } from './grid.ts';
import type { Item } from './items.ts';

/** The heading of the column by which rows find their part again. */
export const PART_HEADING = 'Part';

/** The grid as a table: headings first, the part's own id in the first column. */
export function propertiesTable(items: readonly Item[], ledger: LedgerRecord): string[][] {
  const columns = allColumns(ledger);
  return [[PART_HEADING, ...columns.map((c) => c.title)], ...items.map((i) => [i.part, ...columns.map((c) => gridText(i, c, ledger.massUnit))])];
}

export interface ExchangePreview {
  readonly changes: readonly (CellChange & { readonly text: string; readonly title: string; readonly before: string })[];
  readonly refused: readonly string[];
  /** Rows that belong to no part. */
  readonly unknown: readonly string[];
}

/**
 * What a table that comes back would change. Rows are matched by the part's id, else by part number, drawing number or
 * description when exactly one part has it; columns by their heading.
 */
export function previewTable(table: readonly (readonly string[])[], items: readonly Item[], ledger: LedgerRecord): ExchangePreview {
  const heading = (table[0] ?? []).map((h) => h.trim().toLowerCase());
  const columns = allColumns(ledger);
  const columnAt = heading.map((h) => columns.find((c) => c.title.toLowerCase() === h && c.editable && c.key !== 'mass') ?? massColumn(h, columns));
  const partAt = heading.indexOf(PART_HEADING.toLowerCase());
  const changes: ExchangePreview['changes'][number][] = [];
  const refused = new Set<string>();
  const unknown: string[] = [];
  if (columnAt.every((c) => c === undefined))
    return { changes, refused: ['None of the headings is a column of the grid. Take the properties out first to see how they are written.'], unknown };
  for (const row of table.slice(1)) {
    if (row.every((c) => c.trim() === '')) continue;
    const item = items.find((i) => partAt >= 0 && i.part === row[partAt]) ?? byValue(row, heading, items);
    if (!item) {
      unknown.push(row.find((c) => c.trim() !== '') ?? '');
      continue;
    }
    columnAt.forEach((column, k) => {
      const text = row[k];
      if (!column || text === undefined) return;
      const before = gridText(item, column, ledger.massUnit);
      if (text.trim() === before) return;
      const r = accepted(column, text);
      if ('wrong' in r) refused.add(r.wrong);
      else if (r.text !== before) changes.push({ part: item.part, key: column.key, text: r.text, title: column.title, before });
    });
  }
  return { changes, refused: [...refused], unknown };
}

const massColumn = (heading: string, columns: readonly GridColumn[]) => (heading === 'mass' ? columns.find((c) => c.key === 'mass') : undefined);

/** The one part with this part number, drawing number or description. */
function byValue(row: readonly string[], heading: readonly string[], items: readonly Item[]): Item | undefined {
  for (const [title, key] of [
    ['part number', 'partNumber'],
    ['drawing number', 'drawingNumber'],
    ['description', 'description'],
  ] as const) {
    const text = row[heading.indexOf(title)]?.trim();
    if (!text) continue;
    const found = items.filter((i) => i.values[key].text === text);
    if (found.length === 1) return found[0];
  }
  return undefined;
}
