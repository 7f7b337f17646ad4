import { drawingOf, sheetsOf, type DrawingDocument } from '../core/document/records.ts';
import { DEFAULT_LIST_COLUMNS } from '../core/ledger/list-rows.ts';
import type { DisplayList } from '../core/picture/display-list.ts';
import type { SheetFileOptions } from '../core/picture/print.ts';
import type { ViewResult } from '../core/views/compute-view.ts';
import { listTable } from '../elements/list/rows.ts';
import type { Scene } from '../elements/scene.ts';
import { greyPng } from './grey-png.ts';
import { writePdf } from './pdf/write.ts';
import { svgAsPng } from './png.ts';
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
  { only, ...how }: SheetFileOptions = {},
): Promise<Uint8Array> {
  const d = drawingOf(document);
  const date = new Date(`${/^\d{4}-\d\d-\d\d$/.test(d.date) ? d.date : '2000-01-01'}T00:00:00Z`);
  const wanted = <T>(list: readonly T[]): readonly T[] => (only ? list.filter((_, i) => only.includes(i)) : list);
  return writePdf(wanted(sheets), {
    title: [d.number, d.title].filter(Boolean).join(' '),
    font,
    images: shadingPngs(results),
    date,
    author: d.drawnBy,
    pages: wanted(sheetsOf(document).map((s) => s.name)),
    ...how,
  });
}

/** Every sheet as an SVG that carries its lettering and pictures with it. */
export function sheetsAsSvg(sheets: readonly DisplayList[], results: ReadonlyMap<string, ViewResult>, font: Uint8Array): string[] {
  const images = dataUrls(results);
  const style = `@font-face{font-family:osifont;src:url(data:font/ttf;base64,${Buffer.from(font).toString('base64')})}`;
  return sheets.map((s) => writeSvg(s, { images, style }));
}

/** Every wanted sheet as a picture. @param fontFile the lettering, a TrueType file @param dpi pixels per inch @throws QuarryError BAD_REQUEST */
export function sheetsAsPng(
  sheets: readonly DisplayList[],
  results: ReadonlyMap<string, ViewResult>,
  fontFile: string,
  dpi: number,
  { only, grey }: Pick<SheetFileOptions, 'only' | 'grey'> = {},
): Uint8Array[] {
  const images = dataUrls(results);
  return sheets
    .filter((_, i) => !only || only.includes(i))
    .map((s) => svgAsPng(writeSvg(s, { images }), s, fontFile, dpi))
    .map((png) => (grey ? greyPng(png) : png));
}

/** Shaded pictures of the views as addresses that hold them. */
const dataUrls = (results: ReadonlyMap<string, ViewResult>): Map<string, string> =>
  new Map([...shadingPngs(results)].map(([id, png]) => [id, `data:image/png;base64,${Buffer.from(png).toString('base64')}`]));

/** The table of a parts list, as it is drawn: the one that is asked for, else the first, else one by ISO 7573. */
export function listAsTable(scene: Scene, id?: string): string[][] {
  const list = scene.one('list', id) ?? scene.all('list')[0];
  return listTable(list ?? { type: 'list', id: '', sheet: '', columns: DEFAULT_LIST_COLUMNS }, scene);
}
