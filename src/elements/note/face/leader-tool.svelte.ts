import { pickedLines, targetsAt } from '$elements/pick-target';
import type { Drawing } from '$lib/shared/drawing.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';

/** One more leader from the note or sign that is selected: it goes to what is pressed. */
export class LeaderTool implements Tool {
  readonly name = 'note-leader';
  readonly aims = true;
  private at = $state.raw<Press | undefined>(undefined);
  private readonly drawing: Drawing;
  private readonly done: () => void;

  constructor(drawing: Drawing, done: () => void) {
    [this.drawing, this.done] = [drawing, done];
  }

  private get target() {
    const { at, drawing } = this;
    const [only] = drawing.chosen;
    const from = drawing.scene.one('note', only) ?? drawing.scene.one('sign', only);
    const view = drawing.scene.one('view', from?.view);
    const [target] = at && view ? targetsAt(drawing.scene, view, at.at, at.grace).filter(pickedLines) : [];
    return at && from && view && target ? { from, view, to: { ...target, at: target.at ?? drawing.scene.map(view).toView(at.at) } } : undefined;
  }

  down(p: Press): boolean {
    this.at = p;
    const { target, drawing } = this;
    if (!target) return false;
    const { from, to } = target;
    const end = from.leaders?.[0]?.end ?? 'arrow';
    drawing.edit('Leader', [{ op: 'put', record: { ...from, leaders: [...(from.leaders ?? []), { to, end: end === 'dot' ? 'arrow' : end }] } }]);
    this.done();
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
    const { target, drawing } = this;
    return target?.to.at ? [{ kind: 'ring', at: drawing.scene.map(target.view).toPaper(target.to.at), id: 'target' }] : [];
  }
}
