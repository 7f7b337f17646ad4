import { contains } from '$core/base/rect';
import type { ViewRecord } from '$core/document/records';
import { removed } from '$elements/remove';
import { ALL_FACES } from '$elements/faces';
import { elementsOn } from '$elements/compose';
import { isElement, kindOf, type ElementRecord } from '$elements/kinds';
import { Sections } from '$elements/view/face/sections.svelte';
import type { Action } from '../shared/action';
import type { Drawing } from '../shared/drawing.svelte';
import { notify } from '../shared/notices.svelte';
import { PickTool } from './pick-tool.svelte';
import { Clipboard } from './clipboard.svelte';
import type { Menu } from './menu';
import type { Press, Tool } from './tool';

/** What the shelf, the keys and the quick bar share. */
export class Tools {
  /** The tool in hand. */
  current: Tool = $state.raw(undefined!);
  quickBar = $state(false);
  /** Print and files are open. */
  print = $state(false);
  /** The sheet formats are open. */
  formats = $state(false);
  /** The recipes are open. */
  recipes = $state(false);
  ledger = $state(true);
  slip = $state(true);
  fit: () => void = () => {};
  zoomBy: (factor: number) => void = () => {};
  readonly pick: PickTool;
  readonly sections: Sections;
  readonly clipboard: Clipboard;
  private readonly byName: ReadonlyMap<string, Tool>;
  private readonly drawing: Drawing;

  constructor(drawing: Drawing) {
    this.drawing = drawing;
    this.pick = new PickTool(drawing, (tool, p) => {
      this.take(tool);
      this.current.down(p);
    });
    this.clipboard = new Clipboard(drawing);
    this.sections = new Sections(drawing, () => this.take('pick'));
    this.current = this.pick;
    this.byName = new Map([this.pick, ...ALL_FACES.flatMap((f) => f.tools?.(drawing, this) ?? [])].map((t) => [t.name, t]));
  }

  get tool(): string {
    return this.current.name;
  }

  /** A tool, whether it is in hand or not. */
  byNameOf(name: string): Tool | undefined {
    return this.byName.get(name);
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
  action(name: string, text: Pick<Action, 'label' | 'short' | 'key' | 'group'>): Action {
    const on = this.tool === name;
    return { id: name, ...text, shelf: true, on, run: () => this.take(on && name !== 'pick' ? 'pick' : name) };
  }

  /** Removes what is selected, with what hangs on it. */
  remove(): void {
    const { drawing } = this;
    const ids = drawing.chosen.filter((id) => drawing.document[id] && isElement(drawing.document[id]));
    const [first] = ids;
    if (first === undefined) return;
    const sheets = ids.filter((id) => drawing.document[id]?.type === 'sheet');
    if (sheets.length === drawing.sheets.length) {
      notify('trouble', 'A drawing has at least one sheet: add another one first.');
      return;
    }
    const record = drawing.document[first] as ElementRecord;
    drawing.edit(`Remove ${ids.length > 1 ? `${ids.length} elements` : kindOf(record).title}`, removed(drawing.scene, ids));
    drawing.select({ kind: 'none' });
  }

  /** Selects all elements of the open sheet that are wanted. */
  selectWhere(wanted: (r: ElementRecord) => boolean): void {
    const { scene, sheetId } = this.drawing;
    this.drawing.choose(elementsOn(scene, sheetId).flatMap((r) => (r.type !== 'sheet' && wanted(r) ? [r.id] : [])));
  }

  /** Text that is being changed where it stands. */
  editing = $state.raw<{ readonly record: string; readonly name: string } | undefined>(undefined);

  /** Opens the text at a place, if there is one that can be changed. */
  editAt(p: Press): boolean {
    const record = this.pick.elementAt(p.at);
    const text =
      record &&
      kindOf(record)
        .texts?.(record, this.drawing.scene)
        .find((t) => contains(t.box, p.at));
    if (!record || !text) return false;
    this.editing = { record: record.id, name: text.name };
    return true;
  }

  /** Opens the first text of what is selected: of an item its first cell on this sheet, of the title block the field. */
  editSelected(): boolean {
    const { scene, selection: s, sheetId } = this.drawing;
    const holders =
      s.kind === 'field' ? [scene.one('sheet', sheetId)] : s.kind === 'item' ? scene.all('list').filter((l) => l.sheet === sheetId) : [this.pick.selected];
    for (const record of holders as readonly (ElementRecord | undefined)[]) {
      const texts = record ? (kindOf(record).texts?.(record, scene) ?? []) : [];
      const text = texts.find((t) => (s.kind === 'field' ? t.name === s.field : s.kind === 'item' ? t.name.startsWith(`${s.part}/`) : true));
      if (!record || !text) continue;
      this.editing = { record: record.id, name: text.name };
      return true;
    }
    return false;
  }

  /** The sheet that what is dragged would be moved to: its thumbnail is under the pointer. */
  dropOn = $state<string | undefined>(undefined);

  /** What is offered for a place, where the menu stands in pixels of the window. */
  menu = $state.raw<{ readonly x: number; readonly y: number; readonly of: Menu } | undefined>(undefined);
}
