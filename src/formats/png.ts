import { Resvg } from '@resvg/resvg-js';
import { PNG_DPI } from '../core/picture/print.ts';
import { QuarryError } from '../core/base/errors.ts';

/** More would take gigabytes: an A0 sheet at 300 dpi is 139 million. */
const MOST_PIXELS = 150e6;

/**
 * A sheet as pixels.
 * @param svg of true size, with its pictures in it
 * @param fontFile the lettering, a TrueType file
 * @param dpi pixels per inch, 36 to 1200
 * @throws QuarryError BAD_REQUEST for more pixels than can be made
 */
export function svgAsPng(svg: string, size: { readonly width: number; readonly height: number }, fontFile: string, dpi: number): Uint8Array {
  if (!(dpi >= PNG_DPI.least && dpi <= PNG_DPI.most))
    throw new QuarryError('BAD_REQUEST', { text: `Pictures have ${PNG_DPI.least} to ${PNG_DPI.most} pixels per inch.` });
  const width = Math.round((size.width / 25.4) * dpi);
  const pixels = width * Math.round((size.height / 25.4) * dpi);
  if (pixels > MOST_PIXELS)
    throw new QuarryError('BAD_REQUEST', {
      text: `${dpi} pixels per inch are too many for a sheet of this size: take ${Math.floor(dpi * Math.sqrt(MOST_PIXELS / pixels))} or fewer.`,
    });
  const made = new Resvg(svg, {
    fitTo: { mode: 'width', value: width },
    background: '#ffffff',
    font: { fontFiles: [fontFile], loadSystemFonts: false, defaultFontFamily: 'osifont' },
  });
  return made.render().asPng();
}
