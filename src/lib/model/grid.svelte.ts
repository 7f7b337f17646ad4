import { ledgerOf, type LedgerRecord } from '$core/document/records';
import { allColumns, gridText, isGap, visibleColumns, type GridColumn } from '$core/ledger/columns';
import {
  blockText,
  fillDown,
  nextGap,
  parseBlock,
  pasteBlock,
  putBack,
  stepsOf,
  textsIn,
  type CellChange,
  type CellRange,
  type Planned,
} from '$core/ledger/grid';
import type { Item } from '$core/ledger/items';
import { suggestionsFor } from '$core/ledger/suggest';
import {
  createTable,
  getCoreRowModel,
  getFilteredRowModel,
  getSortedRowModel,
  type ColumnFiltersState,
  type SortingState,
  type TableOptionsResolved,
} from '@tanstack/table-core';
import type { Drawing } from '../shared/drawing.svelte';
import { notify } from '../shared/notices.svelte';

export interface Cell {
  readonly row: number;
  readonly column: number;
}

/** The properties grid: what is shown of the ledger, which cells are chosen, and what can be done with them. */
export class Grid {
  sorting = $state.raw<SortingState>([]);
  search = $state('');
  /** Text that a column's cells must contain, by column key. */
  filters = $state.raw<Readonly<Record<string, string>>>({});
  gapsOnly = $state(false);
  /** The cell that keys act on, and the far end of the chosen block. */
  active = $state.raw<Cell>({ row: 0, column: 1 });
  end = $state.raw<Cell>({ row: 0, column: 1 });
  /** Text of the cell that is being edited. */
  editing = $state<string | undefined>(undefined);
  /** Gives the keys back to the grid. */
  focus: () => void = () => {};
  readonly drawing: Drawing;

  readonly ledger: LedgerRecord = $derived.by(() => ledgerOf(this.drawing.document));
  readonly every: GridColumn[] = $derived(allColumns(this.ledger));
  readonly columns: GridColumn[] = $derived(visibleColumns(this.ledger));
  /** Rows that were gaps when the filter was set stay while they are filled. */
  private gapRows = $state.raw<ReadonlySet<string>>(new Set());

  readonly items: readonly Item[] = $derived.by(() => {
    const unit = this.ledger.massUnit;
    const options: TableOptionsResolved<Item> = {
      data: [...this.drawing.items],
      columns: this.every.map((c) => ({
        id: c.key,
        accessorFn: (i: Item) => (c.key === 'item' ? i.number : c.key === 'quantity' ? i.quantity : c.key === 'mass' ? (i.massKg ?? -1) : gridText(i, c, unit)),
        filterFn: 'includesString' as const,
        sortingFn: 'alphanumeric' as const,
      })),
      state: {
        sorting: this.sorting,
        globalFilter: this.search,
        columnFilters: Object.entries(this.filters).flatMap(([id, value]): ColumnFiltersState => (value ? [{ id, value }] : [])),
        columnPinning: { left: [], right: [] },
      },
      globalFilterFn: (row, _, text: string) => this.every.some((c) => gridText(row.original, c, unit).toLowerCase().includes(text.toLowerCase())),
      getColumnCanGlobalFilter: () => true,
      getCoreRowModel: getCoreRowModel(),
      getFilteredRowModel: getFilteredRowModel(),
      getSortedRowModel: getSortedRowModel(),
      onStateChange: () => undefined,
      renderFallbackValue: '',
    };
    const rows = createTable(options)
      .getRowModel()
      .rows.map((r) => r.original);
    return this.gapsOnly ? rows.filter((i) => this.gapRows.has(i.part)) : rows;
  });
  readonly gapCount = $derived.by(() => this.drawing.items.reduce((n, i) => n + i.gaps.length, 0));
  readonly gapsOf = $derived.by(() => {
    const out: Record<string, number> = {};
    for (const i of this.drawing.items) for (const g of i.gaps) out[g] = (out[g] ?? 0) + 1;
    return out;
  });
  readonly suggestions = $derived.by(() => {
    const shapes = new Map(this.drawing.assembly.parts.flatMap((p) => (p.looksLike ? [[p.id, p.looksLike] as const] : [])));
    return suggestionsFor(this.drawing.items, this.ledger, shapes);
  });
  readonly range: CellRange = $derived({
    top: Math.min(this.active.row, this.end.row),
    bottom: Math.max(this.active.row, this.end.row),
    left: Math.min(this.active.column, this.end.column),
    right: Math.max(this.active.column, this.end.column),
  });
  readonly activeItem = $derived(this.items[this.active.row]);
  readonly activeColumn = $derived(this.columns[this.active.column]);

