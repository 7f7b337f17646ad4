import { CurveKind, EDGE_STRIDE, FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { laidPart } from '../flat/flat-part.ts';
import { readFlatKey } from '../flat/k-factor.ts';
import type { FlatBend } from '../flat/unfold.ts';
import { helicesOf } from './helices.ts';
import { anyPerpendicular, cross, dot, length, scale, subtract, type Vec3 } from '../base/vector.ts';
import { withinTurn } from '../base/angle.ts';
import { pack, unpack } from '../base/pack.ts';
import { stockOf, type Stock } from '../stock/profile.ts';

/**
 * What is measured on a part, without its mesh: the exact ends and curves of its edges, its faces, and its round surfaces.
 * Edges and faces have the numbers that they have in the part's geometry. Part's frame, mm.
 */
export interface PartFeatures {
  /** `CurveKind` and `EdgeClass` per edge. */
  readonly edgeCurve: Uint8Array;
  readonly edgeClass: Uint8Array;
  /** The two faces of each edge; -1 where there is none. */
  readonly edgeFaces: Int32Array;
  /** `EDGE_STRIDE` per edge, as in `PartGeometry`. */
  readonly edgeParams: Float64Array;
  /** `ENDS_STRIDE` per edge: start, a point in the middle, end; all on the edge. */
  readonly edgeEnds: Float64Array;
  /** How far a circular edge goes about its axis from start to end, rad, right-handed; 0 for others. */
  readonly edgeTurn: Float64Array;
  /** `SurfaceKind` per face, and `FACE_STRIDE` params per face. */
  readonly faceKind: Uint8Array;
  readonly faceParams: Float64Array;
  /** Index in `rounds` per face; -1 for faces that are not round. */
  readonly faceRound: Int32Array;
  readonly rounds: readonly Round[];
  /** Edges that wind about the axis of a round. */
  readonly helices: readonly Helix[];
  readonly box: PartGeometry['box'];
  readonly deflectionMm: number;
  /** What it is made from. */
  readonly stock: Stock;
  /** Bent from sheet: what is measured on it when it is laid flat, and its bends. */
  readonly laid?: {
    readonly features: PartFeatures;
    readonly thicknessMm: number;
    readonly sizeMm: readonly [number, number];
    readonly areaMm2: number;
    readonly bends: readonly FlatBend[];
  };
}

export const ENDS_STRIDE = 9;

/** A cylinder, cone, sphere or torus of a part: faces that lie on one surface and touch are one. */
export interface Round {
  /** `SurfaceKind`. */
  readonly kind: number;
  /** A point on the axis, and the axis. */
  readonly at: Vec3;
  readonly axis: Vec3;
  /** Of a cylinder, sphere or torus (large); of a cone at `at`. Never negative. */
  readonly radius: number;
  /** Half angle of a cone, rad; small radius of a torus. */
  readonly second: number;
  /** Material is outside: a hole. */
  readonly inward: boolean;
  /** Where it begins and ends along the axis, from `at`. */
  readonly from: number;
  readonly to: number;
  /** How much of its turn is there, rad. */
  readonly turn: number;
  readonly faces: readonly number[];
}

/** An edge that winds about an axis: crest or root of a modelled thread, or of a spring. */
export interface Helix {
  readonly edge: number;
  /** Index in `rounds`: it winds about the axis of this one. */
  readonly axis: number;
  readonly radius: number;
  /** Along the axis per turn, mm; less than nought: left hand. */
  readonly pitch: number;
  /** Where it begins and ends along that axis. */
  readonly from: number;
  readonly to: number;
  /** Material is outside. */
  readonly inward: boolean;
}

/** A surface that goes so far round counts as whole: facets leave gaps between their corners, rad. */
const WHOLE_TURN = 2 * Math.PI - 0.9;
/** More of a turn than a slot's end or a fillet has, rad. */
const MORE_THAN_HALF = Math.PI * 1.05;

export const isWhole = (r: Round): boolean => r.turn > WHOLE_TURN;
/** Does a round surface have an axis that people speak of: a hole, a shaft, and no fillet? */
export const hasAxis = (r: Round): boolean => (r.kind === SurfaceKind.cylinder || r.kind === SurfaceKind.cone) && r.turn > MORE_THAN_HALF;

const KIND = 'NQft';
const VERSION = 5;
export const packFeatures = (f: PartFeatures): Uint8Array => pack(KIND, VERSION, f);
/** @returns undefined for another version: they are taken from the geometry anew */
export const unpackFeatures = (bytes: Uint8Array): PartFeatures | undefined => unpack<PartFeatures>(KIND, VERSION, bytes);

/** Are stored features of the version that is read here? */
export const isCurrent = (bytes: Uint8Array): boolean => bytes.length > 8 && new DataView(bytes.buffer, bytes.byteOffset).getUint32(4, true) === VERSION;

const known = new WeakMap<PartGeometry, PartFeatures>();

/** The features of a part, taken once. @param k that its flat pattern goes by; absent: by DIN 6935 */
export function featuresOf(g: PartGeometry, k?: number): PartFeatures {
  let features = known.get(g);
  if (!features) known.set(g, (features = withLaid(take(g), g)));
  return k === undefined || !features.laid ? features : withLaid(features, g, k);
}

/** Features of parts whose geometry is at hand, by geometry key; with a chosen K besides (`flatKey`). */
export const featuresSource = (geometries: ReadonlyMap<string, PartGeometry>): { get(key: string): PartFeatures | undefined } => ({
  get: (key) => {
    const { geometryKey, k } = readFlatKey(key);
    const g = geometries.get(geometryKey);
    return g && featuresOf(g, k);
  },
});

function withLaid(features: PartFeatures, g: PartGeometry, k?: number): PartFeatures {
  const laid = laidPart(g, k);
  if (!laid) return features;
  const { thicknessMm, sizeMm, areaMm2, bends } = laid.pattern;
  // It is cut from plate, as large as it is laid flat.
  const stock: Stock = { profile: 'plate', sizes: [thicknessMm], length: sizeMm[0], width: sizeMm[1], thickness: thicknessMm };
  return { ...features, stock, laid: { features: take(laid.geometry), thicknessMm, sizeMm, areaMm2, bends } };
}

function take(g: PartGeometry): PartFeatures {
  const { rounds, faceRound } = roundsOf(g);
  return {
    edgeCurve: g.edgeCurve,
    edgeClass: g.edgeClass,
    edgeFaces: g.edgeFaces,
    edgeParams: g.edgeParams,
    ...endsOf(g),
    faceKind: g.faceKind,
    faceParams: g.faceParams,
    faceRound,
    rounds,
    helices: helicesOf(g, rounds),
    box: g.box,
    deflectionMm: g.deflectionMm,
    stock: stockOf(g),
  };
}

const vertex = (g: PartGeometry, at: number): Vec3 => {
  const v = g.edgeVertices[at]! * 3;
  return [g.positions[v]!, g.positions[v + 1]!, g.positions[v + 2]!];
};

function endsOf(g: PartGeometry): Pick<PartFeatures, 'edgeEnds' | 'edgeTurn'> {
  const count = g.edgeClass.length;
  const edgeEnds = new Float64Array(count * ENDS_STRIDE);
  const edgeTurn = new Float64Array(count);
  for (let e = 0; e < count; e++) {
    const [from, to] = [g.edgeStart[e]!, g.edgeStart[e + 1]! - 1];
    edgeEnds.set([...vertex(g, from), ...middleOfEdge(g, e), ...vertex(g, to)], e * ENDS_STRIDE);
    if (g.edgeCurve[e] === CurveKind.circle) edgeTurn[e] = turnOf(g, e);
  }
  return { edgeEnds, edgeTurn };
}

/** A point in the middle of an edge, on its circle if it is one. */
export function middleOfEdge(g: PartGeometry, e: number): Vec3 {
  const [from, to] = [g.edgeStart[e]!, g.edgeStart[e + 1]! - 1];
  const k = (from + to) >> 1;
  if ((to - from) % 2 === 0) return vertex(g, k);
  const [a, b] = [vertex(g, k), vertex(g, k + 1)];
  const chord: Vec3 = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2];
  if (g.edgeCurve[e] !== CurveKind.circle) return chord;
  const p = g.edgeParams.subarray(e * EDGE_STRIDE, (e + 1) * EDGE_STRIDE);
  const centre: Vec3 = [p[0]!, p[1]!, p[2]!];
  const d = subtract(chord, centre);
  const l = length(d);
  return l > 1e-12 ? [centre[0] + (d[0] * p[6]!) / l, centre[1] + (d[1] * p[6]!) / l, centre[2] + (d[2] * p[6]!) / l] : chord;
}

