import type { LedgerRecord, ListRecord } from '../../core/document/records.ts';
import type { Item } from '../../core/ledger/items.ts';
import { cellAlignment, cellText } from '../../core/ledger/list-rows.ts';
import type { SheetGeometry, SheetStyle } from '../../core/sheet/formats.ts';
import type { Rect } from '../../core/base/rect.ts';
import { titleBlockRect } from '../sheet/title-block.ts';
import type { DisplayItem, Drawn } from '../../core/picture/display-list.ts';
import { fitText } from '../../core/picture/lettering.ts';
import type { Page } from '../../core/sheet/page.ts';
import { line, rectangle, text } from '../../core/picture/shapes.ts';

export const rowHeight = (style: SheetStyle) => style.text * 2.4;

/**
 * Where the list lies: docked on the title block, header at the foot, reading upward; what does not fit into the frame's
 * height goes into further blocks to the left.
 */
export function listBlocks(
  rows: number,
  widthMm: number,
  geometry: SheetGeometry,
  style: SheetStyle,
  sheet: { readonly noTitle?: boolean } = {},
): { rect: Rect; from: number; to: number }[] {
  const title = titleBlockRect(geometry, sheet);
  const h = rowHeight(style);
  const perBlock = Math.max(1, Math.floor((title.y - geometry.frame.y) / h) - 1);
  const blocks = Math.max(1, Math.ceil(rows / perBlock));
  const even = Math.ceil(rows / blocks);
  const width = Math.min(widthMm, geometry.frame.width);
  const right = geometry.frame.x + geometry.frame.width;
  return Array.from({ length: blocks }, (_, k) => {
    const from = k * even;
    const to = Math.min(rows, from + even);
    const height = (to - from + 1) * h;
    return { rect: { x: right - width * (k + 1), y: title.y - height, width, height }, from, to };
  });
}

/** The rows that a list shows: all, or its even share of them. */
export function listRows(list: ListRecord, count: number): { from: number; to: number } {
  const { part, of } = list.share ?? { part: 1, of: 1 };
  const even = Math.ceil(count / of);
  return { from: Math.min(count, (part - 1) * even), to: Math.min(count, part * even) };
}

/** How many rows a sheet with nothing but a list has room for. */
export function rowsPerSheet(widthMm: number, geometry: SheetGeometry, style: SheetStyle): number {
  const perBlock = Math.floor((titleBlockRect(geometry).y - geometry.frame.y) / rowHeight(style)) - 1;
  return Math.max(1, perBlock) * Math.max(1, Math.floor(geometry.frame.width / widthMm));
}

/** Parts list by ISO 7573. */
export function drawList(
  list: ListRecord,
  items: readonly Item[],
  { massUnit }: Pick<LedgerRecord, 'massUnit'>,
  { geometry, style }: Page,
  sheet: { readonly noTitle?: boolean } = {},
): Drawn[] {
  const total = list.columns.reduce((s, c) => s + c.widthMm, 0);
  const h = rowHeight(style);
  const size = style.text;
  const rows = listRows(list, items.length);
  return listBlocks(rows.to - rows.from, total, geometry, style, sheet).map(({ rect, ...span }, block) => {
    const [from, to] = [rows.from + span.from, rows.from + span.to];
    const out: DisplayItem[] = [rectangle(rect, style.wide)];
    const foot = rect.y + rect.height;
    const k = rect.width / total;
    let x = rect.x;
    for (const c of list.columns) {
      const width = c.widthMm * k;
      if (x > rect.x) out.push(line(x, rect.y, x, foot, style.narrow));
      const put = (row: number, content: string, source?: { item: number; field: string }) => {
        const align = row === 0 ? 'start' : cellAlignment(c.key);
        const tx = align === 'start' ? x + 1.2 : align === 'end' ? x + width - 1.2 : x + width / 2;
        out.push(text(tx, foot - (row + 0.5) * h + size / 2, fitText(content, size, width - 2), size, align, source));
      };
      put(0, c.title);
      for (let i = from; i < to; i++) put(i - from + 1, cellText(items[i]!, c.key, massUnit), { item: items[i]!.number, field: c.key });
      x += width;
    }
    for (let r = 1; r <= to - from; r++) out.push(line(rect.x, foot - r * h, rect.x + rect.width, foot - r * h, r === 1 ? style.wide : style.narrow));
    return {
      id: block === 0 ? list.id : `${list.id}/${block + 1}`,
      role: 'list',
      label: `Parts list, items ${from + 1} to ${to}`,
      box: [rect.x, rect.y, rect.width, rect.height],
      items: out,
      ink: rect,
      solid: { rects: [rect], segments: [] },
    };
  });
}
