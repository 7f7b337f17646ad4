import PDFDocument from 'pdfkit';
import type { DisplayItem, DisplayList } from '../core/picture/display-list.ts';
import { textRect } from '../core/picture/ink.ts';
import { emFor, textWidth } from '../core/picture/lettering.ts';
import { BOLD } from '../core/picture/svg-items.ts';

export interface PdfOptions {
  readonly title: string;
  /** The lettering, a TrueType font. */
  readonly font: Uint8Array;
  /** PNG pictures by key. */
  readonly images: ReadonlyMap<string, Uint8Array>;
  /** Time stamp inside the file: the same input gives the same bytes. */
  readonly date: Date;
  readonly author?: string;
  /** Of the text, such as `en`; absent: English. */
  readonly language?: string;
  /** Bookmarks: a name for each page. */
  readonly pages?: readonly string[];
  /** Large words across every page, faint: what may not be built from. */
  readonly watermark?: string;
}

const POINTS_PER_MM = 72 / 25.4;

/** All sheets as one PDF: true page sizes, vectors, embedded subset of the lettering. */
export function writePdf(sheets: readonly DisplayList[], options: PdfOptions): Promise<Uint8Array> {
  return new Promise((resolve, reject) => {
    const pdf = new PDFDocument({
      autoFirstPage: false,
      pdfVersion: '1.7',
      subset: 'PDF/A-2b',
      lang: options.language ?? 'en',
      displayTitle: true,
      font: '',
      info: {
        Title: options.title,
        Author: options.author || 'Nimble Quarry',
        Creator: 'Nimble Quarry',
        Producer: 'Nimble Quarry',
        CreationDate: options.date,
        ModDate: options.date,
      },
    });
    const chunks: Uint8Array[] = [];
    pdf.on('data', (c: Uint8Array) => chunks.push(c));
    pdf.on('error', reject);
    pdf.on('end', () => resolve(Buffer.concat(chunks)));
    pdf.registerFont('lettering', Buffer.from(options.font));
    const rows = rowsOf(sheets);
    const parts = partSheets(sheets);
    const outline = options.pages ? pdf.outline : undefined;
    sheets.forEach((s, n) => {
      pdf.addPage({ size: [s.width * POINTS_PER_MM, s.height * POINTS_PER_MM], margin: 0 });
      pdf.save().scale(POINTS_PER_MM);
      pdf.lineCap('round').lineJoin('round');
      if (options.watermark) watermark(pdf, s, options.watermark);
      for (const g of s.groups) for (const i of g.items) draw(pdf, i, options);
      linkRows(pdf, s, n, rows, parts);
      pdf.restore();
      const mark = outline?.addItem(`${n + 1}  ${options.pages?.[n] ?? ''}`.trim());
      if (mark) for (const item of rows.values()) if (item.page === n) mark.addItem(`${item.number}  ${item.name}`.trim());
    });
    pdf.end();
  });
}

function draw(pdf: PDFKit.PDFDocument, i: DisplayItem, options: PdfOptions): void {
  switch (i.kind) {
    case 'stroke':
      pdf.lineWidth(i.width);
      // The type knows only a number, the code takes the list too.
      if (i.dash) pdf.dash(i.dash as unknown as number, {});
      pdf.path(i.d).stroke(i.color ?? '#000000');
      if (i.dash) pdf.undash();
      return;
    case 'fill':
      pdf.path(i.d).fill(i.color, 'even-odd');
      return;
    case 'text': {
      const size = emFor(i.height);
      const width = textWidth(i.text, i.height);
      const x = i.anchor === 'start' ? i.x : i.anchor === 'end' ? i.x - width : i.x - width / 2;
      pdf.save();
      if (i.turn) pdf.rotate(-i.turn, { origin: [i.x, i.y] });
      const bold = i.bold ? { fill: true, stroke: true } : {};
      if (i.bold) pdf.lineWidth(i.height * BOLD).strokeColor(i.color ?? '#000000');
      pdf
        .font('lettering')
        .fontSize(size)
        .fillColor(i.color ?? '#000000')
        .text(i.text, x, i.y, { lineBreak: false, baseline: 'alphabetic', ...bold });
      pdf.restore();
      return;
    }
    case 'image': {
      const png = i.image.startsWith('data:') ? Buffer.from(i.image.slice(i.image.indexOf(',') + 1), 'base64') : options.images.get(i.image);
      if (!png) return;
      pdf.save();
      if (i.clip) pdf.path(i.clip).clip('even-odd');
      pdf.image(Buffer.from(png), i.x, i.y, { width: i.width, height: i.height });
      pdf.restore();
      return;
    }
  }
}

/** A row of a parts list that a balloon leads to. */
interface ListedRow {
  readonly number: string;
  readonly name: string;
  readonly page: number;
  readonly y: number;
  readonly x: number;
}

/** Where each item number stands in a parts list, by item. */
function rowsOf(sheets: readonly DisplayList[]): Map<number, ListedRow> {
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
function partSheets(sheets: readonly DisplayList[]): Map<number, number> {
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

/** Balloons lead to their row, and rows to the sheet of their part; where there is no row the balloon leads there itself. */
function linkRows(pdf: PDFKit.PDFDocument, s: DisplayList, page: number, rows: ReadonlyMap<number, ListedRow>, parts: ReadonlyMap<number, number>): void {
  for (const [item, at] of parts) if (at === page) pdf.addNamedDestination(`part-${item}`, 'Fit');
  for (const [item, r] of rows)
    if (r.page === page) pdf.addNamedDestination(`item-${item}`, 'XYZ', r.x * POINTS_PER_MM, Math.max(0, r.y - 20) * POINTS_PER_MM, 0);
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

function watermark(pdf: PDFKit.PDFDocument, s: DisplayList, words: string): void {
  const size = (Math.min(s.width, s.height) * 0.9) / Math.max(1, textWidth(words, 1));
  const height = Math.min(size, 60);
  const [x, y] = [s.width / 2, s.height / 2];
  pdf.save();
  pdf.rotate(-30, { origin: [x, y] });
  pdf
    .font('lettering')
    .fontSize(emFor(height))
    .fillColor('#e9e6e0')
    .text(words, x - textWidth(words, height) / 2, y + height / 2, { lineBreak: false, baseline: 'alphabetic' });
  pdf.restore();
}
