import type { Vec2 } from '$core/base/vector';
import type { ViewRecord } from '$core/document/records';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';
import { viewNear } from './view-near';
import type { Sections } from './sections.svelte';

/** The view that a line is drawn on: the one it began at, else the nearest. */
const viewFor = (drawing: Drawing, sections: Sections, at: Vec2): ViewRecord | undefined => sections.view ?? viewNear(drawing, at);

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
