import { faceAreas } from '../assembly/face-areas.ts';
import { CurveKind, EDGE_STRIDE, FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { withinTurn } from '../base/angle.ts';
import { anyPerpendicular, cross, dot, normalize, scale, subtract, vectorAt, type Vec2, type Vec3 } from '../base/vector.ts';
import { leastRectangleAround } from '../stock/least-box.ts';

/** A bend of a flat pattern. */
export interface FlatBend {
  /** Turned away from flat, rad. */
  readonly angle: number;
  /** Inner radius, mm. */
  readonly radiusMm: number;
  readonly lengthMm: number;
  /** Developed length of the bend, mm. */
  readonly allowanceMm: number;
  /** Towards the side that is looked at. */
  readonly up: boolean;
  /** Middle of the bend on the pattern: from end to end, mm. */
  readonly line: readonly [Vec2, Vec2];
}

/** A bent sheet part laid flat; mm, the longest side along x, its lower left corner at the origin. */
export interface FlatPattern {
  readonly thicknessMm: number;
  /** Sides of the smallest rectangle around it, the longer first. */
  readonly sizeMm: Vec2;
  readonly areaMm2: number;
  /** The outline, counter-clockwise, then inner ones, clockwise. */
  readonly contours: readonly (readonly Vec2[])[];
  readonly bends: readonly FlatBend[];
}

export type Unfolded = { readonly flat: FlatPattern } | { readonly why: string };

/**
 * Where the neutral fibre lies in a bend, as a share of the thickness from the inner side (DIN 6935: k = 0.65 + 0.5 lg(r/s),
 * at most 1, of half the thickness; from memory).
 */
export function neutralFibre(radiusMm: number, thicknessMm: number): number {
  if (radiusMm <= 0) return 0.15;
  return Math.max(0.1, Math.min(1, 0.65 + 0.5 * Math.log10(radiusMm / thicknessMm))) / 2;
}

/** Sizes are compared to this share of the thickness. */
const SAME = 0.01;
/** So many of the largest faces are tried as the side that is looked at: of a narrow strip its edges are larger. */
const MOST_TRIED = 10;
/** Rolled sheet is thin: its inner radius is so many times its thickness at least. What is thicker was turned or milled. */
const ROLLED = 3;
/** The volume of what was unfolded may differ from the part's by this share: countersinks, rounded edges. */
const VOLUME_OFF = 0.02;

/**
 * Recognises a bent sheet part by its faces (one thickness between two sides of planes and cylinders about common axes) and lays it
 * flat: bend allowance = angle × (inner radius + K × thickness).
 * @param k share of the thickness; absent: by DIN 6935
 */
export function unfold(g: PartGeometry, k?: number): Unfolded {
  if (!g.closed || !(g.volumeMm3 > 0)) return { why: 'Its surface is open.' };
  const faces = readFaces(g);
  const planes = faces.filter((f) => f.kind === SurfaceKind.plane).sort((a, b) => b.area - a.area);
  let why = planes.length ? 'It has no bends.' : 'It has no flat side.';
  // The sides of the largest face: the other one is behind it, as far as the sheet is thick.
  for (const top of planes.slice(0, MOST_TRIED)) {
    const depths = planes
      .filter((p) => dot(p.way, top.way) < -1 + 1e-6)
      .map((p) => dot(top.way, subtract(top.at, p.at)))
      .filter((d) => d > 1e-6)
      .sort((a, b) => a - b);
    for (const [i, t] of depths.entries()) {
      if (i > 0 && t - depths[i - 1]! < SAME * t) continue;
      const found = new Unfolding(g, faces, top, t, k).run();
      if ('flat' in found) return found;
      if (found.why !== 'It has no bends.') why = found.why;
      if (i >= 5) break;
    }
  }
  // Rolled, without a flat side: from the largest of its round faces.
  const rounds = faces.filter((f) => f.kind === SurfaceKind.cylinder && f.radius > 0).sort((a, b) => b.area - a.area);
  for (const outer of rounds.slice(0, MOST_TRIED)) {
    const inner = faces.find(
      (f) =>
        f.kind === SurfaceKind.cylinder &&
        f.radius < 0 &&
        -f.radius < outer.radius &&
        -f.radius >= ROLLED * (outer.radius + f.radius) &&
        Math.abs(dot(f.way, outer.way)) > 1 - 1e-9 &&
        offAxis(outer, f.at) < SAME * (outer.radius + f.radius),
    );
    if (!inner) continue;
    const found = new Unfolding(g, faces, outer, outer.radius + inner.radius, k).run();
    if ('flat' in found) return found;
  }
  return { why };
}

interface Face {
  readonly index: number;
  readonly kind: number;
  readonly at: Vec3;
  /** Outward normal of a plane, axis of a cylinder. */
  readonly way: Vec3;
  /** Of a cylinder; less than nought: material is outside. */
  readonly radius: number;
  readonly area: number;
}

function readFaces(g: PartGeometry): Face[] {
  const areas = faceAreas(g);
  return Array.from(g.faceKind, (kind, index) => ({
    index,
    kind,
    at: vectorAt(g.faceParams, index * FACE_STRIDE),
    way: vectorAt(g.faceParams, index * FACE_STRIDE + 3),
    radius: g.faceParams[index * FACE_STRIDE + 6]!,
    area: areas[index]!,
  }));
}

/** Where points of a face lie on the pattern. */
interface Laid {
  map(p: Vec3): Vec2;
}

class Unfolding {
  private readonly laid = new Map<number, Laid>();
  private readonly bends: (Omit<FlatBend, 'line' | 'lengthMm'> & { readonly face: number; readonly middle: (along: number) => Vec2; readonly reach: Vec2 })[] =
    [];
  private readonly neighbours: (readonly { readonly face: number; readonly at: Vec3 }[])[];
  private readonly g: PartGeometry;
  private readonly faces: readonly Face[];
  private readonly top: Face;
  private readonly t: number;
  private readonly k: number | undefined;

  constructor(g: PartGeometry, faces: readonly Face[], top: Face, t: number, k: number | undefined) {
    [this.g, this.faces, this.top, this.t, this.k] = [g, faces, top, t, k];
    this.neighbours = neighboursOf(g);
  }

  run(): Unfolded {
    const { top, g, t } = this;
    const e1 = normalize(anyPerpendicular(top.way));
    const e2 = cross(top.way, e1);
    const first = top.kind === SurfaceKind.cylinder ? this.rolledOut(top) : planeMap(top.at, e1, e2, [0, 0], [1, 0], [0, 1]);
    if (!first) return { why: 'It closes upon itself: there is no seam at which it could be laid flat.' };
    this.laid.set(top.index, first);
    const queue = [top.index];
    for (let f = queue.shift(); f !== undefined; f = queue.shift()) {
      const face = this.faces[f]!;
      for (const n of this.neighbours[f]!) {
        const next = this.faces[n.face]!;
        const known = this.laid.get(next.index);
        const map = this.across(face, next, n.at, known === undefined);
        if (!map) continue;
        if (known) {
          const [a, b] = [known.map(n.at), map.map(n.at)];
          if (Math.hypot(a[0] - b[0], a[1] - b[1]) > SAME * t + 1e-6) return { why: 'It closes upon itself: there is no seam at which it could be laid flat.' };
          continue;
        }
        this.laid.set(next.index, map);
        queue.push(next.index);
      }
    }
    if (!this.bends.length) return { why: 'It has no bends.' };
    const off = Math.abs(this.volume() - g.volumeMm3) / g.volumeMm3;
    if (off > VOLUME_OFF) return { why: 'It is not of one thickness everywhere.' };
    return this.pattern();
  }

  /** How a neighbour across an edge is laid: it goes on smoothly on the same side of the sheet. Undefined: it does not. */
  private across(from: Face, to: Face, q: Vec3, fresh: boolean): Laid | undefined {
    const before = this.laid.get(from.index)!;
    if (from.kind === SurfaceKind.plane && to.kind === SurfaceKind.plane) return dot(from.way, to.way) > 1 - 1e-9 && this.hasOther(to) ? before : undefined;
    if (from.kind === SurfaceKind.plane && to.kind === SurfaceKind.cylinder) {
      const radial = radialAt(to, q);
      if (!radial || dot(scale(radial, Math.sign(to.radius)), from.way) < 1 - 1e-6 || !this.hasOther(to)) return undefined;
      return this.laidBend(to, q, before, fresh);
    }
    if (from.kind === SurfaceKind.cylinder && to.kind === SurfaceKind.plane) {
      const radial = radialAt(from, q);
      if (!radial || dot(scale(radial, Math.sign(from.radius)), to.way) < 1 - 1e-6 || !this.hasOther(to)) return undefined;
      const bend = this.turning.get(from.index)!;
      return planeMap(q, from.way, scale(cross(from.way, radial), bend.sense), before.map(q), bend.u, bend.w);
    }
    return undefined;
  }

  /** The outer side of something rolled, from the one side of its opening to the other; undefined where it has none. */
  private rolledOut(c: Face): Laid | undefined {
    const e1 = normalize(anyPerpendicular(c.way));
    const e2 = cross(c.way, e1);
    const angleOf = (p: Vec3): number => {
      const d = subtract(p, c.at);
      return Math.atan2(dot(d, e2), dot(d, e1));
    };
    const corners = this.corners(c.index);
    const zs = corners.map((p) => dot(subtract(p, c.at), c.way)).sort((p, q) => p - q);
    const [low, high] = [zs[0]!, zs.at(-1)!];
    // A ring that is no wider than thick was cut from a plate.
    if (high - low < ROLLED * this.t) return undefined;
    // Between two straight edges where no triangle of it lies it is open.
    const edges = [...new Set(this.neighbours[c.index]!.map((n) => Math.round(withinTurn(angleOf(n.at)) * 1e9) / 1e9))].sort((p, q) => p - q);
    const spans = edges.map((from, i) => ({ from, to: i + 1 < edges.length ? edges[i + 1]! : edges[0]! + 2 * Math.PI }));
    const covered = (middle: number): boolean => {
      for (let i = 0; i < corners.length; i += 3) {
        const off = [0, 1, 2].map((k) => withinTurn(angleOf(corners[i + k]!) - middle + Math.PI) - Math.PI);
        const [least, most] = [Math.min(...off), Math.max(...off)];
        if (least < 0 && most > 0 && most - least < Math.PI) return true;
      }
      return false;
    };
    const open = spans.find(({ from, to }) => to - from > 1e-6 && !covered((from + to) / 2));
    if (!open) return undefined;
    const [gap, start] = [open.to - open.from, open.to];
    const angle = 2 * Math.PI - gap;
    const inner = c.radius - this.t;
    const k = this.k ?? neutralFibre(inner, this.t);
    const perRadian = inner + k * this.t;
    // Seen from outside with the axis to the right, the angle runs downwards.
    const turned = (p: Vec3): number => {
      const a = withinTurn(angleOf(p) - start);
      return angle - (a > 2 * Math.PI - 1e-6 ? 0 : a);
    };
    this.turning.set(c.index, { sense: -1, u: [1, 0], w: [0, 1] });
    this.bends.push({
      face: c.index,
      angle,
      radiusMm: inner,
      allowanceMm: angle * perRadian,
      up: false,
      middle: (along) => [along, (perRadian * angle) / 2],
      reach: [low, high],
    });
    return { map: (p) => [dot(subtract(p, c.at), c.way), perRadian * turned(p)] };
  }

  private readonly turning = new Map<number, { readonly sense: 1 | -1; readonly u: Vec2; readonly w: Vec2 }>();

  private laidBend(c: Face, q: Vec3, before: Laid, fresh: boolean): Laid {
    const start = radialAt(c, q)!;
    const angleOf = (p: Vec3): number => {
      const r = radialAt(c, p) ?? start;
      return Math.atan2(dot(c.way, cross(start, r)), dot(start, r));
    };
    // Which way round the bend goes from its first edge, and how far.
    let [low, high, z0, z1] = [0, 0, Infinity, -Infinity];
    for (const p of this.corners(c.index)) {
      const a = angleOf(p);
      if (a < low) low = a;
      if (a > high) high = a;
      const z = dot(subtract(p, q), c.way);
      if (z < z0) z0 = z;
      if (z > z1) z1 = z;
    }
    const sense: 1 | -1 = high > -low ? 1 : -1;
    const angle = Math.max(high, -low);
    const inner = c.radius < 0 ? -c.radius : c.radius - this.t;
    const k = this.k ?? neutralFibre(inner, this.t);
    const perRadian = inner + k * this.t;
    const linear = (d: Vec3): Vec2 => {
      const [a, b] = [before.map(q), before.map([q[0] + d[0], q[1] + d[1], q[2] + d[2]])];
      return [b[0] - a[0], b[1] - a[1]];
    };
    const u = linear(c.way);
    const w = linear(scale(cross(c.way, start), sense));
    const origin = before.map(q);
    const at = (along: number, turned: number): Vec2 => [
      origin[0] + u[0] * along + w[0] * perRadian * turned,
      origin[1] + u[1] * along + w[1] * perRadian * turned,
    ];
    if (fresh) {
      this.turning.set(c.index, { sense, u, w });
      this.bends.push({
        face: c.index,
        angle,
        radiusMm: inner,
        allowanceMm: angle * perRadian,
        up: c.radius < 0,
        middle: (along) => at(along, angle / 2),
        reach: [z0, z1],
      });
    }
    return { map: (p) => at(dot(subtract(p, q), c.way), Math.max(-0.1, sense * angleOf(p))) };
  }

  /** Is there another side, one thickness away? */
  private hasOther(f: Face): boolean {
    const near = (a: number, b: number) => Math.abs(a - b) < SAME * this.t + 1e-6;
    return this.faces.some((o) => {
      if (o.kind !== f.kind || o === f) return false;
      if (f.kind === SurfaceKind.plane) return dot(o.way, f.way) < -1 + 1e-6 && near(dot(f.way, subtract(f.at, o.at)), this.t);
      if (Math.sign(o.radius) === Math.sign(f.radius) || Math.abs(dot(o.way, f.way)) < 1 - 1e-6) return false;
      const d = subtract(o.at, f.at);
      const along = dot(d, f.way);
      const apart = Math.sqrt(Math.max(0, dot(d, d) - along * along));
      const [outer, inner] = f.radius > 0 ? [f.radius, -o.radius] : [o.radius, -f.radius];
      return near(apart, 0) && near(outer - inner, this.t) && inner >= 0;
    });
  }

  private volume(): number {
    let v = 0;
    for (const f of this.laid.keys()) {
      const face = this.faces[f]!;
      if (face.kind === SurfaceKind.plane) v += face.area * this.t;
      else {
        const r = Math.abs(face.radius);
        const [outer, inner] = face.radius > 0 ? [r, r - this.t] : [r + this.t, r];
        v += ((face.area / r) * (outer * outer - inner * inner)) / 2;
      }
    }
    return v;
  }

  private corners(face: number): Vec3[] {
    const { g } = this;
    const out: Vec3[] = [];
    for (let t = 0; t < g.triangleFace.length; t++)
      if (g.triangleFace[t] === face) for (let k = 0; k < 3; k++) out.push(vectorAt(g.positions, g.triangles[t * 3 + k]! * 3));
    return out;
  }

  private pattern(): Unfolded {
    const loops = boundaryOf(this.g, this.laid);
    if (!loops.length) return { why: 'It closes upon itself: there is no seam at which it could be laid flat.' };
    const areaOf = (loop: readonly Vec2[]) =>
      loop.reduce((s, p, i) => s + p[0] * loop[(i + 1) % loop.length]![1] - loop[(i + 1) % loop.length]![0] * p[1], 0) / 2;
    const order = loops.map((l) => ({ points: l.map((c) => c.at), area: areaOf(l.map((c) => c.at)) })).sort((a, b) => Math.abs(b.area) - Math.abs(a.area));
    const outline = order[0]!.points;
    const { along, low } = leastRectangleAround(outline);
    const put = ([x, y]: Vec2): Vec2 => [x * along[0] + y * along[1] - low[0], y * along[0] - x * along[1] - low[1]];
    const size = leastRectangleAround(outline).size;
    const contours = order.map(({ points, area }, i) => {
      const placed = points.map(put);
      return area > 0 === (i === 0) ? placed : placed.reverse();
    });
    const inside = order.slice(1).reduce((s, l) => s + Math.abs(l.area), 0);
    return {
      flat: {
        thicknessMm: this.t,
        sizeMm: size,
        areaMm2: Math.abs(order[0]!.area) - inside + arcsOff(this.g, this.laid),
        contours,
        bends: this.bends.map(({ face: _face, middle, reach, ...b }) => ({
          ...b,
          lengthMm: reach[1] - reach[0],
          line: [put(middle(reach[0])), put(middle(reach[1]))] as const,
        })),
      },
    };
  }
}

function planeMap(o: Vec3, e1: Vec3, e2: Vec3, f: Vec2, g1: Vec2, g2: Vec2): Laid {
  return {
    map(p) {
      const d = subtract(p, o);
      const [a, b] = [dot(d, e1), dot(d, e2)];
      return [f[0] + g1[0] * a + g2[0] * b, f[1] + g1[1] * a + g2[1] * b];
    },
  };
}

/** How far a point is from the axis of a cylinder, mm. */
function offAxis(c: Face, p: Vec3): number {
  const d = subtract(p, c.at);
  return Math.hypot(...subtract(d, scale(c.way, dot(d, c.way))));
}

/** From the axis of a cylinder to a point, unit; undefined on the axis. */
function radialAt(c: Face, p: Vec3): Vec3 | undefined {
  const d = subtract(p, c.at);
  const r = subtract(d, scale(c.way, dot(d, c.way)));
  const l = Math.hypot(...r);
  return l > 1e-9 ? scale(r, 1 / l) : undefined;
}

/** Faces across straight edges, with a point of the edge. */
function neighboursOf(g: PartGeometry): { face: number; at: Vec3 }[][] {
  const out = Array.from(g.faceKind, (): { face: number; at: Vec3 }[] => []);
  for (let e = 0; e < g.edgeClass.length; e++) {
    const [a, b] = [g.edgeFaces[e * 2]!, g.edgeFaces[e * 2 + 1]!];
    if (a < 0 || b < 0 || a === b || g.edgeCurve[e] !== CurveKind.line) continue;
    const at = vectorAt(g.positions, g.edgeVertices[g.edgeStart[e]!]! * 3);
    out[a]!.push({ face: b, at });
    out[b]!.push({ face: a, at });
  }
  return out;
}

/** Loops around the faces that are laid, on the pattern: sides of triangles that only one of them has. */
function boundaryOf(g: PartGeometry, laid: ReadonlyMap<number, Laid>): { at: Vec2 }[][] {
  const next = new Map<number, { to: number; face: number }[]>();
  const used = new Set<string>();
  const sides: { from: number; to: number; face: number }[] = [];
  for (let t = 0; t < g.triangleFace.length; t++) {
    const face = g.triangleFace[t]!;
    if (!laid.has(face)) continue;
    for (let k = 0; k < 3; k++) {
      const [from, to] = [g.triangles[t * 3 + k]!, g.triangles[t * 3 + ((k + 1) % 3)]!];
      used.add(`${from}>${to}`);
      sides.push({ from, to, face });
    }
  }
  for (const s of sides) {
    if (used.has(`${s.to}>${s.from}`)) continue;
    const list = next.get(s.from);
    if (list) list.push(s);
    else next.set(s.from, [s]);
  }
  const loops: { at: Vec2 }[][] = [];
  for (const start of next.keys()) {
    let step = next.get(start)!.pop();
    if (!step) continue;
    const loop: { at: Vec2 }[] = [];
    let from = start;
    for (; step; step = next.get(from)?.pop()) {
      loop.push({ at: laid.get(step.face)!.map(vectorAt(g.positions, from * 3)) });
      from = step.to;
      if (from === start) break;
    }
    if (loop.length > 2) loops.push(loop);
  }
  return loops;
}

/** What circles of flat faces have more, or holes less, than their chords, mm². */
function arcsOff(g: PartGeometry, laid: ReadonlyMap<number, Laid>): number {
  let off = 0;
  for (let e = 0; e < g.edgeClass.length; e++) {
    if (g.edgeCurve[e] !== CurveKind.circle) continue;
    const [a, b] = [g.edgeFaces[e * 2]!, g.edgeFaces[e * 2 + 1]!];
    const own = laid.has(a) && g.faceKind[a] === SurfaceKind.plane ? a : laid.has(b) && g.faceKind[b] === SurfaceKind.plane ? b : undefined;
    const wall = own === a ? b : a;
    if (own === undefined || laid.has(wall) || g.faceKind[wall] !== SurfaceKind.cylinder) continue;
    const radius = g.edgeParams[e * EDGE_STRIDE + 6]!;
    const outward = g.faceParams[wall * FACE_STRIDE + 6]! > 0;
    for (let v = g.edgeStart[e]!; v + 1 < g.edgeStart[e + 1]!; v++) {
      const chord = Math.hypot(...subtract(vectorAt(g.positions, g.edgeVertices[v]! * 3), vectorAt(g.positions, g.edgeVertices[v + 1]! * 3)));
      const turn = 2 * Math.asin(Math.min(1, chord / (2 * radius)));
      const segment = (radius * radius * (turn - Math.sin(turn))) / 2;
      off += outward ? segment : -segment;
    }
  }
  return off;
}
