import { FACE_STRIDE, SurfaceKind } from '../assembly/part-geometry.ts';
import { chainsOf } from '../base/chains.ts';
import { dot, length, subtract, type Vec3 } from '../base/vector.ts';
import type { Candidates } from './candidate-lines.ts';
import { LineClass } from './linework.ts';
import { EDGE_ON, Facing, type PartView } from './scene.ts';
import { settlerFor, signChange, trueFacing, type TrueFacing } from './true-outline.ts';
import type { MeshTopology } from './topology.ts';

/** A piece of outline between two nodes; nodes are mesh edges (crossings) or vertices. */
interface Piece {
  readonly face: number;
  readonly a: number;
  readonly b: number;
  /** The surface is hollow along the line of sight: it covers its own outline (Koenderink 1984). */
  readonly hollow: boolean;
}

/**
 * Outlines (where the surface turns away) of curved faces: n·toward = 0 traced between exact vertex normals, and smooth
 * mesh edges that lie on the outline themselves: beside a face seen edge-on, or where the mesh happens to run along it.
 */
export function traceOutlines(out: Candidates, b: PartView, topology: MeshTopology): void {
  const g = b.geometry;
  const vertexBase = topology.ends.length / 2;
  const points = new Map<number, Vec3>();
  const pieces: Piece[] = [];
  const known = new Map<number, TrueFacing | undefined>();
  const facingOf = (face: number) => {
    if (!known.has(face)) known.set(face, trueFacing(b, face));
    return known.get(face);
  };
  const vertex = (v: number): Vec3 => [b.xyz[v * 3]!, b.xyz[v * 3 + 1]!, b.xyz[v * 3 + 2]!];

  for (let t = 0; t < b.side.length; t++) {
    if (b.side[t] !== Facing.mixed) continue;
    const face = g.triangleFace[t]!;
    if (g.faceKind[face] === SurfaceKind.plane) continue;
    let first = 0;
    let second = 0;
    let count = 0;
    const add = (node: number) => {
      if (count++ === 0) first = node;
      else second = node;
    };
    for (let s = 0; s < 3; s++) {
      const i = t * 3 + s;
      const j = t * 3 + ((s + 1) % 3);
      // Every ruling of a cone ends at its apex.
      const p = topology.apex[g.triangles[i]!] ? 0 : snap(b.facing[i]!);
      const q = topology.apex[g.triangles[j]!] ? 0 : snap(b.facing[j]!);
      if (p === 0) {
        const v = g.triangles[i]!;
        add(vertexBase + v);
        points.set(vertexBase + v, vertex(v));
      }
      if (p * q < 0) {
        // Two faces that meet at a sharp edge have normals of their own there: a node for each.
        const e = topology.sideEdge[i]!;
        const node = topology.sharp[e] ? -1 - (face * vertexBase + e) : e;
        add(node);
        if (!points.has(node)) points.set(node, crossing(b, i, j, facingOf(face)));
      }
    }
    if (count === 2) pieces.push({ face, a: first, b: second, hollow: g.closed && isHollow(b, t, face) });
  }

  for (let e = 0; e < vertexBase; e++) {
    if (topology.sharp[e]) continue;
    const [t, u] = [topology.sides[e * 2]!, topology.sides[e * 2 + 1]!];
    if (u < 0) continue;
    if ((b.side[t] === Facing.front) === (b.side[u] === Facing.front) || b.side[t] === Facing.mixed || b.side[u] === Facing.mixed) continue;
    if (!grazing(b, t, e, topology) && !grazing(b, u, e, topology)) continue;
    const front = b.side[t] === Facing.front ? t : u;
    const [v, w] = [topology.ends[e * 2]!, topology.ends[e * 2 + 1]!];
    points.set(vertexBase + v, vertex(v));
    points.set(vertexBase + w, vertex(w));
    pieces.push({ face: g.triangleFace[front]!, a: vertexBase + v, b: vertexBase + w, hollow: false });
  }
  if (pieces.length) chain(out, b, pieces, points);
}

const snap = (f: number) => (Math.abs(f) <= EDGE_ON ? 0 : f);

