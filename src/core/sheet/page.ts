import { formatByName, sheetGeometry, styleFor, type SheetGeometry, type SheetStyle } from './formats.ts';

export interface Page {
  readonly geometry: SheetGeometry;
  readonly style: SheetStyle;
}

/** Geometry and sizes of a sheet. @throws RangeError for an unknown format */
export function pageOf(sheet: { readonly size: string; readonly landscape: boolean }): Page {
  const format = formatByName(sheet.size);
  if (!format) throw new RangeError(`Unknown sheet size ${sheet.size}`);
  return { geometry: sheetGeometry(format, sheet.landscape), style: styleFor(format) };
}
