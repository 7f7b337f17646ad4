import { middleOfEdge } from '../features/part-features.ts';
import { FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { add, dot, length, scale, subtract, type Vec3 } from '../base/vector.ts';

/**
 * Which edge of a newer shape of a part each edge of the older one is: the same two surfaces meet in it, at the same place
 * along them. Surfaces are the same where they lie, or where they went: a hole moved or made wider, a side set off.
 * Whatever could be two things is neither: an edge is found again or lost, never guessed.
 * @returns per edge of `before` the edge of `after`, or -1
 */
export function matchEdges(before: PartGeometry, after: PartGeometry): Int32Array {
  const { same, shift, old, fresh, went } = compareSurfaces(before, after);
  const near = same + 2 * (before.deflectionMm + after.deflectionMm);
  const out = new Int32Array(before.edgeClass.length).fill(-1);
  const between = edgesBetween(after, fresh.ofFace);
  const oldBetween = edgesBetween(before, old.ofFace);
  const claims = new Map<number, number>();
  for (let e = 0; e < out.length; e++) {
    const pair = pairOf(before, old.ofFace, e);
    if (!pair) continue;
    const [s, t] = pair.map((i) => went.get(i));
    if (!s || !t) continue;
    const key = pairKey(s.to, t.to);
    const fits = (between.get(key) ?? []).filter((n) => before.edgeCurve[e] === after.edgeCurve[n] && before.edgeClass[e] === after.edgeClass[n]);
    const middle = moved(t, moved(s, add(middleOfEdge(before, e), shift)));
    const there = fits.filter((n) => distanceTo(after, n, middle) < near);
    const alone = fits.length === 1 && (oldBetween.get(pairKey(...pair)) ?? []).filter((o) => before.edgeCurve[o] === before.edgeCurve[e]).length === 1;
    const found = there.length === 1 ? there[0]! : there.length === 0 && alone ? fits[0]! : -1;
    if (found < 0) continue;
    out[e] = found;
    claims.set(found, (claims.get(found) ?? 0) + 1);
  }
  // Two old edges that became one: which of them it is cannot be told, unless it lies where the one lay.
  return out.map((n) => (n >= 0 && claims.get(n)! > 1 ? -1 : n));
}

/**
 * Which face of a newer shape each face of the older one is: it lies on the same surface, or where that went. Of several faces
 * on one surface it is any: what is measured from them is the same.
 * @returns per face of `before` the face of `after`, or -1
 */
export function matchFaces(before: PartGeometry, after: PartGeometry): Int32Array {
  const { old, fresh, went } = compareSurfaces(before, after);
  return old.ofFace.map((s, f) => {
    const to = s < 0 ? undefined : went.get(s)?.to;
    if (to === undefined) return -1;
    return fresh.ofFace[f] === to ? f : fresh.ofFace.indexOf(to);
  });
}

/** The surfaces of two shapes of a part, and which of the older ones went where. */
function compareSurfaces(before: PartGeometry, after: PartGeometry) {
  const size = Math.max(1e-6, Math.hypot(...[0, 1, 2].map((k) => before.box[k + 3]! - before.box[k]!)));
  const same = 1e-5 * size;
  const shift = wholeShift(before, after, same);
  const old = surfacesOf(before, same, shift);
  const fresh = surfacesOf(after, same, [0, 0, 0]);
  return { same, shift, old, fresh, went: matchSurfaces(old.surfaces, fresh.surfaces, same) };
}

/** Finds an edge or a face again in another geometry: undefined when it is not there any more. */
export type Finder = (before: string, after: string, index: number) => number | undefined;

export const edgeFinder = (geometries: ReadonlyMap<string, PartGeometry>): Finder => finder(geometries, matchEdges);
export const faceFinder = (geometries: ReadonlyMap<string, PartGeometry>): Finder => finder(geometries, matchFaces);

/** Among geometries by their keys; each pair of shapes is compared once. */
function finder(geometries: ReadonlyMap<string, PartGeometry>, match: typeof matchEdges): Finder {
  const known = new Map<string, Int32Array>();
  return (before, after, index) => {
    const [a, b] = [geometries.get(before), geometries.get(after)];
    if (!a || !b) return undefined;
    const key = `${before} ${after}`;
    let pairs = known.get(key);
    if (!pairs) known.set(key, (pairs = match(a, b)));
    const found = pairs[index] ?? -1;
    return found >= 0 ? found : undefined;
  };
}

/** A surface that one or several faces lie on. Params as in `PartGeometry.faceParams`. */
interface Surface {
  readonly kind: number;
  readonly at: Vec3;
  readonly axis: Vec3;
  readonly radius: number;
  readonly second: number;
  /** Some point of one of its faces. */
  readonly on: Vec3;
}

/** A shape that only lies elsewhere in its frame: how far. Else nought. */
function wholeShift(a: PartGeometry, b: PartGeometry, same: number): Vec3 {
  const alike = (x: number, y: number) => Math.abs(x - y) < 1e-6 * Math.max(Math.abs(x), 1e-9);
  if (!alike(a.volumeMm3, b.volumeMm3) || !alike(a.areaMm2, b.areaMm2)) return [0, 0, 0];
  const shift: Vec3 = [b.box[0] - a.box[0], b.box[1] - a.box[1], b.box[2] - a.box[2]];
  const fits = [3, 4, 5].every((k) => Math.abs(b.box[k]! - a.box[k]! - shift[k - 3]!) < 10 * same);
  return fits ? shift : [0, 0, 0];
}

function surfacesOf(g: PartGeometry, same: number, shift: Vec3): { readonly surfaces: readonly Surface[]; readonly ofFace: Int32Array } {
  const surfaces: Surface[] = [];
  const ofFace = new Int32Array(g.faceKind.length).fill(-1);
  const on = new Map<number, Vec3>();
  for (let e = 0; e < g.edgeClass.length; e++)
    for (const f of [g.edgeFaces[e * 2]!, g.edgeFaces[e * 2 + 1]!]) if (f >= 0 && !on.has(f)) on.set(f, add(vertex(g, g.edgeStart[e]!), shift));
  for (let f = 0; f < ofFace.length; f++) {
    const p = g.faceParams.subarray(f * FACE_STRIDE, (f + 1) * FACE_STRIDE);
    const point = on.get(f);
    if (g.faceKind[f] === SurfaceKind.free || !point) continue;
    const s: Surface = {
      kind: g.faceKind[f]!,
      at: add([p[0]!, p[1]!, p[2]!], shift),
      axis: [p[3]!, p[4]!, p[5]!],
      radius: p[6]!,
      second: p[7]!,
      on: point,
    };
    let i = surfaces.findIndex((o) => coincide(o, s, same));
    if (i < 0) i = surfaces.push(s) - 1;
    ofFace[f] = i;
  }
  return { surfaces, ofFace };
}

const PARALLEL = 1e-6;
const parallel = (a: Surface, b: Surface) => Math.abs(dot(a.axis, b.axis)) > 1 - PARALLEL;
/** How far the axis of `b` lies from that of `a`, square to it. */
const aside = (a: Surface, b: Surface): Vec3 => {
  const d = subtract(b.at, a.at);
  return subtract(d, scale(a.axis, dot(d, a.axis)));
};

function coincide(a: Surface, b: Surface, same: number): boolean {
  if (a.kind !== b.kind || Math.abs(a.radius - b.radius) > same || Math.abs(a.second - b.second) > 1e-6 + (a.kind === SurfaceKind.torus ? same : 0))
    return false;
  switch (a.kind) {
    case SurfaceKind.plane:
      return dot(a.axis, b.axis) > 1 - PARALLEL && Math.abs(dot(a.axis, subtract(b.on, a.on))) < same;
    case SurfaceKind.cylinder:
      return parallel(a, b) && length(aside(a, b)) < same;
    case SurfaceKind.sphere:
      return length(subtract(a.at, b.at)) < same;
    default:
      // Cones and tori have a place along their axis too.
      return parallel(a, b) && length(subtract(a.at, b.at)) < same;
  }
}

/** Where a surface went: a shift, and for round ones another radius about the new axis. */
interface Went {
  readonly to: number;
  readonly by: Vec3;
  readonly wider?: { readonly at: Vec3; readonly axis: Vec3; readonly factor: number };
}

function matchSurfaces(old: readonly Surface[], fresh: readonly Surface[], same: number): Map<number, Went> {
  const out = new Map<number, Went>();
  const taken = new Set<number>();
  const take = (o: number, n: number, went: Omit<Went, 'to'>) => {
    out.set(o, { to: n, ...went });
    taken.add(n);
  };
  old.forEach((s, o) => {
    const n = fresh.findIndex((t, i) => !taken.has(i) && coincide(s, t, same));
    if (n >= 0) take(o, n, { by: [0, 0, 0] });
  });
  /** What is left on both sides and fits is the same only if neither could be another one. */
  const alone = (fits: (s: Surface, t: Surface) => boolean, went: (s: Surface, t: Surface) => Omit<Went, 'to'>) => {
    const [lo, ln] = [old.map((_, i) => i).filter((i) => !out.has(i)), fresh.map((_, i) => i).filter((i) => !taken.has(i))];
    const pairs = lo.flatMap((o) => ln.filter((n) => fits(old[o]!, fresh[n]!)).map((n) => [o, n] as const));
    for (const [o, n] of pairs)
      if (pairs.filter((p) => p[0] === o).length === 1 && pairs.filter((p) => p[1] === n).length === 1) take(o, n, went(old[o]!, fresh[n]!));
  };
  const inward = (s: Surface) => Math.sign(s.radius);
  const round = (s: Surface, t: Surface) => s.kind === SurfaceKind.cylinder && t.kind === s.kind && parallel(s, t) && inward(s) === inward(t);
  // Resized where it was, then moved as it was, then sides that were set off.
  alone(
    (s, t) => round(s, t) && length(aside(s, t)) < same,
    (s, t) => ({ by: [0, 0, 0], wider: { at: t.at, axis: t.axis, factor: t.radius / s.radius } }),
  );
  alone(
    (s, t) => round(s, t) && Math.abs(s.radius - t.radius) < same,
    (s, t) => ({ by: aside(s, t) }),
  );
  alone(
    (s, t) => s.kind === SurfaceKind.plane && t.kind === s.kind && dot(s.axis, t.axis) > 1 - PARALLEL,
    (s, t) => ({ by: scale(s.axis, dot(s.axis, subtract(t.on, s.on))) }),
  );
  return out;
}

/** A point of a surface where that has gone. */
function moved(went: Went, p: Vec3): Vec3 {
  const q = add(p, went.by);
  if (!went.wider) return q;
  const { at, axis, factor } = went.wider;
  const d = subtract(q, at);
  const along = scale(axis, dot(d, axis));
  return add(at, add(along, scale(subtract(d, along), factor)));
}

const pairKey = (a: number, b: number) => (a < b ? `${a}/${b}` : `${b}/${a}`);

function pairOf(g: PartGeometry, ofFace: Int32Array, e: number): [number, number] | undefined {
  const [f, h] = [g.edgeFaces[e * 2]!, g.edgeFaces[e * 2 + 1]!];
  const [a, b] = [ofFace[f] ?? -1, ofFace[h] ?? -1];
  return a >= 0 && b >= 0 && a !== b ? [a, b] : undefined;
}

function edgesBetween(g: PartGeometry, ofFace: Int32Array): Map<string, number[]> {
  const out = new Map<string, number[]>();
  for (let e = 0; e < g.edgeClass.length; e++) {
    const pair = pairOf(g, ofFace, e);
    if (!pair) continue;
    const key = pairKey(...pair);
    out.set(key, [...(out.get(key) ?? []), e]);
  }
  return out;
}

function vertex(g: PartGeometry, at: number): Vec3 {
  const v = g.edgeVertices[at]! * 3;
  return [g.positions[v]!, g.positions[v + 1]!, g.positions[v + 2]!];
}

/** Distance of a point from an edge, mm. */
function distanceTo(g: PartGeometry, e: number, p: Vec3): number {
  let best = Infinity;
  for (let k = g.edgeStart[e]!; k < g.edgeStart[e + 1]! - 1; k++) {
    const [a, b] = [vertex(g, k), vertex(g, k + 1)];
    const d = subtract(b, a);
    const l2 = dot(d, d);
    const t = l2 > 0 ? Math.max(0, Math.min(1, dot(subtract(p, a), d) / l2)) : 0;
    best = Math.min(best, length(subtract(p, add(a, scale(d, t)))));
  }
  return best;
}
