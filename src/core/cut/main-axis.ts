import { applyToPoint } from '../base/placement.ts';
import { dot, scale, subtract, type Vec3 } from '../base/vector.ts';
import { sideFrame, type DirectionName, type ViewFrame } from '../outline/directions.ts';
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

interface Axis {
  readonly point: Vec3;
  readonly axis: Vec3;
}

/** Axes that turned material shares, the one with most of it first. */
function sharedAxes(bodies: readonly Body[]): Axis[] {
  const groups: (Axis & { weight: number })[] = [];
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
  return groups.sort((a, b) => b.weight - a.weight);
}

/** So many axes are asked. */
const MOST_AXES = 6;
/** A cut through an axis that meets less than this share of what another cut meets shows too little. */
const ENOUGH = 0.5;

/**
 * A plane for a full section: through the axis that most turned parts share, as far as it opens enough of the assembly;
 * else through its middle. It looks at the reader from the front, the right or above, as the drawing means it.
 */
export function suggestSection(bodies: readonly Body[], front: ViewFrame): SectionSuggestion {
  // The plan has the front below: its height is the depth.
  const [, minY, , maxY] = viewBox(bodies, sideFrame(front, 'top'));
  const middle: SectionSuggestion = {
    plane: { normal: front.toward, d: -(minY + maxY) / 2 },
    direction: 'front',
    why: 'Through the middle: no axis is shared.',
  };
  const through = sharedAxes(bodies)
    .slice(0, MOST_AXES)
    .flatMap((axis) => planeThrough(axis, front) ?? []);
  const most = Math.max(...[middle, ...through].map((c) => metVolume(bodies, c.plane)));
  return through.find((c) => metVolume(bodies, c.plane) >= ENOUGH * most) ?? middle;
}

function planeThrough({ point, axis }: Axis, front: ViewFrame): SectionSuggestion | undefined {
  for (const direction of ['front', 'right', 'top'] as const) {
    const n = sideFrame(front, direction).toward;
    if (Math.abs(dot(n, axis)) > 0.02) continue;
    // Square to the axis, as near to the named direction as can be.
    const normal = subtract(n, scale(axis, dot(n, axis)));
    const l = Math.hypot(...normal);
    const unit: Vec3 = [normal[0] / l, normal[1] / l, normal[2] / l];
    return { plane: { normal: unit, d: dot(unit, point) }, direction, why: 'Through the axis that most turned parts share.' };
  }
  return undefined;
}

/** Volume of the bodies whose boxes a plane runs through, mm³. */
function metVolume(bodies: readonly Body[], plane: Plane): number {
  return bodies.reduce((sum, b) => {
    const box = b.geometry.box;
    let [low, high] = [Infinity, -Infinity];
    for (let k = 0; k < 8; k++) {
      const d = dot(plane.normal, applyToPoint(b.placement, [box[k & 1 ? 3 : 0]!, box[k & 2 ? 4 : 1]!, box[k & 4 ? 5 : 2]!]));
      low = Math.min(low, d);
      high = Math.max(high, d);
    }
    return low < plane.d && high > plane.d ? sum + b.geometry.volumeMm3 : sum;
  }, 0);
}
