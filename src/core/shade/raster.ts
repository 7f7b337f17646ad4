import { checkCancel, type Cancel } from '../base/errors.ts';
import { projectScene, type Body, type Instance, type ProjectedScene } from '../outline/scene.ts';
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
  /** Pixels in which each component would be seen if it stood alone: its silhouette. */
  readonly silhouette: Uint32Array;
  /** 4 bytes per pixel when colours were given. */
  readonly rgba: Uint8Array | undefined;
}

export interface Shade {
  /** `[r, g, b]` 0…255 per component. */
  readonly colors: readonly (readonly [number, number, number])[];
  /** One tone per triangle instead of one per pixel. Default false. */
  readonly flat?: boolean;
}

/** A window around a box `[minX, minY, maxX, maxY]` with at most `pixels` on its longer side. */
export function windowAround(box: readonly number[], pixels: number): Window {
  const w = Math.max(1e-6, box[2]! - box[0]!);
  const h = Math.max(1e-6, box[3]! - box[1]!);
  return windowOf(box, Math.max(w, h) / (pixels - 2));
}

/** A window around a box with pixels of a given size, mm. */
export function windowOf(box: readonly number[], pixelMm: number): Window {
  const w = Math.max(1e-6, box[2]! - box[0]!);
  const h = Math.max(1e-6, box[3]! - box[1]!);
  return { minX: box[0]! - pixelMm, maxY: box[3]! + pixelMm, pixelMm, width: Math.ceil(w / pixelMm) + 2, height: Math.ceil(h / pixelMm) + 2 };
}

/** Box of bodies in view space: minX minY maxX maxY. */
export function viewBox(bodies: readonly Body[], frame: ViewFrame): [number, number, number, number] {
  return planeBox(projectScene(bodies, frame));
}

/** The scene's box in the picture. */
export const planeBox = ({ box }: ProjectedScene): [number, number, number, number] => [box[0]!, box[1]!, box[3]!, box[4]!];

/**
 * One pass of a z-buffer: which component each pixel shows, how much of each there would be to see, and, with colours,
 * a shaded picture lit from both sides.
 * @param componentCount components are numbered below this
 * @throws QuarryError CANCELLED
 */
export function rasterize(scene: ProjectedScene, window: Window, componentCount: number, shade?: Shade, cancel?: Cancel): Raster {
  const n = window.width * window.height;
  const target: Target = {
    window,
    component: new Int32Array(n).fill(-1),
    depth: new Float32Array(n).fill(-Infinity),
    touched: new Int32Array(n).fill(-1),
    silhouette: new Uint32Array(componentCount),
    rgba: shade ? new Uint8Array(n * 4) : undefined,
  };
  // Where two parts lie in one plane (a pin's cut in its wall's) the smaller one shows: it comes later and wins ties.
  const size = (i: Instance) => (i.part.box[3]! - i.part.box[0]!) * (i.part.box[4]! - i.part.box[1]!);
  const order = [...scene.instances].sort((a, b) => size(b) - size(a));
  const tie = TIE * scene.diagonal;
  for (const instance of order) {
    checkCancel(cancel);
    fillInstance(instance, target, tie, shade?.colors[instance.body.component], shade?.flat ?? false);
  }
  return target;
}

/** Depths closer than this share of the scene's diagonal are equal: they are kept in single precision. */
const TIE = 1e-6;

interface Target extends Raster {
  /** Component that covered the pixel last, seen or not. */
  readonly touched: Int32Array;
}

/** Soft light over the reader's left shoulder; unit. */
const LIGHT = [-0.35, 0.55, 0.758] as const;

