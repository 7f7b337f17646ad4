import { FACE_STRIDE, SurfaceKind } from '../assembly/part-geometry.ts';
import { applyToDirection, applyToPoint } from '../base/placement.ts';
import { dot, type Vec3 } from '../base/vector.ts';
import type { ViewFrame } from '../outline/directions.ts';
import type { Body } from '../outline/scene.ts';
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
}

/**
 * Cuts a scene with a plane in model space.
 * @param keptWhole components that stay uncut (and whole, also in front of the plane)
 */
export function cutScene(bodies: readonly Body[], plane: Plane, keptWhole: ReadonlySet<number>, frame: ViewFrame): CutScene {
  const out: Body[] = [];
  const caps: Cap[] = [];
  let openLoops = 0;
  for (const body of bodies) {
    if (keptWhole.has(body.component)) {
      out.push(body);
      continue;
    }
    const result = cutPart(body.geometry, planeInPart(plane, body));
    openLoops += result.openLoops;
    if (!result.geometry) continue;
    out.push({ ...body, geometry: result.geometry });
    if (result.loops.length === 0) continue;
    const g = result.geometry;
    caps.push({
      component: body.component,
      areaMm2: result.areaMm2,
      loops: result.loops.map((l) => {
        const xy = new Float64Array(l.vertices.length * 2);
        l.vertices.forEach((v, i) => {
          const p = applyToPoint(body.placement, [g.positions[v * 3]!, g.positions[v * 3 + 1]!, g.positions[v * 3 + 2]!]);
          xy[i * 2] = dot(p, frame.right);
          xy[i * 2 + 1] = dot(p, frame.up);
        });
        return xy;
      }),
    });
  }
  return { bodies: out, caps, openLoops };
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
