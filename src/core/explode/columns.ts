import type { PartGeometry } from '../assembly/part-geometry.ts';
import type { Placement } from '../base/placement.ts';
import { anyPerpendicular, cross, dot, type Vec3 } from '../base/vector.ts';
import type { Body } from '../outline/scene.ts';

/** A body seen along a direction: vertices in axes of which the third is the direction. */
export interface Along {
  readonly geometry: PartGeometry;
  /** 3 per vertex, about the part's own origin; shared by bodies that are turned alike. */
  readonly xyz: Float64Array;
  /** Triangles by place, in the same axes. */
  readonly bins: Bins;
  readonly x: number;
  readonly y: number;
  readonly z: number;
  /** minX minY minZ maxX maxY maxZ, with the shift. */
  readonly box: Float64Array;
  /** What was read through the window of its own box, by rays on a side. */
  readonly reaches: Map<number, Reach>;
}

/** The same body somewhere else. @param by in the axes of the sight, mm */
export function shifted(a: Along, by: Vec3): Along {
  const box = a.box.map((v, i) => v + by[i % 3]!);
  return { ...a, x: a.x + by[0], y: a.y + by[1], z: a.z + by[2], box, reaches: new Map() };
}

/** Sees bodies along one direction; what is turned alike is computed once. */
export class Sight {
  readonly direction: Vec3;
  private readonly right: Vec3;
  private readonly up: Vec3;
  private readonly known = new Map<PartGeometry, Map<string, Turned>>();

  /** @param direction unit vector */
  constructor(direction: Vec3) {
    this.direction = direction;
    this.right = anyPerpendicular(direction);
    this.up = cross(direction, this.right);
  }

  of(body: Body): Along {
    const m = body.placement;
    const turn = [this.right, this.up, this.direction].flatMap((a) => [0, 1, 2].map((c) => a[0] * m[c]! + a[1] * m[4 + c]! + a[2] * m[8 + c]!));
    const key = turn.map((v) => Math.round(v * 1e9) + 0).join();
    let views = this.known.get(body.geometry);
    if (!views) this.known.set(body.geometry, (views = new Map()));
    let seen = views.get(key);
    if (!seen) views.set(key, (seen = turned(body.geometry, turn)));
    const [x, y, z] = this.shift(m);
    const b = seen.box;
    const box = Float64Array.of(b[0]! + x, b[1]! + y, b[2]! + z, b[3]! + x, b[4]! + y, b[5]! + z);
    return { geometry: body.geometry, xyz: seen.xyz, bins: seen.bins, x, y, z, box, reaches: new Map() };
  }

  private shift(m: Placement): [number, number, number] {
    return [this.right, this.up, this.direction].map((a) => a[0] * m[3]! + a[1] * m[7]! + a[2] * m[11]!) as [number, number, number];
  }

  /** A vector of the model in the sight's axes. */
  axes(v: Vec3): Vec3 {
    return [dot(v, this.right), dot(v, this.up), dot(v, this.direction)];
  }

  /** The same, one by one: hot loops want no array. */
  across(v: Vec3): number {
    return dot(v, this.right);
  }
  upwards(v: Vec3): number {
    return dot(v, this.up);
  }
  depth(v: Vec3): number {
    return dot(v, this.direction);
  }

  /** A point of the sight's axes in the model. */
  inModel(x: number, y: number, z: number): Vec3 {
    return [0, 1, 2].map((k) => this.right[k]! * x + this.up[k]! * y + this.direction[k]! * z) as unknown as Vec3;
  }
}

interface Turned {
  readonly xyz: Float64Array;
  readonly box: Float64Array;
  readonly bins: Bins;
}

/** Which triangles reach into each square of a coarse grid over a part: small windows look at few of them. */
export class Bins {
  private static readonly side = 20;
  private start: Uint32Array | undefined;
  private list = new Uint32Array(0);
  /** The last search that met each triangle. */
  private seen = new Uint32Array(0);
  private search = 0;
  private readonly xyz: Float64Array;
  private readonly triangles: Uint32Array;
  private readonly box: Float64Array;

  constructor(xyz: Float64Array, triangles: Uint32Array, box: Float64Array) {
    this.xyz = xyz;
    this.triangles = triangles;
    this.box = box;
  }

  /** Calls back with the first index of every triangle that may reach into a rectangle, in the part's axes. */
  within(minX: number, minY: number, maxX: number, maxY: number, visit: (t: number) => void): void {
    const [b, n] = [this.box, Bins.side];
    const [kx, ky] = [n / Math.max(1e-12, b[3]! - b[0]!), n / Math.max(1e-12, b[4]! - b[1]!)];
    const clamp = (v: number) => Math.min(n - 1, Math.max(0, Math.floor(v)));
    const [x0, x1, y0, y1] = [clamp((minX - b[0]!) * kx), clamp((maxX - b[0]!) * kx), clamp((minY - b[1]!) * ky), clamp((maxY - b[1]!) * ky)];
    const tri = this.triangles.length;
    if (tri < 600 || (x1 - x0 + 1) * (y1 - y0 + 1) > 0.4 * n * n) {
      for (let t = 0; t < tri; t += 3) visit(t);
      return;
    }
    const start = (this.start ??= this.build(kx, ky));
    const stamp = ++this.search;
    for (let y = y0; y <= y1; y++)
      for (let i = start[y * n + x0]!; i < start[y * n + x1 + 1]!; i++) {
        const t = this.list[i]!;
        if (this.seen[t] === stamp) continue;
        this.seen[t] = stamp;
        visit(t * 3);
      }
  }

