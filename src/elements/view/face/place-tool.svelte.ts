import { rectOf, type Rect } from '$core/base/rect';
import type { Vec2 } from '$core/base/vector';
import type { ViewRecord } from '$core/document/records';
import { frontOf } from '$core/document/front';
import type { ViewFrame } from '$core/outline/directions';
import { scalesFor, standardScales } from '$core/sheet/paper';
import { newView } from '$elements/view/add';
import { viewRect } from '$elements/view/draw';
import { boxFromParts } from '$elements/view/extent';
import { allowedOn } from '$elements/place';
import { ghostOf } from './ghost';
import type { Drawing } from '$lib/shared/drawing.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';
import PlacePanel from './PlacePanel.svelte';

/** Of the room on a sheet a view that stands alone takes so much at most. */
const MOST_SHARE = 0.6;

/** Puts a view where it is pressed: the direction is chosen in the panel, the scale is the one that fits. */
export class PlaceTool implements Tool {
  readonly name = 'place';
  readonly aims = true;
  readonly panel = PlacePanel;
  /** What was chosen; the drawing's front until then. */
  private chosen = $state.raw<ViewFrame | undefined>(undefined);
  title = $state('Front');
  spread = $state<string | null>(null);
  hidden = $state(false);
  /** Chosen by hand; else the one that fits. */
  private chosenScale = $state<number | undefined>(undefined);
  private at = $state.raw<Vec2 | undefined>(undefined);
  private readonly drawing: Drawing;
  private readonly done: () => void;

  constructor(drawing: Drawing, done: () => void) {
    this.drawing = drawing;
    this.done = done;
  }

  get frame(): ViewFrame {
    return this.chosen ?? frontOf(this.drawing.document);
  }

  /** The scale that the view gets. */
  get scale(): number {
    if (this.chosenScale !== undefined) return this.chosenScale;
    const [x0, y0, x1, y1] = boxFromParts(this.drawing.scene, this.frame, { spread: this.spread });
    return this.scaleFor(x1 - x0, y1 - y0);
  }

  set scale(scale: number) {
    this.chosenScale = scale;
  }

  /** The scales of the standard around the one in hand, the largest first. */
  get scales(): readonly number[] {
    const all = standardScales(this.drawing.scene.drawing.standard);
    const i = all.findIndex((s) => s <= this.scale * 1.001);
    return all.slice(Math.max(0, i - 2), Math.max(0, i - 2) + 5);
  }

  /** One scale of the standard larger or smaller. */
  step(larger: boolean): void {
    const all = standardScales(this.drawing.scene.drawing.standard);
    const next = larger ? all.findLast((s) => s > this.scale * 1.001) : all.find((s) => s < this.scale * 0.999);
    if (next !== undefined) this.chosenScale = next;
  }

  key(key: string): boolean {
    if (key !== '+' && key !== '=' && key !== '-') return false;
    this.step(key !== '-');
    return true;
  }

  wheel(up: boolean): boolean {
    if (this.at) this.step(up);
    return this.at !== undefined;
  }

  choose(title: string, frame: ViewFrame): void {
    [this.title, this.chosen] = [title, frame];
  }

  down(p: Press): boolean {
    this.at = p.at;
    return true;
  }

  move(p: Press): void {
    this.at = p.at;
  }

  up(p: Press): void {
    this.at = p.at;
    const { planned, drawing } = this;
    if (!planned) return;
    const record = { ...planned.record, id: drawing.freshId('view:placed') };
    drawing.edit(`Add view ${record.name}`, [{ op: 'put', record }]);
    drawing.select({ kind: 'record', id: record.id });
    this.cancel();
    this.done();
  }

  cancel(): boolean {
    this.at = undefined;
    this.chosenScale = undefined;
    return false;
  }

  /** The scale that fits: that of the sheet's views if it leaves room, else the largest of the standard's that does. */
  private scaleFor(width: number, height: number): number {
    const { scene, sheetId } = this.drawing;
    const room = allowedOn(scene, sheetId);
    const fits = (s: number, share: number) => width * s <= share * room.width && height * s <= share * room.height;
    const [first] = scene.viewsOn(sheetId);
    if (first && fits(first.scale, 1)) return first.scale;
    const scales = scalesFor(scene.drawing.standard, Math.max(width, height));
    return scales.find((s) => fits(s, MOST_SHARE)) ?? scales.at(-1) ?? 1;
  }

  get planned(): { readonly record: ViewRecord; readonly rect: Rect } | undefined {
    const { at, frame, spread, title, hidden, drawing } = this;
    const { scene, sheetId } = drawing;
    if (!at) return undefined;
    const [x0, y0, x1, y1] = boxFromParts(scene, frame, { spread });
    const { record } = newView(scene, { id: 'view:planned', name: title, sheet: sheetId, frame, spread, at, scale: this.scale });
    const placed = { ...record, hidden };
    return { record: placed, rect: rectOf(viewRect(placed, { box: [x0, y0, x1, y1] })) };
  }

  sketches(): readonly Sketch[] {
    const { planned } = this;
    return planned ? ghostOf(this.drawing.scene, planned.record, planned.rect) : [];
  }
}
