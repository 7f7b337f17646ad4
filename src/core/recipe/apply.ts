import type { Assembly } from '../assembly/assembly.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { componentsOf } from '../assembly/components.ts';
import { QuarryError } from '../base/errors.ts';
import { drawingOf, type DrawingDocumentRecord } from '../document/records.ts';
import { drawingRecordFor, firstDrawing, type Draft, type DraftOptions } from '../draft/first-drawing.ts';
import type { ViewResult } from '../views/compute-view.ts';
import type { Recipe, RecipeSheet } from './record.ts';
import { SheetMaker, type SlotReport } from './sheet-maker.ts';

export interface RecipeOptions extends Omit<DraftOptions, 'only'> {
  /** The drawing that the sheets are added to; absent: a new one. */
  readonly onto?: Draft;
}

export interface Applied extends Draft {
  readonly slots: readonly SlotReport[];
}

/**
 * Makes the sheets of a recipe from an assembly: slots are filled, what the model has nothing for is left out and said. Sheets that
 * the recipe made before stay as they are; only what is new is added.
 * @throws QuarryError EMPTY_ASSEMBLY, CANCELLED, BAD_USAGE for an unknown sheet
 */
export async function applyRecipe(recipe: Recipe, assembly: Assembly, geometries: ReadonlyMap<string, PartGeometry>, options: RecipeOptions): Promise<Applied> {
  if (componentsOf(assembly).length === 0) throw new QuarryError('EMPTY_ASSEMBLY', {});
  const standard = options.onto ? drawingOf(options.onto.document).standard : (options.standard ?? 'iso');
  const { onto, ...drafting } = options;
  const slots: SlotReport[] = [];
  let records: Record<string, DrawingDocumentRecord> = onto ? { ...onto.document } : {};
  let results = new Map<string, ViewResult>(onto?.results);
  const handled = wholeFirst(recipe.sheets);
  if (handled > 0) {
    if (!records['view:front'] && !records['sheet:1']) {
      const { onSheets, ...rest } = drafting;
      const first = await firstDrawing(assembly, geometries, {
        ...rest,
        standard,
        ...(handled === 1 ? { only: 'arrangement' as const } : onSheets ? { onSheets } : {}),
      });
      records = { ...first.document, ...records };
      results = new Map([...first.results, ...results]);
      recipe.sheets.slice(0, handled).forEach((s, i) => {
        for (const slot of s.slots) slots.push(reportOfFirst(s, slot.name, i === 0 || records['view:exploded'] !== undefined));
        const sheet = records[`sheet:${i === 0 ? 1 : 3}`];
        if (sheet?.type === 'sheet') records[sheet.id] = { ...sheet, from: { recipe: recipe.name, sheet: i, of: 'whole' } };
      });
    } else
      for (const s of recipe.sheets.slice(0, handled))
        for (const slot of s.slots) slots.push({ sheet: s.name, name: slot.name, filled: true, why: 'It stands already.' });
  }
  records['drawing'] ??= drawingRecordFor(assembly, standard, options);
  const maker = new SheetMaker(recipe, assembly, geometries, { ...options, standard }, records, results);
  for (let i = handled; i < recipe.sheets.length; i++) await maker.make(i);
  return { document: maker.records, results: maker.results, slots: [...slots, ...maker.slots] };
}

/** How many of the sheets at the beginning are those of the first drawing. */
function wholeFirst(sheets: readonly RecipeSheet[]): 0 | 1 | 2 {
  const has = (s: RecipeSheet | undefined, want: string) => s?.per === 'whole' && s.slots.some((x) => x.want === want);
  if (!has(sheets[0], 'arrangement')) return 0;
  return has(sheets[1], 'exploded view') && has(sheets[1], 'list') ? 2 : 1;
}

const reportOfFirst = (sheet: RecipeSheet, name: string, filled: boolean): SlotReport => ({
  sheet: sheet.name,
  name,
  filled,
  why: filled ? 'As the first drawing has it.' : 'One piece cannot come apart.',
});
