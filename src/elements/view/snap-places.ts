import type { Vec2 } from '../../core/base/vector.ts';
import { ARC_STRIDE } from '../../core/outline/linework.ts';
import type { ViewResult } from '../../core/views/compute-view.ts';

/** Coordinates that lines drawn on a view go through: centres of circles, the middle of the view. View space, model mm. */
export interface SnapPlaces {
  readonly x: Float64Array;
  readonly y: Float64Array;
}

const known = new WeakMap<ViewResult, SnapPlaces>();

export function snapPlacesOf(result: ViewResult): SnapPlaces {
  let places = known.get(result);
  if (!places) {
    const x = new Set<number>();
    const y = new Set<number>();
    const { arc } = result.lines;
    for (let i = 0; i < arc.length; i += ARC_STRIDE)
      if (arc[i + 2]! > 0) {
        x.add(arc[i]!);
        y.add(arc[i + 1]!);
      }
    x.add((result.box[0] + result.box[2]) / 2);
    y.add((result.box[1] + result.box[3]) / 2);
    places = { x: Float64Array.from(x), y: Float64Array.from(y) };
    known.set(result, places);
  }
  return places;
}

/** The nearest of some coordinates within reach, else the value itself. */
export function snapValue(list: Float64Array | undefined, v: number, reach: number): number {
  let best = v;
  let least = reach;
  for (const c of list ?? [])
    if (Math.abs(c - v) < least) {
      least = Math.abs(c - v);
      best = c;
    }
  return best;
}

/** A place brought onto centres in either direction. */
export const snapPlace = (result: ViewResult | undefined, [x, y]: Vec2, reach: number): Vec2 => {
  const places = result && snapPlacesOf(result);
  return [snapValue(places?.x, x, reach), snapValue(places?.y, y, reach)];
};
