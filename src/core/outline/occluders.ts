import { SurfaceKind } from '../assembly/part-geometry.ts';
import type { ProjectedBody } from './scene.ts';

/** Numbers per occluding triangle: three edge functions (a, b, c each), plane (nx, ny, nz, d), nearest z, deflection. */
export const OCCLUDER_STRIDE = 15;

/**
 * Front-facing triangles in a 2D grid, nearest first in every cell. View space, mm.
 * Cell (i, j) lists `items[cellStart[j * columns + i]]` and on.
 */
export interface Occluders {
  readonly data: Float64Array;
  readonly component: Int32Array;
  readonly count: number;
  readonly columns: number;
  readonly rows: number;
  readonly originX: number;
  readonly originY: number;
  readonly cell: number;
  readonly cellStart: Uint32Array;
  readonly items: Uint32Array;
}

/** Longest side of the grid, in cells. */
const MAX_SIDE = 2048;

/**
 * @param grow how far triangle edges are pushed outward, mm: closes cracks between neighbours
 */
export function buildOccluders(bodies: readonly ProjectedBody[], grow: number, diagonal: number): Occluders {
  let capacity = 0;
  for (const b of bodies) capacity += b.side.length;
  const data = new Float64Array(capacity * OCCLUDER_STRIDE);
  const component = new Int32Array(capacity);
  const corners = new Float64Array(capacity * 6);
  let count = 0;
  const box = [Infinity, Infinity, -Infinity, -Infinity];
  const smallest = 1e-13 * diagonal * diagonal;
  bodies.forEach((b) => {
    const g = b.body.geometry;
    const turn = b.mirrored ? -1 : 1;
    for (let t = 0; t < b.side.length; t++) {
      const face = g.triangleFace[t]!;
      if (b.edgeOn[face]) continue;
      const i = g.triangles[t * 3]! * 3;
      let j = g.triangles[t * 3 + 1]! * 3;
      let k = g.triangles[t * 3 + 2]! * 3;
      const v = b.xyz;
      let area = turn * ((v[j]! - v[i]!) * (v[k + 1]! - v[i + 1]!) - (v[k]! - v[i]!) * (v[j + 1]! - v[i + 1]!));
      if (area < 0 && !g.closed) area = -area;
      if (area <= smallest) continue;
      // Counter-clockwise in the picture, whatever the part's own sense.
      const signed = (v[j]! - v[i]!) * (v[k + 1]! - v[i + 1]!) - (v[k]! - v[i]!) * (v[j + 1]! - v[i + 1]!);
      if (signed < 0) [j, k] = [k, j];
      const o = count * OCCLUDER_STRIDE;
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
      let nx = (by - ay) * (cz - az) - (bz - az) * (cy - ay);
      let ny = (bz - az) * (cx - ax) - (bx - ax) * (cz - az);
      let nz = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
      const l = 1 / Math.hypot(nx, ny, nz);
      nx *= l;
      ny *= l;
      nz *= l;
      data[o + 9] = nx;
      data[o + 10] = ny;
      data[o + 11] = nz;
      data[o + 12] = nx * ax + ny * ay + nz * az;
      data[o + 13] = Math.max(az, bz, cz);
      data[o + 14] = g.faceKind[face] === SurfaceKind.plane ? 0 : g.deflectionMm;
      component[count] = b.body.component;
      const p = count * 6;
      corners[p] = ax;
      corners[p + 1] = ay;
      corners[p + 2] = bx;
      corners[p + 3] = by;
      corners[p + 4] = cx;
      corners[p + 5] = cy;
      box[0] = Math.min(box[0]!, ax, bx, cx);
      box[1] = Math.min(box[1]!, ay, by, cy);
      box[2] = Math.max(box[2]!, ax, bx, cx);
      box[3] = Math.max(box[3]!, ay, by, cy);
      count++;
    }
  });
  return { data, component, count, ...fillGrid(data, corners, count, box, grow) };
}

/** Normalised half plane through a → b, inside on the left: a·x + b·y + c ≥ 0 within `grow` of the triangle. */
function edgeFunction(data: Float64Array, o: number, ax: number, ay: number, bx: number, by: number, grow: number): void {
  const dx = bx - ax;
  const dy = by - ay;
  const l = 1 / (Math.hypot(dx, dy) || 1);
  data[o] = -dy * l;
  data[o + 1] = dx * l;
  data[o + 2] = (dy * ax - dx * ay) * l + grow;
}

function fillGrid(data: Float64Array, corners: Float64Array, count: number, box: number[], grow: number) {
  if (count === 0) return { columns: 1, rows: 1, originX: 0, originY: 0, cell: 1, cellStart: new Uint32Array(2), items: new Uint32Array(0) };
  const width = Math.max(1e-9, box[2]! - box[0]!);
  const height = Math.max(1e-9, box[3]! - box[1]!);
  const cell = Math.max(Math.sqrt((width * height) / count), Math.max(width, height) / MAX_SIDE);
  const columns = Math.floor(width / cell) + 1;
  const rows = Math.floor(height / cell) + 1;
  const originX = box[0]!;
  const originY = box[1]!;

  // Nearest first: cells filled in this order are sorted without sorting them.
  const order = new Uint32Array(count);
  for (let i = 0; i < count; i++) order[i] = i;
  const near = new Float64Array(count);
  for (let i = 0; i < count; i++) near[i] = data[i * OCCLUDER_STRIDE + 13]!;
  order.sort((a, b) => near[b]! - near[a]!);

  const cellStart = new Uint32Array(columns * rows + 1);
  const visit = (t: number, place: (index: number) => void): void => {
    const p = t * 6;
    const o = t * OCCLUDER_STRIDE;
    const minX = Math.min(corners[p]!, corners[p + 2]!, corners[p + 4]!) - grow;
    const maxX = Math.max(corners[p]!, corners[p + 2]!, corners[p + 4]!) + grow;
    const minY = Math.min(corners[p + 1]!, corners[p + 3]!, corners[p + 5]!) - grow;
    const maxY = Math.max(corners[p + 1]!, corners[p + 3]!, corners[p + 5]!) + grow;
    const i0 = Math.max(0, Math.floor((minX - originX) / cell));
    const i1 = Math.min(columns - 1, Math.floor((maxX - originX) / cell));
    const j0 = Math.max(0, Math.floor((minY - originY) / cell));
    const j1 = Math.min(rows - 1, Math.floor((maxY - originY) / cell));
    const several = i1 > i0 && j1 > j0;
    for (let j = j0; j <= j1; j++)
      for (let i = i0; i <= i1; i++) {
        if (several && cellOutside(data, o, originX + i * cell, originY + j * cell, cell)) continue;
        place(j * columns + i);
      }
  };
  for (let t = 0; t < count; t++) visit(t, (c) => cellStart[c + 1]!++);
  for (let c = 0; c < columns * rows; c++) cellStart[c + 1]! += cellStart[c]!;
  const fill = cellStart.slice(0, columns * rows);
  const items = new Uint32Array(cellStart[columns * rows]!);
  for (let k = 0; k < count; k++) visit(order[k]!, (c) => (items[fill[c]!++] = order[k]!));
  return { columns, rows, originX, originY, cell, cellStart, items };
}

/** Is the whole cell on the outer side of one of the triangle's edges? */
function cellOutside(data: Float64Array, o: number, x: number, y: number, size: number): boolean {
  for (let e = o; e < o + 9; e += 3) {
    const a = data[e]!;
    const b = data[e + 1]!;
    if (a * (a > 0 ? x + size : x) + b * (b > 0 ? y + size : y) + data[e + 2]! < 0) return true;
  }
  return false;
}
