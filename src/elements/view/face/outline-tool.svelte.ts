import { distance2, type Vec2 } from '$core/base/vector';
import simplify from 'simplify-js';
import type { ViewRecord } from '$core/document/records';
import { ringOf, type Outline } from '$core/views/outline';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';
import OutlinePanel from './OutlinePanel.svelte';
import { viewNear } from './view-near';

/** How an outline is drawn: around a centre, from corner to corner, corner by corner, or in one stroke. */
export type OutlineWay = 'circle' | 'box' | 'corners' | 'stroke';

/** What an outline is drawn for. */
export interface OutlinePurpose {
  /** Of the tool. */
  readonly name: string;
  readonly title: string;
  /** What the panel says while nothing is drawn. */
  readonly hint: string;
  readonly way: OutlineWay;
  /** A sentence when this view cannot have it. */
  refuses?(view: ViewRecord): string | undefined;
  make(view: ViewRecord, outline: Outline, at?: Vec2): void;
  /** What is made stands on the sheet: it can be put there by hand. @returns its box about the origin, paper mm */
  sizeOf?(view: ViewRecord, outline: Outline): Vec2;
}

/** Points of a stroke keep this distance on paper, mm. */
const STROKE_STEP_MM = 1.2;
/** The stroke that is kept runs this near to the one that was drawn, mm on paper. */
const STROKE_OFF_MM = 0.4;
/** An outline that encloses less on paper is a slip of the hand, mm². */
const LEAST_MM2 = 9;

/** Draws a closed outline on a view. */
export class OutlineTool implements Tool {
  readonly name: string;
  readonly aims = true;
  readonly panel = OutlinePanel;
  readonly purpose: OutlinePurpose;
  way = $state<OutlineWay>('circle');
  private view = $state.raw<ViewRecord | undefined>(undefined);
  /** Places so far, view space; the last one is under the pointer while it moves. */
  private points = $state.raw<readonly Vec2[]>([]);
  private next = $state.raw<Vec2 | undefined>(undefined);
  private pressed = false;
  /** What is made is put where the next press is, instead of where there is room. */
  byHand = $state(false);
  /** The outline that waits for its place, and where the pointer is, paper mm. */
  private waiting = $state.raw<{ readonly view: ViewRecord; readonly outline: Outline; readonly at: Vec2 | undefined } | undefined>(undefined);
  private readonly drawing: Drawing;
  private readonly done: () => void;

  /** @param done is called when the outline is made */
  constructor(drawing: Drawing, purpose: OutlinePurpose, done: () => void) {
    this.drawing = drawing;
    this.purpose = purpose;
    this.name = purpose.name;
    this.way = purpose.way;
    this.done = done;
  }

  down(p: Press): boolean {
    if (this.waiting) {
      this.waiting = { ...this.waiting, at: p.at };
      return true;
    }
    const view = this.view ?? viewNear(this.drawing, p.at);
    const wrong = view ? this.purpose.refuses?.(view) : 'Begin at a view: near it or on it.';
    if (!view || wrong) {
      notify('trouble', wrong!);
      return true;
    }
    this.view = view;
    const at = this.drawing.scene.map(view).toView(p.at);
    this.pressed = true;
    if (this.way !== 'corners') {
      this.points = [at];
      this.next = at;
      return true;
    }
    const near = (q: Vec2 | undefined) => q !== undefined && distance2(q, at) * view.scale < p.grace;
    if (this.points.length > 2 && (near(this.points[0]) || near(this.points.at(-1)))) this.finish();
    else this.points = [...this.points, at];
    return true;
  }

  move(p: Press): void {
    if (this.waiting) this.waiting = { ...this.waiting, at: p.at };
    const { view } = this;
    if (!view) return;
    const at = this.drawing.scene.map(view).toView(p.at);
    this.next = at;
    const last = this.points.at(-1);
    if (this.pressed && this.way === 'stroke' && last && distance2(last, at) * view.scale >= STROKE_STEP_MM) this.points = [...this.points, at];
  }

  up(): void {
    const { waiting } = this;
    if (waiting) {
      this.waiting = undefined;
      this.purpose.make(waiting.view, waiting.outline, waiting.at);
      this.done();
      return;
    }
    if (!this.pressed) return;
    this.pressed = false;
    if (this.way !== 'corners') this.finish();
  }

