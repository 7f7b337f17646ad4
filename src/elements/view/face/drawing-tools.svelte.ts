import { rectOf } from '$core/base/rect';
import type { Vec2 } from '$core/base/vector';
import type { ViewRecord } from '$core/document/records';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';
import type { Sections } from './sections.svelte';

/** A line or an outline may begin this far beside its view, mm. */
const BESIDE_MM = 20;

/** The view that a line is drawn on: the one it began at, else the nearest. */
function viewFor(drawing: Drawing, sections: Sections, [x, y]: Vec2): ViewRecord | undefined {
  if (sections.view) return sections.view;
  let best: { readonly id: string; readonly d: number } | undefined;
  for (const g of drawing.picture?.groups ?? []) {
    if (g.role !== 'view') continue;
    const r = rectOf(g.box);
    const d = Math.hypot(Math.max(0, r.x - x, x - r.x - r.width), Math.max(0, r.y - y, y - r.y - r.height));
    if (d < BESIDE_MM && (!best || d < best.d)) best = { id: g.id, d };
  }
  return drawing.scene.one('view', best?.id);
}

const corners = (drawing: Drawing, sections: Sections, more: readonly Vec2[] = []): Vec2[] => {
  const { view } = sections;
  return view ? [...sections.points, ...more].map((p) => drawing.scene.map(view).toPaper(p)) : [];
};

/** Draws a cutting line corner by corner; pressing the last corner again, or a double press, ends it. */
export class CuttingLineTool implements Tool {
  readonly name = 'section';
  readonly aims = true;
  private readonly drawing: Drawing;
  private readonly sections: Sections;

  constructor(drawing: Drawing, sections: Sections) {
    this.drawing = drawing;
    this.sections = sections;
  }

  down(p: Press): boolean {
    const view = viewFor(this.drawing, this.sections, p.at);
    if (view) this.sections.press(view, this.drawing.scene.map(view).toView(p.at), p.grace / view.scale);
    else notify('trouble', 'Begin at a view: near it or on it.');
    return true;
  }

  move(p: Press): void {
    const view = viewFor(this.drawing, this.sections, p.at);
    if (view) this.sections.hover(view, this.drawing.scene.map(view).toView(p.at), p.grace / view.scale);
  }

  up(): void {}

  finish(): void {
    void this.sections.finish();
  }

  cancel(): boolean {
    return this.sections.stepBack();
  }

  sketches(): readonly Sketch[] {
    const { sections, drawing } = this;
    if (sections.points.length === 0) return [];
    const points = corners(drawing, sections, sections.next ? [sections.next] : []);
    return [{ kind: 'line', points, look: 'cutting', id: 'cutting-line' }, ...corners(drawing, sections).map((at): Sketch => ({ kind: 'ring', at }))];
  }
}

/** Breaks a view out inside an outline that is drawn around it in one go. */
export class BreakTool implements Tool {
  readonly name = 'break';
  readonly aims = true;
  private pressed = false;
  private readonly drawing: Drawing;
  private readonly sections: Sections;

  constructor(drawing: Drawing, sections: Sections) {
    this.drawing = drawing;
    this.sections = sections;
  }

  down(p: Press): boolean {
    const view = viewFor(this.drawing, this.sections, p.at);
    if (!view) notify('trouble', 'Begin at a view: near it or on it.');
    else if (view.cut && view.cut.shape?.kind !== 'local') notify('trouble', 'This view is a section already. Break out of a view that is not cut.');
    else {
      this.sections.clear();
      this.pressed = true;
      this.trace(view, p);
    }
    return true;
  }

  move(p: Press): void {
    if (this.pressed && this.sections.view) this.trace(this.sections.view, p);
  }

  private trace(view: ViewRecord, p: Press): void {
    this.sections.trace(view, this.drawing.scene.map(view).toView(p.at));
  }

  up(): void {
    if (!this.pressed) return;
    this.pressed = false;
    void this.sections.breakOut();
  }

  cancel(): boolean {
    const busy = this.pressed;
    this.pressed = false;
    this.sections.clear();
    return busy;
  }

  sketches(): readonly Sketch[] {
    const points = corners(this.drawing, this.sections);
    return points.length ? [{ kind: 'line', points: [...points, points[0]!], look: 'outline', id: 'cutting-line' }] : [];
  }
}
