import type { Rect } from '$core/base/rect';
import type { Vec2 } from '$core/base/vector';
import { identified, itemsInWindow } from '$elements/balloon/place/add';
import { viewUnder } from '$elements/view/face/under';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';

const LEAST_MM = 3;

/** A window dragged over a view: whatever is seen in it gets its balloon in that view, also when it has one in another. */
export class WindowTool implements Tool {
  readonly name = 'balloon-window';
  readonly aims = true;
  private from = $state.raw<Vec2 | undefined>(undefined);
  private to = $state.raw<Vec2 | undefined>(undefined);
  private readonly drawing: Drawing;
  private readonly done: () => void;

  constructor(drawing: Drawing, done: () => void) {
    [this.drawing, this.done] = [drawing, done];
  }

  down(p: Press): boolean {
    [this.from, this.to] = [p.at, p.at];
    return true;
  }

  move(p: Press): void {
    if (this.from) this.to = p.at;
  }

  up(): void {
    const { from, to, drawing } = this;
    this.cancel();
    if (!from || !to || Math.hypot(to[0] - from[0], to[1] - from[1]) < LEAST_MM) return;
    const window: Rect = { x: Math.min(from[0], to[0]), y: Math.min(from[1], to[1]), width: Math.abs(to[0] - from[0]), height: Math.abs(to[1] - from[1]) };
    const view = viewUnder(drawing, [window.x + window.width / 2, window.y + window.height / 2]) ?? viewUnder(drawing, from);
    const items = view ? itemsInWindow(drawing.scene, view, window) : [];
    const records = view ? identified(drawing.scene, view, items, (part) => drawing.freshId(`balloon:${part}`)) : [];
    if (!records.length) {
      notify('trouble', 'Everything that the window takes in has its balloon in this view.');
      return;
    }
    drawing.edit(
      `Balloons for ${records.length} items`,
      records.map((record) => ({ op: 'put', record })),
    );
    this.done();
  }

  cancel(): boolean {
    const busy = this.from !== undefined;
    this.from = this.to = undefined;
    return busy;
  }

  sketches(): readonly Sketch[] {
    const { from, to } = this;
    if (!from || !to) return [];
    return [{ kind: 'line', points: [from, [to[0], from[1]], to, [from[0], to[1]], from], look: 'thin', id: 'window' }];
  }
}
