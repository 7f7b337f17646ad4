import { QuarryError } from '../core/base/errors.ts';
import { readFormat } from '../core/format/file.ts';
import type { SheetFormat } from '../core/format/record.ts';
import { SHIPPED_FORMATS } from '../core/format/shipped.ts';
import type { Arguments } from './arguments.ts';
import { byNameOrFile } from './named.ts';

/** A sheet format by the name of a shipped one, or from a file. @throws QuarryError BAD_USAGE, BAD_REQUEST */
export const findFormat = (name: string): Promise<SheetFormat> => byNameOrFile(name, { what: 'sheet format', shipped: SHIPPED_FORMATS, read: readFormat });

/** `format list`: what is shipped; `format export NAME`: one of them as a file to be changed. */
export async function format(args: Arguments): Promise<unknown> {
  const [what, ...rest] = args.files;
  if (what === 'list' && rest.length === 0) return { formats: SHIPPED_FORMATS.map(({ name, words, size, landscape }) => ({ name, words, size, landscape })) };
  if (what === 'export' && rest.length > 0) return findFormat(rest.join(' '));
  throw new QuarryError('BAD_USAGE', { text: 'format list, or format export NAME.' });
}
