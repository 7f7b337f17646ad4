import { writeFile } from 'node:fs/promises';
import type { Linework } from '../core/outline/linework.ts';
import { linesAsSvg } from '../formats/lines-svg.ts';
import type { Arguments } from './arguments.ts';

/** Writes lines to the file that `--svg` names, if it does. */
export async function saveSvg(args: Arguments, lines: Linework): Promise<void> {
  const file = args.options.get('svg');
  if (file) await writeFile(file, linesAsSvg(lines));
}