/** The vertices lie on the circle: the angles between them add up to the true one. */
function turnOf(g: PartGeometry, e: number): number {
  const p = g.edgeParams.subarray(e * EDGE_STRIDE, (e + 1) * EDGE_STRIDE);
  const centre: Vec3 = [p[0]!, p[1]!, p[2]!];
  const axis: Vec3 = [p[3]!, p[4]!, p[5]!];
  let sum = 0;
  let before = subtract(vertex(g, g.edgeStart[e]!), centre);
  for (let k = g.edgeStart[e]! + 1; k < g.edgeStart[e + 1]!; k++) {
    const now = subtract(vertex(g, k), centre);
    sum += Math.atan2(dot(axis, cross(before, now)), dot(before, now));
    before = now;
  }
  return sum;
}

interface RoundFace {
  readonly face: number;
  readonly kind: number;
  readonly at: Vec3;
  readonly axis: Vec3;
  readonly radius: number;
  readonly second: number;
  readonly inward: boolean;
  from: number;
  to: number;
  /** Angles of corners about the axis, rad. */
  readonly angles: number[];
}

function roundsOf(g: PartGeometry): Pick<PartFeatures, 'rounds' | 'faceRound'> {
  const faces = roundFaces(g);
  const same = 1e-6 * Math.max(1, ...g.box.map(Math.abs)) + g.deflectionMm * 1e-3;
  const groups: RoundFace[][] = [];
  for (const f of faces) {
    // Pieces that touch one another join what was apart until now.
    const touching = groups.filter((group) => group.some((o) => oneSurface(o, f, same)));
    const [first, ...more] = touching;
    if (!first) groups.push([f]);
    else {
      first.push(f);
      for (const m of more) {
        first.push(...m);
        groups.splice(groups.indexOf(m), 1);
      }
    }
  }
  const faceRound = new Int32Array(g.faceKind.length).fill(-1);
  const rounds = groups.map((group, i): Round => {
    const [lead] = group as [RoundFace, ...RoundFace[]];
    for (const f of group) faceRound[f.face] = i;
    const spans = group.map((f) => spanSeenFrom(lead, f));
    return {
      kind: lead.kind,
      at: lead.at,
      axis: lead.axis,
      radius: lead.radius,
      second: lead.second,
      inward: lead.inward,
      from: Math.min(...spans.map((s) => s[0])),
      to: Math.max(...spans.map((s) => s[1])),
      turn: coverage(group.flatMap((f) => (f === lead || dot(f.axis, lead.axis) > 0 ? f.angles : f.angles.map((a) => -a)))),
      faces: group.map((f) => f.face),
    };
  });
  return { rounds, faceRound };
}

