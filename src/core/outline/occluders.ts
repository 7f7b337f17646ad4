import { SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import type { PartView } from './scene.ts';

/** Numbers per occluding triangle: three edge functions (a, b, c each), plane (nx, ny, nz, d), nearest z, how far it may be off its surface. */
export const OCCLUDER_STRIDE = 15;

/**
 * Triangles of a part that look at the reader, in a 2D grid, nearest first in every cell. The part's view space, mm.
 * Cell (i, j) lists `items[cellStart[j * columns + i]]` and on.
 */
export interface OccluderGrid {
  readonly data: Float64Array;
  readonly count: number;
  readonly columns: number;
  readonly rows: number;
  readonly originX: number;
  readonly originY: number;
  readonly maxX: number;
  readonly maxY: number;
  readonly cell: number;
  readonly cellStart: Uint32Array;
  readonly items: Uint32Array;
  /** Nearest z of all. */
  readonly nearest: number;
  /** Scratch of the tests: number of the test that looked at each triangle last, and of the last test. */
  readonly stamp: Uint32Array;
}

/** Longest side of a grid, in cells. */
const MAX_SIDE = 1024;

/**
 * @param grow how far triangle edges are pushed outward, mm: closes cracks between neighbours
 * @param diagonal of the scene, mm: triangles that are nothing beside it are left out
 */
export function buildOccluders(b: PartView, grow: number, diagonal: number): OccluderGrid {
  const g = b.geometry;
  const chosen = frontTriangles(b, 1e-13 * diagonal * diagonal);
  const count = chosen.length;
  const data = new Float64Array(count * OCCLUDER_STRIDE);
  const boxes = new Float64Array(count * 4);
  const v = b.xyz;
  let [minX, minY, maxX, maxY, nearest] = [Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (let n = 0; n < count; n++) {
    const t = chosen[n]!;
    const i = g.triangles[t * 3]! * 3;
    let j = g.triangles[t * 3 + 1]! * 3;
    let k = g.triangles[t * 3 + 2]! * 3;
    // Counter-clockwise in the picture, whatever the part's own sense.
    if ((v[j]! - v[i]!) * (v[k + 1]! - v[i + 1]!) < (v[k]! - v[i]!) * (v[j + 1]! - v[i + 1]!)) {
      const swap = j;
      j = k;
      k = swap;
    }
    const o = n * OCCLUDER_STRIDE;
    const ax = v[i]!,
      ay = v[i + 1]!,
      az = v[i + 2]!;
    const bx = v[j]!,
      by = v[j + 1]!,
      bz = v[j + 2]!;
    const cx = v[k]!,
      cy = v[k + 1]!,
      cz = v[k + 2]!;
    edgeFunction(data, o, ax, ay, bx, by, grow);
    edgeFunction(data, o + 3, bx, by, cx, cy, grow);
    edgeFunction(data, o + 6, cx, cy, ax, ay, grow);
    const nx = (by - ay) * (cz - az) - (bz - az) * (cy - ay);
    const ny = (bz - az) * (cx - ax) - (bx - ax) * (cz - az);
    const nz = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    const l = 1 / Math.sqrt(nx * nx + ny * ny + nz * nz);
    data[o + 9] = nx * l;
    data[o + 10] = ny * l;
    data[o + 11] = nz * l;
    data[o + 12] = (nx * ax + ny * ay + nz * az) * l;
    const near = az > bz ? (az > cz ? az : cz) : bz > cz ? bz : cz;
    data[o + 13] = near;
    data[o + 14] = g.faceKind[g.triangleFace[t]!] === SurfaceKind.plane ? 0 : sagOf(g, t);
    const p = n * 4;
    boxes[p] = ax < bx ? (ax < cx ? ax : cx) : bx < cx ? bx : cx;
    boxes[p + 1] = ay < by ? (ay < cy ? ay : cy) : by < cy ? by : cy;
    boxes[p + 2] = ax > bx ? (ax > cx ? ax : cx) : bx > cx ? bx : cx;
    boxes[p + 3] = ay > by ? (ay > cy ? ay : cy) : by > cy ? by : cy;
    if (boxes[p]! < minX) minX = boxes[p]!;
    if (boxes[p + 1]! < minY) minY = boxes[p + 1]!;
    if (boxes[p + 2]! > maxX) maxX = boxes[p + 2]!;
    if (boxes[p + 3]! > maxY) maxY = boxes[p + 3]!;
    if (near > nearest) nearest = near;
  }
  return {
    data,
    count,
    maxX: maxX + grow,
    maxY: maxY + grow,
    nearest,
    stamp: new Uint32Array(count + 1),
    ...fillGrid(data, boxes, count, [minX, minY, maxX, maxY], grow),
  };
}

/** Triangles that cover something: those of closed parts only when they look at the reader. Nearest last corner first. */
function frontTriangles(b: PartView, smallest: number): Uint32Array {
  const g = b.geometry;
  const v = b.xyz;
  const turn = b.mirrored ? -1 : 1;
  const out = new Uint32Array(b.side.length);
  const near = new Float64Array(b.side.length);
  let count = 0;
  for (let t = 0; t < b.side.length; t++) {
    if (b.edgeOn[g.triangleFace[t]!]) continue;
    const i = g.triangles[t * 3]! * 3;
    const j = g.triangles[t * 3 + 1]! * 3;
    const k = g.triangles[t * 3 + 2]! * 3;
    const signed = turn * ((v[j]! - v[i]!) * (v[k + 1]! - v[i + 1]!) - (v[k]! - v[i]!) * (v[j + 1]! - v[i + 1]!));
    const area = signed < 0 && !g.closed ? -signed : signed;
    if (!(area > smallest)) continue;
    near[t] = Math.max(v[i + 2]!, v[j + 2]!, v[k + 2]!);
    out[count++] = t;
  }
  // Nearest first: cells filled in this order are sorted without sorting them.
  return out.subarray(0, count).sort((p, q) => near[q]! - near[p]! || p - q);
}

/**
 * How far the surface bulges over triangle t, mm: from the turn of the normals along its sides, L·Δn/8 for a side and a
 * third more in the middle of an even triangle.
 */
function sagOf(g: PartGeometry, t: number): number {
  const { positions: p, cornerNormals: n, triangles } = g;
  let most = 0;
  for (let s = 0; s < 3; s++) {
    const a = t * 3 + s;
    const b = s === 2 ? t * 3 : a + 1;
    const i = triangles[a]! * 3;
    const j = triangles[b]! * 3;
    const bulge =
      (p[j]! - p[i]!) * (n[b * 3]! - n[a * 3]!) +
      (p[j + 1]! - p[i + 1]!) * (n[b * 3 + 1]! - n[a * 3 + 1]!) +
      (p[j + 2]! - p[i + 2]!) * (n[b * 3 + 2]! - n[a * 3 + 2]!);
    if (bulge > most) most = bulge;
    else if (-bulge > most) most = -bulge;
  }
  return most / 6;
}

/** Normalised half plane through a → b, inside on the left: a·x + b·y + c ≥ 0 within `grow` of the triangle. */
function edgeFunction(data: Float64Array, o: number, ax: number, ay: number, bx: number, by: number, grow: number): void {
  const dx = bx - ax;
  const dy = by - ay;
  const l = 1 / (Math.sqrt(dx * dx + dy * dy) || 1);
  data[o] = -dy * l;
  data[o + 1] = dx * l;
  data[o + 2] = (dy * ax - dx * ay) * l + grow;
}

/** @param boxes minX minY maxX maxY per triangle */
function fillGrid(data: Float64Array, boxes: Float64Array, count: number, box: readonly number[], grow: number) {
  if (count === 0) return { columns: 1, rows: 1, originX: 0, originY: 0, cell: 1, cellStart: new Uint32Array(2), items: new Uint32Array(0) };
  const width = Math.max(1e-9, box[2]! - box[0]!);
  const height = Math.max(1e-9, box[3]! - box[1]!);
  const cell = Math.max(Math.sqrt((width * height) / count), Math.max(width, height) / MAX_SIDE);
  const columns = Math.floor(width / cell) + 1;
  const rows = Math.floor(height / cell) + 1;
  const originX = box[0]!;
  const originY = box[1]!;
  const cellStart = new Uint32Array(columns * rows + 1);
  // One pass that notes (cell, triangle), then a counting sort by cell; the order within a cell stays.
  let cells = new Uint32Array(count * 4);
  let owners = new Uint32Array(count * 4);
  let n = 0;
  const inv = 1 / cell;
  for (let t = 0; t < count; t++) {
    const p = t * 4;
    const i0 = clamp(Math.floor((boxes[p]! - grow - originX) * inv), columns);
    const i1 = clamp(Math.floor((boxes[p + 2]! + grow - originX) * inv), columns);
    const j0 = clamp(Math.floor((boxes[p + 1]! - grow - originY) * inv), rows);
    const j1 = clamp(Math.floor((boxes[p + 3]! + grow - originY) * inv), rows);
    const several = i1 > i0 && j1 > j0;
    for (let j = j0; j <= j1; j++)
      for (let i = i0; i <= i1; i++) {
        if (several && cellOutside(data, t * OCCLUDER_STRIDE, originX + i * cell, originY + j * cell, cell)) continue;
        if (n === cells.length) {
          cells = grown(cells);
          owners = grown(owners);
        }
        const c = j * columns + i;
        cells[n] = c;
        owners[n++] = t;
        cellStart[c + 1]!++;
      }
  }
  for (let c = 0; c < columns * rows; c++) cellStart[c + 1]! += cellStart[c]!;
  const fill = cellStart.slice(0, columns * rows);
  const items = new Uint32Array(n);
  for (let k = 0; k < n; k++) items[fill[cells[k]!]!++] = owners[k]!;
  return { columns, rows, originX, originY, cell, cellStart, items };
}

function grown(a: Uint32Array): Uint32Array<ArrayBuffer> {
  const b = new Uint32Array(a.length * 2);
  b.set(a);
  return b;
}

const clamp = (i: number, n: number) => (i < 0 ? 0 : i >= n ? n - 1 : i);

/** Is the whole cell on the outer side of one of the triangle's edges? */
function cellOutside(data: Float64Array, o: number, x: number, y: number, size: number): boolean {
  for (let e = o; e < o + 9; e += 3) {
    const a = data[e]!;
    const b = data[e + 1]!;
    if (a * (a > 0 ? x + size : x) + b * (b > 0 ? y + size : y) + data[e + 2]! < 0) return true;
  }
  return false;
}
