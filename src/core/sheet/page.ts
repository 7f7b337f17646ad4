import type { Rect } from '../base/rect.ts';
import type { Form } from './form.ts';
import { paperByName, sheetGeometry, styleFor, type SheetGeometry, type SheetStyle } from './paper.ts';

export interface Page {
  readonly geometry: SheetGeometry;
  readonly style: SheetStyle;
}

/**
 * Geometry and sizes of a sheet.
 * @param form what is around its drawing; absent: the standard's @param block width and height of its title block, mm
 * @throws RangeError for an unknown size
 */
export function pageOf(sheet: { readonly size: string; readonly landscape: boolean }, form?: Form, block?: readonly [number, number]): Page {
  const paper = paperByName(sheet.size);
  if (!paper) throw new RangeError(`Unknown sheet size ${sheet.size}`);
  return { geometry: sheetGeometry(paper, sheet.landscape, form, block), style: styleFor(paper, form?.halfSize) };
}

/** Lower right corner of the frame; on a sheet without a title block it has no height. */
export function titleBlockRect({ title }: SheetGeometry, { noTitle = false }: { readonly noTitle?: boolean } = {}): Rect {
  return noTitle ? { ...title, y: title.y + title.height, height: 0 } : title;
}
