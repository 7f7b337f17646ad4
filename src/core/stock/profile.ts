import { faceAreas } from '../assembly/face-areas.ts';
import { FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { dot, subtract, vectorAt, type Vec2, type Vec3 } from '../base/vector.ts';
import { endCuts, type EndCut } from './ends.ts';
import { leastBox, type LeastBox } from './least-box.ts';

/** What a part is made from: its profile, and how much of it. */
export interface Stock {
  /** Round bar, tube, plate, flat or square bar, hollow section, angle; a block is sawn from the solid, or not recognised. */
  readonly profile: 'round' | 'tube' | 'plate' | 'flat' | 'square' | 'hollow' | 'angle' | 'block';
  /** Of the profile, mm: diameter; diameter, wall; thickness; width, thickness; side; width, height, wall; two legs, thickness; three sides. */
  readonly sizes: readonly number[];
  /** Of the least box, mm; of bars and tubes the length is along them. */
  readonly length: number;
  readonly width: number;
  readonly thickness: number;
  /** Of a bar: how its ends are cut. */
  readonly ends?: readonly [EndCut, EndCut];
}

/** Sizes are compared to this, mm, and as a share. */
const SAME_MM = 0.02;
const same = (a: number, b: number) => Math.abs(a - b) <= Math.max(SAME_MM, 1e-4 * Math.abs(a));
/** A face goes all along a bar when it covers this share of its length: ends are cut, holes are drilled. */
const ALL_ALONG = 0.6;
/** Flat bars are rolled up to this width (EN 10058), mm; wider ones are cut from plate. */
const WIDEST_FLAT_MM = 150;
/** A plate is at most so thick for its width. */
const PLATE = 0.3;

/** @param g a closed part */
export function stockOf(g: PartGeometry): Stock {
  const box = leastBox(g);
  const faces = readFaces(g);
  const [length, width, thickness] = box.sizes;
  const bar = roundOrTube(box, faces) ?? section(g, box, faces) ?? flatOrPlate(g, box, faces);
  if (!bar) return { profile: 'block', sizes: [length, width, thickness], length, width, thickness };
  if (bar.profile === 'plate') return bar;
  return { ...bar, ends: endCuts(g, box.axes[box.sizes.indexOf(bar.length)]!) };
}

interface Face {
  readonly kind: number;
  readonly at: Vec3;
  /** Normal of a plane, axis of a cylinder. */
  readonly way: Vec3;
  /** Less than nought: material is outside. */
  readonly radius: number;
  readonly area: number;
  /** How far its corners reach along the three sides of the least box. */
  readonly corners: readonly Vec3[];
}

function readFaces(g: PartGeometry): Face[] {
  const areas = faceAreas(g);
  const corners: Vec3[][] = Array.from(g.faceKind, () => []);
  for (let t = 0; t < g.triangleFace.length; t++)
    for (let k = 0; k < 3; k++) corners[g.triangleFace[t]!]!.push(vectorAt(g.positions, g.triangles[t * 3 + k]! * 3));
  return Array.from(g.faceKind, (kind, f) => ({
    kind,
    at: vectorAt(g.faceParams, f * FACE_STRIDE),
    way: vectorAt(g.faceParams, f * FACE_STRIDE + 3),
    radius: g.faceParams[f * FACE_STRIDE + 6]!,
    area: areas[f]!,
    corners: corners[f]!,
  }));
}

function reachOf(face: Face, way: Vec3): Vec2 {
  let [low, high] = [Infinity, -Infinity];
  for (const c of face.corners) {
    const h = dot(c, way);
    if (h < low) low = h;
    if (h > high) high = h;
  }
  return [low, high];
}

const spanOf = (face: Face, way: Vec3) => {
  const [low, high] = reachOf(face, way);
  return high - low;
};

/** A part that a round surface about one axis goes around: turned from a bar, or from a tube when it is bored all along. */
function roundOrTube(box: LeastBox, faces: readonly Face[]): Stock | undefined {
  for (const along of [0, 1, 2] as const) {
    const axis = box.axes[along];
    const [a, b] = ([0, 1, 2] as const).filter((k) => k !== along) as [0 | 1 | 2, 0 | 1 | 2];
    if (!same(box.sizes[a], box.sizes[b])) continue;
    const diameter = box.sizes[a];
    const length = box.sizes[along];
    const about = faces.filter((f) => f.kind === SurfaceKind.cylinder && Math.abs(dot(f.way, axis)) > 1 - 1e-6);
    const outer = about.filter((f) => f.radius > 0 && same(2 * f.radius, diameter));
    // The outer surface has to go most of the way round: a bracket with one rounded corner has not.
    if (outer.reduce((sum, f) => sum + f.area / (f.radius * Math.max(spanOf(f, axis), 1e-9)), 0) < Math.PI) continue;
    const [centre] = outer;
    if (!centre) continue;
    const coaxial = (f: Face) => {
      const d = subtract(f.at, centre.at);
      const h = dot(d, axis);
      return Math.sqrt(Math.max(0, dot(d, d) - h * h)) < SAME_MM;
    };
    const bores = new Map<number, Vec2>();
    for (const f of about.filter((o) => o.radius < 0 && coaxial(o))) {
      const [low, high] = reachOf(f, axis);
      const key = [...bores.keys()].find((r) => same(r, -f.radius)) ?? -f.radius;
      const known = bores.get(key);
      bores.set(key, known ? [Math.min(known[0], low), Math.max(known[1], high)] : [low, high]);
    }
    const through = [...bores].filter(([, [low, high]]) => high - low > 0.9 * length).map(([r]) => r);
    const wall = through.length ? diameter / 2 - Math.max(...through) : Infinity;
    // Thicker walls are bored from the bar.
    return wall < diameter / 4
      ? { profile: 'tube', sizes: [diameter, wall], length, width: diameter, thickness: diameter }
      : { profile: 'round', sizes: [diameter], length, width: diameter, thickness: diameter };
  }
  return undefined;
}

/** Angles and hollow sections: their flat sides that go all along, seen along the bar. */
function section(g: PartGeometry, box: LeastBox, faces: readonly Face[]): Stock | undefined {
  const [axis, u, v] = box.axes;
  const [length, width, height] = box.sizes;
  if (length < 1.2 * width) return undefined;
  const sides = faces.filter((f) => f.kind === SurfaceKind.plane && Math.abs(dot(f.way, axis)) < 1e-3 && spanOf(f, axis) > ALL_ALONG * length);
  const of = (way: Vec3, k: 1 | 2) => {
    const [low, high] = box.reach[k];
    const places = (sign: 1 | -1) =>
      sides
        .filter((f) => dot(f.way, way) * sign > 1 - 1e-4)
        .map((f) => (sign > 0 ? high - dot(f.at, way) : dot(f.at, way) - low))
        .filter((d, i, all) => all.findIndex((o) => same(o, d)) === i)
        .sort((p, q) => p - q);
    return { up: places(1), down: places(-1) };
  };
  const [across, over] = [of(u, 1), of(v, 2)];
  const fill = (area: number) => g.volumeMm3 > 0.7 * area * length && g.volumeMm3 < 1.06 * area * length;
  const outside = (d: readonly number[]) => d.length > 0 && same(d[0]!, 0);
  const walls = [across.up, across.down, over.up, over.down];
  if (!walls.every(outside)) return undefined;
  // Hollow: from each outer side one wall inward there is an inner one that looks the other way.
  const inner = [across.down.map((d) => width - d), across.up.map((d) => width - d), over.down.map((d) => height - d), over.up.map((d) => height - d)].map(
    (list) => list.filter((d) => d > SAME_MM && d < height / 2),
  );
  const wall = inner[0]![0];
  if (wall !== undefined && inner.every((list) => list.some((d) => same(d, wall)))) {
    const area = width * height - (width - 2 * wall) * (height - 2 * wall);
    if (fill(area)) return { profile: 'hollow', sizes: [width, height, wall], length, width, thickness: height };
  }
  // Angle: one leg lies on a long side, the other on a short one; each has its other side one thickness away.
  for (const t of [...across.up, ...across.down].map((d) => width - d).filter((d) => d > SAME_MM && d < height / 2)) {
    const other = [...over.up, ...over.down].map((d) => height - d);
    if (other.some((d) => same(d, t)) && fill((width + height - t) * t))
      return { profile: 'angle', sizes: [width, height, t], length, width, thickness: height };
  }
  return undefined;
}

/** Two flat sides, the thickness of the box apart, that are most of the part. */
function flatOrPlate(g: PartGeometry, box: LeastBox, faces: readonly Face[]): Stock | undefined {
  const [length, width, thickness] = box.sizes;
  const [, across, through] = box.axes;
  const [low, high] = box.reach[2];
  const areaAt = (h: number, sign: number) =>
    faces
      .filter((f) => f.kind === SurfaceKind.plane && dot(f.way, through) * sign > 1 - 1e-4 && same(dot(f.at, through), h))
      .reduce((sum, f) => sum + f.area, 0);
  const seen = g.volumeMm3 / thickness;
  if (areaAt(high, 1) < 0.6 * seen || areaAt(low, -1) < 0.6 * seen) return undefined;
  const straight = ([1, -1] as const).every((sign) =>
    faces.some((f) => {
      const h = box.reach[1][sign > 0 ? 1 : 0];
      return f.kind === SurfaceKind.plane && dot(f.way, across) * sign > 1 - 1e-4 && same(dot(f.at, across), h) && spanOf(f, box.axes[0]) > ALL_ALONG * length;
    }),
  );
  if (straight && same(width, thickness) && length > 1.5 * width) return { profile: 'square', sizes: [width], length, width, thickness };
  if (straight && width <= WIDEST_FLAT_MM && length > 1.5 * width) return { profile: 'flat', sizes: [width, thickness], length, width, thickness };
  return thickness <= PLATE * width ? { profile: 'plate', sizes: [thickness], length, width, thickness } : undefined;
}

const NAMES: Readonly<Record<Stock['profile'], string>> = {
  round: 'Round',
  tube: 'Tube',
  plate: 'Plate',
  flat: 'Flat',
  square: 'Square',
  hollow: 'Hollow section',
  angle: 'Angle',
  block: 'Block',
};

/** `Tube 48.3 × 3.2`, `Plate 10`; sizes as they are ordered, mm. */
export function stockText({ profile, sizes }: Stock): string {
  return `${NAMES[profile]} ${(profile === 'block' ? sizes.slice(1) : sizes).map(mmText).join(' × ')}`;
}

/** mm with at most one decimal, and two below 1. */
export const mmText = (mm: number): string => String(Number(mm.toFixed(Math.abs(mm) < 1 ? 2 : 1)));
