import { INCH_FORM, ISO_FORM, type Form } from '../sheet/form.ts';
import type { Standard } from '../sheet/paper.ts';
import { asmeBlock, asmeContinuation, isoBlock, isoContinuation, titleWords } from './blocks.ts';
import { FORMAT_FILE, type FormatElement, type SheetFormat } from './record.ts';

const shipped = (
  standard: Standard,
  name: string,
  words: string,
  elements: readonly FormatElement[],
  more: Partial<Form> & { noFrame?: true } = {},
): SheetFormat => {
  const { noFrame, ...form } = more;
  return {
    format: FORMAT_FILE,
    name: `${standard === 'iso' ? 'ISO' : 'ASME'} ${name}`,
    words,
    size: standard === 'iso' ? 'A3' : 'B',
    landscape: true,
    ...(noFrame ? { noFrame } : {}),
    form: { ...(standard === 'iso' ? ISO_FORM : INCH_FORM), ...form },
    elements,
  };
};

const ISO = shipped('iso', 'title block', 'Frame and zones of ISO 5457, title block with the fields of ISO 7200.', [isoBlock(false)]);
const ISO_PART = shipped('iso', 'title block of a part', 'As before, with the material of the part.', [isoBlock(true)]);
const ASME = shipped('asme', 'title block', 'Frame, zones and title block of ASME Y14.1.', [asmeBlock(false)]);
const ASME_PART = shipped('asme', 'title block of a part', 'As before, with the material of the part.', [asmeBlock(true)]);

/** Formats that come with the application; they do for every size, either way up. */
export const SHIPPED_FORMATS: readonly SheetFormat[] = [
  ISO,
  ISO_PART,
  shipped('iso', 'continuation', 'For the sheets after the first: number, title, revision and sheet alone.', [isoContinuation()]),
  shipped('iso', 'folded', 'Title block, with fold marks down to A4 (DIN 824, form A) and trimming marks.', [isoBlock(false)], { folds: true, trims: true }),
  shipped('iso', 'for half-size print', 'Lettering one step larger: legible on the next smaller sheet too.', [isoBlock(false)], { halfSize: true }),
  shipped('iso', 'without a block', 'Frame and zones, the whole sheet for the drawing.', []),
  shipped('iso', 'title page', 'Large title, number and owner, with room for a picture above.', [titleWords(350, [40, 205])], {
    zones: 'none',
    centring: false,
  }),
  ASME,
  ASME_PART,
  shipped('asme', 'continuation', 'For the sheets after the first: number, revision, scale and sheet alone.', [asmeContinuation()]),
  shipped('asme', 'without a block', 'Frame and zones, the whole sheet for the drawing.', []),
  shipped('asme', 'title page', 'Large title, number and owner, with room for a picture above.', [titleWords(350, [40.9, 188])], {
    zones: 'none',
    centring: false,
  }),
];

export const shippedFormat = (name: string): SheetFormat | undefined => SHIPPED_FORMATS.find((f) => f.name === name);

/** The format of a sheet that lies on none: its standard's own. */
export function usualSheetFormat(standard: Standard, part: boolean): SheetFormat {
  if (standard === 'iso') return part ? ISO_PART : ISO;
  return part ? ASME_PART : ASME;
}
