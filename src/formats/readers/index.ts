import type { ImportedFile } from '../../core/assembly/importing.ts';
import type { MeshTree } from '../../core/assembly/mesh-tree.ts';
import { QuarryError } from '../../core/base/errors.ts';
import { readGltf } from './gltf.ts';
import { readObj } from './obj.ts';
import { readStl } from './stl.ts';
import { readThreeMf } from './threemf.ts';

/**
 * Reads a mesh file by its ending.
 * @param beside further files that were brought in with it
 * @throws QuarryError with one of the FILE codes
 */
export async function readMeshFile(file: ImportedFile, beside: readonly ImportedFile[]): Promise<MeshTree> {
  if (file.bytes.length === 0) throw new QuarryError('FILE_EMPTY', { file: file.name });
  switch (/\.(\w+)$/.exec(file.name)?.[1]?.toLowerCase()) {
    case 'stl':
      return readStl(file);
    case 'obj':
      return readObj(file, beside);
    case 'gltf':
    case 'glb':
      return readGltf(file, beside);
    case '3mf':
      return readThreeMf(file);
    default:
      throw new QuarryError('FILE_UNKNOWN', { file: file.name });
  }
}
