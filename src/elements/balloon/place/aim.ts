import type { Vec2 } from '../../../core/base/vector.ts';
import { componentAt, type ViewResult } from '../../../core/views/compute-view.ts';
import { nearestEdge, type EdgePlace } from '../../../core/views/nearest-edge.ts';

export type LeaderEnd = 'arrow' | 'dot';

/**
 * Where a leader that is dragged to a point ends: a dot on the face that is there, an arrow on the nearest edge of what is
 * there; beside everything both take the nearest edge.
 */
export function aimedAt(view: ViewResult, at: Vec2, end: LeaderEnd): EdgePlace | undefined {
  const hit = componentAt(view, at[0], at[1]);
  if (hit >= 0 && end === 'dot') return { component: hit, x: at[0], y: at[1], distance: 0 };
  return nearestEdge(view, at[0], at[1], hit >= 0 ? hit : undefined);
}