function roundFaces(g: PartGeometry): RoundFace[] {
  const out = new Map<number, RoundFace & { away: number }>();
  const frames = new Map<number, readonly [Vec3, Vec3]>();
  for (let t = 0; t < g.triangleFace.length; t++) {
    const face = g.triangleFace[t]!;
    const kind = g.faceKind[face]!;
    if (kind === SurfaceKind.plane || kind === SurfaceKind.free) continue;
    let round = out.get(face);
    const p = g.faceParams.subarray(face * FACE_STRIDE, (face + 1) * FACE_STRIDE);
    const [at, axis]: [Vec3, Vec3] = [
      [p[0]!, p[1]!, p[2]!],
      [p[3]!, p[4]!, p[5]!],
    ];
    if (!round) {
      round = { face, kind, at, axis, radius: Math.abs(p[6]!), second: p[7]!, inward: false, from: Infinity, to: -Infinity, angles: [], away: 0 };
      out.set(face, round);
      const x = zeroOf(axis);
      frames.set(face, [x, cross(axis, x)]);
    }
    const [x, y] = frames.get(face)!;
    for (let k = 0; k < 3; k++) {
      const v = g.triangles[t * 3 + k]! * 3;
      const d = subtract([g.positions[v]!, g.positions[v + 1]!, g.positions[v + 2]!], at);
      const along = dot(d, axis);
      round.from = Math.min(round.from, along);
      round.to = Math.max(round.to, along);
      const n: Vec3 = [g.cornerNormals[t * 9 + k * 3]!, g.cornerNormals[t * 9 + k * 3 + 1]!, g.cornerNormals[t * 9 + k * 3 + 2]!];
      const [rx, ry] = [dot(d, x), dot(d, y)];
      // An apex has every angle and none.
      if (Math.hypot(rx, ry) > 1e-9) round.angles.push(Math.atan2(ry, rx));
      round.away += dot(
        n,
        kind === SurfaceKind.torus ? fromTube(d, axis, along, round.radius) : kind === SurfaceKind.sphere ? d : subtract(d, scale(axis, along)),
      );
    }
  }
  return [...out.values()].map(({ away, ...r }) => ({ ...r, inward: away < 0 }));
}

