import { QuarryError, type Notice } from '../base/errors.ts';
import { combine, IDENTITY, inverse, type Placement } from '../base/placement.ts';
import { cross, dot, length, type Vec3 } from '../base/vector.ts';
import type { AssemblyNode, Part } from './assembly.ts';
import { looksLike } from './looks-like.ts';
import { geometryFromMesh } from './from-mesh.ts';
import type { ImportResult } from './importing.ts';
import type { PartGeometry } from './part-geometry.ts';
import { chooseName, saysNothing } from './naming.ts';
import { dropEmptyBranches } from './prune.ts';
import { uniqueId } from './unique-id.ts';
import { unitName } from './units.ts';

/** What a mesh file says, in its own unit and with its own axis up. */
export interface MeshTree {
  readonly name: string;
  /** Such as `glTF 2.0`. */
  readonly schema: string;
  /** Millimetres per unit of the file; undefined when the format does not say. */
  readonly unitMm: number | undefined;
  readonly up: 'y' | 'z';
  readonly meshes: readonly RawMesh[];
  /** Parents come before their children; the first is the root. */
  readonly nodes: readonly MeshNode[];
  /** What the file says of the whole. */
  readonly properties?: Readonly<Record<string, string>>;
  readonly notices: readonly Notice[];
}

export interface RawMesh {
  readonly name: string;
  /** Flat; three corners of a triangle in turn unless `triangles` says otherwise. */
  readonly positions: ArrayLike<number>;
  readonly triangles?: ArrayLike<number>;
  readonly color?: string;
  readonly material?: string;
  readonly properties?: Readonly<Record<string, string>>;
}

export interface MeshNode {
  readonly parent: number;
  readonly name: string;
  /** Row-major 3×4, relative to the parent; it may scale and shear. */
  readonly placement: Placement;
  /** Index in `meshes`, -1 for a group. */
  readonly mesh: number;
  readonly color?: string;
}

/** What the user decides where the format leaves it open. */
export interface MeshChoices {
  readonly unitMm: number;
  readonly up: 'y' | 'z';
}

export const MOST_COMPONENTS = 50_000;
export const MOST_LEVELS = 100;
export const MOST_TRIANGLES = 12_000_000;

/** y up to z up. */
const UPRIGHT: Placement = [1, 0, 0, 0, 0, 0, -1, 0, 0, 1, 0, 0];

/**
 * The neutral model of a mesh file. Meshes of equal content are one part; where a placement scales or shears, that part
 * of it goes into a mesh of its own, so that places are rigid.
 * @param keyOf hash of a geometry's content
 * @throws QuarryError FILE_NO_SOLIDS, FILE_TOO_MANY, FILE_TOO_DEEP
 */
