import PDFDocument from 'pdfkit';
import type { DisplayItem, DisplayList } from '../../core/picture/display-list.ts';
import { inGrey } from '../../core/picture/grey.ts';
import { layerOf, layersOf } from '../../core/picture/layers.ts';
import { printPages, type PrintOptions, type PrintPage } from '../../core/picture/print.ts';
import { drawItem, watermark } from './draw.ts';
import { PdfLayers } from './layers.ts';
import { linkRows, partSheets, rowsOf } from './links.ts';
import { PdfPicture } from './picture.ts';
import { PageTags } from './tags.ts';
import { POINTS_PER_MM } from './units.ts';

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
  /** Bookmarks: a name for each sheet. */
  readonly pages?: readonly string[];
  /** Large words across every page, faint: what may not be built from. */
  readonly watermark?: string;
  /** How sheets lie on pages; absent: each on one of its own size. */
  readonly print?: PrintOptions;
  readonly grey?: boolean;
  /** Kinds of elements on layers that a reader can switch. */
  readonly layers?: boolean;
}

/** All sheets as one PDF/A-2b: true page sizes, vectors, embedded subset of the lettering, tags for screen readers. */
export function writePdf(given: readonly DisplayList[], options: PdfOptions): Promise<Uint8Array> {
  return new Promise((resolve, reject) => {
    const pdf = new PDFDocument({
      autoFirstPage: false,
      pdfVersion: '1.7',
      subset: 'PDF/A-2b',
      tagged: true,
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
    const sheets = options.grey ? given.map(inGrey) : given;
    const images = picturesOf(sheets, options);
    const rows = rowsOf(sheets);
    const parts = partSheets(sheets);
    const outline = options.pages ? pdf.outline : undefined;
    const layers = new PdfLayers(pdf, options.layers ? layersOf(sheets.flatMap((s) => s.groups)) : []);
    const document = pdf.struct('Document');
    pdf.addStructure(document);
    const marked = new Set<number>();
    for (const page of printPages(sheets, options.print ?? { mode: 'true' })) {
      const s = sheets[page.sheet]!;
      const name = options.pages?.[page.sheet] ?? '';
      pdf.addPage({ size: [page.width * POINTS_PER_MM, page.height * POINTS_PER_MM], margin: 0 });
      layers.begin();
      const tags = new PageTags(pdf, document, `${page.sheet + 1}  ${name}`.trim());
      const draw = (items: readonly DisplayItem[]) => items.forEach((i) => drawItem(pdf, i, images));
      pdf.save().scale(POINTS_PER_MM);
      pdf.lineCap('round').lineJoin('round');
      inWindow(pdf, page, () => {
        if (options.watermark) tags.silent(() => watermark(pdf, s, options.watermark!));
        for (const g of s.groups) layers.on(layerOf(g), () => tags.group(g, draw));
        if (!page.tile) linkRows(pdf, s, page.sheet, page.scale, rows, parts);
      });
      if (page.marks.length) tags.silent(() => draw(page.marks));
      pdf.restore();
      tags.end();
      const mark = marked.has(page.sheet) ? undefined : outline?.addItem(`${page.sheet + 1}  ${name}`.trim());
      marked.add(page.sheet);
      if (mark) for (const item of rows.values()) if (item.page === page.sheet) mark.addItem(`${item.number}  ${item.name}`.trim());
    }
    document.end();
    layers.end();
    pdf.end();
  });
}

/** Draws in the coordinates of the sheet, and only what its page shows of it. */
function inWindow(pdf: PDFKit.PDFDocument, { window: w, at, scale, tile }: PrintPage, draw: () => void): void {
  pdf.save();
  if (tile) pdf.rect(at[0], at[1], w.width * scale, w.height * scale).clip();
  pdf.translate(at[0] - w.x * scale, at[1] - w.y * scale);
  if (scale !== 1) pdf.scale(scale);
  draw();
  pdf.restore();
}

/** Every picture that sheets name: those given, and those that stand in the drawing itself. */
function picturesOf(sheets: readonly DisplayList[], { images, grey }: PdfOptions): ReadonlyMap<string, PdfPicture> {
  const out = new Map<string, PdfPicture>();
  for (const s of sheets)
    for (const g of s.groups)
      for (const i of g.items) {
        if (i.kind !== 'image' || out.has(i.image)) continue;
        const png = i.image.startsWith('data:') ? Buffer.from(i.image.slice(i.image.indexOf(',') + 1), 'base64') : images.get(i.image);
        if (png) out.set(i.image, new PdfPicture(png, `I${out.size + 1}`, grey));
      }
  return out;
}