/** Where angles about an axis begin: alike for parallel axes, whichever way they look. */
function zeroOf(axis: Vec3): Vec3 {
  const lead = axis.find((v) => Math.abs(v) > 1e-6) ?? 1;
  return anyPerpendicular(lead < 0 ? scale(axis, -1) : axis);
}

/** From the middle line of a torus's tube. */
function fromTube(d: Vec3, axis: Vec3, along: number, radius: number): Vec3 {
  const out = subtract(d, scale(axis, along));
  const l = length(out);
  return l > 0 ? subtract(d, scale(out, radius / l)) : d;
}

function oneSurface(a: RoundFace, b: RoundFace, same: number): boolean {
  if (a.kind !== b.kind || a.inward !== b.inward || Math.abs(a.radius - b.radius) > same + 1e-6 * a.radius) return false;
  const between = subtract(b.at, a.at);
  if (a.kind === SurfaceKind.sphere) return length(between) < same;
  if (Math.abs(dot(a.axis, b.axis)) < 1 - 1e-9) return false;
  const along = dot(between, a.axis);
  if (length(subtract(between, scale(a.axis, along))) > same + 1e-6 * a.radius) return false;
  if (a.kind === SurfaceKind.torus) return Math.abs(along) < same && Math.abs(a.second - b.second) < same;
  if (a.kind === SurfaceKind.cone && (Math.abs(along) > same || Math.abs(a.second - b.second) > 1e-6)) return false;
  // Two bores of one size on one axis are two, unless they touch.
  const [from, to] = spanSeenFrom(a, b);
  return from < a.to + same && a.from < to + same;
}

/** From where to where one face goes, measured on the axis of another. */
function spanSeenFrom(a: RoundFace, b: RoundFace): [number, number] {
  const shift = dot(subtract(b.at, a.at), a.axis);
  return dot(a.axis, b.axis) > 0 ? [b.from + shift, b.to + shift] : [shift - b.to, shift - b.from];
}

/** A full turn less the largest gap between angles. */
function coverage(angles: number[]): number {
  if (angles.length === 0) return 0;
  const sorted = angles.map(withinTurn).sort((p, q) => p - q);
  let gap = sorted[0]! + 2 * Math.PI - sorted.at(-1)!;
  for (let i = 1; i < sorted.length; i++) gap = Math.max(gap, sorted[i]! - sorted[i - 1]!);
  return 2 * Math.PI - gap;
}
