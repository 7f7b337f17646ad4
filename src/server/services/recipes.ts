import { changesBetween } from '../../core/document/between.ts';
import { componentsOf } from '../../core/assembly/components.ts';
import { unpackFeatures } from '../../core/features/part-features.ts';
import { QuarryError } from '../../core/base/errors.ts';
import { recipeFrom } from '../../core/recipe/keep.ts';
import { previewRecipe } from '../../core/recipe/preview.ts';
import type { Recipe } from '../../core/recipe/record.ts';
import type { SlotReport } from '../../core/recipe/sheet-maker.ts';
import { SHIPPED } from '../../core/recipe/shipped.ts';
import { drawingOf } from '../../core/document/records.ts';
import { Scene } from '../../elements/scene.ts';
import { recipe } from '../database/schema.ts';
import { runDraft } from '../queue/geometry-pool.ts';
import { loadDrawing } from './documents.ts';
import { appendEdit } from './edits.ts';
import { loadFeatures, storeFeatures } from './features.ts';
import { Shelf } from './shelf.ts';
import { loadGeometries } from './geometries.ts';
import { storeResults } from './views.ts';

export interface RecipeRow {
  readonly name: string;
  readonly words: string;
  /** It comes with the application. */
  readonly shipped: boolean;
  /** How often it was kept; 1 for shipped ones. */
  readonly version: number;
  readonly sheets: readonly { readonly name: string; readonly per: string; readonly slots: readonly string[] }[];
}

const shelf = new Shelf<Recipe, RecipeRow>(recipe, 'The recipe', SHIPPED, (r, shipped, version) => ({
  name: r.name,
  words: r.words,
  shipped,
  version,
  sheets: r.sheets.map((s) => ({ name: s.name, per: s.per, slots: s.slots.map((x) => x.name) })),
}));

export const listRecipes = (): Promise<RecipeRow[]> => shelf.list();
/** @throws QuarryError NOT_FOUND */
export const recipeByName = async (name: string): Promise<Recipe> => (await shelf.byName(name)).body;
/** @throws QuarryError BAD_REQUEST for the name of a shipped one */
export const keepRecipe = (body: Recipe): Promise<RecipeRow> => shelf.keep(body);
/** @throws QuarryError NOT_FOUND, BAD_REQUEST for a shipped one */
export const removeRecipe = (name: string): Promise<void> => shelf.remove(name);

/** Keeps the sheets of a drawing as a recipe. @throws QuarryError NOT_FOUND, BAD_REQUEST */
export async function keepDrawingAsRecipe(jobId: string, name: string, words: string): Promise<RecipeRow> {
  const { document, assembly } = await loadDrawing(jobId);
  const made = recipeFrom(new Scene({ document, assembly, results: new Map() }), name, words);
  if (!made.sheets.length) throw new QuarryError('BAD_REQUEST', { text: 'There is nothing on these sheets that a recipe could ask for.' });
  return keepRecipe(made);
}

/** Which sheets a recipe would make of a job. @throws QuarryError NOT_FOUND */
export async function recipePreview(jobId: string, name: string) {
  const [{ document, assembly }, wanted] = await Promise.all([loadDrawing(jobId), recipeByName(name)]);
  const features = new Map(await loadFeatures(assembly));
  const components = componentsOf(assembly);
  const isBent = (c: number): boolean => {
    const packed = features.get(assembly.parts[components[c]!.part]!.geometryKey);
    return packed !== undefined && unpackFeatures(packed)?.laid !== undefined;
  };
  return previewRecipe(wanted, assembly, document, isBent);
}

/**
 * Adds the sheets of a recipe to a drawing, as one edit; what it made before stays as it is.
 * @throws QuarryError NOT_FOUND, STALE_VERSION, CANCELLED
 */
export async function applyRecipeTo(
  jobId: string,
  request: { readonly recipe: string; readonly version: number; readonly token?: string | undefined },
  signal: AbortSignal,
  onProgress: (what: string) => void,
): Promise<{ readonly version: number; readonly sheets: number; readonly slots: readonly SlotReport[] }> {
  const [{ document, assembly, version }, wanted] = await Promise.all([loadDrawing(jobId), recipeByName(request.recipe)]);
  if (version !== request.version) throw new QuarryError('STALE_VERSION', { have: request.version, now: version });
  const { standard, date } = drawingOf(document);
  const drawn = await runDraft(
    { assembly, standard, sheet: null, date, recipe: wanted, onto: document },
    loadGeometries,
    { onProgress: (_at, _total, what) => onProgress(what), onSheets: () => undefined },
    signal,
  );
  const steps = changesBetween(document, drawn.document);
  const { slots } = drawn;
  if (!steps.length) return { version, sheets: 0, slots };
  await storeResults(drawn.results);
  await storeFeatures(drawn.features);
  const sheets = steps.filter((s) => s.op === 'put' && s.record.type === 'sheet' && !s.record.form && !document[s.record.id]).length;
  const made = await appendEdit(jobId, version, `Sheets of “${wanted.name}”`, steps, request.token);
  return { version: made.version, sheets, slots };
}
