import { rectOf, type Rect } from '$core/base/rect';
import type { Vec2 } from '$core/base/vector';
import type { ViewRecord } from '$core/document/records';
import { viewRect } from '$elements/view/draw';
import { boxFromParts } from '$elements/view/extent';
import { frontOf } from '$core/document/front';
import { nameOfFrame } from '$core/outline/directions';
import { neighbour, projectedFrame, wayOutTo, type WayOut } from '$elements/view/neighbour';
import { ghostOf } from './ghost';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';
import { viewNear } from './view-near';

/** Pulls a neighbour out of a view: over a side what is seen from there, over a corner a pictorial. */
export class ProjectTool implements Tool {
  readonly name = 'project';
  readonly aims = true;
  private parent = $state.raw<ViewRecord | undefined>(undefined);
  private at = $state.raw<Vec2 | undefined>(undefined);
  private readonly drawing: Drawing;
  private readonly done: () => void;

  constructor(drawing: Drawing, done: () => void) {
    this.drawing = drawing;
    this.done = done;
  }

  down(p: Press): boolean {
    const { selection, scene } = this.drawing;
    const chosen = selection.kind === 'record' ? scene.one('view', selection.id) : undefined;
    this.parent = (chosen?.sheet === this.drawing.sheetId ? chosen : undefined) ?? viewNear(this.drawing, p.at);
    this.at = p.at;
    if (!this.parent) notify('trouble', 'Begin at a view: press it and pull its neighbour out.');
    return true;
  }

  move(p: Press): void {
    if (this.parent) this.at = p.at;
  }

  up(): void {
    const { parent, planned, drawing } = this;
    this.cancel();
    if (!parent) return;
    if (!planned) {
      notify('trouble', 'Pull farther: over a side of the view for a neighbour, over a corner for a pictorial.');
      return;
    }
    const record = { ...planned.record, id: drawing.freshId('view:neighbour') };
    drawing.edit(`Add view ${record.name}`, [{ op: 'put', record }]);
    // The next one can be pulled out of the same view.
    drawing.select({ kind: 'record', id: parent.id });
    this.done();
  }

  cancel(): boolean {
    const busy = this.parent !== undefined;
    [this.parent, this.at] = [undefined, undefined];
    return busy;
  }

  /** The view that would be made, and the room it takes. */
  private get planned(): { readonly record: ViewRecord; readonly rect: Rect } | undefined {
    const { parent, at } = this;
    const { scene } = this.drawing;
    if (!parent || !at) return undefined;
    const way: WayOut | undefined = wayOutTo(rectOf(viewRect(parent, scene.result(parent.id))), at);
    if (!way) return undefined;
    const seen = scene.seenAs(parent);
    const name = nameOfFrame(projectedFrame(seen, way, scene.drawing.standard), frontOf(scene.document));
    const record = neighbour(scene, parent, way, at, 'view:planned', name);
    const [x0, y0, x1, y1] = boxFromParts(scene, record, record);
    return { record, rect: rectOf(viewRect(record, { box: [x0, y0, x1, y1] })) };
  }

  sketches(): readonly Sketch[] {
    const { planned } = this;
    return planned ? ghostOf(this.drawing.scene, planned.record, planned.rect) : [];
  }
}