  private build(kx: number, ky: number): Uint32Array {
    const [b, n, v, tri] = [this.box, Bins.side, this.xyz, this.triangles];
    const start = new Uint32Array(n * n + 1);
    const each = (put: (bin: number, t: number) => void) => {
      for (let t = 0; t < tri.length; t += 3) {
        const [i, j, k] = [tri[t]! * 3, tri[t + 1]! * 3, tri[t + 2]! * 3];
        const at = (value: number, low: number, scale: number) => Math.min(n - 1, Math.max(0, Math.floor((value - low) * scale)));
        const x0 = at(Math.min(v[i]!, v[j]!, v[k]!), b[0]!, kx);
        const x1 = at(Math.max(v[i]!, v[j]!, v[k]!), b[0]!, kx);
        const y0 = at(Math.min(v[i + 1]!, v[j + 1]!, v[k + 1]!), b[1]!, ky);
        const y1 = at(Math.max(v[i + 1]!, v[j + 1]!, v[k + 1]!), b[1]!, ky);
        for (let y = y0; y <= y1; y++) for (let x = x0; x <= x1; x++) put(y * n + x, t / 3);
      }
    };
    each((bin) => start[bin + 1]!++);
    for (let i = 0; i < n * n; i++) start[i + 1]! += start[i]!;
    this.list = new Uint32Array(start[n * n]!);
    const next = start.slice();
    each((bin, t) => {
      this.list[next[bin]!++] = t;
    });
    this.seen = new Uint32Array(tri.length / 3);
    return start;
  }
}

function turned(g: PartGeometry, t: readonly number[]): Turned {
  const n = g.positions.length;
  const xyz = new Float64Array(n);
  const box = Float64Array.of(Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity);
  for (let p = 0; p < n; p += 3) {
    const [a, b, c] = [g.positions[p]!, g.positions[p + 1]!, g.positions[p + 2]!];
    for (let k = 0; k < 3; k++) {
      const v = t[k * 3]! * a + t[k * 3 + 1]! * b + t[k * 3 + 2]! * c;
      xyz[p + k] = v;
      if (v < box[k]!) box[k] = v;
      if (v > box[k + 3]!) box[k + 3] = v;
    }
  }
  return { xyz, box, bins: new Bins(xyz, g.triangles, box) };
}

/** A grid of rays along the direction over a rectangle, mm in the sight's axes. */
export interface RayWindow {
  readonly minX: number;
  readonly minY: number;
  /** Of one cell. */
  readonly dx: number;
  readonly dy: number;
  readonly width: number;
  readonly height: number;
}

/** Where the rays of a window pass through a body's surface: sorted depths, ray by ray. */
export interface Crossings {
  /** `start[i]` to `start[i + 1]` are the crossings of ray `i`. */
  readonly start: Uint32Array;
  readonly z: Float64Array;
}

/** Rays stand a little beside the middle of their cells: edges of parts like round numbers, and so do cells. */
const BESIDE_X = 0.5 + 0.01371;
const BESIDE_Y = 0.5 + 0.02713;

/** Passes rays through a body. Every closed body is entered and left equally often. */
export function crossingsOf(a: Along, w: RayWindow): Crossings {
  const cells = w.width * w.height;
  const start = new Uint32Array(cells + 1);
  walk(a, w, { kind: 'count', start });
  for (let i = 0; i < cells; i++) start[i + 1]! += start[i]!;
  const z = new Float64Array(start[cells]!);
  walk(a, w, { kind: 'fill', next: start.slice(0, cells), z });
  for (let i = 0; i < cells; i++) sortPart(z, start[i]!, start[i + 1]!);
  return { start, z };
}

/** Insertion sort: a ray passes through few surfaces. */
function sortPart(z: Float64Array, from: number, to: number): void {
  for (let i = from + 1; i < to; i++) {
    const v = z[i]!;
    let j = i - 1;
    while (j >= from && z[j]! > v) {
      z[j + 1] = z[j]!;
      j--;
    }
    z[j + 1] = v;
  }
}

/** Lowest and highest material on each ray of a window; infinite and inverted where there is none. */
export interface Reach {
  readonly low: Float64Array;
  readonly high: Float64Array;
}

export function reachOf(a: Along, w: RayWindow): Reach {
  // A small part is looked at through the same window whatever large one it stands before.
  if (!isOwnWindow(a, w)) return readReach(a, w);
  const known = a.reaches.get(w.width);
  if (known) return known;
  const reach = readReach(a, w);
  a.reaches.set(w.width, reach);
  return reach;
}

