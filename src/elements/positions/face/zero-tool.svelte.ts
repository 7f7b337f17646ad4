import { targetsAt } from '$elements/pick-target';
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
    const map = drawing.scene.map(picked.view);
    const { hold } = picked;
    if (hold.kind === 'line') return [{ kind: 'line', points: hold.ends.map((p) => map.toPaper([p[0], p[1]])), look: 'outline', id: 'target' }];
    return [{ kind: 'ring', at: map.toPaper([hold.at[0], hold.at[1]]), id: 'target' }];
  }
}
