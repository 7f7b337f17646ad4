import earcut from 'earcut';
import { EdgeList } from '../assembly/edge-list.ts';
import { fitCurve } from '../assembly/fit.ts';
import { groupLoops, signedArea } from './loops.ts';
import { boxOf, CurveKind, EDGE_STRIDE, EdgeClass, FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { anyPerpendicular, cross, dot, length, normalize, subtract, type Vec3 } from '../base/vector.ts';
import { settleInPlane } from './settle.ts';

/** n·x = d in the frame of the geometry it is applied to, mm; the side n·x > d is taken away. */
export interface Plane {
  readonly normal: Vec3;
  readonly d: number;
}

/** A closed outline in the plane; material on its left seen from the removed side. */
export interface CutLoop {
  /** Vertices of the cut geometry, in order. */
  readonly vertices: readonly number[];
  /** Face of the part that each step (i to i + 1) was cut from. */
  readonly faces: readonly number[];
}

export interface CutPart {
  /** What remains, closed with caps; undefined when nothing remains. Cap faces come after the part's own. */
  readonly geometry: PartGeometry | undefined;
  readonly loops: readonly CutLoop[];
  /** Chains that did not close: 0 for a watertight part. */
  readonly openLoops: number;
  readonly areaMm2: number;
  /** First cap face; caps are faces from here on. */
  readonly capFace: number;
}

/** Points this close to the plane, as a share of the part's size, count as on it. */
const ON_PLANE = 1e-9;

/**
 * Cuts a part's mesh with a plane. A vertex on the plane belongs to the kept side, so a face lying in the plane stays
 * with the material behind it and shows as it is; a face lying in the plane with its material in front goes.
 */
export function cutPart(g: PartGeometry, plane: Plane): CutPart {
  const { normal: n, d } = plane;
  const size = Math.max(1, ...g.box.map(Math.abs));
  const eps = ON_PLANE * size;
  const count = g.positions.length / 3;
  const height = new Float64Array(count);
  let anyAbove = false;
  let anyBelow = false;
  for (let v = 0; v < count; v++) {
    const h = n[0] * g.positions[v * 3]! + n[1] * g.positions[v * 3 + 1]! + n[2] * g.positions[v * 3 + 2]! - d;
    height[v] = h;
    if (h > eps) anyAbove = true;
    else anyBelow = true;
  }
  const whole = { loops: [], openLoops: 0, areaMm2: 0, capFace: g.faceKind.length };
  if (!anyAbove) return { ...whole, geometry: g };
  if (!anyBelow) return { ...whole, geometry: undefined };
  return new PlaneCut(g, plane, height, eps).run();
}

class PlaneCut {
  private readonly positions: number[];
  private readonly triangles: number[] = [];
  private readonly triangleFace: number[] = [];
  private readonly normals: number[] = [];
  private readonly crossings = new Map<number, number>();
  /** Directed boundary steps of the kept mesh in the plane: from -> {to, face}. */
  private readonly steps = new Map<number, { to: number; face: number }[]>();
  private readonly g: PartGeometry;
  private readonly plane: Plane;
  private readonly height: Float64Array;
  private readonly eps: number;
  private readonly settlers = new Map<number, ((p: Vec3) => Vec3) | undefined>();

  constructor(g: PartGeometry, plane: Plane, height: Float64Array, eps: number) {
    this.g = g;
    this.plane = plane;
    this.height = height;
    this.eps = eps;
    this.positions = Array.from(g.positions);
  }

  run(): CutPart {
    const { g } = this;
    for (let t = 0; t < g.triangles.length / 3; t++) this.clipTriangle(t);
    this.findBoundary();
    const { loops, open } = this.chainLoops();
    if (this.triangles.length === 0) return { geometry: undefined, loops: [], openLoops: 0, areaMm2: 0, capFace: g.faceKind.length };
    this.roundLoops(loops);
    const capFace = g.faceKind.length;
    const { area } = this.addCaps(loops, capFace);
    const edges = this.edges(loops, capFace);
    const positions = Float64Array.from(this.positions);
    const faceKind = new Uint8Array(capFace + 1);
    faceKind.set(g.faceKind);
    faceKind[capFace] = SurfaceKind.plane;
    const faceParams = new Float64Array((capFace + 1) * FACE_STRIDE);
    faceParams.set(g.faceParams);
    const n = this.plane.normal;
    faceParams.set([n[0] * this.plane.d, n[1] * this.plane.d, n[2] * this.plane.d, n[0], n[1], n[2], 0, 0], capFace * FACE_STRIDE);
    return {
      geometry: {
        positions,
        triangles: Uint32Array.from(this.triangles),
        triangleFace: Uint32Array.from(this.triangleFace),
        cornerNormals: Float32Array.from(this.normals),
        faceKind,
        faceParams,
        ...edges,
        closed: g.closed && open === 0,
        deflectionMm: g.deflectionMm,
        volumeMm3: g.volumeMm3,
        areaMm2: g.areaMm2,
        centroid: g.centroid,
        box: this.keptBox(),
      },
      loops,
      openLoops: open,
      areaMm2: area,
      capFace,
    };
  }

  private keptBox(): PartGeometry['box'] {
    const used = new Float64Array(this.triangles.length * 3);
    this.triangles.forEach((v, i) => {
      for (let k = 0; k < 3; k++) used[i * 3 + k] = this.positions[v * 3 + k]!;
    });
    return boxOf(used);
  }

  private above(v: number): boolean {
    return this.height[v]! > this.eps;
  }

  /** The vertex where mesh edge (a, b) meets the plane; one of its ends when that lies on the plane. */
  private crossing(a: number, b: number): number {
    if (a > b) [a, b] = [b, a];
    if (Math.abs(this.height[a]!) <= this.eps) return a;
    if (Math.abs(this.height[b]!) <= this.eps) return b;
    const key = a * (this.g.positions.length / 3) + b;
    const known = this.crossings.get(key);
    if (known !== undefined) return known;
    const t = this.height[a]! / (this.height[a]! - this.height[b]!);
    const v = this.positions.length / 3;
    for (let k = 0; k < 3; k++) this.positions.push(this.positions[a * 3 + k]! * (1 - t) + this.positions[b * 3 + k]! * t);
    this.crossings.set(key, v);
    return v;
  }

  private clipTriangle(t: number): void {
    const { g } = this;
    const v = [g.triangles[t * 3]!, g.triangles[t * 3 + 1]!, g.triangles[t * 3 + 2]!];
    const up = v.map((x) => this.above(x));
    if (up[0] && up[1] && up[2]) return;
    const face = g.triangleFace[t]!;
    const corner = (k: number): Vec3 => {
      const o = t * 9 + k * 3;
      return [g.cornerNormals[o]!, g.cornerNormals[o + 1]!, g.cornerNormals[o + 2]!];
    };
    if (!up[0] && !up[1] && !up[2]) {
      const flat = v.every((x) => Math.abs(this.height[x]!) <= this.eps);
      if (flat && dot(corner(0), this.plane.normal) < 0) return;
      this.put(v[0]!, v[1]!, v[2]!, face, corner(0), corner(1), corner(2));
      return;
    }
    const polygon: number[] = [];
    const normals: Vec3[] = [];
    for (let k = 0; k < 3; k++) {
      const [a, b] = [v[k]!, v[(k + 1) % 3]!];
      if (!this.above(a)) {
        polygon.push(a);
        normals.push(corner(k));
      }
      if (this.above(a) === this.above(b)) continue;
      const c = this.crossing(a, b);
      if (polygon[polygon.length - 1] === c || c === polygon[0]) continue;
      // A vertex on the plane is on the polygon already, in its own turn.
      if (c === a || c === b) continue;
      const s = this.height[a]! / (this.height[a]! - this.height[b]!);
      const [p, q] = [corner(k), corner((k + 1) % 3)];
      polygon.push(c);
      normals.push(unit([p[0] + (q[0] - p[0]) * s, p[1] + (q[1] - p[1]) * s, p[2] + (q[2] - p[2]) * s]));
    }
    for (let k = 1; k + 1 < polygon.length; k++) this.put(polygon[0]!, polygon[k]!, polygon[k + 1]!, face, normals[0]!, normals[k]!, normals[k + 1]!);
  }

  private put(a: number, b: number, c: number, face: number, p: Vec3, q: Vec3, r: Vec3): void {
    this.triangles.push(a, b, c);
    this.triangleFace.push(face);
    this.normals.push(...p, ...q, ...r);
  }

  private onPlane(v: number): boolean {
    return v >= this.height.length || Math.abs(this.height[v]!) <= this.eps;
  }

  /** Steps in the plane without a twin among the kept triangles bound the caps; the cap runs the other way. */
  private findBoundary(): void {
    const open = new Map<string, { from: number; to: number; face: number }>();
    for (let t = 0; t < this.triangles.length; t += 3)
      for (let k = 0; k < 3; k++) {
        const a = this.triangles[t + k]!;
        const b = this.triangles[t + ((k + 1) % 3)]!;
        if (!this.onPlane(a) || !this.onPlane(b)) continue;
        if (open.delete(`${b},${a}`)) continue;
        open.set(`${a},${b}`, { from: b, to: a, face: this.triangleFace[t / 3]! });
      }
    for (const s of open.values()) {
      const list = this.steps.get(s.from);
      if (list) list.push({ to: s.to, face: s.face });
      else this.steps.set(s.from, [{ to: s.to, face: s.face }]);
    }
  }

  private chainLoops(): { loops: CutLoop[]; open: number } {
    const loops: CutLoop[] = [];
    let open = 0;
    for (const [start, list] of this.steps) {
      while (list.length) {
        const vertices = [start];
        const faces: number[] = [];
        let at = start;
        for (;;) {
          const next = this.steps.get(at)?.pop();
          if (!next) {
            open++;
            break;
          }
          faces.push(next.face);
          if (next.to === start) {
            loops.push({ vertices, faces });
            break;
          }
          vertices.push(next.to);
          at = next.to;
        }
      }
    }
    return { loops, open };
  }

  /** Cut points lie on the mesh's chords: those from recognised faces are put on the true surface. */
  private roundLoops(loops: readonly CutLoop[]): void {
    const most = 4 * this.g.deflectionMm;
    const settled = new Uint8Array(this.positions.length / 3);
    for (const l of loops)
      l.faces.forEach((face, i) => {
        const settle = this.settler(face, most);
        if (!settle) return;
        for (const v of [l.vertices[i]!, l.vertices[(i + 1) % l.vertices.length]!]) {
          if (v < this.height.length || settled[v]) continue;
          settled[v] = 1;
          const p = settle([this.positions[v * 3]!, this.positions[v * 3 + 1]!, this.positions[v * 3 + 2]!]);
          for (let k = 0; k < 3; k++) this.positions[v * 3 + k] = p[k]!;
        }
      });
  }

  private settler(face: number, most: number): ((p: Vec3) => Vec3) | undefined {
    if (!this.settlers.has(face)) this.settlers.set(face, settleInPlane(this.g, face, this.plane.normal, most));
    return this.settlers.get(face);
  }

  /** What the chords of curved faces leave out of (or put into) a loop's polygon, mm²: circle segments, and parabolas over the chords of other curves. */
  private bulge(l: CutLoop, x: Vec3, y: Vec3): number {
    let sum = 0;
    const n = l.vertices.length;
    const at = (v: number): Vec3 => [this.positions[v * 3]!, this.positions[v * 3 + 1]!, this.positions[v * 3 + 2]!];
    for (let i = 0; i < n; i++) {
      const settle = this.settler(l.faces[i]!, 4 * this.g.deflectionMm);
      if (!settle) continue;
      const [p, q] = [at(l.vertices[i]!), at(l.vertices[(i + 1) % n]!)];
      const middle: Vec3 = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2, (p[2] + q[2]) / 2];
      const sag = subtract(settle(middle), middle);
      const chord = subtract(q, p);
      // Material lies to the left of the chord: what bulges to the right is material too.
      const side = dot(sag, x) * dot(chord, y) - dot(sag, y) * dot(chord, x);
      const circle = exactCircle(this.g, this.plane, l.faces[i]!);
      sum += circle ? Math.sign(side) * segmentArea(circle.radius, length(chord)) : (2 / 3) * side;
    }
    return sum;
  }

  /** Triangulates the caps; the area counts curves as such, not their chords. */
  private addCaps(loops: readonly CutLoop[], capFace: number): { area: number } {
    const n = this.plane.normal;
    const x = anyPerpendicular(n);
    const y = cross(n, x);
    const flat = loops.map((l) =>
      l.vertices.flatMap((v) => {
        const p: Vec3 = [this.positions[v * 3]!, this.positions[v * 3 + 1]!, this.positions[v * 3 + 2]!];
        return [dot(p, x), dot(p, y)];
      }),
    );
    const areas = flat.map(signedArea);
    let area = 0;
    loops.forEach((l, i) => (area += areas[i]! + this.bulge(l, x, y)));
    for (const { outer, holes } of groupLoops(flat, areas)) {
      const points = [...flat[outer]!];
      const ids = [...loops[outer]!.vertices];
      const starts: number[] = [];
      for (const h of holes) {
        starts.push(points.length / 2);
        points.push(...flat[h]!);
        ids.push(...loops[h]!.vertices);
      }
      const tri = earcut(points, starts);
      for (let t = 0; t < tri.length; t += 3) {
        const a = tri[t]!;
        let [b, c] = [tri[t + 1]!, tri[t + 2]!];
        const turn =
          (points[b * 2]! - points[a * 2]!) * (points[c * 2 + 1]! - points[a * 2 + 1]!) -
          (points[c * 2]! - points[a * 2]!) * (points[b * 2 + 1]! - points[a * 2 + 1]!);
        if (turn < 0) [b, c] = [c, b];
        this.put(ids[a]!, ids[b]!, ids[c]!, capFace, n, n, n);
      }
    }
    return { area };
  }

  /** The part's own edges as far as they remain, then the cap outlines, split where the face changes. */
  private edges(loops: readonly CutLoop[], capFace: number) {
    const { g } = this;
    const out = new EdgeList();
    const inLoop = new Set<string>();
    for (const l of loops)
      l.vertices.forEach((v, i) => {
        const w = l.vertices[(i + 1) % l.vertices.length]!;
        inLoop.add(`${Math.min(v, w)},${Math.max(v, w)}`);
      });
    for (let e = 0; e < g.edgeClass.length; e++) {
      const faces: [number, number] = [g.edgeFaces[e * 2]!, g.edgeFaces[e * 2 + 1]!];
      const params = g.edgeParams.subarray(e * EDGE_STRIDE, (e + 1) * EDGE_STRIDE);
      let open: number[] = [];
      const flush = () => {
        out.add(open, g.edgeClass[e]!, faces, { kind: g.edgeCurve[e]!, params }, g.edgeOrigin?.[e] ?? e);
        open = [];
      };
      for (let p = g.edgeStart[e]!; p < g.edgeStart[e + 1]! - 1; p++) {
        const [a, b] = [g.edgeVertices[p]!, g.edgeVertices[p + 1]!];
        const from = this.above(a) ? (this.above(b) ? -1 : this.crossing(a, b)) : a;
        const to = this.above(b) ? (this.above(a) ? -1 : this.crossing(a, b)) : b;
        // Steps along a cap outline are drawn as such.
        if (from < 0 || from === to || inLoop.has(`${Math.min(from, to)},${Math.max(from, to)}`)) {
          flush();
          continue;
        }
        if (open.length === 0) open.push(from);
        open.push(to);
        if (this.above(b)) flush();
      }
      flush();
    }
    for (const l of loops)
      for (const piece of splitAtFaces(l))
        out.add(piece.vertices, EdgeClass.cut, [piece.face, capFace], capCurve(g, this.plane, piece.face, piece.vertices, this.positions), -1 - piece.face);
    return out.finishCut();
  }
}

