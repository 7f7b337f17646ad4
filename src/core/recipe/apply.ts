import type { Assembly } from '../assembly/assembly.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { componentsOf } from '../assembly/components.ts';
import { QuarryError } from '../base/errors.ts';
import { drawingOf, sheetsOf } from '../document/records.ts';
import { formatFrom } from '../format/apply.ts';
import type { SheetFormat } from '../format/record.ts';
import { Scene } from '../../elements/scene.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { drawingRecordFor, firstDrawing, frontFor, type Draft, type DraftOptions } from '../draft/first-drawing.ts';
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
  const { onto, ...given } = options;
  const drafting = { ...given, format: options.format ?? (onto && formatOfFirst(onto, assembly)) };
  const maker = new SheetMaker(
    recipe,
    assembly,
    geometries,
    { ...drafting, standard },
    { drawing: drawingRecordFor(assembly, standard, options, frontFor(sceneOf(assembly, geometries))), ...onto?.document },
    new Map(onto?.results),
  );
  const { onSheets, ...rest } = drafting;
  for (let i = 0; i < recipe.sheets.length; i++) {
    const as = asFirst(recipe.sheets, i);
    const { only, covers } = as ?? { only: undefined, covers: 1 };
    if (!as) await maker.make(i);
    else if (maker.records[only === 'exploded' ? 'view:exploded' : 'view:front']) for (let k = 0; k < covers; k++) maker.standsAlready(i + k);
    else {
      const early = !only && i === 0 && !onto && onSheets ? { onSheets } : {};
      const own = recipe.formats?.find((f) => f.name === recipe.sheets[i]!.format);
      maker.take(
        await firstDrawing(assembly, geometries, { ...rest, ...early, ...(own ? { format: own } : {}), standard, ...(only ? { only } : {}) }),
        i,
        covers,
      );
    }
    i += covers - 1;
  }
  return { document: maker.records, results: maker.results, slots: maker.slots };
}

/** New sheets lie on what the first one of the drawing lies on. */
function formatOfFirst(onto: Draft, assembly: Assembly): SheetFormat | undefined {
  const id = sheetsOf(onto.document)[0]?.format;
  return id ? formatFrom(new Scene({ document: onto.document, assembly, results: new Map() }), id) : undefined;
}

/** Sheets of the whole that the first drawing makes: how many from here on, and which. */
function asFirst(sheets: readonly RecipeSheet[], i: number): { readonly only?: 'arrangement' | 'exploded'; readonly covers: number } | undefined {
  const has = (s: RecipeSheet | undefined, want: string) => s?.per === 'whole' && s.slots.some((x) => x.want === want);
  const exploded = (s: RecipeSheet | undefined) => has(s, 'exploded view') && has(s, 'list');
  if (has(sheets[i], 'arrangement')) return exploded(sheets[i + 1]) ? { covers: 2 } : { only: 'arrangement', covers: 1 };
  return exploded(sheets[i]) ? { only: 'exploded', covers: 1 } : undefined;
}
