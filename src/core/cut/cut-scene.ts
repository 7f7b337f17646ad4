import { FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { applyToDirection, applyToPoint } from '../base/placement.ts';
import { cross, dot, length, type Vec3 } from '../base/vector.ts';
import type { ViewFrame } from '../outline/directions.ts';
import { sceneDiagonal, type Body } from '../outline/scene.ts';
import { cutTool, toolInPart, type CutShape } from './cut-shape.ts';
import type { SolidPort } from './solid-port.ts';
import { cutWithTool } from './tool-cut.ts';
import { cutPart, type Plane } from './plane-cut.ts';

/** A cut surface as the view shows it. */
export interface Cap {
  readonly component: number;
  /** Closed polygons, flat, view space, model mm; holes run the other way. */
  readonly loops: readonly Float64Array[];
  readonly areaMm2: number;
}

export interface CutScene {
  readonly bodies: readonly Body[];
  readonly caps: readonly Cap[];
  readonly openLoops: number;
  /** Components that could not be cut: open meshes without an inside. */
  readonly uncut: readonly number[];
}

export interface CutOptions {
  /** Components that stay uncut, and whole also in front of the plane. */
  readonly keptWhole?: ReadonlySet<number>;
  /** What is taken away, when it is not everything in front of the plane. */
  readonly shape?: CutShape | undefined;
  /** Needed with a shape. */
  readonly solids?: SolidPort | undefined;
  /** Nothing farther behind the plane is shown, mm; 0 shows the cut faces alone. Default: everything is. */
  readonly behindMm?: number | undefined;
}

/** As thin as a slice of no depth is cut, mm. */
const SLICE_MM = 1e-3;

/**
 * Cuts a scene with a plane in model space.
 * @throws RangeError for a shape without a solid port, or one that is no outline
 */
export function cutScene(bodies: readonly Body[], plane: Plane, options: CutOptions, frame: ViewFrame): CutScene {
  const cutter = options.shape ? shapedCutter(bodies, plane, options.shape, options.solids, frame) : planeCutter(plane, frame);
  const out: Body[] = [];
  const caps: Cap[] = [];
  const uncut: number[] = [];
  let openLoops = 0;
  for (const body of bodies) {
    if (options.keptWhole?.has(body.component)) {
      out.push(body);
      continue;
    }
    const piece = cutter(body);
    if (!piece) {
      // A body that is no solid has no inside to show: it stays as it is, and is named.
      uncut.push(body.component);
      out.push(body);
      continue;
    }
    openLoops += piece.openLoops;
    caps.push(...piece.caps);
    if (!piece.geometry) continue;
    const near = options.behindMm === undefined ? piece.geometry : withoutBackground(piece.geometry, body, plane, options.behindMm);
    if (near) out.push(near === body.geometry ? body : { ...body, geometry: near });
  }
  return { bodies: out, caps, openLoops, uncut };
}

interface Piece {
  readonly geometry: PartGeometry | undefined;
  readonly caps: readonly Cap[];
  readonly openLoops: number;
}

type Cutter = (body: Body) => Piece | undefined;

function planeCutter(plane: Plane, frame: ViewFrame): Cutter {
  return (body) => {
    const result = cutPart(body.geometry, planeInPart(plane, body));
    const g = result.geometry;
    const loops = g ? result.loops.map((l) => inView(g, l.vertices, body, frame)) : [];
    return { geometry: g, openLoops: result.openLoops, caps: loops.length ? [{ component: body.component, areaMm2: result.areaMm2, loops }] : [] };
  };
}

function shapedCutter(bodies: readonly Body[], plane: Plane, shape: CutShape, solids: SolidPort | undefined, frame: ViewFrame): Cutter {
  if (!solids) throw new RangeError('A shaped cut needs a solid port.');
  const reach = 4 * sceneDiagonal(bodies) + Math.abs(plane.d) + 10 + farthest(bodies);
  const { tool, planes } = cutTool(shape, plane, frame, reach);
  return (body) => {
    const cut = cutWithTool(body.geometry, toolInPart(tool, body.placement), solids);
    if (!cut) return undefined;
    const g = cut.geometry;
    if (!g || g === body.geometry) return { geometry: g, caps: [], openLoops: 0 };
    const walls = new Uint8Array(g.faceKind.length);
    if (shape.kind !== 'local') for (let f = 0; f < tool.normals.length; f++) if (!planes.has(f)) walls[cut.firstCap + f] = 1;
    const caps = [...planes].flatMap((f): Cap[] => {
      const rings = boundaryOf(g, cut.firstCap + f);
      if (rings.length === 0) return [];
      const loops = rings.map((r) => inView(g, r, body, frame));
      return [{ component: body.component, areaMm2: areaOfFace(g, cut.firstCap + f), loops }];
    });
    return { geometry: { ...g, walls }, caps, openLoops: 0 };
  };
}

function farthest(bodies: readonly Body[]): number {
  return bodies.reduce((m, b) => Math.max(m, Math.hypot(b.placement[3]!, b.placement[7]!, b.placement[11]!) + Math.max(...b.geometry.box.map(Math.abs))), 0);
}

function withoutBackground(g: PartGeometry, body: Body, plane: Plane, behindMm: number): PartGeometry | undefined {
  const n = plane.normal;
  const back: Plane = { normal: [-n[0], -n[1], -n[2]], d: Math.max(behindMm, SLICE_MM) - plane.d };
  return cutPart(g, planeInPart(back, body)).geometry;
}

function inView(g: PartGeometry, vertices: readonly number[], body: Body, frame: ViewFrame): Float64Array {
  const xy = new Float64Array(vertices.length * 2);
  vertices.forEach((v, i) => {
    const p = applyToPoint(body.placement, [g.positions[v * 3]!, g.positions[v * 3 + 1]!, g.positions[v * 3 + 2]!]);
    xy[i * 2] = dot(p, frame.right);
    xy[i * 2 + 1] = dot(p, frame.up);
  });
  return xy;
}

/** Closed rings of vertices around the triangles of a face. */
function boundaryOf(g: PartGeometry, face: number): number[][] {
  const next = new Map<number, number[]>();
  const open = new Set<string>();
  for (let t = 0; t < g.triangleFace.length; t++) {
    if (g.triangleFace[t] !== face) continue;
    for (let k = 0; k < 3; k++) {
      const [a, b] = [g.triangles[t * 3 + k]!, g.triangles[t * 3 + ((k + 1) % 3)]!];
      if (!open.delete(`${b},${a}`)) open.add(`${a},${b}`);
    }
  }
  for (const s of open) {
    const [a, b] = s.split(',').map(Number) as [number, number];
    next.set(a, [...(next.get(a) ?? []), b]);
  }
  const rings: number[][] = [];
  for (const [start, list] of next)
    while (list.length) {
      const ring = [start];
      let at = list.pop()!;
      while (at !== start) {
        ring.push(at);
        const on = next.get(at)?.pop();
        if (on === undefined) break;
        at = on;
      }
      rings.push(ring);
    }
  return rings;
}

function areaOfFace(g: PartGeometry, face: number): number {
  let area = 0;
  const p = g.positions;
  for (let t = 0; t < g.triangleFace.length; t++) {
    if (g.triangleFace[t] !== face) continue;
    const [a, b, c] = [g.triangles[t * 3]! * 3, g.triangles[t * 3 + 1]! * 3, g.triangles[t * 3 + 2]! * 3];
    const u: Vec3 = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const v: Vec3 = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    area += length(cross(u, v)) / 2;
  }
  return area;
}

/** The plane in the part's own frame. */
function planeInPart(plane: Plane, body: Body): Plane {
  const m = body.placement;
  const n = plane.normal;
  const normal: Vec3 = [m[0]! * n[0] + m[4]! * n[1] + m[8]! * n[2], m[1]! * n[0] + m[5]! * n[1] + m[9]! * n[2], m[2]! * n[0] + m[6]! * n[1] + m[10]! * n[2]];
  return { normal, d: plane.d - (n[0] * m[3]! + n[1] * m[7]! + n[2] * m[11]!) };
}

/** Axis of rotation of a part: the axis that most of its turned surface belongs to. */
export interface TurnedAxis {
  readonly point: Vec3;
  readonly axis: Vec3;
  /** Share of the part's mesh area that is turned about it, 0…1, planes square to it included. */
  readonly share: number;
}

/** The axis of a turned part in model space, or undefined when it has none. */
export function turnedAxis(body: Body): TurnedAxis | undefined {
  const g = body.geometry;
  const areas = new Float64Array(g.faceKind.length);
  const p = g.positions;
  for (let t = 0; t < g.triangleFace.length; t++) {
    const [a, b, c] = [g.triangles[t * 3]! * 3, g.triangles[t * 3 + 1]! * 3, g.triangles[t * 3 + 2]! * 3];
    const u: Vec3 = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const v: Vec3 = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    areas[g.triangleFace[t]!]! += Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
  }
  const total = areas.reduce((s, a) => s + a, 0);
  const groups: { point: Vec3; axis: Vec3; area: number }[] = [];
  const tolerance = 1e-3 * Math.cbrt(Math.max(1, g.volumeMm3));
  const params = (f: number) => {
    const o = f * FACE_STRIDE;
    return {
      point: [g.faceParams[o]!, g.faceParams[o + 1]!, g.faceParams[o + 2]!] as Vec3,
      axis: [g.faceParams[o + 3]!, g.faceParams[o + 4]!, g.faceParams[o + 5]!] as Vec3,
    };
  };
  for (let f = 0; f < g.faceKind.length; f++) {
    const kind = g.faceKind[f];
    if (kind !== SurfaceKind.cylinder && kind !== SurfaceKind.cone && kind !== SurfaceKind.torus) continue;
    const { point, axis } = params(f);
    const same = groups.find((x) => Math.abs(Math.abs(dot(x.axis, axis)) - 1) < 1e-6 && distanceToLine(point, x.point, x.axis) < tolerance);
    if (same) same.area += areas[f]!;
    else groups.push({ point, axis, area: areas[f]! });
  }
  const best = groups.sort((a, b) => b.area - a.area)[0];
  if (!best) return undefined;
  let square = 0;
  for (let f = 0; f < g.faceKind.length; f++)
    if (g.faceKind[f] === SurfaceKind.plane && Math.abs(Math.abs(dot(params(f).axis, best.axis)) - 1) < 1e-6) square += areas[f]!;
  return {
    point: applyToPoint(body.placement, best.point),
    axis: applyToDirection(body.placement, best.axis),
    share: (best.area + square) / total,
  };
}

/** Distance of a point from a line, mm. `axis` is a unit vector. */
export function distanceToLine(p: Vec3, point: Vec3, axis: Vec3): number {
  const d: Vec3 = [p[0] - point[0], p[1] - point[1], p[2] - point[2]];
  const along = dot(d, axis);
  return Math.sqrt(Math.max(0, dot(d, d) - along * along));
}
