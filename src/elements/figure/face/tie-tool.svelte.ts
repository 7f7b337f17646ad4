import type { Vec2 } from '$core/base/vector';
import { tied, mayTie, RELATIONS, type Relation } from '$elements/figure/ties';
import type { FigureRecord } from '$elements/figure/draw';
import { targetsAt } from '$elements/pick-target';
import { holdOf } from '$elements/target';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';
import { viewNear } from '../../view/face/view-near';
import TiePanel from './TiePanel.svelte';

/** Lets the selected line go by an edge of a view: press the edge. */
export class TieTool implements Tool {
  readonly name = 'figure-tie';
  readonly aims = true;
  readonly panel = TiePanel;
  is = $state<Relation>('parallel');
  private at = $state.raw<Press | undefined>(undefined);
  private readonly drawing: Drawing;
  private readonly done: () => void;

  constructor(drawing: Drawing, done: () => void) {
    [this.drawing, this.done] = [drawing, done];
  }

  /** The line that is to go by something. */
  get figure(): FigureRecord | undefined {
    const { selection, scene } = this.drawing;
    return selection.kind === 'record' ? scene.one('figure', selection.id) : undefined;
  }

  private found(p: Press) {
    const { scene } = this.drawing;
    const view = viewNear(this.drawing, p.at);
    if (!view) return undefined;
    const round = RELATIONS[this.is].needs === 'round';
    const of = targetsAt(scene, view, p.at, p.grace).find((t) => t.edge && holdOf(scene, view, t)?.kind === (round ? 'circle' : 'line'));
    return of && { view, of };
  }

  down(p: Press): boolean {
    this.at = p;
    return true;
  }

  move(p: Press): void {
    this.at = p;
  }

  up(p: Press): void {
    const { figure, drawing } = this;
    const found = this.found(p);
    if (!figure || !mayTie(figure, this.is, undefined)) notify('trouble', 'Select a line first: a line goes by an edge.');
    else if (!found) notify('trouble', RELATIONS[this.is].needs === 'round' ? 'Press a round edge of a view.' : 'Press a straight edge of a view.');
    else {
      drawing.edit(`${RELATIONS[this.is].name} to an edge`, tied(drawing.scene, figure, { is: this.is, on: { view: found.view.id, of: found.of } }));
      this.done();
    }
  }

  cancel(): boolean {
    this.at = undefined;
    return false;
  }

  sketches(): readonly Sketch[] {
    const found = this.at && this.found(this.at);
    const hold = found && holdOf(this.drawing.scene, found.view, found.of);
    if (!found || !hold) return [];
    const map = this.drawing.scene.map(found.view);
    const paper = (p: readonly [number, number, number]): Vec2 => map.toPaper([p[0], p[1]]);
    if (hold.kind === 'line') return [{ kind: 'line', points: [paper(hold.ends[0]), paper(hold.ends[1])], look: 'outline', id: 'edge' }];
    return hold.kind === 'circle' ? [{ kind: 'circle', at: paper(hold.at), radius: hold.radius * found.view.scale, id: 'edge' }] : [];
  }
}
