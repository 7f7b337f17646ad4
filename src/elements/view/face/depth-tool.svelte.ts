import { dot, type Vec2 } from '$core/base/vector';
import type { ViewRecord } from '$core/document/records';
import { breaksOf } from '$elements/view/break-out';
import { snapPlace } from '$elements/view/snap-places';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';
import { viewNear } from './view-near';

/** Takes the depth of a broken-out section from a place in another view: an axis, a centre, any point. */
export class DepthTool implements Tool {
  readonly name = 'depth';
  readonly aims = true;
  private at = $state.raw<{ readonly view: ViewRecord; readonly place: Vec2 } | undefined>(undefined);
  private readonly drawing: Drawing;
  private readonly done: () => void;

  constructor(drawing: Drawing, done: () => void) {
    this.drawing = drawing;
    this.done = done;
  }

  private get broken(): ViewRecord | undefined {
    const s = this.drawing.selection;
    return this.drawing.scene.one('view', s.kind === 'record' ? s.id : undefined);
  }

  down(p: Press): boolean {
    this.move(p);
    const { at, broken, drawing } = this;
    const last = broken && breaksOf(broken).at(-1);
    if (!at || !broken || !last) {
      notify('trouble', 'Press a place in another view: an axis or a centre that the break shall go down to.');
      return true;
    }
    const other = drawing.scene.seenAs(at.view);
    const [x, y] = [dot(broken.toward, other.right), dot(broken.toward, other.up)];
    // The other view must show the depth: its picture plane holds the line of sight.
    if (Math.hypot(x, y) < 0.99) {
      notify('trouble', 'This view does not show how deep it is. Press a place in a neighbour seen from the side.');
      return true;
    }
    drawing.edit('Depth of the break', [{ op: 'put', record: last.set(x * at.place[0] + y * at.place[1]) }]);
    this.cancel();
    this.done();
    return true;
  }

  move(p: Press): void {
    const view = viewNear(this.drawing, p.at);
    if (!view || view.id === this.broken?.id) {
      this.at = undefined;
      return;
    }
    const { scene } = this.drawing;
    this.at = { view, place: snapPlace(scene.result(view.id), scene.map(view).toView(p.at), p.grace / view.scale) };
  }

  up(): void {}

  cancel(): boolean {
    this.at = undefined;
    return false;
  }

  sketches(): readonly Sketch[] {
    return this.at ? [{ kind: 'ring', at: this.drawing.scene.map(this.at.view).toPaper(this.at.place) }] : [];
  }
}