export function assemblyFromMeshes(
  tree: MeshTree,
  choices: MeshChoices,
  keyOf: (g: PartGeometry) => string,
  onProgress?: (done: number, total: number) => void,
): ImportResult {
  const world: Placement[] = [];
  const level: number[] = [];
  const turn = choices.up === 'y' ? UPRIGHT : IDENTITY;
  tree.nodes.forEach((n, i) => {
    world[i] = n.parent < 0 ? combine(turn, n.placement) : combine(world[n.parent]!, n.placement);
    level[i] = n.parent < 0 ? 0 : level[n.parent]! + 1;
    if (level[i]! > MOST_LEVELS) throw new QuarryError('FILE_TOO_DEEP', { file: tree.name, depth: level[i]!, limit: MOST_LEVELS });
  });
  const used = tree.nodes.filter((n) => n.mesh >= 0).length;
  if (used > MOST_COMPONENTS) throw new QuarryError('FILE_TOO_MANY', { file: tree.name, count: used, limit: MOST_COMPONENTS });

  const builder = new PartBuilder(tree, keyOf);
  const nodes: AssemblyNode[] = [];
  let done = 0;
  const rigid: Placement[] = [];
  tree.nodes.forEach((n, i) => {
    const split = splitRigid(scaled(world[i]!, choices.unitMm));
    rigid[i] = split.rigid;
    const up = n.parent < 0 ? IDENTITY : rigid[n.parent]!;
    let part = -1;
    if (n.mesh >= 0) {
      onProgress?.(done++, used);
      part = builder.part(n.mesh, split.rest, n.name);
    }
    const color = n.color ?? (n.mesh >= 0 ? tree.meshes[n.mesh]!.color : undefined);
    nodes.push({
      parent: n.parent,
      name: n.name,
      product: part >= 0 ? builder.parts[part]!.name : n.name,
      ...(saysNothing(n.name) ? {} : { occurrence: n.name }),
      placement: combine(inverse(up), split.rigid),
      part,
      ...(color ? { color } : {}),
    });
  });
  const kept = dropEmptyBranches(nodes);
  if (builder.parts.length === 0) throw new QuarryError('FILE_NO_SOLIDS', { file: tree.name });
  return {
    assembly: {
      name: chooseName(
        [
          { text: kept[0]?.name, from: 'product' },
          { text: tree.name, from: 'file' },
        ],
        tree.name,
      ).name,
      schema: tree.schema,
      unit: unitName(choices.unitMm),
      parts: builder.parts,
      nodes: kept,
      properties: tree.properties ?? {},
      notices: [...tree.notices, ...builder.notices],
    },
    geometries: builder.geometries,
  };
}

class PartBuilder {
  readonly parts: Part[] = [];
  readonly geometries = new Map<string, PartGeometry>();
  readonly notices: Notice[] = [];
  private readonly known = new Map<string, number>();
  private readonly byKey = new Map<string, number>();
  private readonly ids = new Set<string>();
  private readonly tree: MeshTree;
  private readonly keyOf: (g: PartGeometry) => string;

  constructor(tree: MeshTree, keyOf: (g: PartGeometry) => string) {
    this.tree = tree;
    this.keyOf = keyOf;
  }

  /**
   * @param rest what a placement does besides moving and turning, row-major 3×3
   * @param occurrence what the node is called that uses it
   */
  part(mesh: number, rest: readonly number[], occurrence: string): number {
    const name = `${mesh}/${rest.map((v) => v.toFixed(9)).join()}`;
    const known = this.known.get(name);
    if (known !== undefined) return known;
    const raw = this.tree.meshes[mesh]!;
    const geometry = geometryFromMesh(transformed(raw.positions, rest), raw.triangles);
    const part = geometry ? this.add(raw, geometry, occurrence) : -1;
    if (!geometry) this.notices.push({ code: 'LEFT_OUT', about: raw.name, text: `“${raw.name}” has no surface and is left out.` });
    this.known.set(name, part);
    return part;
  }

  private add(raw: RawMesh, geometry: PartGeometry, occurrence: string): number {
    const geometryKey = this.keyOf(geometry);
    const { name, from } = chooseName(
      [
        { text: raw.name, from: 'product' },
        { text: occurrence, from: 'occurrence' },
        ...(this.tree.meshes.length === 1 ? [{ text: this.tree.name, from: 'file' } as const] : []),
      ],
      'Part',
    );
    // The same surface under one name is one part, however often the file repeats it.
    const same = this.byKey.get(`${geometryKey}/${name}`);
    if (same !== undefined) return same;
    this.geometries.set(geometryKey, geometry);
    if (!geometry.closed)
      this.notices.push({
        code: 'OPEN_SURFACE',
        about: name,
        text: `“${name}” has an open surface: its volume and mass are not known, and sections show it without hatching.`,
      });
    const id = uniqueId(name, this.ids);
    const { volumeMm3, areaMm2, centroid, box } = geometry;
    const shape = looksLike(geometry);
    this.parts.push({
      ...(shape ? { looksLike: shape } : {}),
      id,
      name,
      nameFrom: from,
      geometryKey,
      volumeMm3,
      areaMm2,
      centroid,
      box,
      properties: raw.properties ?? {},
      ...(raw.color ? { color: raw.color } : {}),
      ...(raw.material ? { material: raw.material } : {}),
    });
    this.byKey.set(`${geometryKey}/${name}`, this.parts.length - 1);
    return this.parts.length - 1;
  }
}

