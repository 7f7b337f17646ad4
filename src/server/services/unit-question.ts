import type { ImportedFile } from '../../core/assembly/importing.ts';
import { fileGroups, lacksUnit } from '../../formats/readers/file-groups.ts';
import { runMeasure } from '../queue/geometry-pool.ts';
import type { MeasureResult } from '../queue/geometry-tasks.ts';

/** What has to be asked before files are brought in. */
export interface UnitQuestion extends MeasureResult {
  /** Files that do not say their unit. */
  readonly files: readonly string[];
}

/**
 * Asks for the unit of files whose format has none, with their size; undefined when all say theirs.
 * @throws QuarryError of a file that cannot be read
 */
export async function unitQuestion(files: readonly ImportedFile[]): Promise<UnitQuestion | undefined> {
  const open = fileGroups(files)
    .map((g) => g.top)
    .filter((f) => lacksUnit(f.name));
  if (open.length === 0) return undefined;
  return { files: open.map((f) => f.name), ...(await runMeasure(open)) };
}