  constructor(drawing: Drawing) {
    this.drawing = drawing;
  }

  /** Goes to a cell; with `extend` the block reaches there. */
  go(row: number, column: number, extend = false): void {
    const to = { row: Math.max(0, Math.min(this.items.length - 1, row)), column: Math.max(0, Math.min(this.columns.length - 1, column)) };
    this.editing = undefined;
    this.end = to;
    if (!extend) this.active = to;
    const part = this.items[this.active.row]?.part;
    if (part && part !== this.drawing.selectedPart) this.drawing.select({ kind: 'item', part });
  }

  /** Shows a row without choosing its part anew. */
  reveal(row: number): void {
    this.editing = undefined;
    this.active = { row, column: this.active.column };
    this.end = this.active;
  }

  /** Begins to edit, with the text that is there or with what was typed. */
  edit(text?: string): void {
    const [item, column] = [this.activeItem, this.activeColumn];
    if (!item || !column?.editable) return;
    this.end = this.active;
    this.editing = text ?? gridText(item, column, this.ledger.massUnit);
  }

  /** Keeps what is being edited and goes on. */
  commit(down: number, right: number): void {
    const text = this.editing;
    this.editing = undefined;
    const [item, column] = [this.activeItem, this.activeColumn];
    if (text !== undefined && item && column) this.plan(`${column.title} of ${item.number}`, pasteBlock(this.items, this.columns, this.range, [[text]]));
    if (down || right) this.go(this.active.row + down, this.active.column + right);
  }

  copy(): string {
    return blockText(textsIn(this.items, this.columns, this.range, this.ledger.massUnit));
  }

  paste(text: string): void {
    const block = parseBlock(text);
    const { top, left } = this.range;
    const size = `${block.length} × ${Math.max(...block.map((r) => r.length))}`;
    this.plan(`Paste ${size}`, pasteBlock(this.items, this.columns, this.range, block));
    this.active = { row: top, column: left };
    this.end = {
      row: Math.min(this.items.length - 1, Math.max(this.range.bottom, top + block.length - 1)),
      column: Math.min(this.columns.length - 1, Math.max(this.range.right, left + Math.max(...block.map((r) => r.length)) - 1)),
    };
  }

  fillDown(): void {
    this.plan('Fill down', fillDown(this.items, this.columns, this.range));
  }

  /** Takes typed values back; what the file says shows again. */
  putBack(): void {
    this.change('Put back', putBack(this.items, this.columns, this.range));
  }

  nextGap(): void {
    const next = nextGap(this.items, this.columns, this.active.row, this.active.column);
    this.focus();
    if (next) this.go(next.row, next.column);
    else notify('good', 'No gap is left in what is shown.');
  }

  setGapsOnly(on: boolean): void {
    this.gapRows = new Set(this.drawing.items.filter((i) => i.gaps.length).map((i) => i.part));
    this.gapsOnly = on;
  }

  sortBy(key: string): void {
    const now = this.sorting[0];
    this.sorting = now?.id !== key ? [{ id: key, desc: false }] : now.desc ? [] : [{ id: key, desc: true }];
  }

  change(label: string, changes: readonly CellChange[]): void {
    const steps = stepsOf(this.drawing.document, changes, new Date().toISOString());
    if (steps.length) this.drawing.edit(label, steps);
  }

  setLedger(label: string, change: Partial<LedgerRecord>): void {
    this.drawing.edit(label, [{ op: 'put', record: { ...this.ledger, ...change } }]);
  }

  /** Puts a column before another. */
  moveColumn(key: string, before: string): void {
    if (key === before) return;
    const order = this.every.map((c) => c.key).filter((k) => k !== key);
    order.splice(order.indexOf(before), 0, key);
    this.setLedger('Order of columns', { order });
  }

  gapAt(item: Item, column: GridColumn): boolean {
    return isGap(item, column.key);
  }

  private plan(label: string, { changes, refused }: Planned): void {
    this.change(label, changes);
    if (refused.length) notify('trouble', refused.slice(0, 3).join(' '));
  }
}
