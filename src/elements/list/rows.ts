import type { ListRecord } from '../../core/document/records.ts';
import type { Item } from '../../core/ledger/items.ts';
import { indentedRows, partRows, topRows, type ListRow } from '../../core/ledger/levels.ts';
import { cellText, headOf, massColumn, massFigure } from '../../core/ledger/list-rows.ts';
import { endsText } from '../../core/stock/ends.ts';
import { mmText, stockText, type Stock } from '../../core/stock/profile.ts';
import type { Scene } from '../scene.ts';

/** A row as a list shows it: of an item, or a total of the rows above it. */
export type ShownRow =
  (ListRow & { readonly total?: undefined }) | { readonly total: Total; readonly item?: undefined; readonly quantity: number; readonly level: 0 };

interface Total {
  readonly words: string;
  readonly lengthMm: number;
  readonly quantity: number;
}

/** The rows of a list, before they are shared among its sheets. */
export function rowsOf(list: ListRecord, scene: Scene): readonly ShownRow[] {
  const hidden = new Set(list.hidden);
  const times = list.made ? scene.drawing.quantity : 1;
  const rows = levelRows(list, scene).flatMap((r) => (hidden.has(r.item.part) ? [] : [times > 1 ? forAll(r, times) : r]));
  const seen = list.view ? scene.visibleArea(list.view) : undefined;
  const shown = seen ? rows.filter((r) => r.item.components.some((c) => (seen[c] ?? 0) > 0)) : rows;
  if (list.rows === 'stock') return stockRows(shown, scene, list.sort);
  // Levels are an order of their own.
  return list.sort?.length && list.rows !== 'indented' && list.rows !== 'indented parts' ? sorted(shown, list.sort, scene) : shown;
}

/** A row for all that are made: what stands under a sub-assembly stays counted for one of it. */
function forAll(row: ListRow, times: number): ListRow {
  if (row.level > 0) return row;
  const { quantityText } = row.item;
  // What is typed is a number, or words that say enough: “as needed”.
  const typed =
    quantityText !== undefined && Number.isFinite(Number(quantityText)) ? { item: { ...row.item, quantityText: String(Number(quantityText) * times) } } : {};
  return { ...row, ...typed, quantity: row.quantity * times };
}

function levelRows(list: ListRecord, scene: Scene): readonly ListRow[] {
  const { assembly, items } = scene;
  const group = list.of === undefined ? undefined : scene.groups.find((g) => g.item.part === list.of);
  if (list.of !== undefined && !group) return [];
  const node = group ? group.nodes[0]! : assembly.nodes.findIndex((n) => n.parent < 0);
  const own = group || list.view ? [] : items.filter((i) => i.components.length === 0).map((item): ListRow => ({ item, quantity: item.quantity, level: 0 }));
  // A single part is its own tree.
  if (assembly.nodes[node]?.part !== -1 || (!list.rows && !group)) return items.map((item) => ({ item, quantity: item.quantity, level: 0 }));
  switch (list.rows) {
    case 'top':
      return [...topRows(assembly, items, scene.groups, node), ...own];
    case 'indented':
    case 'indented parts':
      return [...indentedRows(assembly, items, scene.groups, node, list.rows === 'indented parts'), ...own];
    default:
      return [...partRows(assembly, items, node), ...own];
  }
}

/** Text compares as people read it: numbers by their value. */
const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

function sorted<R extends ListRow>(rows: readonly R[], keys: NonNullable<ListRecord['sort']>, scene: Scene): R[] {
  const figures = (r: R, key: string): number | string => {
    switch (key) {
      case 'item':
        return r.item.unnumbered ? Infinity : r.item.number;
      case 'mass':
        return r.item.massKg ?? -1;
      case 'totalMass':
        return (r.item.massKg ?? -1) * r.quantity;
      default:
        return figure(r, key, scene) ?? cellOf(r, key, scene);
    }
  };
  return [...rows].sort((a, b) => {
    for (const { key, down } of keys) {
      const [x, y] = [figures(a, key), figures(b, key)];
      // What has nothing there comes last, whichever way.
      if ((x === '') !== (y === '')) return x === '' ? 1 : -1;
      const order = typeof x === 'number' && typeof y === 'number' ? x - y || 0 : collator.compare(String(x), String(y));
      if (order) return down ? -order : order;
    }
    return 0;
  });
}

