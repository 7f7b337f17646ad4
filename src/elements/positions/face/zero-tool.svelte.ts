import { targetsAt } from '$elements/pick-target';
import { holdSketch } from '$elements/view/face/hold-sketch';
import { holdOf } from '$elements/target';
import type { Drawing } from '$lib/shared/drawing.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';

/** The zero of the table that is selected: a point or a circle sets both ways, an upright edge the one across, a level one the one up. */
export class ZeroTool implements Tool {
  readonly name = 'positions-zero';
  readonly aims = true;
  private at = $state.raw<Press | undefined>(undefined);
  private readonly drawing: Drawing;

  constructor(drawing: Drawing) {
    this.drawing = drawing;
  }

  private get picked() {
    const { at, drawing } = this;
    const [only] = drawing.chosen;
    const table = drawing.scene.one('positions', only);
    const view = drawing.scene.one('view', table?.view);
    const [target] = at && view ? targetsAt(drawing.scene, view, at.at, at.grace) : [];
    const hold = target && view && holdOf(drawing.scene, view, target);
    return table && view && target && hold ? { table, view, target, hold } : undefined;
  }

  down(p: Press): boolean {
    this.at = p;
    const { picked, drawing } = this;
    if (!picked) return false;
    const { table, target, hold } = picked;
    const upright = hold.kind === 'line' && Math.abs(hold.way[0]) < 1e-6;
    const level = hold.kind === 'line' && Math.abs(hold.way[1]) < 1e-6;
    drawing.edit('Zero of the positions', [{ op: 'put', record: { ...table, ...(level ? {} : { zeroX: target }), ...(upright ? {} : { zeroY: target }) } }]);
    return true;
  }

  move(p: Press): void {
    this.at = p;
  }

  up(): void {}

  cancel(): boolean {
    return false;
  }

  sketches(): readonly Sketch[] {
    const { picked, drawing } = this;
    if (!picked) return [];
    return [holdSketch(picked.hold, drawing.scene.map(picked.view))];
  }
}