function fillInstance(instance: Instance, target: Target, tie: number, color: readonly [number, number, number] | undefined, flat: boolean): void {
  const { part } = instance;
  const g = part.geometry;
  const { window: w, component, depth, touched, silhouette, rgba } = target;
  const id = instance.body.component;
  const v = part.xyz;
  const tri = g.triangles;
  const m = part.turn;
  const normals = g.cornerNormals;
  const s = 1 / w.pixelMm;
  const ox = (instance.x - w.minX) * s;
  const oy = (w.maxY - instance.y) * s;
  const oz = instance.z;
  const turn = part.mirrored ? 1 : -1;
  const paint = rgba !== undefined && color !== undefined;
  for (let t = 0; t < tri.length; t += 3) {
    const i = tri[t]! * 3,
      j = tri[t + 1]! * 3,
      k = tri[t + 2]! * 3;
    const x0 = ox + v[i]! * s,
      y0 = oy - v[i + 1]! * s;
    const x1 = ox + v[j]! * s,
      y1 = oy - v[j + 1]! * s;
    const x2 = ox + v[k]! * s,
      y2 = oy - v[k + 1]! * s;
    const area = (x1 - x0) * (y2 - y0) - (x2 - x0) * (y1 - y0);
    // The picture's y looks down: what looks at the reader runs clockwise. Closed parts show nothing from behind.
    if (g.closed ? area * turn <= 1e-12 : area < 1e-12 && area > -1e-12) continue;
    const lowest = y0 < y1 ? (y0 < y2 ? y0 : y2) : y1 < y2 ? y1 : y2;
    const highest = y0 > y1 ? (y0 > y2 ? y0 : y2) : y1 > y2 ? y1 : y2;
    const ya = Math.max(0, Math.ceil(lowest - 0.5));
    const yb = Math.min(w.height - 1, Math.floor(highest - 0.5));
    if (ya > yb) continue;
    const z0 = v[i + 2]! + oz,
      z1 = v[j + 2]! + oz,
      z2 = v[k + 2]! + oz;
    const inv = 1 / area;
    // Barycentric weights of corners 1 and 2 grow by these per pixel to the right and down.
    const b1x = (y2 - y0) * inv,
      b1y = -(x2 - x0) * inv;
    const b2x = -(y1 - y0) * inv,
      b2y = (x1 - x0) * inv;
    const dzdx = (z1 - z0) * b1x + (z2 - z0) * b2x;
    const dzdy = (z1 - z0) * b1y + (z2 - z0) * b2y;
    let nx = 0,
      ny = 0,
      nz = 0,
      nxdx = 0,
      nydx = 0,
      nzdx = 0,
      nxdy = 0,
      nydy = 0,
      nzdy = 0;
    if (paint) {
      const o = t * 3;
      const a = viewNormal(m, normals, o, 0),
        b = viewNormal(m, normals, o, 1),
        c = viewNormal(m, normals, o, 2);
      const d = viewNormal(m, normals, o + 3, 0),
        e = viewNormal(m, normals, o + 3, 1),
        f = viewNormal(m, normals, o + 3, 2);
      const p = viewNormal(m, normals, o + 6, 0),
        q = viewNormal(m, normals, o + 6, 1),
        r = viewNormal(m, normals, o + 6, 2);
      if (flat) {
        nx = (a + d + p) / 3;
        ny = (b + e + q) / 3;
        nz = (c + f + r) / 3;
      } else {
        nx = a;
        ny = b;
        nz = c;
        nxdx = (d - a) * b1x + (p - a) * b2x;
        nydx = (e - b) * b1x + (q - b) * b2x;
        nzdx = (f - c) * b1x + (r - c) * b2x;
        nxdy = (d - a) * b1y + (p - a) * b2y;
        nydy = (e - b) * b1y + (q - b) * b2y;
        nzdy = (f - c) * b1y + (r - c) * b2y;
      }
    }
    for (let y = ya; y <= yb; y++) {
      const py = y + 0.5;
      // The span between the two sides that cross this row.
      let xa = Infinity;
      let xb = -Infinity;
      if (y0 <= py !== y1 <= py) {
        const x = x0 + ((x1 - x0) * (py - y0)) / (y1 - y0);
        xa = x;
        xb = x;
      }
      if (y1 <= py !== y2 <= py) {
        const x = x1 + ((x2 - x1) * (py - y1)) / (y2 - y1);
        if (x < xa) xa = x;
        if (x > xb) xb = x;
      }
      if (y2 <= py !== y0 <= py) {
        const x = x2 + ((x0 - x2) * (py - y2)) / (y0 - y2);
        if (x < xa) xa = x;
        if (x > xb) xb = x;
      }
      if (!(xa < xb)) continue;
      const from = Math.max(0, Math.ceil(xa - 0.5));
      const to = Math.min(w.width - 1, Math.ceil(xb - 0.5) - 1);
      if (from > to) continue;
      const ex = from + 0.5 - x0;
      const ey = py - y0;
      let z = z0 + dzdx * ex + dzdy * ey;
      let p = y * w.width + from;
      for (let x = from; x <= to; x++, p++, z += dzdx) {
        if (touched[p] !== id) {
          touched[p] = id;
          silhouette[id]!++;
        }
        if (z <= (component[p] === id ? depth[p]! : depth[p]! - tie)) continue;
        depth[p] = z;
        component[p] = id;
        if (!paint) continue;
        const rx = x + 0.5 - x0;
        const lx = nx + nxdx * rx + nxdy * ey;
        const ly = ny + nydx * rx + nydy * ey;
        const lz = nz + nzdx * rx + nzdy * ey;
        const l = Math.sqrt(lx * lx + ly * ly + lz * lz) || 1;
        // Surfaces seen from behind are lit as from the front.
        const lit = (lx * LIGHT[0] + ly * LIGHT[1] + lz * LIGHT[2]) / (lz < 0 ? -l : l);
        const light = lit > 0 ? 0.5 + 0.5 * lit : 0.5;
        const q = p * 4;
        rgba[q] = color[0] * light;
        rgba[q + 1] = color[1] * light;
        rgba[q + 2] = color[2] * light;
        rgba[q + 3] = 255;
      }
    }
  }
}

/** Component `axis` of a corner's normal in view axes. */
function viewNormal(m: readonly number[], normals: Float32Array, o: number, axis: number): number {
  const r = axis * 3;
  return m[r]! * normals[o]! + m[r + 1]! * normals[o + 1]! + m[r + 2]! * normals[o + 2]!;
}

/** Visible pixels per component. */
export function visiblePixels(raster: Raster, componentCount: number): Uint32Array {
  const out = new Uint32Array(componentCount);
  const c = raster.component;
  for (let i = 0; i < c.length; i++) if (c[i]! >= 0) out[c[i]!]!++;
  return out;
}
