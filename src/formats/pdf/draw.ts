import type { DisplayItem, DisplayList } from '../../core/picture/display-list.ts';
import { emFor, textWidth } from '../../core/picture/lettering.ts';
import type { PdfPicture } from './picture.ts';
import { BOLD } from '../../core/picture/svg-items.ts';

/** Draws one item, in the coordinates of its sheet. @param images pictures by key */
export function drawItem(pdf: PDFKit.PDFDocument, i: DisplayItem, images: ReadonlyMap<string, PdfPicture>): void {
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
      const picture = images.get(i.image);
      if (!picture) return;
      pdf.save();
      if (i.clip) pdf.path(i.clip).clip('even-odd');
      // The type knows only files and bytes, the code takes what embeds itself too.
      pdf.image(picture as unknown as Buffer, i.x, i.y, { width: i.width, height: i.height });
      pdf.restore();
      return;
    }
  }
}

/** Large words across a sheet, faint: what may not be built from. */
export function watermark(pdf: PDFKit.PDFDocument, s: DisplayList, words: string): void {
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
