import { dot, length, subtract, scale, type Vec3 } from '../base/vector.ts';
import { faceAreas } from './face-areas.ts';
import { FACE_STRIDE, SurfaceKind, type PartGeometry } from './part-geometry.ts';

export type StandardShape = 'hex bolt' | 'nut' | 'washer' | 'circlip' | 'pin' | 'bearing ring';

/** A part whose faces about one axis are what makes a standard part. Angles and shares; no sizes but of pins. */
const PARALLEL = 1e-4;
const LARGEST_PIN_RADIUS_MM = 12.5;

/**
 * Which standard part a shape is, by its faces: a hexagon with a shank (bolt) or a bore (nut), a flat ring (washer), a
 * flat ring with a gap (circlip), a rod with chamfered ends (pin), a ring with a groove (bearing ring).
 * Common practice, no source: the proportions are those of the usual product standards.
 */
export function looksLike(g: PartGeometry): StandardShape | undefined {
  const axis = mainAxis(g);
  if (!axis) return undefined;
  const s = about(g, axis);
  const flatness = s.height / (2 * s.radius);
  const bored = s.bores.length > 0;
  const smallest = Math.min(...s.bores);
  if (s.hexagon !== undefined) {
    if (bored && flatness > 0.25 && flatness < 1.3 && smallest > 0.3 * s.hexagon) return 'nut';
    const shank = s.shafts.filter((r) => r < s.hexagon! * 0.95);
    if (!bored && shank.length > 0 && s.height > 1.2 * s.hexagon) return 'hex bolt';
    return undefined;
  }
  if (bored && s.shafts.length > 0) {
    const share = smallest / s.radius;
    const full = Math.PI * (s.radius ** 2 - smallest ** 2) * s.height;
    if (flatness < 0.15 && share > 0.6 && s.sides > 0 && g.volumeMm3 < 0.93 * full) return 'circlip';
    if (s.sides > 0) return undefined;
    if (s.grooves > 0 && flatness > 0.1 && flatness < 0.7 && share > 0.4) return 'bearing ring';
    if (flatness < 0.22 && share > 0.3 && share < 0.8 && s.bores.length === 1 && g.volumeMm3 > 0.9 * full && g.faceKind.length <= 10) return 'washer';
    return undefined;
  }
  if (
    !bored &&
    s.sides === 0 &&
    s.shafts.length === 1 &&
    s.ends > 0 &&
    flatness > 1.4 &&
    flatness < 12 &&
    s.radius <= LARGEST_PIN_RADIUS_MM &&
    s.turnedShare > 0.98
  )
    return 'pin';
  return undefined;
}

interface Axis {
  readonly point: Vec3;
  readonly axis: Vec3;
}

const paramsOf = (g: PartGeometry, f: number) => {
  const q = g.faceParams.subarray(f * FACE_STRIDE, (f + 1) * FACE_STRIDE);
  return { point: [q[0]!, q[1]!, q[2]!] as Vec3, axis: [q[3]!, q[4]!, q[5]!] as Vec3, radius: q[6]! };
};

const isTurned = (kind: number | undefined) => kind === SurfaceKind.cylinder || kind === SurfaceKind.cone || kind === SurfaceKind.torus;

/** The axis with most turned surface. */
function mainAxis(g: PartGeometry): Axis | undefined {
  const areas = faceAreas(g);
  const groups: { point: Vec3; axis: Vec3; area: number }[] = [];
  for (let f = 0; f < g.faceKind.length; f++) {
    if (!isTurned(g.faceKind[f])) continue;
    const { point, axis } = paramsOf(g, f);
    const same = groups.find((x) => isOn(x, point, axis, g));
    if (same) same.area += areas[f]!;
    else groups.push({ point, axis, area: areas[f]! });
  }
  return groups.sort((a, b) => b.area - a.area)[0];
}

function isOn(a: Axis, point: Vec3, axis: Vec3, g: PartGeometry): boolean {
  if (Math.abs(Math.abs(dot(a.axis, axis)) - 1) > PARALLEL) return false;
  const d = subtract(point, a.point);
  return length(subtract(d, scale(a.axis, dot(d, a.axis)))) < 1e-3 * Math.cbrt(Math.max(1, g.volumeMm3));
}

/** What a part's faces are about its axis. */
function about(g: PartGeometry, a: Axis) {
  const areas = faceAreas(g);
  const [bores, shafts] = [new Set<number>(), new Set<number>()];
  const normals: { normal: Vec3; distance: number }[] = [];
  let [sides, grooves, ends, turned, all] = [0, 0, 0, 0, 0];
  for (let f = 0; f < g.faceKind.length; f++) {
    const { point, axis, radius } = paramsOf(g, f);
    all += areas[f]!;
    if (g.faceKind[f] === SurfaceKind.plane) {
      const along = Math.abs(dot(axis, a.axis));
      if (along < PARALLEL) {
        sides++;
        normals.push({ normal: axis, distance: dot(subtract(point, a.point), axis) });
      } else if (along > 1 - PARALLEL) turned += areas[f]!;
      continue;
    }
    if (!isTurned(g.faceKind[f]) || !isOn(a, point, axis, g)) continue;
    turned += areas[f]!;
    if (g.faceKind[f] === SurfaceKind.torus) grooves++;
    if (g.faceKind[f] !== SurfaceKind.cylinder) ends++;
    else if (radius < 0) bores.add(round(-radius));
    else shafts.add(round(radius));
  }
  let [low, high, reach] = [Infinity, -Infinity, 0];
  for (let v = 0; v < g.positions.length; v += 3) {
    const d = subtract([g.positions[v]!, g.positions[v + 1]!, g.positions[v + 2]!], a.point);
    const h = dot(d, a.axis);
    low = Math.min(low, h);
    high = Math.max(high, h);
    reach = Math.max(reach, length(subtract(d, scale(a.axis, h))));
  }
  return {
    bores: [...bores],
    shafts: [...shafts],
    sides,
    grooves,
    ends,
    height: high - low,
    radius: reach,
    turnedShare: all > 0 ? turned / all : 0,
    hexagon: hexagonOf(normals),
  };
}

const round = (r: number) => Math.round(r * 1e4) / 1e4;

/** Distance of six sides that look in directions 60° apart, equally far from the axis; undefined when there are none. */
function hexagonOf(sides: readonly { readonly normal: Vec3; readonly distance: number }[]): number | undefined {
  for (const first of sides) {
    const equal = sides.filter((s) => Math.abs(s.distance - first.distance) < 1e-3 * Math.abs(first.distance) && s.distance > 0);
    const cosines = equal.map((s) => dot(s.normal, first.normal)).sort((x, y) => x - y);
    const wanted = [-1, -0.5, -0.5, 0.5, 0.5, 1];
    if (cosines.length === 6 && cosines.every((c, i) => Math.abs(c - wanted[i]!) < 1e-3)) return first.distance;
  }
  return undefined;
}
