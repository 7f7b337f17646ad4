import type { Drawing } from '$lib/shared/drawing.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';
import { viewUnder } from '../../view/face/under';
import { componentNear } from '../../view/kind';
import { newBalloon } from '../place/add';
import { balloonPlace } from '../draw';
import type { Vec2 } from '../../../core/base/vector';
import type { BalloonRecord } from '../../../core/document/records';

/** Gives the component under the pointer a balloon. */
export class BalloonTool implements Tool {
  readonly name = 'balloon';
  readonly aims = true;
  /** The balloon that a press would make. */
  private next = $state.raw<BalloonRecord | undefined>(undefined);
  private readonly drawing: Drawing;
  private readonly done: () => void;

  constructor(drawing: Drawing, done: () => void) {
    this.drawing = drawing;
    this.done = done;
  }

  private proposed(p: Press): BalloonRecord | undefined {
    const { drawing } = this;
    const view = viewUnder(drawing, p.at);
    const component = view && componentNear(view, p.at, drawing.scene, p.grace);
    const item = drawing.scene.itemOf(component);
    return view && item && newBalloon(drawing.scene, view, component!, p.at, `balloon:${item.part}`);
  }

  down(p: Press): boolean {
    const { drawing } = this;
    const made = this.proposed(p);
    if (!made) return false;
    const record = { ...made, id: drawing.freshId(made.id) };
    drawing.edit(`Add balloon ${drawing.itemOfPath(record.component)?.number ?? ''}`, [{ op: 'put', record }]);
    drawing.select({ kind: 'record', id: record.id });
    this.next = undefined;
    this.done();
    return true;
  }

  move(p: Press): void {
    this.next = this.proposed(p);
  }

  up(): void {}

  cancel(): boolean {
    this.next = undefined;
    return false;
  }

  sketches(): readonly Sketch[] {
    const b = this.next;
    const view = this.drawing.scene.one('view', b?.view);
    if (!b || !view) return [];
    const { x, y, tipX, tipY } = balloonPlace(b, view);
    const tip: Vec2 = [tipX, tipY];
    return [
      { kind: 'line', points: [[x, y], tip], look: 'thin' },
      { kind: 'circle', at: [x, y], radius: this.drawing.scene.page(view.sheet).style.balloon / 2 },
    ];
  }
}
