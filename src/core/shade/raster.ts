import { projectBody, type Body, type ProjectedBody } from '../outline/scene.ts';
import type { ViewFrame } from '../outline/directions.ts';

/** A rectangle of the view plane on a grid of pixels. Row 0 is the top. */
export interface Window {
  /** View space, model mm. */
  readonly minX: number;
  readonly maxY: number;
  readonly pixelMm: number;
  readonly width: number;
  readonly height: number;
}

export interface Raster {
  readonly window: Window;
  /** Component per pixel, -1 for none. */
  readonly component: Int32Array;
  /** Nearest depth per pixel, view space; -Infinity for none. */
  readonly depth: Float32Array;
  /** 4 bytes per pixel when colours were given. */
  readonly rgba: Uint8Array | undefined;
}

/** A window around a box `[minX, minY, maxX, maxY]` with at most `pixels` on its longer side. */
export function windowAround(box: readonly number[], pixels: number): Window {
  const w = Math.max(1e-6, box[2]! - box[0]!);
  const h = Math.max(1e-6, box[3]! - box[1]!);
  const pixelMm = Math.max(w, h) / (pixels - 2);
  return { minX: box[0]! - pixelMm, maxY: box[3]! + pixelMm, pixelMm, width: Math.ceil(w / pixelMm) + 2, height: Math.ceil(h / pixelMm) + 2 };
}

/** Box of bodies in view space. */
export function viewBox(bodies: readonly Body[], frame: ViewFrame): [number, number, number, number] {
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const body of bodies) {
    const b = projectBody(body, frame);
    // Only vertices that triangles use: a cut leaves the others behind.
    for (const v of body.geometry.triangles) {
      const x = b.xyz[v * 3]!;
      const y = b.xyz[v * 3 + 1]!;
      if (x < box[0]) box[0] = x;
      if (y < box[1]) box[1] = y;
      if (x > box[2]) box[2] = x;
      if (y > box[3]) box[3] = y;
    }
  }
  return box;
}

/**
 * One pass of a z-buffer: which component each pixel shows and, with colours, a shaded picture.
 * @param colors `[r, g, b]` 0…255 per component
 */
export function rasterize(bodies: readonly Body[], frame: ViewFrame, window: Window, colors?: readonly (readonly [number, number, number])[]): Raster {
  const n = window.width * window.height;
  const component = new Int32Array(n).fill(-1);
  const depth = new Float32Array(n).fill(-Infinity);
  const rgba = colors ? new Uint8Array(n * 4) : undefined;
  for (const body of bodies) {
    const b = projectBody(body, frame);
    const color = colors?.[body.component];
    for (let t = 0; t < b.side.length; t++) fillTriangle(b, t, window, depth, component, rgba, color);
  }
  return { window, component, depth, rgba };
}

/** Soft light over the reader's left shoulder; unit. */
const LIGHT = [-0.35, 0.55, 0.758] as const;

function fillTriangle(
  b: ProjectedBody,
  t: number,
  w: Window,
  depth: Float32Array,
  component: Int32Array,
  rgba: Uint8Array | undefined,
  color: readonly [number, number, number] | undefined,
): void {
  const tri = b.body.geometry.triangles;
  const i = tri[t * 3]! * 3,
    j = tri[t * 3 + 1]! * 3,
    k = tri[t * 3 + 2]! * 3;
  const v = b.xyz;
  const s = 1 / w.pixelMm;
  const x0 = (v[i]! - w.minX) * s,
    y0 = (w.maxY - v[i + 1]!) * s,
    z0 = v[i + 2]!;
  const x1 = (v[j]! - w.minX) * s,
    y1 = (w.maxY - v[j + 1]!) * s,
    z1 = v[j + 2]!;
  const x2 = (v[k]! - w.minX) * s,
    y2 = (w.maxY - v[k + 1]!) * s,
    z2 = v[k + 2]!;
  const area = (x1 - x0) * (y2 - y0) - (x2 - x0) * (y1 - y0);
  if (Math.abs(area) < 1e-12) return;
  const inv = 1 / area;
  const minX = Math.max(0, Math.ceil(Math.min(x0, x1, x2) - 0.5));
  const maxX = Math.min(w.width - 1, Math.floor(Math.max(x0, x1, x2) - 0.5));
  const minY = Math.max(0, Math.ceil(Math.min(y0, y1, y2) - 0.5));
  const maxY = Math.min(w.height - 1, Math.floor(Math.max(y0, y1, y2) - 0.5));
  const id = b.body.component;
  const n = b.normals;
  const o = t * 9;
  for (let y = minY; y <= maxY; y++) {
    const py = y + 0.5;
    for (let x = minX; x <= maxX; x++) {
      const px = x + 0.5;
      const a = ((x1 - px) * (y2 - py) - (x2 - px) * (y1 - py)) * inv;
      const c = ((x2 - px) * (y0 - py) - (x0 - px) * (y2 - py)) * inv;
      const d = 1 - a - c;
      if (a < 0 || c < 0 || d < 0) continue;
      const z = a * z0 + c * z1 + d * z2;
      const p = y * w.width + x;
      if (z <= depth[p]!) continue;
      depth[p] = z;
      component[p] = id;
      if (!rgba || !color) continue;
      let nx = a * n[o]! + c * n[o + 3]! + d * n[o + 6]!;
      let ny = a * n[o + 1]! + c * n[o + 4]! + d * n[o + 7]!;
      let nz = a * n[o + 2]! + c * n[o + 5]! + d * n[o + 8]!;
      if (nz < 0) {
        nx = -nx;
        ny = -ny;
        nz = -nz;
      }
      const light = 0.5 + 0.5 * Math.max(0, (nx * LIGHT[0] + ny * LIGHT[1] + nz * LIGHT[2]) / (Math.hypot(nx, ny, nz) || 1));
      rgba[p * 4] = color[0] * light;
      rgba[p * 4 + 1] = color[1] * light;
      rgba[p * 4 + 2] = color[2] * light;
      rgba[p * 4 + 3] = 255;
    }
  }
}

/** Visible pixels per component. */
export function visiblePixels(raster: Raster, componentCount: number): Uint32Array {
  const out = new Uint32Array(componentCount);
  for (const c of raster.component) if (c >= 0) out[c]!++;
  return out;
}

/** `#rrggbb` to bytes; a light grey for anything else. */
export function colorBytes(hex: string | undefined): readonly [number, number, number] {
  const m = /^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(hex ?? '');
  return m ? [parseInt(m[1]!, 16), parseInt(m[2]!, 16), parseInt(m[3]!, 16)] : [200, 200, 196];
}
