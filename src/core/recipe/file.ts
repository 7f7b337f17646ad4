import { readJsonAs } from '../base/read-json.ts';
import { recipe, type Recipe } from './record.ts';

/** A recipe from the text of its file. @throws QuarryError BAD_REQUEST that says what is wrong and where */
export const readRecipe = (text: string): Recipe => readJsonAs(recipe, text, 'recipe');

/** A recipe as the text of a file. */
export const writeRecipe = (r: Recipe): string => `${JSON.stringify(r, null, 2)}\n`;
