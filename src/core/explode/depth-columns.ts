import { projectScene, type Body } from '../outline/scene.ts';
import type { ViewFrame } from '../outline/directions.ts';

/** Columns of material along one direction: lowest and highest depth of a body over a rectangle of the grid. */
export interface Columns {
  readonly x0: number;
  readonly y0: number;
  readonly width: number;
  readonly height: number;
  /** Row by row; +Infinity where the body has no material. */
  readonly low: Float32Array;
  /** -Infinity where the body has no material. */
  readonly high: Float32Array;
  /** Pixels with material. */
  readonly count: number;
  /** Of the whole body. */
  readonly min: number;
  readonly max: number;
}

export interface ColumnGrid {
  readonly minX: number;
  readonly minY: number;
  readonly pixelMm: number;
}

/** Grid over a box `[minX, minY, maxX, maxY]`, `side` pixels on the longer side. */
export function columnGrid(box: readonly number[], side: number): ColumnGrid {
  const pixelMm = Math.max(1e-6, box[2]! - box[0]!, box[3]! - box[1]!) / side;
  return { minX: box[0]!, minY: box[1]!, pixelMm };
}

/** Samples a body at pixel centres; every triangle counts, whichever way it looks. */
export function columnsOf(body: Body, frame: ViewFrame, grid: ColumnGrid): Columns {
  const { part, x: dx, y: dy, z: dz } = projectScene([body], frame).instances[0]!;
  const v = part.xyz;
  const [minX, minY] = [grid.minX - dx, grid.minY - dy];
  const s = 1 / grid.pixelMm;
  const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (let p = 0; p < v.length; p += 3)
    for (let k = 0; k < 3; k++) {
      if (v[p + k]! < box[k]!) box[k] = v[p + k]!;
      if (v[p + k]! > box[k + 3]!) box[k + 3] = v[p + k]!;
    }
  const x0 = Math.floor((box[0]! - minX) * s);
  const y0 = Math.floor((box[1]! - minY) * s);
  const width = Math.floor((box[3]! - minX) * s) - x0 + 1;
  const height = Math.floor((box[4]! - minY) * s) - y0 + 1;
  const low = new Float32Array(width * height).fill(Infinity);
  const high = new Float32Array(width * height).fill(-Infinity);
  const tri = body.geometry.triangles;
  for (let t = 0; t < tri.length; t += 3) {
    const i = tri[t]! * 3,
      j = tri[t + 1]! * 3,
      k = tri[t + 2]! * 3;
    const ax = (v[i]! - minX) * s - x0,
      ay = (v[i + 1]! - minY) * s - y0,
      az = v[i + 2]!;
    const bx = (v[j]! - minX) * s - x0,
      by = (v[j + 1]! - minY) * s - y0,
      bz = v[j + 2]!;
    const cx = (v[k]! - minX) * s - x0,
      cy = (v[k + 1]! - minY) * s - y0,
      cz = v[k + 2]!;
    const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
    if (Math.abs(area) < 1e-9) continue;
    const inv = 1 / area;
    const xa = Math.max(0, Math.ceil(Math.min(ax, bx, cx) - 0.5));
    const xb = Math.min(width - 1, Math.floor(Math.max(ax, bx, cx) - 0.5));
    const ya = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5));
    const yb = Math.min(height - 1, Math.floor(Math.max(ay, by, cy) - 0.5));
    for (let y = ya; y <= yb; y++)
      for (let x = xa; x <= xb; x++) {
        const p = ((bx - x - 0.5) * (cy - y - 0.5) - (cx - x - 0.5) * (by - y - 0.5)) * inv;
        const q = ((cx - x - 0.5) * (ay - y - 0.5) - (ax - x - 0.5) * (cy - y - 0.5)) * inv;
        const r = 1 - p - q;
        if (p < 0 || q < 0 || r < 0) continue;
        const z = p * az + q * bz + r * cz + dz;
        const at = y * width + x;
        if (z < low[at]!) low[at] = z;
        if (z > high[at]!) high[at] = z;
      }
  }
  let count = 0;
  for (const h of high) if (h > -Infinity) count++;
  return { x0, y0, width, height, low, high, count, min: box[2]! + dz, max: box[5]! + dz };
}

/** How two bodies stand to each other along the direction of their columns. */
export interface PairColumns {
  /** Pixels in which `b` has material beyond the lowest of `a`: it blocks `a` on its way up. */
  readonly up: number;
  /** Pixels in which `b` has material below the highest of `a`. */
  readonly down: number;
  readonly shared: number;
  /** Highest and lowest of `b` over the shared pixels, mm. */
  readonly top: number;
  readonly bottom: number;
}

/** @param tolerance contact is no obstacle, mm */
export function comparePair(a: Columns, b: Columns, tolerance: number): PairColumns {
  let up = 0;
  let down = 0;
  let shared = 0;
  let top = -Infinity;
  let bottom = Infinity;
  const xa = Math.max(a.x0, b.x0);
  const xb = Math.min(a.x0 + a.width, b.x0 + b.width);
  const ya = Math.max(a.y0, b.y0);
  const yb = Math.min(a.y0 + a.height, b.y0 + b.height);
  for (let y = ya; y < yb; y++)
    for (let x = xa; x < xb; x++) {
      const i = (y - a.y0) * a.width + x - a.x0;
      const j = (y - b.y0) * b.width + x - b.x0;
      const low = a.low[i]!;
      const high = b.high[j]!;
      if (low === Infinity || high === -Infinity) continue;
      shared++;
      if (high > top) top = high;
      if (b.low[j]! < bottom) bottom = b.low[j]!;
      if (high > low + tolerance) up++;
      if (b.low[j]! < a.high[i]! - tolerance) down++;
    }
  return { up, down, shared, top, bottom };
}
