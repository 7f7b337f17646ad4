import { contains, overlaps, pointToSegment, rectOf, type Rect } from '$core/base/rect';
import type { Vec2 } from '$core/base/vector';
import type { DrawingDocument, DrawingDocumentRecord } from '$core/document/records';
import { applySteps, type Step } from '$core/document/steps';
import { joined } from '$core/picture/ink';
import type { Drawn } from '$core/picture/display-list';
import { elementsOn } from '$elements/compose';
import { marksAll } from '$elements/centre/toggle';
import { isElement, kindOf, type ElementRecord } from '$elements/kinds';
import { homeOf, type Scene } from '$elements/scene';
import { snapLinesOn, snapped, type Guide, type SnapLines } from '$elements/snap';
import { boxOf, movedTogether } from '$elements/together';
import type { Pressed } from '$elements/kind';
import type { Drawing } from '../shared/drawing.svelte';
import type { Selection } from '../shared/selection';
import type { Press, Sketch, Tool } from './tool';

interface Drag {
  /** Elements that are dragged. */
  readonly records: readonly ElementRecord[];
  /** Part of the one that is dragged; undefined: all of it. */
  readonly handle?: string;
  readonly from: Vec2;
  readonly by: Vec2;
  /** It went farther than a press does by itself. */
  readonly moved: boolean;
  readonly guides: readonly Guide[];
  /** What it is brought into line with, found when the drag begins. */
  readonly snap?: { readonly box: Rect; readonly lines: SnapLines; readonly middleOnly: boolean } | undefined;
}

/** A window that is being drawn on empty paper. */
interface Window {
  readonly from: Vec2;
  readonly to: Vec2;
  readonly add: boolean;
  readonly touches: boolean;
}

/** Pixels within which a drag is brought into line; a press has six of grace. */
const REACH = 1;

/** A line is taken hold of this near to it, paper mm. */
const LINE_MM = 1;

/** Selects, and drags what is selected. */
export class PickTool implements Tool {
  readonly name = 'pick';
  readonly aims = false;
  private drag = $state.raw<Drag | undefined>(undefined);
  private window = $state.raw<Window | undefined>(undefined);
  private readonly drawing: Drawing;

  private readonly begin: (tool: string, p: Press) => void;

  /** @param begin hands a press over to another tool */
  constructor(drawing: Drawing, begin: (tool: string, p: Press) => void = () => {}) {
    this.drawing = drawing;
    this.begin = begin;
  }

  /** The steps that the drag in hand would make. */
  readonly steps: readonly Step[] = $derived.by(() => {
    const d = this.drag;
    const [first] = d?.records ?? [];
    if (!d?.moved || !first) return [];
    const { scene } = this.drawing;
    return d.handle
      ? (kindOf(first).drag?.(first, d.by, scene, d.handle) ?? [])
      : movedTogether(
          scene,
          d.records.map((r) => r.id),
          d.by,
        );
  });

  /** Pictures of the open sheet as they would be after the drag: moved, or drawn anew. */
  readonly preview: ReadonlyMap<string, { readonly shift: Vec2 } | { readonly drawn: readonly Drawn[] }> = $derived.by(() => this.previewOf(this.steps));

  get dragging(): boolean {
    return this.drag?.moved ?? false;
  }

  /** Views and lists that are being dragged: they can be dropped on another sheet. */
  get dragged(): readonly string[] {
    const d = this.drag;
    return d?.moved && !d.handle ? d.records.filter((r) => r.type === 'view' || r.type === 'list').map((r) => r.id) : [];
  }

  /** The element that is selected alone, if it is on the open sheet. */
  get selected(): ElementRecord | undefined {
    const { selection: s } = this.drawing;
    return s.kind === 'record' ? this.here(s.id) : undefined;
  }

  /** All elements of the open sheet that are selected. */
  get chosen(): readonly ElementRecord[] {
    const { selected, drawing } = this;
    return selected ? [selected] : drawing.chosen.flatMap((id) => this.here(id) ?? []);
  }

