import type { Vec2 } from '$core/base/vector';
import type { DrawingDocumentRecord } from '$core/document/records';
import { removed } from '$elements/remove';
import { copiesOf, movedToSheet, withBelongings } from '$elements/copy';
import { isElement, kindOf } from '$elements/kinds';
import { addSheet, blankLike } from '$elements/sheet/sheets';
import type { Drawing } from '../shared/drawing.svelte';
import { notify } from '../shared/notices.svelte';

/** A copy on the same sheet stands beside what it was made of, mm. */
const BESIDE_MM = 8;

const counted = (n: number) => (n === 1 ? 'element' : `${n} elements`);

/** Elements that were copied or cut, and what is done with them. */
export class Clipboard {
  private records: readonly DrawingDocumentRecord[] = $state.raw([]);
  /** How many of them were chosen; what belongs to them comes along. */
  private chosen = 0;
  /** Sheet that they stood on. */
  private from = '';
  private times = 0;
  private readonly drawing: Drawing;

  constructor(drawing: Drawing) {
    this.drawing = drawing;
  }

  get empty(): boolean {
    return this.records.length === 0;
  }

  /** Elements that can be copied: not sheets, which are duplicated. */
  get taken(): readonly string[] {
    return this.drawing.chosen.filter((id) => this.drawing.document[id]?.type !== 'sheet');
  }

  copy(): void {
    const { drawing, taken } = this;
    if (!taken.length) return;
    this.records = withBelongings(drawing.scene, taken);
    this.chosen = taken.length;
    this.from = drawing.sheetId;
    this.times = 0;
  }

  cut(): void {
    const { drawing, taken } = this;
    if (!taken.length) return;
    this.copy();
    // Pasted on its own sheet it stands where it stood.
    this.times = -1;
    drawing.edit(`Cut ${counted(taken.length)}`, removed(drawing.scene, taken));
  }

  /** Puts copies on the open sheet. @param view that takes balloons and marks whose own view is not copied */
  paste(view?: string): void {
    this.times++;
    const off = this.from === this.drawing.sheetId ? this.times * BESIDE_MM : 0;
    this.put('Paste', this.records, this.chosen, [off, off], view);
  }

  /** Copies of what is selected, beside it. */
  duplicate(): void {
    const { taken } = this;
    this.put('Duplicate', withBelongings(this.drawing.scene, taken), taken.length, [BESIDE_MM, BESIDE_MM]);
  }

  private put(label: string, records: readonly DrawingDocumentRecord[], chosen: number, by: Vec2, view?: string): void {
    const { drawing } = this;
    if (!records.length) return;
    const own = records.flatMap((r) => ('view' in r && r.view !== null ? [r.view] : [])).find((v) => drawing.document[v]);
    const copies = copiesOf(drawing.scene, records, { sheet: drawing.sheetId, view: view ?? own, by, freshId: (base) => drawing.freshId(base) });
    if (!copies.length) {
      notify('trouble', 'What was copied belongs to a view. Select the view that it shall belong to, then paste.');
      return;
    }
    const ids = new Set(copies.map((c) => c.id));
    const alone = (r: DrawingDocumentRecord) => !('view' in r) || r.view === null || !ids.has(r.view);
    // Each kind knows how it is moved; views are already where they go.
    const all = drawing.scene.with({ ...drawing.document, ...Object.fromEntries(copies.map((c) => [c.id, c])) });
    const moved = (r: DrawingDocumentRecord): DrawingDocumentRecord =>
      r.type === 'view' || !alone(r) || !isElement(r) || !(by[0] || by[1])
        ? r
        : ((kindOf(r).drag?.(r, by, all) ?? []).flatMap((s) => (s.op === 'put' && s.record.id === r.id ? [s.record] : []))[0] ?? r);
    const put = copies.map(moved);
    drawing.edit(
      `${label} ${counted(chosen)}`,
      put.map((record) => ({ op: 'put', record })),
    );
    drawing.choose(put.filter(alone).map((c) => c.id));
  }

  /** Moves what is selected, or some elements, to another sheet; without one to a new sheet after the open one. */
  moveTo(sheet: string | undefined, ids: readonly string[] = this.taken): void {
    const { drawing } = this;
    const open = drawing.scene.one('sheet', drawing.sheetId);
    if (!open) return;
    const to = sheet ?? drawing.freshId('sheet');
    const before = sheet === undefined ? addSheet(drawing.scene, to, open.id, blankLike(open)) : [];
    const steps = movedToSheet(drawing.scene, ids, to);
    if (!steps.length) {
      if (to !== open.id) notify('trouble', 'Only views and lists stand on a sheet by themselves: select the view.');
      return;
    }
    const number = drawing.sheets.findIndex((s) => s.id === to) + 1;
    drawing.edit(number ? `Move to sheet ${number}` : 'Move to a new sheet', [...before, ...steps]);
    drawing.sheetId = to;
    drawing.choose(ids.filter((id) => drawing.scene.one('view', id) ?? drawing.scene.one('list', id)));
  }
}
