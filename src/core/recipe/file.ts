import { QuarryError } from '../base/errors.ts';
import { recipe, type Recipe } from './record.ts';

/** Says where something does not fit, in one line. */
const whereOf = (path: readonly PropertyKey[]): string => (path.length ? path.map(String).join(' › ') : 'the file');

/** A recipe from the text of its file. @throws QuarryError BAD_REQUEST that says what is wrong and where */
export function readRecipe(text: string): Recipe {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new QuarryError('BAD_REQUEST', { text: 'This is no recipe: the file is not JSON. Export one and change that.' });
  }
  const read = recipe.safeParse(value);
  if (read.success) return read.data;
  const [first] = read.error.issues;
  throw new QuarryError('BAD_REQUEST', { text: `This is no recipe: ${whereOf(first!.path)}: ${first!.message}. Export one and change that.` });
}

/** A recipe as the text of a file. */
export const writeRecipe = (r: Recipe): string => `${JSON.stringify(r, null, 2)}\n`;
