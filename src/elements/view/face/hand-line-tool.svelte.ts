import { distance2, type Vec2 } from '$core/base/vector';
import type { ViewRecord } from '$core/document/records';
import { ARC_STRIDE } from '$core/outline/linework';
import { componentNear } from '$elements/view/kind';
import type { HandLine } from '$elements/view/part';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';
import { viewNear } from './view-near';

/** Draws a pull line from one place to another: two presses, each on a component; axes and centres draw it on. */
export class HandLineTool implements Tool {
  readonly name = 'hand-line';
  readonly aims = true;
  private first = $state.raw<{ readonly view: ViewRecord; readonly end: HandLine['from'] } | undefined>(undefined);
  private next = $state.raw<Vec2 | undefined>(undefined);
  private readonly drawing: Drawing;
  private readonly done: () => void;

  constructor(drawing: Drawing, done: () => void) {
    this.drawing = drawing;
    this.done = done;
  }

  /** The centre of a circle near a place, or the place. */
  private place(view: ViewRecord, p: Press): Vec2 {
    const { scene } = this.drawing;
    const at = scene.map(view).toView(p.at);
    const arc = scene.result(view.id)?.lines.arc ?? [];
    let best = at;
    let least = (2 * p.grace) / view.scale;
    for (let i = 0; i < arc.length; i += ARC_STRIDE) {
      const centre: Vec2 = [arc[i]!, arc[i + 1]!];
      const d = arc[i + 2]! > 0 ? distance2(centre, at) : Infinity;
      if (d < least) [best, least] = [centre, d];
    }
    return best;
  }

  down(p: Press): boolean {
    const { drawing, first } = this;
    const { scene } = drawing;
    const view = first?.view ?? viewNear(drawing, p.at);
    const component = view && componentNear(view, p.at, scene, 2 * p.grace);
    if (!view || component === undefined) {
      notify('trouble', 'Press a component: its axis, the centre of a circle, or a face.');
      return true;
    }
    const end = { of: scene.components[component]!.path, at: this.place(view, p) };
    if (!first) {
      this.first = { view, end };
      return true;
    }
    const handLines = [...(view.handLines ?? []), { from: first.end, to: end }];
    drawing.edit('Pull line by hand', [{ op: 'put', record: { ...view, handLines } }]);
    this.cancel();
    this.done();
    return true;
  }

  move(p: Press): void {
    const view = this.first?.view ?? viewNear(this.drawing, p.at);
    this.next = view && this.drawing.scene.map(view).toPaper(this.place(view, p));
  }

  up(): void {}

  cancel(): boolean {
    const busy = this.first !== undefined;
    [this.first, this.next] = [undefined, undefined];
    return busy;
  }

  sketches(): readonly Sketch[] {
    const { first, next } = this;
    const rings: Sketch[] = next ? [{ kind: 'ring', at: next }] : [];
    if (!first || !next) return rings;
    return [{ kind: 'line', points: [this.drawing.scene.map(first.view).toPaper(first.end.at), next], look: 'cutting', id: 'hand-line' }, ...rings];
  }
}
