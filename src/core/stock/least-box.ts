import { faceAreas } from '../assembly/face-areas.ts';
import { FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { anyPerpendicular, cross, dot, normalize, vectorAt, type Vec2, type Vec3 } from '../base/vector.ts';

/** The smallest box around a part, however it is turned; part's frame, mm. */
export interface LeastBox {
  /** Square unit vectors along its sides, the longest first. */
  readonly axes: readonly [Vec3, Vec3, Vec3];
  /** From where to where it reaches along each. */
  readonly reach: readonly [Vec2, Vec2, Vec2];
  /** Length, width, thickness, mm. */
  readonly sizes: readonly [number, number, number];
}

/** A box has to be smaller by this share to be taken instead of one along larger faces. */
const WORTH = 1e-3;
/** So many different directions of faces are tried, those of the largest faces first. */
const MOST_WAYS = 24;
const SAME_WAY = 1 - 1e-6;

/**
 * The box of least volume with a side along a face or an axis of the part: for each such direction the outline that is seen
 * along it gets its smallest rectangle, which has a side on an edge of its convex hull (Freeman and Shapira 1975). Boxes that
 * touch no face along a whole side (O'Rourke 1985) are not looked for: stock is not sawn that way.
 */
export function leastBox(g: PartGeometry): LeastBox {
  const points = cornersOf(g);
  const ways = waysOf(g);
  let best: { readonly volume: number; readonly axes: readonly Vec3[] } | undefined;
  for (const way of ways) {
    const u = normalize(anyPerpendicular(way));
    const v = cross(way, u);
    const [low, high] = reachAlong(points, way);
    const rectangle = leastRectangle(hull(flat(points, u, v)), ways, u, v);
    const volume = rectangle.area * (high - low);
    if (best && volume >= best.volume * (1 - WORTH)) continue;
    const [c, s] = rectangle.along;
    const across: Vec3 = [u[0] * c + v[0] * s, u[1] * c + v[1] * s, u[2] * c + v[2] * s];
    best = { volume, axes: [way, across, cross(way, across)] };
  }
  const sides = best!.axes.map((axis) => ({ axis, reach: trueReach(g, points, axis) })).sort((a, b) => size(b.reach) - size(a.reach));
  return {
    axes: sides.map((s) => s.axis) as unknown as LeastBox['axes'],
    reach: sides.map((s) => s.reach) as unknown as LeastBox['reach'],
    sizes: sides.map((s) => size(s.reach)) as unknown as LeastBox['sizes'],
  };
}

const size = ([low, high]: Vec2) => high - low;

/** Each corner of the mesh that a triangle uses, once. */
function cornersOf(g: PartGeometry): Float64Array {
  const used = new Uint8Array(g.positions.length / 3);
  for (const v of g.triangles) used[v] = 1;
  const count = used.reduce((n, u) => n + u, 0);
  const out = new Float64Array(count * 3);
  let k = 0;
  for (let v = 0; v < used.length; v++) if (used[v]) out.set(g.positions.subarray(v * 3, v * 3 + 3), 3 * k++);
  return count ? out : new Float64Array(3);
}

/** Normals of flat faces and axes of round ones, the largest first, then the axes of the part's frame. */
function waysOf(g: PartGeometry): Vec3[] {
  const areas = faceAreas(g);
  const found: { way: Vec3; area: number }[] = [];
  for (let f = 0; f < g.faceKind.length; f++) {
    if (g.faceKind[f] !== SurfaceKind.plane && g.faceKind[f] !== SurfaceKind.cylinder && g.faceKind[f] !== SurfaceKind.cone) continue;
    const way = vectorAt(g.faceParams, f * FACE_STRIDE + 3);
    if (Math.abs(dot(way, way) - 1) > 1e-3) continue;
    const known = found.find((o) => Math.abs(dot(o.way, way)) > SAME_WAY);
    if (known) known.area += areas[f]!;
    else found.push({ way: tidy(way), area: areas[f]! });
  }
  const ways = found
    .sort((a, b) => b.area - a.area)
    .slice(0, MOST_WAYS)
    .map((f) => f.way);
  for (const way of [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ] as const)
    if (!ways.some((o) => Math.abs(dot(o, way)) > SAME_WAY)) ways.push(way);
  return ways;
}

/** The one of both ways whose first component that is not nought is positive. */
function tidy(w: Vec3): Vec3 {
  const first = w.find((c) => Math.abs(c) > 1e-9) ?? 1;
  return first < 0 ? [-w[0], -w[1], -w[2]] : w;
}

function reachAlong(points: Float64Array, [x, y, z]: Vec3): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < points.length; i += 3) {
    const h = points[i]! * x + points[i + 1]! * y + points[i + 2]! * z;
    if (h < low) low = h;
    if (h > high) high = h;
  }
  return [low, high];
}

