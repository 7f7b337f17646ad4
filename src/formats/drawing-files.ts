import { drawingOf, type DrawingDocument, type LedgerRecord, type ListColumn } from '../core/document/records.ts';
import type { Item } from '../core/ledger/items.ts';
import { cellText, DEFAULT_LIST_COLUMNS } from '../core/ledger/list-rows.ts';
import type { DisplayList } from '../core/picture/display-list.ts';
import type { ViewResult } from '../core/views/compute-view.ts';
import { writeCsv } from './csv.ts';
import { writePdf } from './pdf.ts';
import { writeSvg } from './svg.ts';

/** Shaded pictures of the views as PNG, by view id. */
export function shadingPngs(results: ReadonlyMap<string, ViewResult>): Map<string, Uint8Array> {
  const out = new Map<string, Uint8Array>();
  for (const [id, r] of results) if (r.shading) out.set(id, r.shading.png);
  return out;
}

/** @param font the lettering, TrueType */
export function sheetsAsPdf(
  document: DrawingDocument,
  sheets: readonly DisplayList[],
  results: ReadonlyMap<string, ViewResult>,
  font: Uint8Array,
): Promise<Uint8Array> {
  const d = drawingOf(document);
  const date = new Date(`${/^\d{4}-\d\d-\d\d$/.test(d.date) ? d.date : '2000-01-01'}T00:00:00Z`);
  return writePdf(sheets, { title: [d.number, d.title].filter(Boolean).join(' '), font, images: shadingPngs(results), date });
}

/** Every sheet as an SVG that carries its lettering and pictures with it. */
export function sheetsAsSvg(sheets: readonly DisplayList[], results: ReadonlyMap<string, ViewResult>, font: Uint8Array): string[] {
  const images = new Map([...shadingPngs(results)].map(([id, png]) => [id, `data:image/png;base64,${Buffer.from(png).toString('base64')}`]));
  const style = `@font-face{font-family:osifont;src:url(data:font/ttf;base64,${Buffer.from(font).toString('base64')})}`;
  return sheets.map((s) => writeSvg(s, { images, style }));
}

export function listAsCsv(columns: readonly ListColumn[] | undefined, items: readonly Item[], { massUnit }: Pick<LedgerRecord, 'massUnit'>): string {
  const wanted = columns ?? DEFAULT_LIST_COLUMNS;
  return writeCsv([wanted.map((c) => c.title), ...items.map((i) => wanted.map((c) => cellText(i, c.key, massUnit)))]);
}
