import type { ViewRecord } from '$core/document/records';
import { dropWithDependants } from '$core/document/steps';
import { ALL_FACES } from '$elements/faces';
import { isElement, kindOf } from '$elements/kinds';
import { Sections } from '$elements/view/face/sections.svelte';
import type { Action } from '../shared/action';
import type { Drawing } from '../shared/drawing.svelte';
import { notify } from '../shared/notices.svelte';
import { PickTool } from './pick-tool.svelte';
import type { Tool } from './tool';

/** What the shelf, the keys and the quick bar share. */
export class Tools {
  /** The tool in hand. */
  current: Tool = $state.raw(undefined!);
  quickBar = $state(false);
  ledger = $state(true);
  slip = $state(true);
  fit: () => void = () => {};
  zoomBy: (factor: number) => void = () => {};
  readonly pick: PickTool;
  readonly sections: Sections;
  private readonly byName: ReadonlyMap<string, Tool>;
  private readonly drawing: Drawing;

  constructor(drawing: Drawing) {
    this.drawing = drawing;
    this.pick = new PickTool(drawing);
    this.sections = new Sections(drawing, () => this.take('pick'));
    this.current = this.pick;
    this.byName = new Map([this.pick, ...ALL_FACES.flatMap((f) => f.tools?.(drawing, this) ?? [])].map((t) => [t.name, t]));
  }

  get tool(): string {
    return this.current.name;
  }

  /** The view that is selected, or that an item was selected in. */
  get activeView(): ViewRecord | undefined {
    const s = this.drawing.selection;
    return this.drawing.scene.one('view', s.kind === 'record' ? s.id : s.kind === 'item' ? s.view : undefined);
  }

  /** Steps back: what is being done, then the tool, then the selection. */
  stepBack(): void {
    if (this.current.cancel()) return;
    if (this.current !== this.pick) this.take('pick');
    else this.drawing.select({ kind: 'none' });
  }

  /** Takes a tool in hand, or puts it back when it is in hand already. */
  take(name: string): void {
    this.sections.clear();
    this.current = this.byName.get(name) ?? this.pick;
  }

  /** The action that takes a tool in hand and puts it back. */
  action(name: string, text: Pick<Action, 'label' | 'short' | 'key'>): Action {
    const on = this.tool === name;
    return { id: name, ...text, shelf: true, on, run: () => this.take(on && name !== 'pick' ? 'pick' : name) };
  }

  /** Removes what is selected, with what hangs on it. */
  remove(): void {
    const s = this.drawing.selection;
    if (s.kind !== 'record') return;
    const r = this.drawing.document[s.id];
    if (!r || !isElement(r)) return;
    if (r.type === 'sheet' && this.drawing.sheets.length === 1) {
      notify('trouble', 'The last sheet stays.');
      return;
    }
    this.drawing.edit(`Remove ${kindOf(r).title}`, dropWithDependants(this.drawing.document, s.id));
    this.drawing.select({ kind: 'none' });
  }
}
