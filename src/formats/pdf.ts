import PDFDocument from 'pdfkit';
import type { DisplayItem, DisplayList } from '../core/picture/display-list.ts';
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
}

const POINTS_PER_MM = 72 / 25.4;

/** All sheets as one PDF: true page sizes, vectors, embedded subset of the lettering. */
export function writePdf(sheets: readonly DisplayList[], options: PdfOptions): Promise<Uint8Array> {
  return new Promise((resolve, reject) => {
    const pdf = new PDFDocument({
      autoFirstPage: false,
      pdfVersion: '1.7',
      info: { Title: options.title, Creator: 'Nimble Quarry', Producer: 'Nimble Quarry', CreationDate: options.date, ModDate: options.date },
    });
    const chunks: Uint8Array[] = [];
    pdf.on('data', (c: Uint8Array) => chunks.push(c));
    pdf.on('error', reject);
    pdf.on('end', () => resolve(Buffer.concat(chunks)));
    pdf.registerFont('lettering', Buffer.from(options.font));
    for (const s of sheets) {
      pdf.addPage({ size: [s.width * POINTS_PER_MM, s.height * POINTS_PER_MM], margin: 0 });
      pdf.save().scale(POINTS_PER_MM);
      pdf.lineCap('round').lineJoin('round');
      for (const g of s.groups) for (const i of g.items) draw(pdf, i, options);
      pdf.restore();
    }
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
