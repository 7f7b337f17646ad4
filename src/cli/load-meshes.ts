import { basename } from 'node:path';
import type { Assembly } from '../core/assembly/assembly.ts';
import type { ImportedFile } from '../core/assembly/importing.ts';
import { mergeAssemblies } from '../core/assembly/merge.ts';
import { assemblyFromMeshes } from '../core/assembly/mesh-tree.ts';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';
import { QuarryError } from '../core/base/errors.ts';
import { fileGroups } from '../formats/readers/file-groups.ts';
import { readMeshFile } from '../formats/readers/index.ts';
import { keyedGeometry } from '../kernel/geometry-key.ts';
import type { Arguments } from './arguments.ts';

export interface Model {
  readonly assembly: Assembly;
  readonly geometries: ReadonlyMap<string, PartGeometry>;
  readonly read: { readonly times: { readonly kernel: number; readonly read: number } };
}

const UNITS: Readonly<Record<string, number>> = { mm: 1, cm: 10, m: 1000, inch: 25.4, foot: 304.8 };

/** glTF, 3MF, STL, OBJ; `--unit` and `--up` where the format does not say. */
export async function loadMeshes(files: readonly ImportedFile[], args: Arguments): Promise<Model> {
  const began = performance.now();
  const unit = UNITS[args.options.get('unit') ?? 'mm'];
  const up = args.options.get('up') ?? 'z';
  if (unit === undefined || (up !== 'y' && up !== 'z'))
    throw new QuarryError('BAD_USAGE', { text: `--unit takes one of ${Object.keys(UNITS).join(', ')}, --up y or z.` });
  const geometries = new Map<string, PartGeometry>();
  const keyOf = (g: PartGeometry) => {
    const { key } = keyedGeometry(g);
    geometries.set(key, g);
    return key;
  };
  const named = files.map((f) => ({ ...f, name: basename(f.name) }));
  const groups = fileGroups(named);
  if (groups.length === 0) throw new QuarryError('FILE_UNKNOWN', { file: named[0]!.name });
  const list: Assembly[] = [];
  for (const { top, beside } of groups) {
    const tree = await readMeshFile(top, beside);
    list.push(assemblyFromMeshes(tree, tree.unitMm === undefined ? { unitMm: unit, up } : { unitMm: tree.unitMm, up: tree.up }, keyOf).assembly);
  }
  const assembly = list.length === 1 ? list[0]! : mergeAssemblies('Assembly', list);
  return { assembly, geometries, read: { times: { kernel: 0, read: performance.now() - began } } };
}
