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
import { unitOptions, type Arguments } from './arguments.ts';
import type { Model } from './model.ts';

/** glTF, 3MF, STL, OBJ; `--up` where the format does not say, `--unit` also where it says wrong. */
export async function loadMeshes(files: readonly ImportedFile[], args: Arguments): Promise<Model> {
  const began = performance.now();
  const { unitMm, up } = unitOptions(args);
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
    const stated = tree.unitMm !== undefined;
    const choices = { unitMm: unitMm ?? tree.unitMm ?? 1, up: stated ? tree.up : up };
    list.push(assemblyFromMeshes(tree, choices, keyOf).assembly);
  }
  const assembly = list.length === 1 ? list[0]! : mergeAssemblies('Assembly', list);
  return { assembly, geometries, read: { times: { kernel: 0, read: performance.now() - began } } };
}
