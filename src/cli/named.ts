import { readFile } from 'node:fs/promises';
import { QuarryError } from '../core/base/errors.ts';

/** Things that come with the application and are given away as files: recipes, sheet formats. */
export interface Named<T extends { readonly name: string }> {
  /** For people: “recipe”. */
  readonly what: string;
  readonly shipped: readonly T[];
  read(text: string): T;
}

/** One by the name of a shipped one, or from a file. @throws QuarryError BAD_USAGE, BAD_REQUEST */
export async function byNameOrFile<T extends { readonly name: string }>(name: string, { what, shipped, read }: Named<T>): Promise<T> {
  const known = shipped.find((s) => s.name === name);
  if (known) return known;
  if (!name.toLowerCase().endsWith('.json'))
    throw new QuarryError('BAD_USAGE', { text: `There is no ${what} “${name}”. There are: ${shipped.map((r) => r.name).join(', ')}; or give a .json file.` });
  let text: string;
  try {
    text = await readFile(name, 'utf8');
  } catch {
    throw new QuarryError('BAD_USAGE', { text: `The file ${name} cannot be read.` });
  }
  return read(text);
}