function unit(v: Vec3): Vec3 {
  return Math.hypot(...v) > 0 ? normalize(v) : v;
}

/** Stretches of a loop that come from one face each. */
function splitAtFaces(l: CutLoop): { face: number; vertices: number[] }[] {
  const n = l.vertices.length;
  let first = 0;
  for (let i = 0; i < n; i++)
    if (l.faces[i] !== l.faces[(i + n - 1) % n]) {
      first = i;
      break;
    }
  const out: { face: number; vertices: number[] }[] = [];
  for (let k = 0; k < n; k++) {
    const i = (first + k) % n;
    const last = out[out.length - 1];
    const to = l.vertices[(i + 1) % n]!;
    if (last && last.face === l.faces[i]) last.vertices.push(to);
    else out.push({ face: l.faces[i]!, vertices: [l.vertices[i]!, to] });
  }
  return out;
}

/** The circle in which a plane cuts a cylinder square to its axis, or a sphere anywhere. */
function exactCircle(g: PartGeometry, plane: Plane, face: number): { centre: Vec3; radius: number } | undefined {
  const p = g.faceParams.subarray(face * FACE_STRIDE, (face + 1) * FACE_STRIDE);
  const n = plane.normal;
  const o: Vec3 = [p[0]!, p[1]!, p[2]!];
  const axis: Vec3 = [p[3]!, p[4]!, p[5]!];
  const kind = g.faceKind[face];
  if (kind === SurfaceKind.sphere) {
    const h = plane.d - dot(n, o);
    const r2 = p[6]! * p[6]! - h * h;
    return r2 > 0 ? { centre: [o[0] + n[0] * h, o[1] + n[1] * h, o[2] + n[2] * h], radius: Math.sqrt(r2) } : undefined;
  }
  if (kind !== SurfaceKind.cylinder || Math.abs(Math.abs(dot(axis, n)) - 1) > 1e-9) return undefined;
  const along = (plane.d - dot(n, o)) / dot(n, axis);
  return { centre: [o[0] + axis[0] * along, o[1] + axis[1] * along, o[2] + axis[2] * along], radius: Math.abs(p[6]!) };
}

function capCurve(
  g: PartGeometry,
  plane: Plane,
  face: number,
  vertices: readonly number[],
  positions: readonly number[],
): { kind: number; params: ArrayLike<number> } {
  const circle = exactCircle(g, plane, face);
  if (circle) return { kind: CurveKind.circle, params: [...circle.centre, ...plane.normal, circle.radius] };
  const samples = vertices.flatMap((v) => [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!]);
  return vertices.length === 2 ? { kind: CurveKind.line, params: [] } : fitCurve(samples);
}

/** Area between a circle and a chord of it, mm². */
function segmentArea(radius: number, chord: number): number {
  const angle = 2 * Math.asin(Math.min(1, chord / (2 * radius)));
  return ((angle - Math.sin(angle)) * radius * radius) / 2;
}
