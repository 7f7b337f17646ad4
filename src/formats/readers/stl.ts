import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import type { ImportedFile } from '../../core/assembly/importing.ts';
import type { MeshNode, MeshTree, RawMesh } from '../../core/assembly/mesh-tree.ts';
import { QuarryError } from '../../core/base/errors.ts';
import { IDENTITY } from '../../core/base/placement.ts';
import { checkTriangles, cleanName, withoutEnding } from './limits.ts';

const HEADER = 84;
const TRIANGLE = 50;

/**
 * STL, binary or text; each `solid` of a text file is a component. No unit, no axis.
 * @throws QuarryError FILE_DAMAGED, FILE_TOO_MANY
 */
export function readStl({ name, bytes }: ImportedFile): MeshTree {
  const damaged = (why: string, cause?: unknown) => new QuarryError('FILE_DAMAGED', { file: name, format: 'STL', why }, { cause });
  if (bytes.length < 15) throw damaged('it is too short to hold a triangle');
  const text = looksLikeText(bytes);
  if (!text) {
    if (bytes.length < HEADER) throw damaged('it is too short to hold a triangle');
    const count = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(80, true);
    checkTriangles(name, count);
    if (bytes.length < HEADER + count * TRIANGLE)
      throw damaged(`it promises ${count} triangles and ends after ${Math.max(0, Math.floor((bytes.length - HEADER) / TRIANGLE))}`);
  }
  let geometry;
  try {
    geometry = new STLLoader().parse(bytes.slice().buffer);
  } catch (e) {
    throw damaged('its triangles cannot be read', e);
  }
  const positions = geometry.getAttribute('position')?.array ?? new Float32Array(0);
  checkTriangles(name, positions.length / 9);
  if (positions.length === 0) throw damaged('there is no triangle in it');
  const title = cleanName(withoutEnding(name), 'Part');
  const names = (geometry.userData as { groupNames?: string[] }).groupNames ?? [];
  const groups = text && geometry.groups.length > 1 ? geometry.groups : [{ start: 0, count: positions.length / 3 }];
  const meshes = groups.map((g, i): RawMesh => ({
    name: groups.length > 1 ? cleanName(names[i], `${title} ${i + 1}`) : title,
    positions: positions.subarray(g.start * 3, (g.start + g.count) * 3) as Float32Array,
  }));
  const leaf = (i: number, parent: number): MeshNode => ({ parent, name: meshes[i]!.name, placement: IDENTITY, mesh: i });
  const nodes = meshes.length === 1 ? [leaf(0, -1)] : [{ parent: -1, name: title, placement: IDENTITY, mesh: -1 }, ...meshes.map((_, i) => leaf(i, 0))];
  return { name: title, schema: text ? 'STL (text)' : 'STL (binary)', unitMm: undefined, up: 'z', meshes, nodes, notices: [] };
}

/** Binary files may begin with “solid” too: a text one has a facet in its first lines and no zero bytes. */
function looksLikeText(bytes: Uint8Array): boolean {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 1024));
  return /^\s*solid/i.test(head) && !head.includes('\0') && /facet|endsolid/i.test(new TextDecoder('latin1').decode(bytes.subarray(0, 4096)));
}