/**
 * Does n·toward fall in triangle `t` as one goes toward the reader? Then the surface bends toward the line of sight and
 * what lies nearer hides the outline; on a round surface it grows.
 */
function isHollow(b: PartView, t: number, face: number): boolean {
  const kind = b.geometry.faceKind[face];
  if (kind === SurfaceKind.cylinder || kind === SurfaceKind.sphere) return b.geometry.faceParams[face * FACE_STRIDE + 6]! < 0;
  const tri = b.geometry.triangles;
  const [i, j, k] = [tri[t * 3]! * 3, tri[t * 3 + 1]! * 3, tri[t * 3 + 2]! * 3];
  const v = b.xyz;
  const [ux, uy, uz] = [v[j]! - v[i]!, v[j + 1]! - v[i + 1]!, v[j + 2]! - v[i + 2]!];
  const [wx, wy, wz] = [v[k]! - v[i]!, v[k + 1]! - v[i + 1]!, v[k + 2]! - v[i + 2]!];
  const uu = ux * ux + uy * uy + uz * uz;
  const uw = ux * wx + uy * wy + uz * wz;
  const ww = wx * wx + wy * wy + wz * wz;
  const du = b.facing[t * 3 + 1]! - b.facing[t * 3]!;
  const dw = b.facing[t * 3 + 2]! - b.facing[t * 3]!;
  // (gradient of the facing) · (gradient of z), both in the triangle's plane, up to a positive factor.
  const slope = du * (ww * uz - uw * wz) + dw * (uu * wz - uw * uz);
  // Too even to tell: normals are single precision.
  if (Math.hypot(du, dw) < 1e-3) return false;
  const size = Math.hypot(du, dw) * Math.hypot(uz, wz) * Math.max(uu, ww);
  return slope < -0.05 * size;
}

/** Are both ends of mesh edge `e` seen edge-on in triangle `t`? */
function grazing(b: PartView, t: number, e: number, topology: MeshTopology): boolean {
  const at = (corner: number) => topology.apex[b.geometry.triangles[corner]!] === 1 || snap(b.facing[corner]!) === 0;
  for (let s = 0; s < 3; s++) if (topology.sideEdge[t * 3 + s] === e) return at(t * 3 + s) && at(t * 3 + ((s + 1) % 3));
  return false;
}

/**
 * Where the outline crosses the mesh edge between corners i and j: the zero of the facing, put back on the surface by
 * the cubic that has the corners' normals (Vlachos et al., Curved PN Triangles, 2001).
 */
function crossing(b: PartView, i: number, j: number, exact: TrueFacing | undefined): Vec3 {
  const tri = b.geometry.triangles;
  // The same result from both sides: lower vertex first.
  if (tri[i]! > tri[j]!) [i, j] = [j, i];
  const [p, q] = [tri[i]! * 3, tri[j]! * 3];
  const [A, B]: [Vec3, Vec3] = [
    [b.xyz[p]!, b.xyz[p + 1]!, b.xyz[p + 2]!],
    [b.xyz[q]!, b.xyz[q + 1]!, b.xyz[q + 2]!],
  ];
  const t = signChange(A, B, b.facing[i]!, b.facing[j]!, exact);
  const [n, m] = [normalAt(b, i), normalAt(b, j)];
  let dp = 0;
  let dq = 0;
  for (let k = 0; k < 3; k++) {
    const d = b.xyz[q + k]! - b.xyz[p + k]!;
    dp += d * n[k]!;
    dq -= d * m[k]!;
  }
  const s = 1 - t;
  const out: [number, number, number] = [0, 0, 0];
  for (let k = 0; k < 3; k++) {
    const P = b.xyz[p + k]!;
    const Q = b.xyz[q + k]!;
    const b1 = (2 * P + Q - dp * n[k]!) / 3;
    const b2 = (2 * Q + P - dq * m[k]!) / 3;
    out[k] = s * s * s * P + 3 * s * s * t * b1 + 3 * s * t * t * b2 + t * t * t * Q;
  }
  return out;
}

