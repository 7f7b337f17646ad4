import { readFile } from 'node:fs/promises';
import { QuarryError } from '../core/base/errors.ts';
import { verifyPackage } from '../formats/package.ts';
import type { Arguments } from './arguments.ts';

/** Is a package exactly what it was when it was made? @throws QuarryError PACKAGE_CHANGED, FILE_DAMAGED */
export async function verify(args: Arguments): Promise<unknown> {
  const [file] = args.files;
  if (file === undefined || args.files.length > 1) throw new QuarryError('BAD_USAGE', { text: 'verify takes one PACKAGE.zip.' });
  let bytes: Uint8Array;
  try {
    bytes = new Uint8Array(await readFile(file));
  } catch {
    throw new QuarryError('BAD_USAGE', { text: `“${file}” cannot be read.` });
  }
  return verifyPackage(bytes, file);
}
