import { QuarryError } from '../core/base/errors.ts';
import { readRecipe } from '../core/recipe/file.ts';
import type { Recipe } from '../core/recipe/record.ts';
import { SHIPPED } from '../core/recipe/shipped.ts';
import type { Arguments } from './arguments.ts';
import { byNameOrFile } from './named.ts';

/** A recipe by the name of a shipped one, or from a file. @throws QuarryError BAD_USAGE, BAD_REQUEST */
export const findRecipe = (name: string): Promise<Recipe> => byNameOrFile(name, { what: 'recipe', shipped: SHIPPED, read: readRecipe });

/** `recipe list`: what is shipped; `recipe export NAME`: one of them as a file to be changed. */
export async function recipe(args: Arguments): Promise<unknown> {
  const [what, ...rest] = args.files;
  if (what === 'list' && rest.length === 0)
    return {
      recipes: SHIPPED.map((r) => ({
        name: r.name,
        words: r.words,
        sheets: r.sheets.map((s) => ({ name: s.name, per: s.per, slots: s.slots.map((x) => x.name) })),
      })),
    };
  if (what === 'export' && rest.length > 0) return findRecipe(rest.join(' '));
  throw new QuarryError('BAD_USAGE', { text: 'recipe list, or recipe export NAME.' });
}
