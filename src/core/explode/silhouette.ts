import { combine, type Placement } from '../base/placement.ts';
import { dot, type Vec3 } from '../base/vector.ts';
import type { ViewFrame } from '../outline/directions.ts';
import type { Body } from '../outline/scene.ts';

/** A flat shape on a grid: one bit per cell, 32 to a word, row by row. */
export interface Silhouette {
  /** Cell of the grid at which the first bit stands. */
  readonly x0: number;
  readonly y0: number;
  readonly width: number;
  readonly height: number;
  /** Words per row. */
  readonly stride: number;
  readonly bits: Uint32Array;
  /** Set cells. */
  readonly count: number;
}

/** The silhouette of bodies together, seen along a frame. @param cellMm size of a cell in the model, mm */
export function silhouetteOf(bodies: readonly Body[], frame: ViewFrame, cellMm: number): Silhouette {
  const s = 1 / cellMm;
  const points = bodies.map((b) => projected(b, frame, s));
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const p of points)
    for (let i = 0; i < p.length; i += 2) {
      if (p[i]! < minX) minX = p[i]!;
      if (p[i]! > maxX) maxX = p[i]!;
      if (p[i + 1]! < minY) minY = p[i + 1]!;
      if (p[i + 1]! > maxY) maxY = p[i + 1]!;
    }
  if (minX > maxX) return { x0: 0, y0: 0, width: 0, height: 0, stride: 0, bits: new Uint32Array(0), count: 0 };
  const [x0, y0] = [Math.floor(minX), Math.floor(minY)];
  const [width, height] = [Math.floor(maxX) - x0 + 1, Math.floor(maxY) - y0 + 1];
  const stride = (width + 31) >> 5;
  const bits = new Uint32Array(stride * height);
  bodies.forEach((b, n) => fill(points[n]!, b.geometry.triangles, b.geometry.closed, bits, stride, x0, y0, width, height));
  return { x0, y0, width, height, stride, bits, count: countBits(bits) };
}

function projected(body: Body, frame: ViewFrame, s: number): Float64Array {
  const m = body.placement;
  const axis = (d: Vec3) => [0, 1, 2, 3].map((c) => s * (d[0] * m[c]! + d[1] * m[4 + c]! + d[2] * m[8 + c]!));
  const [r, u] = [axis(frame.right), axis(frame.up)] as [number[], number[]];
  const v = body.geometry.positions;
  const out = new Float64Array((v.length / 3) * 2);
  for (let p = 0, q = 0; p < v.length; p += 3, q += 2) {
    out[q] = r[0]! * v[p]! + r[1]! * v[p + 1]! + r[2]! * v[p + 2]! + r[3]!;
    out[q + 1] = u[0]! * v[p]! + u[1]! * v[p + 1]! + u[2]! * v[p + 2]! + u[3]!;
  }
  return out;
}

/** Sets every cell whose middle lies in a triangle, and those that its corners fall in, so that thin parts do not vanish. */
function fill(
  p: Float64Array,
  tri: Uint32Array,
  closed: boolean,
  bits: Uint32Array,
  stride: number,
  x0: number,
  y0: number,
  width: number,
  height: number,
): void {
  const set = (x: number, y: number) => {
    bits[y * stride + (x >> 5)]! |= 1 << (x & 31);
  };
  for (let t = 0; t < tri.length; t += 3) {
    const ax = p[tri[t]! * 2]! - x0,
      ay = p[tri[t]! * 2 + 1]! - y0;
    const bx = p[tri[t + 1]! * 2]! - x0,
      by = p[tri[t + 1]! * 2 + 1]! - y0;
    const cx = p[tri[t + 2]! * 2]! - x0,
      cy = p[tri[t + 2]! * 2 + 1]! - y0;
    set(Math.min(width - 1, ax | 0), Math.min(height - 1, ay | 0));
    const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
    // One side of a closed body covers what the other does.
    if (area === 0 || (area < 0 && closed)) continue;
    const y1 = Math.min(height - 1, Math.floor(Math.max(ay, by, cy) - 0.5));
    for (let y = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5)); y <= y1; y++) {
      const yy = y + 0.5;
      let [from, to] = [-Infinity, Infinity];
      // Each edge bounds the row on one side.
      for (let e = 0; e < 3; e++) {
        const px = e === 0 ? ax : e === 1 ? bx : cx,
          py = e === 0 ? ay : e === 1 ? by : cy;
        const qx = e === 0 ? bx : e === 1 ? cx : ax,
          qy = e === 0 ? by : e === 1 ? cy : ay;
        if (py === qy) continue;
        const x = px + ((yy - py) * (qx - px)) / (qy - py);
        if (qy > py === area > 0) to = Math.min(to, x);
        else from = Math.max(from, x);
      }
      const xa = Math.max(0, Math.ceil(from - 0.5));
      const xb = Math.min(width - 1, Math.floor(to - 0.5));
      for (let x = xa; x <= xb; x++) set(x, y);
    }
  }
}

