import { HIDDEN, LineClass } from '../outline/linework.ts';
import type { ViewResult } from './compute-view.ts';

/** A place on a visible edge. View space, model mm. */
export interface EdgePlace {
  readonly component: number;
  readonly x: number;
  readonly y: number;
  /** Distance from the point asked for. */
  readonly distance: number;
}

/** The nearest visible edge to a point, of any component or of the given one; undefined when there is none. */
export function nearestEdge(view: ViewResult, x: number, y: number, only?: number): EdgePlace | undefined {
  const { lines } = view;
  let best: EdgePlace | undefined;
  for (let i = 0; i < lines.kind.length; i++) {
    const kind = lines.kind[i]!;
    if (kind & HIDDEN || kind === LineClass.tangent || (only !== undefined && lines.component[i] !== only)) continue;
    for (let p = lines.start[i]! * 2; p < lines.start[i + 1]! * 2 - 2; p += 2) {
      const [ax, ay] = [lines.xy[p]!, lines.xy[p + 1]!];
      const [dx, dy] = [lines.xy[p + 2]! - ax, lines.xy[p + 3]! - ay];
      const l2 = dx * dx + dy * dy;
      const t = l2 > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / l2)) : 0;
      const distance = Math.hypot(x - ax - dx * t, y - ay - dy * t);
      if (!best || distance < best.distance) best = { component: lines.component[i]!, x: ax + dx * t, y: ay + dy * t, distance };
    }
  }
  return best;
}