function transformed(p: ArrayLike<number>, m: readonly number[]): Float64Array {
  const out = new Float64Array(p.length);
  for (let i = 0; i + 2 < p.length; i += 3) {
    const [x, y, z] = [p[i]!, p[i + 1]!, p[i + 2]!];
    for (let r = 0; r < 3; r++) out[i + r] = m[r * 3]! * x + m[r * 3 + 1]! * y + m[r * 3 + 2]! * z;
  }
  return out;
}

const scaled = (m: Placement, k: number): Placement => m.map((v) => v * k);

/** A placement as a rigid one after a 3×3 rest: Gram–Schmidt on its columns. A mirror stays in the rigid part. */
function splitRigid(m: Placement): { rigid: Placement; rest: number[] } {
  const column = (c: number): Vec3 => [m[c]!, m[4 + c]!, m[8 + c]!];
  const [a, b, c] = [column(0), column(1), column(2)];
  const unit = (v: Vec3, spare: Vec3): Vec3 => {
    const l = length(v);
    return l > 1e-12 ? [v[0] / l, v[1] / l, v[2] / l] : spare;
  };
  const less = (v: Vec3, u: Vec3): Vec3 => {
    const d = dot(v, u);
    return [v[0] - d * u[0], v[1] - d * u[1], v[2] - d * u[2]];
  };
  const x = unit(a, [1, 0, 0]);
  const y = unit(less(b, x), Math.abs(x[0]) < 0.9 ? unit(less([1, 0, 0], x), x) : unit(less([0, 1, 0], x), x));
  const z0 = cross(x, y);
  const side = dot(c, z0) < 0 ? -1 : 1;
  const z: Vec3 = [z0[0] * side, z0[1] * side, z0[2] * side];
  const axes = [x, y, z];
  const clean = (v: number, one: boolean) => (Math.abs(v - (one ? 1 : 0)) < 1e-9 ? (one ? 1 : 0) : v);
  return {
    rigid: [x[0], y[0], z[0], m[3]!, x[1], y[1], z[1], m[7]!, x[2], y[2], z[2], m[11]!],
    rest: axes.flatMap((u, r) => [a, b, c].map((v, k) => clean(dot(u, v), r === k))),
  };
}

/** Box of the whole in the file's unit, z up: minX minY minZ maxX maxY maxZ. */
export function meshTreeBox(tree: MeshTree, up: 'y' | 'z'): number[] {
  const world: Placement[] = [];
  const [lo, hi] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  tree.nodes.forEach((n, i) => {
    const m = n.parent < 0 ? combine(up === 'y' ? UPRIGHT : IDENTITY, n.placement) : combine(world[n.parent]!, n.placement);
    world[i] = m;
    const p = n.mesh >= 0 ? tree.meshes[n.mesh]!.positions : [];
    for (let k = 0; k + 2 < p.length; k += 3)
      for (let r = 0; r < 3; r++) {
        const v = m[r * 4]! * p[k]! + m[r * 4 + 1]! * p[k + 1]! + m[r * 4 + 2]! * p[k + 2]! + m[r * 4 + 3]!;
        if (!Number.isFinite(v)) continue;
        if (v < lo[r]!) lo[r] = v;
        if (v > hi[r]!) hi[r] = v;
      }
  });
  return [...lo, ...hi];
}

/** Size of what several files hold together, with their positions as they are. */
export function sizeOfTrees(trees: readonly MeshTree[], up: 'y' | 'z'): [number, number, number] {
  const boxes = trees.map((t) => meshTreeBox(t, up));
  return [0, 1, 2].map((k) => Math.max(0, Math.max(...boxes.map((b) => b[k + 3]!)) - Math.min(...boxes.map((b) => b[k]!))) || 0) as [number, number, number];
}
