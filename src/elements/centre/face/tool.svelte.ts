import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';
import type { ViewRecord } from '../../../core/document/records';
import type { Circle } from '../circles';
import { viewUnder } from '../../view/face/under';
import { circleAt, toggleCircle } from '../toggle';

/** Marks the circle that is pressed; pressed again the mark is off. */
export class CentreTool implements Tool {
  readonly name = 'centre';
  readonly aims = true;
  private next = $state.raw<{ readonly view: ViewRecord; readonly circle: Circle } | undefined>(undefined);
  private readonly drawing: Drawing;

  constructor(drawing: Drawing) {
    this.drawing = drawing;
  }

  private under(p: Press) {
    const view = viewUnder(this.drawing, p.at);
    const circle = view && circleAt(this.drawing.scene, view, p.at, p.grace);
    return view && circle ? { view, circle } : undefined;
  }

  down(p: Press): boolean {
    const { drawing } = this;
    const found = this.under(p);
    if (!found) return false;
    const steps = toggleCircle(drawing.scene, found.view, found.circle, drawing.freshId('centre'));
    if (steps) drawing.edit('Centre mark', steps);
    else notify('trouble', 'This part is cut here: its circles are marked all together, or in a view that does not cut it.');
    return true;
  }

  move(p: Press): void {
    this.next = this.under(p);
  }

  up(): void {}

  cancel(): boolean {
    this.next = undefined;
    return false;
  }

  sketches(): readonly Sketch[] {
    if (!this.next) return [];
    const { view, circle } = this.next;
    const map = this.drawing.scene.map(view);
    return [{ kind: 'circle', at: map.toPaper([circle.x, circle.y]), radius: circle.radius * map.scale, id: 'circle' }];
  }
}
