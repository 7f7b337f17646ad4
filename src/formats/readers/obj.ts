import type { Mesh } from 'three';
import { MTLLoader } from 'three/examples/jsm/loaders/MTLLoader.js';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import type { ImportedFile } from '../../core/assembly/importing.ts';
import type { MeshNode, MeshTree, RawMesh } from '../../core/assembly/mesh-tree.ts';
import { QuarryError } from '../../core/base/errors.ts';
import { IDENTITY } from '../../core/base/placement.ts';
import { hexOf } from '../../core/shade/colors.ts';
import { checkTriangles, cleanName, withoutEnding } from './limits.ts';

/**
 * Wavefront OBJ: each object or group is a component. No unit, no axis; materials by name, their colours from a material
 * library (.mtl) that was given with it.
 * @param beside where the material library may be
 * @throws QuarryError FILE_DAMAGED, FILE_TOO_MANY
 */
export function readObj({ name, bytes }: ImportedFile, beside: readonly ImportedFile[] = []): MeshTree {
  const damaged = (why: string, cause?: unknown) => new QuarryError('FILE_DAMAGED', { file: name, format: 'OBJ', why }, { cause });
  const text = new TextDecoder('utf-8').decode(bytes);
  if (!/^\s*v\s/m.test(text)) throw damaged('there is no point in it');
  let group;
  try {
    group = new OBJLoader().parse(text);
  } catch (e) {
    throw damaged('its faces cannot be read', e);
  }
  const colors = materialColors(beside);
  const title = cleanName(withoutEnding(name), 'Part');
  const meshes: RawMesh[] = [];
  let total = 0;
  for (const child of group.children) {
    const mesh = child as Mesh;
    if (!mesh.isMesh) continue;
    const positions = mesh.geometry.getAttribute('position')?.array;
    if (!positions || positions.length < 9) continue;
    total += positions.length / 9;
    checkTriangles(name, total);
    const material = [mesh.material].flat()[0]?.name;
    meshes.push({
      name: cleanName(mesh.name, `${title} ${meshes.length + 1}`),
      positions: positions as Float32Array,
      ...(material ? { material: cleanName(material, '') } : {}),
      ...(material && colors.has(material) ? { color: colors.get(material)! } : {}),
    });
  }
  if (meshes.length === 0) throw damaged('there is no face in it');
  const leaf = (i: number, parent: number): MeshNode => ({ parent, name: meshes[i]!.name, placement: IDENTITY, mesh: i });
  const nodes = meshes.length === 1 ? [leaf(0, -1)] : [{ parent: -1, name: title, placement: IDENTITY, mesh: -1 }, ...meshes.map((_, i) => leaf(i, 0))];
  return { name: title, schema: 'OBJ', unitMm: undefined, up: 'z', meshes, nodes, notices: [] };
}

/** Diffuse colour by material name: three numbers 0…1 as they are shown. Files that are no material library say nothing. */
function materialColors(files: readonly ImportedFile[]): Map<string, string> {
  const colors = new Map<string, string>();
  for (const f of files) {
    if (!/\.mtl$/i.test(f.name)) continue;
    const { materialsInfo } = new MTLLoader().parse(new TextDecoder('utf-8').decode(f.bytes), '');
    for (const [name, info] of Object.entries(materialsInfo)) {
      const kd = (info as { kd?: readonly (string | number)[] }).kd?.slice(0, 3).map(Number);
      if (kd?.length === 3 && kd.every(Number.isFinite)) colors.set(name, hexOf(kd));
    }
  }
  return colors;
}
