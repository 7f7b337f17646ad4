import { faceAreas } from '../assembly/face-areas.ts';
import { FACE_STRIDE, SurfaceKind } from '../assembly/part-geometry.ts';
import { applyToDirection, applyToPoint, IDENTITY } from '../base/placement.ts';
import { dot, type Vec3 } from '../base/vector.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import type { Body } from '../outline/scene.ts';
import type { TurnedShape } from './lengthwise.ts';

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
  const areas = faceAreas(g);
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

const shapes = new WeakMap<PartGeometry, TurnedShape | null>();

/** A turned part's axis, width, length and bore in model space; undefined when it has no axis. */
export function turnedShape(body: Body): TurnedShape | undefined {
  let own = shapes.get(body.geometry);
  if (own === undefined) shapes.set(body.geometry, (own = measure(body.geometry) ?? null));
  return own ? { ...own, point: applyToPoint(body.placement, own.point), axis: applyToDirection(body.placement, own.axis) } : undefined;
}

/** In the part's own frame. */
function measure(g: PartGeometry): TurnedShape | undefined {
  const turned = turnedAxis({ component: 0, geometry: g, placement: IDENTITY });
  if (!turned) return undefined;
  const { point, axis, share } = turned;
  const faces = g.faceKind.length;
  const low = new Float64Array(faces).fill(Infinity);
  const high = new Float64Array(faces).fill(-Infinity);
  for (let t = 0; t < g.triangleFace.length; t++) {
    const f = g.triangleFace[t]!;
    for (let k = 0; k < 3; k++) {
      const v = g.triangles[t * 3 + k]! * 3;
      const h = (g.positions[v]! - point[0]) * axis[0] + (g.positions[v + 1]! - point[1]) * axis[1] + (g.positions[v + 2]! - point[2]) * axis[2];
      if (h < low[f]!) low[f] = h;
      if (h > high[f]!) high[f] = h;
    }
  }
  const lengthMm = high.reduce((m, v) => Math.max(m, v), -Infinity) - low.reduce((m, v) => Math.min(m, v), Infinity);
  let radiusMm = 0;
  let boredMm = 0;
  for (let f = 0; f < faces; f++) {
    const kind = g.faceKind[f];
    if (kind !== SurfaceKind.cylinder && kind !== SurfaceKind.cone) continue;
    const o = f * FACE_STRIDE;
    const way: Vec3 = [g.faceParams[o + 3]!, g.faceParams[o + 4]!, g.faceParams[o + 5]!];
    const radius = g.faceParams[o + 6]!;
    if (Math.abs(Math.abs(dot(way, axis)) - 1) > 1e-6) continue;
    if (distanceToLine([g.faceParams[o]!, g.faceParams[o + 1]!, g.faceParams[o + 2]!], point, axis) > 1e-3 + Math.abs(radius) * 0.01) continue;
    // The normals of a hole point to its axis: the fitted radius is negative.
    if (radius > 0) radiusMm = Math.max(radiusMm, radius);
    else if (kind === SurfaceKind.cylinder) boredMm = Math.max(boredMm, high[f]! - low[f]!);
  }
  return { point, axis, share, radiusMm, lengthMm, bored: lengthMm > 0 ? Math.min(1, boredMm / lengthMm) : 0 };
}
