import { add, dot, scale, subtract, type Vec3 } from '../base/vector.ts';
import { namedFrame, type DirectionName } from '../outline/directions.ts';
import type { Body } from '../outline/scene.ts';
import { viewBox } from '../shade/raster.ts';
import { distanceToLine, turnedAxis } from './turned-axis.ts';
import type { Plane } from './plane-cut.ts';

export interface SectionSuggestion {
  readonly plane: Plane;
  /** The section is seen from here. */
  readonly direction: DirectionName;
  readonly why: string;
}

/** The axis shared by most turned material, if there is one worth a section. */
export function mainAxis(bodies: readonly Body[]): { point: Vec3; axis: Vec3 } | undefined {
  const groups: { point: Vec3; axis: Vec3; weight: number }[] = [];
  const largest = Math.max(...bodies.map((b) => b.geometry.volumeMm3));
  for (const b of bodies) {
    const t = turnedAxis(b);
    if (!t || t.share < 0.3) continue;
    const weight = t.share * Math.cbrt(b.geometry.volumeMm3) ** 2;
    const tolerance = 0.02 * Math.cbrt(largest);
    const same = groups.find((g) => Math.abs(Math.abs(dot(g.axis, t.axis)) - 1) < 1e-4 && distanceToLine(t.point, g.point, g.axis) < tolerance);
    if (same) same.weight += weight;
    else groups.push({ point: t.point, axis: t.axis, weight });
  }
  return groups.sort((a, b) => b.weight - a.weight)[0];
}

/**
 * Where to put a full section: through the main axis, seen square to it; without one, through the middle from the front.
 * Front is preferred, then right, then top.
 */
export function suggestSection(bodies: readonly Body[]): SectionSuggestion {
  const axis = mainAxis(bodies);
  if (axis) {
    for (const direction of ['front', 'right', 'top'] as const) {
      const n = namedFrame(direction).toward;
      if (Math.abs(dot(n, axis.axis)) > 0.02) continue;
      // Square to the axis, as near to the named direction as can be.
      const normal = subtract(n, scale(axis.axis, dot(n, axis.axis)));
      const l = Math.hypot(...normal);
      const unit: Vec3 = [normal[0] / l, normal[1] / l, normal[2] / l];
      return { plane: { normal: unit, d: dot(unit, axis.point) }, direction, why: 'Through the axis that most turned parts share.' };
    }
  }
  const [minX, minY, maxX, maxY] = viewBox(bodies, namedFrame('top'));
  const centre = add([minX, minY, 0], scale([maxX - minX, maxY - minY, 0], 0.5));
  const normal = namedFrame('front').toward;
  return { plane: { normal, d: dot(normal, centre) }, direction: 'front', why: 'Through the middle: no axis is shared.' };
}
