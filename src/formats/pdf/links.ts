import type { DisplayList } from '../../core/picture/display-list.ts';
import { textRect } from '../../core/picture/ink.ts';
import { POINTS_PER_MM } from './units.ts';

/** A row of a parts list that a balloon leads to. */
export interface ListedRow {
  readonly number: string;
  readonly name: string;
  readonly page: number;
  readonly y: number;
  readonly x: number;
}

/** Where each item number stands in a parts list, by item. */
export function rowsOf(sheets: readonly DisplayList[]): Map<number, ListedRow> {
  const rows = new Map<number, ListedRow>();
  sheets.forEach((s, page) => {
    for (const g of s.groups) {
      if (g.role !== 'list') continue;
      const texts = g.items.flatMap((i) => (i.kind === 'text' && i.source?.item !== undefined ? [i] : []));
      for (const t of texts) {
        if (t.source!.field !== 'item' || rows.has(t.source!.item!)) continue;
        const name = texts.find((o) => o.source!.item === t.source!.item && o.source!.field === 'description')?.text ?? '';
        rows.set(t.source!.item!, { number: t.text, name, page, x: t.x, y: t.y });
      }
    }
  });
  return rows;
}

/** Items whose own sheet it is, by its title block: the page of each. */
export function partSheets(sheets: readonly DisplayList[]): Map<number, number> {
  const pages = new Map<number, number>();
  sheets.forEach((s, page) => {
    for (const g of s.groups)
      if (g.role === 'title')
        for (const i of g.items) if (i.kind === 'text' && i.source?.item !== undefined && !pages.has(i.source.item)) pages.set(i.source.item, page);
  });
  return pages;
}

/** Room around a row's number that is pressed, mm. */
const PRESS_MM = 1.5;

/**
 * Balloons lead to their row, and rows to the sheet of their part; where there is no row the balloon leads there itself.
 * @param scale mm on the page per mm of the sheet
 */
export function linkRows(
  pdf: PDFKit.PDFDocument,
  s: DisplayList,
  page: number,
  scale: number,
  rows: ReadonlyMap<number, ListedRow>,
  parts: ReadonlyMap<number, number>,
): void {
  const k = POINTS_PER_MM * scale;
  for (const [item, at] of parts) if (at === page) pdf.addNamedDestination(`part-${item}`, 'Fit');
  for (const [item, r] of rows) if (r.page === page) pdf.addNamedDestination(`item-${item}`, 'XYZ', r.x * k, Math.max(0, r.y - 20) * k, 0);
  for (const g of s.groups) {
    if (g.role !== 'balloon') continue;
    const item = g.items.flatMap((i) => (i.kind === 'text' && i.source?.item !== undefined ? [i.source.item] : []))[0];
    const [x, y, w, h] = g.box;
    if (item === undefined) continue;
    if (rows.has(item)) pdf.goTo(x, y, w, h, `item-${item}`);
    else if (parts.has(item)) pdf.goTo(x, y, w, h, `part-${item}`);
  }
  for (const g of s.groups) {
    if (g.role !== 'list') continue;
    for (const i of g.items) {
      if (i.kind !== 'text' || i.source?.field !== 'item' || i.source.item === undefined || !parts.has(i.source.item)) continue;
      const { x, y, width, height } = textRect(i);
      pdf.goTo(x - PRESS_MM, y - PRESS_MM, width + 2 * PRESS_MM, height + 2 * PRESS_MM, `part-${i.source.item}`);
    }
  }
}
