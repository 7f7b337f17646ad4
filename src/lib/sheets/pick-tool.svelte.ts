import { contains, rectOf } from '$core/base/rect';
import type { Vec2 } from '$core/base/vector';
import type { DrawingDocument, DrawingDocumentRecord } from '$core/document/records';
import { applySteps, type Step } from '$core/document/steps';
import type { Drawn } from '$core/picture/display-list';
import { isElement, kindOf, type ElementRecord } from '$elements/kinds';
import { homeOf, Scene } from '$elements/scene';
import type { Drawing } from '../shared/drawing.svelte';
import type { Press, Sketch, Tool } from './tool';

interface Drag {
  readonly record: ElementRecord;
  /** Part of it that is dragged; undefined: all of it. */
  readonly handle?: string;
  readonly from: Vec2;
  readonly by: Vec2;
  /** It went farther than a press does by itself. */
  readonly moved: boolean;
}

/** Selects, and drags what is selected. */
export class PickTool implements Tool {
  readonly name = 'pick';
  readonly aims = false;
  private drag = $state.raw<Drag | undefined>(undefined);
  private readonly drawing: Drawing;

  constructor(drawing: Drawing) {
    this.drawing = drawing;
  }

  /** The steps that the drag in hand would make. */
  readonly steps: readonly Step[] = $derived.by(() => {
    const d = this.drag;
    return d?.moved ? (kindOf(d.record).drag?.(d.record, d.by, this.drawing.scene, d.handle) ?? []) : [];
  });

  /** Pictures of the open sheet as they would be after the drag: moved, or drawn anew. */
  readonly preview: ReadonlyMap<string, { readonly shift: Vec2 } | { readonly drawn: readonly Drawn[] }> = $derived.by(() => this.previewOf(this.steps));

  get dragging(): boolean {
    return this.drag?.moved ?? false;
  }

  /** The element that is selected, if it is on the open sheet. */
  get selected(): ElementRecord | undefined {
    const { selection: s, document, scene, sheetId } = this.drawing;
    const id = s.kind === 'record' ? s.id : s.kind === 'item' ? s.view : undefined;
    const r = id === undefined ? undefined : document[id];
    return r && isElement(r) && scene.sheetOf(r)?.id === sheetId ? r : undefined;
  }

  down(p: Press): boolean {
    const { drawing } = this;
    const selected = this.selected;
    for (const h of selected ? (kindOf(selected).handles?.(selected, drawing.scene) ?? []) : [])
      if (Math.hypot(h.at[0] - p.at[0], h.at[1] - p.at[1]) < 2 * p.grace) {
        this.drag = { record: selected!, handle: h.name, from: p.at, by: [0, 0], moved: false };
        return true;
      }
    const record = this.elementAt(p.at);
    if (!record) return false;
    const kind = kindOf(record);
    const pressed = kind.press?.(record, p.at, drawing.scene, p.grace);
    if (record.type === 'sheet' && !pressed) return false;
    drawing.select(pressed ?? { kind: 'record', id: record.id });
    if (kind.drag) this.drag = { record, from: p.at, by: [0, 0], moved: false };
    return true;
  }

  move(p: Press): void {
    const d = this.drag;
    if (!d) return;
    const by: Vec2 = [p.at[0] - d.from[0], p.at[1] - d.from[1]];
    this.drag = { ...d, by, moved: d.moved || Math.hypot(...by) > p.grace / 2 };
  }

  up(): void {
    const { steps, drag } = this;
    this.drag = undefined;
    // A press without a move is no edit.
    if (drag && steps.length) this.drawing.edit(`${drag.handle ? 'Change' : 'Move'} ${kindOf(drag.record).title}`, steps);
  }

  cancel(): boolean {
    const busy = this.drag !== undefined;
    this.drag = undefined;
    return busy;
  }

  /** The arrow keys move what is selected; while a key is held it is one edit. @returns false when nothing is selected that moves */
  nudge(by: Vec2): boolean {
    const record = this.drag?.record ?? this.selected;
    if (!record || !kindOf(record).drag) return false;
    const before = this.drag?.by ?? [0, 0];
    this.drag = { record, from: [0, 0], by: [before[0] + by[0], before[1] + by[1]], moved: true };
    return true;
  }

  sketches(): readonly Sketch[] {
    const selected = this.selected;
    if (!selected || selected.type === 'sheet') return [];
    const now = this.afterDrag(selected.id);
    const { record, scene } = now ?? { record: selected, scene: this.drawing.scene };
    return (kindOf(record).handles?.(record, scene) ?? []).map((h): Sketch => ({ kind: 'ring', at: h.at, id: h.name }));
  }

  private elementAt(at: Vec2): ElementRecord | undefined {
    const { drawing } = this;
    const hit = drawing.picture?.groups.findLast((g) => g.role !== 'frame' && contains(g.grab ?? rectOf(g.box), at));
    if (!hit) return undefined;
    const record = hit.role === 'title' ? drawing.document[drawing.sheetId] : drawing.document[hit.id.split('/')[0]!];
    return record && isElement(record) ? record : undefined;
  }

  private afterDrag(id: string): { readonly record: ElementRecord; readonly scene: Scene } | undefined {
    if (this.steps.length === 0) return undefined;
    const scene = this.sceneAfter;
    const record = scene?.document[id];
    return scene && record && isElement(record) ? { record, scene } : undefined;
  }

  private readonly sceneAfter: Scene | undefined = $derived.by(() => {
    const { drawing, steps } = this;
    const result = steps.length ? applySteps(drawing.document, steps) : undefined;
    return result?.ok ? new Scene({ document: result.document, assembly: drawing.assembly, results: drawing.results }) : undefined;
  });

  private previewOf(steps: readonly Step[]): ReadonlyMap<string, { readonly shift: Vec2 } | { readonly drawn: readonly Drawn[] }> {
    const out = new Map<string, { readonly shift: Vec2 } | { readonly drawn: readonly Drawn[] }>();
    const scene = this.sceneAfter;
    if (!scene) return out;
    const { document } = this.drawing;
    const shifts = new Map<string, Vec2>();
    for (const s of steps) {
      if (s.op !== 'put') continue;
      const shift = onlyMoved(document[s.record.id], s.record);
      if (shift) shifts.set(s.record.id, shift);
      else if (isElement(s.record)) out.set(s.record.id, { drawn: kindOf(s.record).draw(s.record, scene) });
    }
    // What belongs to a view goes with it.
    for (const g of this.drawing.picture?.groups ?? []) {
      const shift = shiftOf(document, g.id, shifts);
      if (shift && !out.has(g.id)) out.set(g.id, { shift });
    }
    return out;
  }
}

/** How far a view went, when nothing else about it changed: its lines need not be drawn again. */
function onlyMoved(before: DrawingDocumentRecord | undefined, after: DrawingDocumentRecord): Vec2 | undefined {
  if (before?.type !== 'view' || after.type !== 'view') return undefined;
  const rest = Object.keys({ ...before, ...after }).every((k) => k === 'at' || before[k as keyof typeof before] === after[k as keyof typeof after]);
  return rest ? [after.at[0] - before.at[0], after.at[1] - before.at[1]] : undefined;
}

function shiftOf(document: DrawingDocument, id: string, shifts: ReadonlyMap<string, Vec2>): Vec2 | undefined {
  for (let at: string | undefined = id.split('/')[0]; at !== undefined;) {
    const shift = shifts.get(at);
    if (shift) return shift;
    const record: DrawingDocumentRecord | undefined = document[at];
    at = record && homeOf(record);
  }
  return undefined;
}
