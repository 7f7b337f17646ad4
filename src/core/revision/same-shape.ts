import type { Part } from '../assembly/assembly.ts';
import { FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { inverse, type Placement } from '../base/placement.ts';
import { anyPerpendicular, cross, dot, length, normalize, scale, subtract, type Vec3 } from '../base/vector.ts';
import { allOn, PartSurface, samplesOf, type Samples } from './on-surface.ts';

/** What two shapes are to each other. */
export type ShapeVerdict =
  /** One shape. `shift` takes points of the older part's frame to the newer one's where the frames differ. */
  { readonly same: true; readonly shift?: Placement } | { readonly same: false; readonly mirrored: boolean };

/** Compares the shapes of two parts of an older and a newer model. */
export type ShapeTeller = (before: Part, after: Part) => ShapeVerdict;

/** Measures of one shape agree this well, whoever meshed it: what differs more is not compared point by point. */
const SAME_MEASURES = 2e-3;
const near = (a: number, b: number) => Math.abs(a - b) <= SAME_MEASURES * Math.max(Math.abs(a), Math.abs(b), 1e-9);

const sizes = (p: Part) => [0, 1, 2].map((k) => p.box[k + 3]! - p.box[k]!);
const sorted = (list: readonly number[]) => [...list].sort((a, b) => a - b);

/** Do volume, area and size agree? For parts without geometry that is all that can be said. */
export function sameMeasures(a: Part, b: Part): boolean {
  const [s, t] = [sorted(sizes(a)), sorted(sizes(b))];
  return near(a.volumeMm3, b.volumeMm3) && near(a.areaMm2, b.areaMm2) && s.every((v, i) => near(v, t[i]!));
}

/**
 * A teller that looks at the geometry: points of each surface must lie on the other. A shape that lies otherwise in its
 * frame is found by turning it onto the other; one that only fits when it is mirrored is said to be mirrored.
 * @param geometries by key; where one is missing the measures decide
 */
export function shapeTeller(geometries: ReadonlyMap<string, PartGeometry>): ShapeTeller {
  const surfaces = new Map<string, PartSurface>();
  const samples = new Map<string, Samples>();
  const verdicts = new Map<string, ShapeVerdict>();
  const of = <T>(cache: Map<string, T>, key: string, make: (g: PartGeometry) => T): T => {
    let v = cache.get(key);
    if (v === undefined) cache.set(key, (v = make(geometries.get(key)!)));
    return v;
  };
  return (before, after) => {
    const [a, b] = [before.geometryKey, after.geometryKey];
    if (a === b) return { same: true };
    const [g, h] = [geometries.get(a), geometries.get(b)];
    if (!g || !h) return sameMeasures(before, after) ? { same: true } : { same: false, mirrored: false };
    if (!near(before.volumeMm3, after.volumeMm3) || !near(before.areaMm2, after.areaMm2)) return { same: false, mirrored: false };
    const key = `${a}/${b}`;
    const known = verdicts.get(key);
    if (known) return known;
    const fits = (m: Placement | undefined, back: Placement | undefined) => {
      const [from, to] = [of(samples, a, samplesOf), of(surfaces, b, (x) => new PartSurface(x))];
      // A few first: most wrong places are told by them.
      if (!allOn(from, m, to, 97) || !allOn(from, m, to)) return false;
      return allOn(
        of(samples, b, samplesOf),
        back,
        of(surfaces, a, (x) => new PartSurface(x)),
      );
    };
    const turned = (mirror: boolean) => poses(g, h, mirror).find((m) => fits(m, inverse(m)));
    let verdict: ShapeVerdict;
    if (fits(undefined, undefined)) verdict = { same: true };
    else {
      const shift = turned(false);
      verdict = shift ? { same: true, shift } : { same: false, mirrored: turned(true) !== undefined };
    }
    verdicts.set(key, verdict);
    return verdict;
  };
}

/** A direction that belongs to a shape whoever meshed it, with the measures that tell it from others, mm. */
interface Landmark {
  readonly direction: Vec3;
  readonly kind: string;
  readonly measures: readonly number[];
}

const alike = (a: Landmark, b: Landmark) =>
  a.kind === b.kind && a.measures.every((v, i) => Math.abs(v - b.measures[i]!) <= 1e-3 * (1 + Math.max(Math.abs(v), Math.abs(b.measures[i]!))));

/** Normals of planes by their distance from the centroid, axes of round faces by radius and distance. */
function landmarks(g: PartGeometry): Landmark[] {
  const found: Landmark[] = [];
  const put = (direction: Vec3, kind: string, ...measures: number[]) => {
    const l = { direction, kind, measures };
    if (!found.some((o) => dot(o.direction, direction) > 1 - 1e-9 && alike(o, l))) found.push(l);
  };
  for (let f = 0; f < g.faceKind.length; f++) {
    const q = g.faceParams.subarray(f * FACE_STRIDE, (f + 1) * FACE_STRIDE);
    const [point, axis] = [[q[0]!, q[1]!, q[2]!] as Vec3, [q[3]!, q[4]!, q[5]!] as Vec3];
    const from = subtract(point, g.centroid);
    switch (g.faceKind[f]) {
      case SurfaceKind.plane:
        put(axis, 'plane', dot(from, axis));
        break;
      case SurfaceKind.cylinder:
      case SurfaceKind.torus: {
        const off = subtract(from, scale(axis, dot(from, axis)));
        put(axis, `axis ${g.faceKind[f]}`, q[6]!, length(off));
        put(scale(axis, -1), `axis ${g.faceKind[f]}`, q[6]!, length(off));
        if (length(off) > 1e-3) put(normalize(off), `off ${g.faceKind[f]}`, q[6]!, length(off));
        break;
      }
      case SurfaceKind.cone:
        put(axis, 'cone', q[7]!);
        break;
      case SurfaceKind.sphere:
        if (length(from) > 1e-3) put(normalize(from), 'sphere', q[6]!, length(from));
        break;
    }
  }
  return found;
}

/** Poses to try at most: shapes with more symmetries than that are round enough for one of them to fit. */
const MOST_POSES = 400;

/** Placements that could take shape `g` onto `h`, centroid to centroid. @param mirror they mirror */
function poses(g: PartGeometry, h: PartGeometry, mirror: boolean): Placement[] {
  const flip = (v: Vec3): Vec3 => (mirror ? [-v[0], v[1], v[2]] : v);
  const from = landmarks(g).map((l) => ({ ...l, direction: flip(l.direction) }));
  const to = landmarks(h);
  const ranked = from
    .map((l) => ({ l, matches: to.filter((o) => alike(l, o)) }))
    .filter((r) => r.matches.length > 0)
    .sort((a, b) => a.matches.length - b.matches.length);
  const first = ranked[0];
  if (!first) return [];
  const lead = first.l.direction;
  const second = ranked.find((r) => Math.abs(dot(r.l.direction, lead)) < 0.99);
  const out: Placement[] = [];
  for (const a of first.matches) {
    if (!second) {
      // Everything is about one axis: how it is turned about that makes no difference.
      out.push(poseOf(lead, anyPerpendicular(lead), a.direction, anyPerpendicular(a.direction), g, h, mirror));
      continue;
    }
    const angle = dot(lead, second.l.direction);
    for (const b of second.matches) {
      if (Math.abs(dot(a.direction, b.direction) - angle) > 1e-3) continue;
      out.push(poseOf(lead, second.l.direction, a.direction, b.direction, g, h, mirror));
      if (out.length >= MOST_POSES) return out;
    }
  }
  return out;
}

/** The placement that turns directions a, b to c, d (as far as their angles agree) and centroid to centroid. */
function poseOf(a: Vec3, b: Vec3, c: Vec3, d: Vec3, g: PartGeometry, h: PartGeometry, mirror: boolean): Placement {
  const [p, q] = [frame(a, b), frame(c, d)];
  const m = [0, 1, 2].flatMap((r) => [0, 1, 2].map((k) => q[0][r]! * p[0][k]! + q[1][r]! * p[1][k]! + q[2][r]! * p[2][k]!));
  // Mirrored first, in x.
  if (mirror) for (const r of [0, 3, 6]) m[r]! *= -1;
  const [x, y, z] = g.centroid;
  const t = [0, 1, 2].map((r) => h.centroid[r]! - (m[r * 3]! * x + m[r * 3 + 1]! * y + m[r * 3 + 2]! * z));
  return [m[0]!, m[1]!, m[2]!, t[0]!, m[3]!, m[4]!, m[5]!, t[1]!, m[6]!, m[7]!, m[8]!, t[2]!];
}

function frame(a: Vec3, b: Vec3): readonly [Vec3, Vec3, Vec3] {
  const z = normalize(cross(a, b));
  return [a, cross(z, a), z];
}
