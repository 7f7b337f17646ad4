import type { Guide } from '../core/guide/guide.ts';
import { guidePages, type GuideTitle } from '../core/guide/pages.ts';
import type { PartArt } from '../core/guide/part-art.ts';
import type { StepPicture } from '../core/guide/picture.ts';
import { writePdf } from './pdf/write.ts';

/** The guide to be printed. @param font the lettering, TrueType */
export function guideAsPdf(
  guide: Guide,
  title: GuideTitle,
  pictures: ReadonlyMap<number, StepPicture>,
  font: Uint8Array,
  parts?: ReadonlyMap<string, PartArt>,
  paper?: 'A3',
): Promise<Uint8Array> {
  const pages = guidePages(guide, title, new Map([...pictures].map(([n, p]) => [n, p.items])), parts);
  const images = new Map([...pictures.values()].flatMap(({ image }) => (image ? [[image.key, image.png] as const] : [])));
  return writePdf(pages, {
    title: [title.number, title.title].filter(Boolean).join(' '),
    font,
    images,
    language: guide.language,
    date: new Date(`${title.date}T00:00:00Z`),
    ...(paper ? { print: { mode: 'fit', paper: [297, 420], grow: true } } : {}),
  });
}
