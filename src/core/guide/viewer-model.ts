import type { Assembly } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import type { Placement } from '../base/placement.ts';
import { colorBytes, hexOf, itemColor } from '../shade/colors.ts';

/** Where a part's surface lies in the bytes of a model for pages. */
export interface ViewerPart {
  /** Corner of its box and size of a step of its positions, mm: position = origin + step × number (16 bits). */
  readonly origin: readonly [number, number, number];
  readonly step: number;
  /** Counts of corners and triangles. Bytes: 3 × 16 bits a corner, then 3 × 8 bits of its normal (and one over), then 3 × 32 bits a triangle. */
  readonly corners: number;
  readonly triangles: number;
  readonly at: number;
}

export interface ViewerComponent {
  /** Absent: it has no solid. */
  readonly part: number | undefined;
  readonly placement: Placement;
  /** Of its item, and of the model. */
  readonly color: string;
  readonly own: string;
  readonly name: string;
}

/** A model as self-contained pages carry it. */
export interface ViewerModel {
  readonly parts: readonly ViewerPart[];
  readonly components: readonly ViewerComponent[];
}

const shownHex = (bytes: readonly number[]): string => hexOf(bytes.map((v) => v / 255));

/** Bytes of a corner: position, normal, and one so that positions lie on even addresses. */
export const CORNER_BYTES = 10;
const MOST = 65535;

/**
 * A model small enough to be carried in a page: corners of one place and normal are one, positions in 16 bits of the part's box (a
 * hundredth of a millimetre for a part of 650 mm), normals in 8.
 */
export function viewerModel(assembly: Assembly, geometries: ReadonlyMap<string, PartGeometry>): { readonly model: ViewerModel; readonly bytes: Uint8Array } {
  const known = new Map<string, number>();
  const parts: ViewerPart[] = [];
  const chunks: Uint8Array[] = [];
  let at = 0;
  const partOf = (key: string): number | undefined => {
    const index = known.get(key);
    if (index !== undefined) return index;
    const g = geometries.get(key);
    if (!g) return undefined;
    const { part, bytes } = packed(g, at);
    known.set(key, parts.push(part) - 1);
    chunks.push(bytes);
    at += bytes.length;
    return parts.length - 1;
  };
  const components = componentsOf(assembly).map((c): ViewerComponent => {
    const own = assembly.parts[c.part]!;
    return {
      part: partOf(own.geometryKey),
      placement: c.placement,
      color: shownHex(itemColor(c.part)),
      own: shownHex(colorBytes(assembly.nodes[c.node]!.color ?? own.color)),
      name: c.name,
    };
  });
  const bytes = new Uint8Array(at);
  let offset = 0;
  for (const c of chunks) {
    bytes.set(c, offset);
    offset += c.length;
  }
  return { model: { parts, components }, bytes };
}

function packed({ positions, triangles, cornerNormals }: PartGeometry, at: number): { readonly part: ViewerPart; readonly bytes: Uint8Array } {
  const low: [number, number, number] = [Infinity, Infinity, Infinity];
  let size = 0;
  for (let k = 0; k < 3; k++) {
    let high = -Infinity;
    for (let i = k; i < positions.length; i += 3) {
      low[k] = Math.min(low[k]!, positions[i]!);
      high = Math.max(high, positions[i]!);
    }
    size = Math.max(size, high - low[k]!);
  }
  const step = Math.max(size, 1e-9) / MOST;
  const index = new Map<string, number>();
  const corners: number[] = [];
  const order = new Uint32Array(triangles.length);
  triangles.forEach((v, i) => {
    const p = [0, 1, 2].map((k) => Math.round((positions[3 * v + k]! - low[k]!) / step));
    const n = [0, 1, 2].map((k) => Math.round(127 * cornerNormals[3 * i + k]!));
    const key = `${p.join()},${n.join()}`;
    let c = index.get(key);
    if (c === undefined) {
      index.set(key, (c = index.size));
      corners.push(...p, ...n);
    }
    order[i] = c;
  });
  const count = index.size;
  // Triangles lie on addresses that 32 bits may stand on.
  const head = Math.ceil((count * CORNER_BYTES) / 4) * 4;
  const bytes = new Uint8Array(head + 4 * order.length);
  const view = new DataView(bytes.buffer);
  for (let c = 0; c < count; c++) {
    for (let k = 0; k < 3; k++) view.setUint16(c * CORNER_BYTES + 2 * k, corners[6 * c + k]!, true);
    for (let k = 0; k < 3; k++) view.setInt8(c * CORNER_BYTES + 6 + k, corners[6 * c + 3 + k]!);
  }
  order.forEach((c, i) => view.setUint32(head + 4 * i, c, true));
  return { part: { origin: low, step, corners: count, triangles: triangles.length / 3, at }, bytes };
}