  finish(): void {
    const { view } = this;
    const outline = this.outline();
    if (!view) return;
    this.clear();
    if (!outline || areaOf(outline) * view.scale * view.scale < LEAST_MM2) {
      notify('trouble', this.way === 'corners' ? 'An outline needs three corners or more around some area.' : 'Press, draw the outline, and let go.');
      return;
    }
    if (this.byHand && this.purpose.sizeOf) this.waiting = { view, outline, at: undefined };
    else {
      this.purpose.make(view, outline);
      this.done();
    }
  }

  cancel(): boolean {
    const busy = this.points.length > 0 || this.waiting !== undefined;
    this.waiting = undefined;
    // Corners are taken back one by one.
    if (this.way === 'corners' && this.points.length > 1 && !this.pressed) this.points = this.points.slice(0, -1);
    else this.clear();
    return busy;
  }

  private clear(): void {
    this.view = undefined;
    this.points = [];
    this.next = undefined;
    this.pressed = false;
  }

  private outline(): Outline | undefined {
    const { points, next } = this;
    const [first] = points;
    if (!first) return undefined;
    switch (this.way) {
      case 'circle':
        return next && distance2(first, next) > 0 ? { kind: 'circle', at: first, radius: distance2(first, next) } : undefined;
      case 'box':
        return next ? { kind: 'box', from: first, to: next } : undefined;
      default:
        return points.length > 2 ? { kind: 'free', points: this.way === 'stroke' ? this.smoothed(points) : points } : undefined;
    }
  }

  /** A stroke with as few corners as it takes: each can be pulled later. */
  private smoothed(points: readonly Vec2[]): Vec2[] {
    const tolerance = STROKE_OFF_MM / (this.view?.scale ?? 1);
    return simplify(
      points.map(([x, y]) => ({ x, y })),
      tolerance,
      true,
    ).map((p): Vec2 => [p.x, p.y]);
  }

  /** It waits for the press that says where it goes. */
  get places(): boolean {
    return this.waiting !== undefined;
  }

  sketches(): readonly Sketch[] {
    const { waiting } = this;
    if (waiting) {
      const size = this.purpose.sizeOf?.(waiting.view, waiting.outline);
      if (!size || !waiting.at) return [];
      const [x, y] = waiting.at;
      const [w, h] = [size[0] / 2, size[1] / 2];
      const corners: Vec2[] = [
        [x - w, y - h],
        [x + w, y - h],
        [x + w, y + h],
        [x - w, y + h],
        [x - w, y - h],
      ];
      return [{ kind: 'line', points: corners, look: 'outline', id: 'place' }];
    }
    const { view, points, next } = this;
    if (!view || !points.length) return [];
    const map = this.drawing.scene.map(view);
    if (this.way === 'corners' || this.way === 'stroke') {
      const all = this.way === 'corners' && next ? [...points, next] : points;
      const line: Sketch = { kind: 'line', points: [...all, all[0]!].map((q) => map.toPaper(q)), look: 'outline', id: 'outline' };
      return [line, ...(this.way === 'corners' ? points.map((q): Sketch => ({ kind: 'ring', at: map.toPaper(q) })) : [])];
    }
    const outline = this.outline();
    if (!outline) return [];
    if (outline.kind === 'circle') return [{ kind: 'circle', at: map.toPaper(outline.at), radius: outline.radius * view.scale, id: 'outline' }];
    const ring = ringOf(outline);
    const corners = Array.from({ length: ring.length / 2 + 1 }, (_, i) => map.toPaper([ring[(2 * i) % ring.length]!, ring[(2 * i + 1) % ring.length]!]));
    return [{ kind: 'line', points: corners, look: 'outline', id: 'outline' }];
  }
}

function areaOf(outline: Outline): number {
  const r = ringOf(outline);
  let sum = 0;
  for (let i = 0, j = r.length - 2; i < r.length; j = i, i += 2) sum += r[j]! * r[i + 1]! - r[i]! * r[j + 1]!;
  return Math.abs(sum) / 2;
}