/** Made parts by what they are made from, the longest first, with the length that each profile takes in all. */
function stockRows(rows: readonly ListRow[], scene: Scene, sort: ListRecord['sort']): ShownRow[] {
  const made = rows.filter((r) => r.item.components.length && !['bought', 'standard'].includes(r.item.values.source.text));
  const families = new Map<string, { stock: Stock | undefined; rows: ListRow[] }>();
  for (const r of made) {
    const stock = stockOfItem(r.item, scene);
    const key = `${stock ? stockText(stock) : ''}\n${r.item.values.material.text}`;
    const family = families.get(key);
    if (family) family.rows.push(r);
    else families.set(key, { stock, rows: [r] });
  }
  const order = (s: Stock | undefined) => (s ? `${s.profile === 'block' ? 2 : s.profile === 'plate' ? 1 : 0} ${stockText(s)}` : '3');
  return [...families.values()]
    .sort((a, b) => collator.compare(order(a.stock), order(b.stock)))
    .flatMap(({ stock, rows: list }): ShownRow[] => {
      const lengthOf = (r: ListRow) => stockOfItem(r.item, scene)?.length ?? 0;
      const inOrder = sort?.length ? sorted(list, sort, scene) : [...list].sort((a, b) => lengthOf(b) - lengthOf(a));
      if (!stock || stock.profile === 'block' || stock.profile === 'plate') return inOrder;
      const material = list[0]!.item.values.material.text;
      const quantity = list.reduce((n, r) => n + r.quantity, 0);
      const lengthMm = list.reduce((n, r) => n + lengthOf(r) * r.quantity, 0);
      return [...inOrder, { total: { words: ['Total', stockText(stock), material].filter(Boolean).join(' '), lengthMm, quantity }, quantity, level: 0 }];
    });
}

function stockOfItem(item: Item, scene: Scene): Stock | undefined {
  const [first] = item.components;
  return first === undefined || item.part.startsWith('group:') ? undefined : scene.flatOf(first)?.stock;
}

/** Sizes that are measured on the part, mm or mm². */
function figure(r: ListRow, key: string, scene: Scene): number | undefined {
  if (key === 'area') {
    const [first] = r.item.components;
    return first === undefined || r.item.part.startsWith('group:') ? undefined : scene.assembly.parts[scene.components[first]!.part]!.areaMm2;
  }
  const stock = stockOfItem(r.item, scene);
  switch (key) {
    case 'length':
      return stock?.length;
    case 'width':
      return stock?.width;
    case 'thickness':
      return stock?.thickness;
    case 'totalLength':
      return stock && stock.length * r.quantity;
    default:
      return undefined;
  }
}

/** mm² as it is read: m² from a tenth on, else cm². */
const areaText = (mm2: number): string => (mm2 >= 1e5 ? `${Number((mm2 / 1e6).toPrecision(3))} m²` : `${Number((mm2 / 100).toPrecision(3))} cm²`);

/** Text of one cell. @param key of its column */
export function cellOf(row: ShownRow, key: string, scene: Scene): string {
  if (row.total) {
    if (key === 'totalLength') return mmText(row.total.lengthMm);
    if (key === 'quantity') return String(row.total.quantity);
    return key === 'description' ? row.total.words : '';
  }
  const { item, quantity } = row;
  switch (key) {
    case 'level':
      return String(row.level + 1);
    case 'stock': {
      const stock = stockOfItem(item, scene);
      return stock ? stockText(stock) : '';
    }
    case 'box': {
      const stock = stockOfItem(item, scene);
      return stock ? [stock.length, stock.width, stock.thickness].map(mmText).join(' × ') : '';
    }
    case 'ends':
      return endsText(stockOfItem(item, scene)?.ends);
    case 'area': {
      const mm2 = figure(row, key, scene);
      return mm2 === undefined ? '' : areaText(mm2);
    }
    case 'length':
    case 'width':
    case 'thickness':
    case 'totalLength': {
      const mm = figure(row, key, scene);
      return mm === undefined ? '' : mmText(mm);
    }
    case 'mass':
    case 'totalMass':
      return massFigure(item.massKg === undefined ? undefined : item.massKg * (key === 'mass' ? 1 : quantity), massColumn(scene.items, scene.ledger.massUnit));
    default:
      return cellText(item, key, scene.ledger.massUnit, quantity);
  }
}

/** A list as a table: its heads, then its rows, exactly as it is drawn; levels stand in by two blanks each. */
export function listTable(list: ListRecord, scene: Scene): string[][] {
  const { columns } = list;
  return [
    columns.map((c) => headOf(c, columns, massColumn(scene.items, scene.ledger.massUnit))),
    ...rowsOf(list, scene).map((r) => columns.map((c) => `${c.key === 'description' ? '  '.repeat(r.level) : ''}${cellOf(r, c.key, scene)}`)),
  ];
}