/** Does the window show the whole body and nothing besides? */
function isOwnWindow(a: Along, w: RayWindow): boolean {
  const near = 1e-9 * (Math.abs(w.minX) + Math.abs(w.minY) + 1);
  return (
    Math.abs(w.minX - a.box[0]!) < near &&
    Math.abs(w.minY - a.box[1]!) < near &&
    Math.abs(w.minX + w.width * w.dx - a.box[3]!) < near &&
    Math.abs(w.minY + w.height * w.dy - a.box[4]!) < near
  );
}

function readReach(a: Along, w: RayWindow): Reach {
  const cells = w.width * w.height;
  const low = new Float64Array(cells).fill(Infinity);
  const high = new Float64Array(cells).fill(-Infinity);
  walk(a, w, { kind: 'reach', low, high });
  return { low, high };
}

/** What is noted of a crossing. A choice of three inside the loop is faster than a function that is called. */
type Note =
  | { readonly kind: 'count'; /** Counted one place further on. */ readonly start: Uint32Array }
  | { readonly kind: 'fill'; readonly next: Uint32Array; readonly z: Float64Array }
  | { readonly kind: 'reach'; readonly low: Float64Array; readonly high: Float64Array };

const NOTHING = new Uint32Array(0);
const NO_DEPTH = new Float64Array(0);

function walk(a: Along, w: RayWindow, note: Note): void {
  const mode = note.kind === 'count' ? 0 : note.kind === 'fill' ? 1 : 2;
  const start = note.kind === 'count' ? note.start : NOTHING;
  const next = note.kind === 'fill' ? note.next : NOTHING;
  const z = note.kind === 'fill' ? note.z : NO_DEPTH;
  const low = note.kind === 'reach' ? note.low : NO_DEPTH;
  const high = note.kind === 'reach' ? note.high : NO_DEPTH;
  const { xyz } = a;
  const tri = a.geometry.triangles;
  const [sx, sy] = [1 / w.dx, 1 / w.dy];
  // In cells, counted so that rays stand at whole numbers.
  const ox = (a.x - w.minX) * sx - BESIDE_X;
  const oy = (a.y - w.minY) * sy - BESIDE_Y;
  const [lastX, lastY] = [w.width - 1, w.height - 1];
  const visit = (t: number): void => {
    // The corners in the order of their numbers: neighbours then see their common edge alike, to the last bit.
    let i = tri[t]!;
    let j = tri[t + 1]!;
    let k = tri[t + 2]!;
    if (i > j) [i, j] = [j, i];
    if (j > k) [j, k] = [k, j];
    if (i > j) [i, j] = [j, i];
    const ax = xyz[i * 3]! * sx + ox;
    const bx = xyz[j * 3]! * sx + ox;
    const cx = xyz[k * 3]! * sx + ox;
    const x0 = Math.max(0, Math.ceil(Math.min(ax, bx, cx)));
    const x1 = Math.min(lastX, Math.floor(Math.max(ax, bx, cx)));
    if (x0 > x1) return;
    const ay = xyz[i * 3 + 1]! * sy + oy;
    const by = xyz[j * 3 + 1]! * sy + oy;
    const cy = xyz[k * 3 + 1]! * sy + oy;
    const y0 = Math.max(0, Math.ceil(Math.min(ay, by, cy)));
    const y1 = Math.min(lastY, Math.floor(Math.max(ay, by, cy)));
    if (y0 > y1) return;
    const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
    if (area === 0) return;
    const az = xyz[i * 3 + 2]! + a.z;
    const bz = xyz[j * 3 + 2]! + a.z;
    const cz = xyz[k * 3 + 2]! + a.z;
    const inv = 1 / area;
    const sign = area > 0 ? 1 : -1;
    const [abx, aby, bcx, bcy, acx, acy] = [bx - ax, by - ay, cx - bx, cy - by, cx - ax, cy - ay];
    for (let y = y0; y <= y1; y++) {
      const abRow = abx * (y - ay);
      const bcRow = bcx * (y - by);
      const acRow = acx * (y - ay);
      for (let x = x0; x <= x1; x++) {
        const ab = abRow - (x - ax) * aby;
        const bc = bcRow - (x - bx) * bcy;
        const ac = acRow - (x - ax) * acy;
        // Nought counts as positive on either side: one of two neighbours takes it.
        const inside = sign > 0 ? ab >= 0 && bc >= 0 && ac < 0 : ab < 0 && bc < 0 && ac >= 0;
        if (!inside) continue;
        const cell = y * w.width + x;
        if (mode === 0) {
          start[cell + 1]!++;
          continue;
        }
        const r = ab * inv;
        const p = bc * inv;
        const depth = p * az + (1 - p - r) * bz + r * cz;
        if (mode === 1) z[next[cell]!++] = depth;
        else {
          if (depth < low[cell]!) low[cell] = depth;
          if (depth > high[cell]!) high[cell] = depth;
        }
      }
    }
  };
  a.bins.within(w.minX - a.x, w.minY - a.y, w.minX - a.x + w.width * w.dx, w.minY - a.y + w.height * w.dy, visit);
}
