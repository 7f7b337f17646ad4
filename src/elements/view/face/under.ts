import type { Drawing } from '$lib/shared/drawing.svelte';
import { contains, rectOf } from '../../../core/base/rect';
import type { Vec2 } from '../../../core/base/vector';
import type { ViewRecord } from '../../../core/document/records';

/** The view at a place on the open sheet, the topmost one. */
export function viewUnder(drawing: Drawing, at: Vec2): ViewRecord | undefined {
  const group = drawing.picture?.groups.findLast((g) => g.role === 'view' && contains(g.grab ?? rectOf(g.box), at));
  return drawing.scene.one('view', group?.id);
}