  private here(id: string): ElementRecord | undefined {
    const { document, scene, sheetId } = this.drawing;
    const r = document[id];
    return r && isElement(r) && scene.sheetOf(r)?.id === sheetId ? r : undefined;
  }

  down(p: Press): boolean {
    const { drawing } = this;
    const selected = this.selected;
    for (const h of selected ? (kindOf(selected).handles?.(selected, drawing.scene) ?? []) : [])
      if (Math.hypot(h.at[0] - p.at[0], h.at[1] - p.at[1]) < 2 * p.grace) {
        this.drag = { records: [selected!], handle: h.name, from: p.at, by: [0, 0], moved: false, guides: [] };
        return true;
      }
    for (const k of selected ? (kindOf(selected).knobs?.(selected, drawing.scene) ?? []) : [])
      if (Math.hypot(k.at[0] - p.at[0], k.at[1] - p.at[1]) < 1.5 * p.grace) {
        this.begin(k.tool, p);
        return true;
      }
    const record = this.elementAt(p.at);
    const pressed = record && kindOf(record).press?.(record, p.at, drawing.scene, p.grace);
    if (!record || (record.type === 'sheet' && !pressed)) {
      if (p.finger) return false;
      this.window = { from: p.at, to: p.at, add: p.add ?? false, touches: p.free ?? false };
      return true;
    }
    const chosen = this.chosen.map((r) => r.id);
    if (p.add && record.type !== 'sheet') {
      drawing.choose(chosen.includes(record.id) ? chosen.filter((id) => id !== record.id) : [...chosen, record.id]);
      return true;
    }
    // What is pressed in a choice of several moves them all.
    const several = drawing.selection.kind === 'records' && chosen.includes(record.id);
    if (!several) drawing.select(this.meant(record, pressed));
    const records = several ? this.chosen : [record];
    if (records.some((r) => kindOf(r).drag ?? r.type === 'list')) this.drag = { records, from: p.at, by: [0, 0], moved: false, guides: [] };
    return true;
  }

  /** What a press selects: in a view first the view, then, pressed again, the component. What is framed is what keys act on. */
  private meant(record: ElementRecord, pressed: Pressed | undefined): Selection {
    const { selection: s } = this.drawing;
    const inView = (s.kind === 'record' && s.id === record.id) || (s.kind === 'item' && s.view === record.id);
    return pressed && (record.type !== 'view' || inView) ? pressed : { kind: 'record', id: record.id };
  }

  move(p: Press): void {
    if (this.window) this.window = { ...this.window, to: p.at, touches: p.free ?? false };
    const d = this.drag;
    if (!d) return;
    const by: Vec2 = [p.at[0] - d.from[0], p.at[1] - d.from[1]];
    const moved = d.moved || Math.hypot(...by) > p.grace / 2;
    if (!moved || d.handle || p.free) {
      this.drag = { ...d, by, moved, guides: [] };
      return;
    }
    const snap = d.snap ?? this.snapOf(d.records);
    const to = snap ? snapped(snap.box, by, snap.lines, snap.middleOnly, REACH * p.grace) : { by, guides: [] };
    this.drag = { ...d, snap, by: to.by, guides: to.guides, moved };
  }

  /** What a drag of these is brought into line with: all that does not go along. */
  private snapOf(records: readonly ElementRecord[]): Drag['snap'] {
    const { scene, sheetId } = this.drawing;
    const boxes = records.flatMap((r) => boxOf(scene, r) ?? []);
    const [first] = records;
    if (!first || !boxes.length) return undefined;
    const box = joined(boxes);
    const ids = records.map((r) => r.id);
    const along = movedTogether(scene, ids, [1, 1]).flatMap((s) => (s.op === 'put' ? [s.record.id] : []));
    const lines = snapLinesOn(scene, sheetId, first, new Set([...ids, ...along]));
    return { box, lines, middleOnly: records.length === 1 && first.type === 'balloon' };
  }

