import type { Assembly } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import { sheetsOf, type DrawingDocument } from '../document/records.ts';
import { itemsOf } from '../ledger/items.ts';
import type { Recipe } from './record.ts';
import { nameOf, subjectsOf } from './subjects.ts';

/** A sheet that a recipe would make. */
export interface PreviewSheet {
  readonly name: string;
  readonly slots: readonly string[];
  /** It was made before and stays as it is. */
  readonly stands: boolean;
}

/**
 * Which sheets would come, before anything is made; and which of the recipe's have nothing to be about.
 * @param isBent whether a component is bent from sheet
 */
export function previewRecipe(
  recipe: Recipe,
  assembly: Assembly,
  document: DrawingDocument,
  isBent: (component: number) => boolean,
): { readonly sheets: readonly PreviewSheet[]; readonly leftOut: readonly string[] } {
  const components = componentsOf(assembly);
  const items = itemsOf(assembly, document);
  const made = sheetsOf(document).flatMap((s) => (s.from?.recipe === recipe.name ? [`${s.from.sheet} ${s.from.of}`] : []));
  const sheets: PreviewSheet[] = [];
  const leftOut: string[] = [];
  recipe.sheets.forEach((sheet, i) => {
    const subjects = subjectsOf(sheet, assembly, components, document, items, isBent);
    if (!subjects.length) leftOut.push(sheet.name);
    const has = (want: string) => sheet.per === 'whole' && sheet.slots.some((s) => s.want === want);
    // Those of the first drawing stand whoever made them.
    const first =
      (has('arrangement') && document['view:front'] !== undefined) || (has('exploded view') && has('list') && document['view:exploded'] !== undefined);
    for (const s of subjects) sheets.push({ name: nameOf(sheet, s), slots: sheet.slots.map((x) => x.name), stands: first || made.includes(`${i} ${s.id}`) });
  });
  return { sheets, leftOut };
}
