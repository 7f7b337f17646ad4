import { drawingOf, sheetsOf, type DrawingDocument } from '../core/document/records.ts';
import { DEFAULT_LIST_COLUMNS } from '../core/ledger/list-rows.ts';
import type { DisplayList } from '../core/picture/display-list.ts';
import type { ViewResult } from '../core/views/compute-view.ts';
import { listTable } from '../elements/list/rows.ts';
import type { Scene } from '../elements/scene.ts';
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
  watermark?: string,
): Promise<Uint8Array> {
  const d = drawingOf(document);
  const date = new Date(`${/^\d{4}-\d\d-\d\d$/.test(d.date) ? d.date : '2000-01-01'}T00:00:00Z`);
  return writePdf(sheets, {
    title: [d.number, d.title].filter(Boolean).join(' '),
    font,
    images: shadingPngs(results),
    date,
    author: d.drawnBy,
    pages: sheetsOf(document).map((s) => s.name),
    ...(watermark ? { watermark } : {}),
  });
}

/** Every sheet as an SVG that carries its lettering and pictures with it. */
export function sheetsAsSvg(sheets: readonly DisplayList[], results: ReadonlyMap<string, ViewResult>, font: Uint8Array): string[] {
  const images = new Map([...shadingPngs(results)].map(([id, png]) => [id, `data:image/png;base64,${Buffer.from(png).toString('base64')}`]));
  const style = `@font-face{font-family:osifont;src:url(data:font/ttf;base64,${Buffer.from(font).toString('base64')})}`;
  return sheets.map((s) => writeSvg(s, { images, style }));
}

/** The table of a parts list, as it is drawn: the one that is asked for, else the first, else one by ISO 7573. */
export function listAsTable(scene: Scene, id?: string): string[][] {
  const list = scene.one('list', id) ?? scene.all('list')[0];
  return listTable(list ?? { type: 'list', id: '', sheet: '', columns: DEFAULT_LIST_COLUMNS }, scene);
}
