import type { Vec2 } from '../base/vector.ts';
import type { ViewRecord } from '../document/records.ts';

/** The map between a view (model mm, y up) and its sheet (paper mm from the top left corner, y down). There is no other. */
export interface ViewMap {
  /** Paper mm per model mm. */
  readonly scale: number;
  x(viewX: number): number;
  y(viewY: number): number;
  toPaper(at: Vec2): Vec2;
  toView(at: Vec2): Vec2;
}

export function viewMapOf(view: Pick<ViewRecord, 'at' | 'pivot' | 'scale'>): ViewMap {
  const { at, pivot, scale } = view;
  const x = (v: number) => at[0] + (v - pivot[0]) * scale;
  const y = (v: number) => at[1] - (v - pivot[1]) * scale;
  return {
    scale,
    x,
    y,
    toPaper: (p) => [x(p[0]), y(p[1])],
    toView: (p) => [pivot[0] + (p[0] - at[0]) / scale, pivot[1] - (p[1] - at[1]) / scale],
  };
}