/** Cylinders and balls bulge past the chords of the mesh: how far, their surfaces say. */
function trueReach(g: PartGeometry, points: Float64Array, way: Vec3): Vec2 {
  const mesh = reachAlong(points, way);
  let [low, high] = mesh;
  const slack = 1.5 * g.deflectionMm + 1e-9;
  for (let f = 0; f < g.faceKind.length; f++) {
    const kind = g.faceKind[f];
    if (kind !== SurfaceKind.cylinder && kind !== SurfaceKind.sphere) continue;
    const p = f * FACE_STRIDE;
    if (kind === SurfaceKind.cylinder && Math.abs(dot(vectorAt(g.faceParams, p + 3), way)) > 1e-6) continue;
    const middle = dot(vectorAt(g.faceParams, p), way);
    const r = Math.abs(g.faceParams[p + 6]!);
    if (middle + r > high && middle + r <= mesh[1] + slack) high = middle + r;
    if (middle - r < low && middle - r >= mesh[0] - slack) low = middle - r;
  }
  return [low, high];
}

function flat(points: Float64Array, u: Vec3, v: Vec3): Vec2[] {
  const out: Vec2[] = [];
  for (let i = 0; i < points.length; i += 3) {
    const p = vectorAt(points, i);
    out.push([dot(p, u), dot(p, v)]);
  }
  return out;
}

/** Convex hull, counter-clockwise (Andrew 1979). */
function hull(points: Vec2[]): Vec2[] {
  points.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const turn = (a: Vec2, b: Vec2, c: Vec2) => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
  const half = (list: readonly Vec2[]) => {
    const out: Vec2[] = [];
    for (const p of list) {
      while (out.length > 1 && turn(out.at(-2)!, out.at(-1)!, p) <= 1e-12) out.pop();
      out.push(p);
    }
    return out.slice(0, -1);
  };
  return [...half(points), ...half([...points].reverse())];
}

/** The smallest rectangle around a convex outline: directions of faces go before sides of the outline where both are as good. */
function leastRectangle(outline: readonly Vec2[], ways: readonly Vec3[], u: Vec3, v: Vec3): { area: number; along: Vec2 } {
  const sides: Vec2[] = ways.map((w) => [dot(w, u), dot(w, v)] as const);
  outline.forEach((a, i) => {
    const b = outline[(i + 1) % outline.length]!;
    sides.push([b[0] - a[0], b[1] - a[1]]);
  });
  let best: { area: number; along: Vec2 } = { area: Infinity, along: [1, 0] };
  for (const side of sides) {
    const l = Math.hypot(...side);
    if (l < 1e-6) continue;
    const [c, s] = [side[0] / l, side[1] / l];
    let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
    for (const [x, y] of outline) {
      const [p, q] = [x * c + y * s, y * c - x * s];
      if (p < x0) x0 = p;
      if (p > x1) x1 = p;
      if (q < y0) y0 = q;
      if (q > y1) y1 = q;
    }
    const area = (x1 - x0) * (y1 - y0);
    if (area < best.area * (1 - WORTH)) best = { area, along: [c, s] };
  }
  return best.area < Infinity ? best : { area: 0, along: [1, 0] };
}

/** The smallest rectangle around points of a plane: unit vector along its longer side, its sides, and its lower left corner turned into that frame. */
export function leastRectangleAround(points: readonly Vec2[]): { readonly along: Vec2; readonly size: Vec2; readonly low: Vec2 } {
  const outline = hull([...points]);
  const { along } = leastRectangle(outline, [], [1, 0, 0], [0, 1, 0]);
  const reach = ([c, s]: Vec2) => {
    let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
    for (const [x, y] of outline) {
      const [p, q] = [x * c + y * s, y * c - x * s];
      [x0, x1, y0, y1] = [Math.min(x0, p), Math.max(x1, p), Math.min(y0, q), Math.max(y1, q)];
    }
    return { along: [c, s] as const, size: [x1 - x0, y1 - y0] as const, low: [x0, y0] as const };
  };
  const first = reach(along);
  return first.size[0] >= first.size[1] ? first : reach([-along[1], along[0]]);
}
