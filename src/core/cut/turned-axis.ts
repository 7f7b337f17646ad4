import { faceAreas } from '../assembly/face-areas.ts';
import { FACE_STRIDE, SurfaceKind } from '../assembly/part-geometry.ts';
import { applyToDirection, applyToPoint } from '../base/placement.ts';
import { dot, type Vec3 } from '../base/vector.ts';
import type { Body } from '../outline/scene.ts';

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