/** Normal of a triangle corner in view axes. */
function normalAt(b: PartView, corner: number): Vec3 {
  const n = b.geometry.cornerNormals;
  const [x, y, z] = [n[corner * 3]!, n[corner * 3 + 1]!, n[corner * 3 + 2]!];
  const m = b.turn;
  return [m[0]! * x + m[1]! * y + m[2]! * z, m[3]! * x + m[4]! * y + m[5]! * z, m[6]! * x + m[7]! * y + m[8]! * z];
}

/** Pieces into which a chord between two traced points of a bent outline is cut. */
const BENT_STEPS = 4;
/** How far traced points and the curve through them may be off the true outline, as a share of the mesh's deflection. */
const TRACE_ERROR = 0.25;

/** A point between points i and i + 1 of a chain, on a cubic with tangents along the chords of the neighbours (Catmull–Rom). */
function between(p: readonly Vec3[], i: number, t: number): Vec3 {
  const [a, b] = [p[i]!, p[i + 1]!];
  const closed = p[0] === p[p.length - 1];
  const before = p[i - 1] ?? (closed ? p[p.length - 2]! : undefined);
  const after = p[i + 2] ?? (closed ? p[1]! : undefined);
  const h = length(subtract(b, a));
  const u = tangent(before, a, b, h);
  const w = tangent(after, b, a, h);
  const s = 1 - t;
  const [c0, c1, d0, d1] = [s * s * (1 + 2 * t), t * t * (3 - 2 * t), t * s * s, t * t * s];
  const at = (k: 0 | 1 | 2) => c0 * a[k] + c1 * b[k] + d0 * u[k] + d1 * w[k];
  return [at(0), at(1), at(2)];
}

/** Tangent at `p` towards `next`, scaled to the chord of length h: that of the parabola through the three points. */
function tangent(other: Vec3 | undefined, p: Vec3, next: Vec3, h: number): Vec3 {
  const own = subtract(next, p);
  if (!other) return own;
  const back = subtract(p, other);
  const g = length(back);
  // A cusp, or points that lie too unevenly to tell a tangent.
  if (!(g > 1e-3 * h && h > 1e-3 * g) || dot(own, back) < 0.5 * g * h) return own;
  const k = 1 / (g + h);
  return [0, 1, 2].map((i) => (own[i]! * g + (back[i]! * h * h) / g) * k) as unknown as Vec3;
}

/** Joins pieces of a face end to end; points of recognised surfaces are settled on their true outline. */
function chain(out: Candidates, b: PartView, pieces: readonly Piece[], points: ReadonlyMap<number, Vec3>): void {
  const most = 2 * b.geometry.deflectionMm;
  const byFace = new Map<number, Piece[]>();
  for (const p of pieces) {
    const list = byFace.get(p.face);
    if (list) list.push(p);
    else byFace.set(p.face, [p]);
  }
  for (const [face, list] of byFace) {
    const settle = settlerFor(b, face);
    const kind = b.geometry.faceKind[face];
    const bent = kind !== SurfaceKind.cylinder && kind !== SurfaceKind.cone;
    for (const c of chainsOf(list.flatMap((p) => [p.a, p.b]))) {
      const hollow = c.pieces.map((i) => list[i]!.hollow);
      out.start.push(out.xyz.length / 3);
      out.kind.push(LineClass.outline);
      out.edge.push(-1 - face);
      out.deflection.push(b.geometry.deflectionMm * TRACE_ERROR);
      const put = (p: Vec3, covered: boolean) => {
        const settled = settle ? settle(p) : p;
        const q = length(subtract(settled, p)) <= most ? settled : p;
        out.xyz.push3(q[0], q[1], q[2]);
        out.covered.push(0);
        out.covered.push(covered ? 1 : 0);
      };
      const on = c.nodes.map((n) => points.get(n)!);
      on.forEach((p, i) => {
        put(p, hollow[i] ?? false);
        // The chords of a bent outline lie inside the surface, where its own triangles would hide them.
        if (bent && i + 1 < on.length) for (let k = 1; k < BENT_STEPS; k++) put(between(on, i, k / BENT_STEPS), hollow[i]!);
      });
    }
  }
}
