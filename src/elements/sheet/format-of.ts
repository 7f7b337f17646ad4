import type { SheetRecord } from '../../core/document/records.ts';
import { FORMAT_TYPES, type FormatElement } from '../../core/format/record.ts';
import { usualSheetFormat } from '../../core/format/shipped.ts';
import { pageOf, type Page } from '../../core/sheet/page.ts';
import { paperByName } from '../../core/sheet/paper.ts';
import { layOutBlock, type BlockRecord } from '../block/layout.ts';
import { blockText } from '../block/words.ts';
import type { Scene } from '../scene.ts';

/** What a sheet lies on: the format that it names, or its standard's own. */
export interface FormatOf {
  /** Id of the sheet record that is the format; undefined for the standard's own. */
  readonly id: string | undefined;
  readonly name: string;
  readonly form: NonNullable<SheetRecord['form']>;
  readonly noFrame: boolean;
  /** The sheet that it was made on. */
  readonly size: string;
  readonly landscape: boolean;
  /** What stands on it, as if it stood on the sheet; in the format's own places. */
  readonly elements: readonly FormatElement[];
}

const isFormatElement = (r: { readonly type: string }): r is FormatElement => FORMAT_TYPES.has(r.type);

/** A format's own elements are those of its canvas: nothing lies under them. */
export function formatOfSheet(sheet: SheetRecord, scene: Scene): FormatOf {
  const kept = sheet.form ? sheet : scene.one('sheet', sheet.format);
  if (kept?.form) {
    const elements = scene.at(kept.id).filter(isFormatElement);
    return {
      id: kept.id,
      name: kept.name,
      form: kept.form,
      noFrame: kept.noFrame ?? false,
      size: kept.size,
      landscape: kept.landscape,
      elements: sheet.form ? elements : elements.map((e) => ({ ...e, sheet: sheet.id })),
    };
  }
  const usual = usualSheetFormat(paperByName(sheet.size)?.standard ?? 'iso', sheet.part !== undefined);
  const { name, form, size, landscape, elements } = usual;
  return { id: undefined, name, form, noFrame: false, size, landscape, elements: elements.map((e) => ({ ...e, sheet: sheet.id })) };
}

/** The block in the lower right corner. */
export const titleBlockOf = ({ elements }: FormatOf): BlockRecord | undefined =>
  elements.find((e): e is BlockRecord => e.type === 'block' && e.corner === 'bottom right');

/** Page of a sheet on its format; its title block is as high as what it says. */
export function pageOnFormat(sheet: SheetRecord, format: FormatOf, scene: Scene): Page {
  const block = titleBlockOf(format);
  if (!block) return pageOf(sheet, format.form, [0, 0]);
  const { geometry, style } = pageOf(sheet, format.form);
  const { rect } = layOutBlock(block, geometry.frame, style, (words) => blockText(words, block, scene));
  return pageOf(sheet, format.form, [rect.width, rect.height]);
}