  up(): void {
    const { steps, drag, window } = this;
    this.drag = undefined;
    this.window = undefined;
    if (window) {
      const ids = this.inWindow(window);
      this.drawing.choose(window.add ? [...new Set([...this.chosen.map((r) => r.id), ...ids])] : ids);
    }
    const [first] = drag?.records ?? [];
    // A press without a move is no edit; on one of several it takes this one alone.
    if (!drag || !first) return;
    const what = drag.records.length > 1 ? `${drag.records.length} elements` : kindOf(first).title;
    if (steps.length) this.drawing.edit(`${drag.handle ? 'Change' : 'Move'} ${what}`, steps);
    else if (!drag.moved && drag.records.length > 1) {
      const record = this.elementAt(drag.from);
      if (record) this.drawing.choose([record.id]);
    }
  }

  /** Elements that lie in a window, or that it touches. */
  private inWindow(w: Window): string[] {
    const { scene, sheetId } = this.drawing;
    const box = boxBetween(w.from, w.to);
    if (box.width === 0 && box.height === 0) return [];
    return elementsOn(scene, sheetId).flatMap((r) => {
      // Marks of all circles go with their view.
      if (r.type === 'sheet' || (r.type === 'centre' && marksAll(r))) return [];
      const b = boxOf(scene, r);
      if (!b) return [];
      const inside = b.x >= box.x && b.y >= box.y && b.x + b.width <= box.x + box.width && b.y + b.height <= box.y + box.height;
      return inside || (w.touches && overlaps(b, box)) ? [r.id] : [];
    });
  }

  cancel(): boolean {
    const busy = this.drag !== undefined || this.window !== undefined;
    this.drag = undefined;
    this.window = undefined;
    return busy;
  }

  /** The arrow keys move what is selected; while a key is held it is one edit. @returns false when nothing is selected that moves */
  nudge(by: Vec2): boolean {
    const records = this.drag?.records ?? this.chosen;
    if (!records.some((r) => kindOf(r).drag)) return false;
    const before = this.drag?.by ?? [0, 0];
    this.drag = { records, from: [0, 0], by: [before[0] + by[0], before[1] + by[1]], moved: true, guides: [] };
    return true;
  }

  sketches(): readonly Sketch[] {
    const { window, drag, chosen } = this;
    if (window) return [{ kind: 'window', box: boxBetween(window.from, window.to), touches: window.touches }];
    const guides = (drag?.guides ?? []).map((points): Sketch => ({ kind: 'line', points, look: 'guide', id: 'guide' }));
    const [selected] = chosen;
    if (chosen.length !== 1 || !selected || selected.type === 'sheet') return guides;
    const now = this.afterDrag(selected.id);
    const { record, scene } = now ?? { record: selected, scene: this.drawing.scene };
    const knobs = drag ? [] : (kindOf(record).knobs?.(record, scene) ?? []);
    return [
      ...guides,
      ...knobs.map((k): Sketch => ({ kind: 'knob', at: k.at, way: k.way, id: k.name })),
      ...(kindOf(record).handles?.(record, scene) ?? []).map((h): Sketch => ({ kind: 'ring', at: h.at, id: h.name })),
      ...(kindOf(record).signs?.(record, scene) ?? []).map((s): Sketch => ({ kind: 'text', at: s.at, text: s.text })),
    ];
  }

  /** The element that a press at a place means; the sheet for its title block. */
  elementAt(at: Vec2): ElementRecord | undefined {
    const { drawing } = this;
    const hit = drawing.picture?.groups.findLast(
      (g) => g.role !== 'frame' && (contains(g.grab ?? rectOf(g.box), at) || (g.grabLines?.some((l) => pointToSegment(...at, ...l) < LINE_MM) ?? false)),
    );
    if (!hit) return undefined;
    // What stands on the sheet's format has no record here: the sheet answers for it.
    const record = drawing.document[hit.id.split('/')[0]!] ?? drawing.document[drawing.sheetId];
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
    return result?.ok ? drawing.scene.with(result.document) : undefined;
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

const boxBetween = (a: Vec2, b: Vec2): Rect => ({
  x: Math.min(a[0], b[0]),
  y: Math.min(a[1], b[1]),
  width: Math.abs(a[0] - b[0]),
  height: Math.abs(a[1] - b[1]),
});

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