/** Number of set bits (Hamming weight by adding neighbours). */
export function countBits(words: Uint32Array): number {
  let n = 0;
  for (const w of words) n += weight(w);
  return n;
}

function weight(w: number): number {
  let v = w - ((w >>> 1) & 0x55555555);
  v = (v & 0x33333333) + ((v >>> 2) & 0x33333333);
  return Math.imul((v + (v >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
}

/** The silhouette grown by some cells on every side (a square). */
export function grown(s: Silhouette, by: number): Silhouette {
  if (by <= 0 || s.count === 0) return s;
  const [width, height] = [s.width + 2 * by, s.height + 2 * by];
  const stride = (width + 31) >> 5;
  const wide = new Uint32Array(stride * s.height);
  for (let y = 0; y < s.height; y++) for (let shift = 0; shift <= 2 * by; shift++) orShifted(s.bits, y * s.stride, s.stride, wide, y * stride, stride, shift);
  const bits = new Uint32Array(stride * height);
  for (let y = 0; y < s.height; y++) for (let k = 0; k <= 2 * by; k++) for (let i = 0; i < stride; i++) bits[(y + k) * stride + i]! |= wide[y * stride + i]!;
  return { x0: s.x0 - by, y0: s.y0 - by, width, height, stride, bits, count: countBits(bits) };
}

/** The silhouette without what lies within some cells of its outline. */
export function shrunk(s: Silhouette, by: number): Silhouette {
  if (by <= 0 || s.count === 0) return s;
  const { stride, height } = s;
  const narrow = new Uint32Array(stride * height);
  const row = new Uint32Array(stride);
  for (let y = 0; y < height; y++) {
    const at = y * stride;
    narrow.set(s.bits.subarray(at, at + stride), at);
    for (let shift = -by; shift <= by; shift++) {
      if (shift === 0) continue;
      row.fill(0);
      if (shift > 0) orShifted(s.bits, at, stride, row, 0, stride, shift);
      else for (let i = 0; i < stride; i++) row[i] = (s.bits[at + i]! >>> -shift) | (i + 1 < stride ? s.bits[at + i + 1]! << (32 + shift) : 0);
      for (let i = 0; i < stride; i++) narrow[at + i]! &= row[i]!;
    }
  }
  const bits = new Uint32Array(stride * height);
  for (let y = by; y < height - by; y++)
    for (let i = 0; i < stride; i++) {
      let w = 0xffffffff;
      for (let k = -by; k <= by; k++) w &= narrow[(y + k) * stride + i]!;
      bits[y * stride + i] = w;
    }
  return { ...s, bits, count: countBits(bits) };
}

function orShifted(from: Uint32Array, a: number, n: number, to: Uint32Array, b: number, m: number, shift: number): void {
  const [words, rest] = [shift >> 5, shift & 31];
  for (let i = 0; i < n; i++) {
    const w = from[a + i]!;
    const at = i + words;
    if (at < m) to[b + at]! |= w << rest;
    if (rest && at + 1 < m) to[b + at + 1]! |= w >>> (32 - rest);
  }
}

/** Cells that two silhouettes share when the first is shifted by whole cells. @param stopAt enough is known once so many are found */
export function sharedCells(a: Silhouette, b: Silhouette, dx: number, dy: number, stopAt = Infinity): number {
  // Column of the second's frame at which the first begins.
  const x = a.x0 + dx - b.x0;
  const y = a.y0 + dy - b.y0;
  if (x >= b.width || x + a.width <= 0 || y >= b.height || y + a.height <= 0) return 0;
  const [words, rest] = [Math.floor(x / 32), ((x % 32) + 32) % 32];
  const y0 = Math.max(0, -y);
  const y1 = Math.min(a.height, b.height - y);
  const [p, q] = [a.bits, b.bits];
  const last = b.stride - 1;
  const i0 = Math.max(0, -words - 1);
  const i1 = Math.min(a.stride, b.stride - words);
  let n = 0;
  for (let j = y0; j < y1; j++) {
    const rowA = j * a.stride;
    const rowB = (j + y) * b.stride + words;
    for (let i = i0; i < i1; i++) {
      const w = p[rowA + i]!;
      if (w === 0) continue;
      const k = i + words;
      // The second's bits under this word of the first's.
      let under = k >= 0 ? q[rowB + i]! >>> rest : 0;
      if (rest !== 0 && k < last) under |= q[rowB + i + 1]! << (32 - rest);
      under &= w;
      if (under !== 0) n += weight(under);
    }
    if (n >= stopAt) return n;
  }
  return n;
}

/** Bodies of some components where a motion brings them. */
export function bodiesAt(bodies: readonly Body[], components: readonly number[], motion: Placement): Body[] {
  const own = new Set(components);
  return bodies.filter((b) => own.has(b.component)).map((b) => ({ ...b, placement: combine(motion, b.placement) }));
}

/** Shift on the grid of a vector of the model. */
export const cellsOf = (v: Vec3, frame: ViewFrame, cellMm: number): [number, number] => [
  Math.round(dot(v, frame.right) / cellMm),
  Math.round(dot(v, frame.up) / cellMm),
];
