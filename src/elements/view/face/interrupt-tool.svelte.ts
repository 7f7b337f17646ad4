import type { Vec2 } from '$core/base/vector';
import type { ViewRecord } from '$core/document/records';
import type { Gap } from '$core/views/outline';
import { GAP_MM } from '$core/views/view-map';
import { shortens } from '$elements/view/interrupt';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';
import { viewNear } from './view-near';

/** Leaves a stretch of a view out: pressed where it begins, let go where it ends. */
export class InterruptTool implements Tool {
  readonly name = 'interrupt';
  readonly aims = true;
  private view = $state.raw<ViewRecord | undefined>(undefined);
  private from = $state.raw<Vec2 | undefined>(undefined);
  private to = $state.raw<Vec2 | undefined>(undefined);
  private readonly drawing: Drawing;
  private readonly done: () => void;

  constructor(drawing: Drawing, done: () => void) {
    this.drawing = drawing;
    this.done = done;
  }

  down(p: Press): boolean {
    this.view = viewNear(this.drawing, p.at);
    this.from = this.view && this.drawing.scene.map(this.view).toView(p.at);
    this.to = this.from;
    if (!this.view) notify('trouble', 'Begin at a view: near it or on it.');
    return true;
  }

  move(p: Press): void {
    if (this.view) this.to = this.drawing.scene.map(this.view).toView(p.at);
  }

  up(): void {
    const { view, gap } = this;
    this.cancel();
    if (!view) return;
    if (!gap || !shortens(gap, view.scale, view.gapMm)) {
      notify('trouble', `Press where the gap begins, pull along the view, and let go where it ends: more than ${view.gapMm ?? GAP_MM} mm on paper.`);
      return;
    }
    this.drawing.edit('Interrupt the view', [{ op: 'put', record: { ...view, gaps: [...(view.gaps ?? []), gap] } }]);
    this.drawing.select({ kind: 'record', id: view.id });
    this.done();
  }

  cancel(): boolean {
    const busy = this.view !== undefined;
    [this.view, this.from, this.to] = [undefined, undefined, undefined];
    return busy;
  }

  private get gap(): Gap | undefined {
    const { from, to } = this;
    if (!from || !to) return undefined;
    const k = Math.abs(to[0] - from[0]) >= Math.abs(to[1] - from[1]) ? 0 : 1;
    const [a, b] = [from[k], to[k]];
    return a === b ? undefined : { axis: k ? 'y' : 'x', from: Math.min(a, b), to: Math.max(a, b) };
  }

  sketches(): readonly Sketch[] {
    const { view, gap } = this;
    const box = view && this.drawing.scene.result(view.id)?.box;
    if (!view || !gap || !box) return [];
    const map = this.drawing.scene.map(view);
    const past = 4 / view.scale;
    return [gap.from, gap.to].map((v): Sketch => {
      const ends: [Vec2, Vec2] =
        gap.axis === 'x'
          ? [
              [v, box[1] - past],
              [v, box[3] + past],
            ]
          : [
              [box[0] - past, v],
              [box[2] + past, v],
            ];
      return { kind: 'line', points: ends.map((q) => map.toPaper(q)), look: 'outline', id: 'gap' };
    });
  }
}
