import type { Vec2 } from '$core/base/vector';
import type { ViewRecord } from '$core/document/records';
import { drawNote } from '$elements/note/draw';
import type { NoteRecord } from '$elements/note/words';
import { pickedLines, targetsAt } from '$elements/pick-target';
import type { Target } from '$elements/target';
import { componentNear } from '$elements/view/kind';
import type { Drawing } from '$lib/shared/drawing.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';
import { viewUnder } from '../../view/face/under';

interface Pointed {
  readonly view: ViewRecord;
  readonly leader: NonNullable<NoteRecord['leaders']>[number];
}

/** Notes: a press on an edge or inside a part begins a leader, the next one says where the text stands; on empty paper it stands free. */
export class NoteTool implements Tool {
  readonly aims = true;
  private begun = $state.raw<Pointed | undefined>(undefined);
  private at = $state.raw<Press | undefined>(undefined);
  private placing = false;
  private readonly drawing: Drawing;
  private readonly done: (record: NoteRecord) => void;
  readonly name: string;
  /** What it says before someone writes. */
  private readonly text: string;

  constructor(drawing: Drawing, name: string, text: string, done: (record: NoteRecord) => void) {
    [this.drawing, this.name, this.text, this.done] = [drawing, name, text, done];
  }

  private pointedAt(p: Press): Pointed | undefined {
    const { drawing } = this;
    const view = viewUnder(drawing, p.at);
    if (!view) return undefined;
    const [edge] = targetsAt(drawing.scene, view, p.at, p.grace).filter(pickedLines);
    const at = drawing.scene.map(view).toView(p.at);
    if (edge) return { view, leader: { to: { ...edge, at: edge.at ?? at }, end: 'arrow' } };
    const component = componentNear(view, p.at, drawing.scene, p.grace);
    const path = component === undefined ? undefined : drawing.components[component]?.path;
    // Inside a part the leader ends with a dot on it.
    return path === undefined ? undefined : { view, leader: { to: { at, of: path } as Target, end: 'dot' } };
  }

  down(p: Press): boolean {
    this.at = p;
    if (!this.begun) {
      this.begun = this.pointedAt(p);
      if (this.begun) return true;
      if (this.text) return false;
    }
    this.placing = true;
    return true;
  }

  /** The text goes where the press ends: what comes after has the pointer for itself. */
  up(p: Press): void {
    if (!this.placing) return;
    this.placing = false;
    const record = this.noteAt(p.at, this.drawing.freshId('note'));
    this.drawing.edit('Note', [{ op: 'put', record }]);
    this.drawing.select({ kind: 'record', id: record.id });
    this.begun = undefined;
    this.done(record);
  }

  private noteAt(at: Vec2, id: string): NoteRecord {
    const { begun, drawing } = this;
    const text = this.text || 'Note';
    if (!begun) return { type: 'note', id, view: null, sheet: drawing.sheetId, at, text };
    const { view, leader } = begun;
    return { type: 'note', id, view: view.id, sheet: null, at: [at[0] - view.at[0], at[1] - view.at[1]], text, leaders: [leader] };
  }

  move(p: Press): void {
    this.at = p;
  }

  cancel(): boolean {
    const busy = this.begun !== undefined;
    this.begun = undefined;
    this.placing = false;
    return busy;
  }

  sketches(): readonly Sketch[] {
    const { begun, at, drawing } = this;
    if (!at) return [];
    if (begun) return [{ kind: 'items', items: drawNote(this.noteAt(at.at, 'note:planned'), drawing.scene).flatMap((d) => d.items), id: 'note' }];
    const pointed = this.pointedAt(at);
    const tip = pointed?.leader.to.at;
    return pointed && tip ? [{ kind: 'ring', at: drawing.scene.map(pointed.view).toPaper(tip), id: 'target' }] : [];
  }
}
