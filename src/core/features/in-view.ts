import type { Component } from '../assembly/assembly.ts';
import { combine, IDENTITY, type Placement } from '../base/placement.ts';
import { motionsOf } from '../explode/spread.ts';
import type { ViewFrame } from '../outline/directions.ts';
import type { ViewSpec } from '../views/view-spec.ts';

/** The placement from the model into the axes of a view: x right, y up, z towards the reader; mm. */
export const intoView = ({ right, up, toward }: ViewFrame): Placement => [...right, 0, ...up, 0, ...toward, 0];

/** Where each component is in a view's axes, pulls made. */
export function placesInView(spec: ViewSpec, components: readonly Component[]): Placement[] {
  const frame = intoView(spec.frame);
  const motions = spec.spread ? motionsOf(spec.spread.pulls, components.length) : undefined;
  return components.map((c) => {
    if (spec.laid) return frame;
    const motion = motions?.[c.index] ?? IDENTITY;
    return combine(frame, motion === IDENTITY ? c.placement : combine(motion, c.placement));
  });
}
