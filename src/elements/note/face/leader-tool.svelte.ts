import { pickedLines, targetsAt } from '$elements/pick-target';
import type { Drawing } from '$lib/shared/drawing.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';

/** One more leader from the note that is selected: it goes to what is pressed. */
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
    const note = drawing.scene.one('note', only);
    const view = drawing.scene.one('view', note?.view);
    const [target] = at && view ? targetsAt(drawing.scene, view, at.at, at.grace).filter(pickedLines) : [];
    return at && note && view && target ? { note, view, to: { ...target, at: target.at ?? drawing.scene.map(view).toView(at.at) } } : undefined;
  }

  down(p: Press): boolean {
    this.at = p;
    const { target, drawing } = this;
    if (!target) return false;
    const { note, to } = target;
    drawing.edit('Leader', [{ op: 'put', record: { ...note, leaders: [...(note.leaders ?? []), { to, end: 'arrow' }] } }]);
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
