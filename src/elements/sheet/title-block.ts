import { fitText, textWidth, wrapText } from '../../core/picture/lettering.ts';
import type { DrawingRecord } from '../../core/document/records.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { circlePath, line, num as n, rectangle, text } from '../../core/picture/shapes.ts';
import type { SheetGeometry, SheetStyle, Standard } from '../../core/sheet/formats.ts';
import type { Rect } from '../../core/base/rect.ts';

/** Width by ISO 7200. */
export const TITLE_BLOCK_WIDTH = 180;
export const TITLE_BLOCK_HEIGHT = 42;

export interface TitleFields extends Omit<DrawingRecord, 'type' | 'id'> {
  readonly sheet: number;
  readonly sheets: number;
  readonly size: string;
  readonly scale: string;
  readonly mass: string;
  readonly sheetName: string;
  /** Of the part whose sheet it is. */
  readonly material?: string;
}

/** Lower right corner of the frame; on a sheet without a title block it has no height. */
export function titleBlockRect(sheet: SheetGeometry, { noTitle = false }: { readonly noTitle?: boolean } = {}): Rect {
  const { frame } = sheet;
  const width = Math.min(TITLE_BLOCK_WIDTH, frame.width);
  const height = noTitle ? 0 : TITLE_BLOCK_HEIGHT;
  return { x: frame.x + frame.width - width, y: frame.y + frame.height - height, width, height };
}

/** One cell: caption in small letters above its value; places from the block's upper left corner, mm. */
interface Cell {
  readonly field: string;
  readonly caption: string;
  readonly value: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** Height of the value's capitals, mm. */
  readonly size: number;
}

const CAPTION_MM = 1.8;

/** Cells of the block at its full width. */
function cellsOf(f: TitleFields): Cell[] {
  return [
    { field: 'owner', caption: 'Legal owner', value: f.owner, x: 0, y: 0, width: 66, height: 14, size: 3.5 },
    { field: 'title', caption: 'Title', value: f.title, x: 66, y: 0, width: 114, height: 14, size: 5 },
    { field: 'drawnBy', caption: 'Drawn by', value: f.drawnBy, x: 0, y: 14, width: 33, height: 9, size: 2.5 },
    { field: 'checkedBy', caption: 'Checked by', value: f.checkedBy, x: 33, y: 14, width: 33, height: 9, size: 2.5 },
    { field: 'approvedBy', caption: 'Approved by', value: f.approvedBy, x: 0, y: 23, width: 33, height: 9, size: 2.5 },
    { field: 'date', caption: 'Date of issue', value: f.date, x: 33, y: 23, width: 33, height: 9, size: 2.5 },
    { field: 'sheetName', caption: 'Document type', value: f.sheetName, x: 66, y: 14, width: f.material === undefined ? 84 : 42, height: 9, size: 2.5 },
    ...(f.material === undefined ? [] : [{ field: 'material', caption: 'Material', value: f.material, x: 108, y: 14, width: 42, height: 9, size: 2.5 }]),
    { field: 'quantity', caption: 'To make', value: String(f.quantity), x: 150, y: 14, width: 30, height: 9, size: 2.5 },
    { field: 'number', caption: 'Drawing number', value: f.number, x: 66, y: 23, width: 84, height: 19, size: 7 },
    { field: 'revision', caption: 'Revision', value: f.revision, x: 150, y: 23, width: 30, height: 9, size: 3.5 },
    { field: 'sheet', caption: 'Sheet', value: `${f.sheet} of ${f.sheets}`, x: 150, y: 32, width: 30, height: 10, size: 3.5 },
    { field: 'scale', caption: 'Scale', value: f.scale, x: 0, y: 32, width: 20, height: 10, size: 2.5 },
    { field: 'size', caption: 'Size', value: f.size, x: 20, y: 32, width: 10, height: 10, size: 2.5 },
    { field: 'mass', caption: 'Mass', value: f.mass, x: 30, y: 32, width: 20, height: 10, size: 2.5 },
    { field: 'projection', caption: '', value: '', x: 50, y: 32, width: 16, height: 10, size: 2.5 },
  ];
}

/** Where the cells of a block lie on the sheet, with their captions. */
export function titleCells(rect: Rect, f: TitleFields): (Cell & { readonly rect: Rect })[] {
  const k = rect.width / TITLE_BLOCK_WIDTH;
  return cellsOf(f).map((c) => ({ ...c, rect: { x: rect.x + c.x * k, y: rect.y + c.y, width: c.width * k, height: c.height } }));
}

/** Title block by ISO 7200: its lines and texts, paper mm. */
export function drawTitleBlock(rect: Rect, f: TitleFields, style: SheetStyle): DisplayItem[] {
  const k = rect.width / TITLE_BLOCK_WIDTH;
  const out: DisplayItem[] = [rectangle(rect, style.wide)];
  for (const c of titleCells(rect, f)) {
    const cell = c.rect;
    out.push(rectangle(cell, style.narrow));
    if (c.caption) out.push(text(cell.x + 1.2, cell.y + 2.8, c.caption, CAPTION_MM, 'start', { field: c.field }));
    if (!c.value) continue;
    const room = cell.width - 2.6;
    let size = c.size;
    while (size > 2.5 && textWidth(c.value, size) > room * (c.height > 12 ? 1.9 : 1)) size = size > 5 ? 5 : size > 3.5 ? 3.5 : 2.5;
    const lines = c.height > 12 && textWidth(c.value, size) > room ? wrapText(c.value, size, room, 2) : [fitText(c.value, size, room)];
    const pitch = size * 1.5;
    const top = cell.y + 3 + (cell.height - 3) / 2 + size / 2 - ((lines.length - 1) * pitch) / 2 - 0.3;
    lines.forEach((l, i) => out.push(text(cell.x + 1.5, top + i * pitch, l, size, 'start', { field: c.field })));
  }
  out.push(...projectionSymbol(rect.x + 58 * k, rect.y + 37, f.standard, style.narrow));
  return out;
}

/** First- or third-angle symbol by ISO 5456-2, centred at (x, y). */
export function projectionSymbol(x: number, y: number, standard: Standard, width: number): DisplayItem[] {
  const first = standard === 'iso';
  const cone = first ? x - 4.5 : x + 0.8;
  const eye = first ? x + 3.6 : x - 3.6;
  const small = 1.25;
  const large = 2.5;
  const out: DisplayItem[] = [
    { kind: 'stroke', d: `M${n(cone)} ${n(y - small)}L${n(cone + 4)} ${n(y - large)}L${n(cone + 4)} ${n(y + large)}L${n(cone)} ${n(y + small)}Z`, width },
    line(cone - 1, y, cone + 5, y, width / 2, [2, 0.6, 0.4, 0.6]),
    line(eye - large - 0.8, y, eye + large + 0.8, y, width / 2, [2, 0.6, 0.4, 0.6]),
    line(eye, y - large - 0.8, eye, y + large + 0.8, width / 2, [2, 0.6, 0.4, 0.6]),
  ];
  for (const r of [small, large]) out.push({ kind: 'stroke', d: circlePath(eye, y, r), width });
  return out;
}
