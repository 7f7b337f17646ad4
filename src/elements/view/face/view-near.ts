import { rectOf } from '$core/base/rect';
import type { Vec2 } from '$core/base/vector';
import type { ViewRecord } from '$core/document/records';
import type { Drawing } from '$lib/shared/drawing.svelte';

/** A line or an outline may begin this far beside its view, mm. */
const BESIDE_MM = 20;

/** The view of the open sheet that a place on paper is on or nearest to, if it is near enough to draw on. */
export function viewNear(drawing: Drawing, [x, y]: Vec2): ViewRecord | undefined {
  let best: { readonly id: string; readonly d: number } | undefined;
  for (const g of drawing.picture?.groups ?? []) {
    if (g.role !== 'view') continue;
    const r = rectOf(g.box);
    const d = Math.hypot(Math.max(0, r.x - x, x - r.x - r.width), Math.max(0, r.y - y, y - r.y - r.height));
    if (d < BESIDE_MM && (!best || d < best.d)) best = { id: g.id, d };
  }
  return drawing.scene.one('view', best?.id);
}
