import type { ViewRecord } from '$core/document/records';
import { byHand } from '$elements/centre/by-hand';
import type { CentreRecord } from '$elements/centre/kind';
import { targetsAt } from '$elements/pick-target';
import { holdOf, type Target } from '$elements/target';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';
import { holdSketch } from '../../view/face/hold-sketch';
import { viewUnder } from '../../view/face/under';

/**
 * Centrelines by hand: one axis or circle, the line midway between two, the circle through three or more. Presses take what it
 * is for; one on empty paper, or a double press, draws it.
 */
export class CentreLineTool implements Tool {
  readonly name = 'centre-line';
  readonly aims = true;
  private picks = $state.raw<readonly Target[]>([]);
  private view = $state.raw<string | undefined>(undefined);
  private at = $state.raw<Press | undefined>(undefined);
  /** A centreline that is extended to what is pressed next. */
  private extending = $state.raw<CentreRecord | undefined>(undefined);
  private readonly drawing: Drawing;

  constructor(drawing: Drawing) {
    this.drawing = drawing;
  }

  extend(record: CentreRecord): void {
    this.extending = record;
    this.view = record.view;
  }

  private get under(): { readonly view: ViewRecord; readonly target: Target } | undefined {
    const { at, drawing } = this;
    const view = at && (drawing.scene.one('view', this.view) ?? viewUnder(drawing, at.at));
    if (!at || !view) return undefined;
    const targets = targetsAt(drawing.scene, view, at.at, at.grace);
    // An edge or something round is meant, not the end of an edge; but ends give the line between two points.
    const target = targets.find((t) => !t.as && !t.side) ?? targets[0];
    return target && { view, target };
  }

  down(p: Press): boolean {
    this.at = p;
    const { under, drawing } = this;
    if (this.extending) {
      if (!under) return false;
      drawing.edit('Extend the centreline', [{ op: 'put', record: { ...this.extending, to: under.target } }]);
      drawing.select({ kind: 'record', id: this.extending.id });
      this.clear();
      return true;
    }
    if (under) {
      this.view ??= under.view.id;
      this.picks = [...this.picks, under.target];
      return true;
    }
    if (!this.picks.length) return false;
    this.finish();
    return true;
  }

  move(p: Press): void {
    this.at = p;
  }

  up(): void {}

  finish(): void {
    const { planned, drawing } = this;
    const view = drawing.scene.one('view', this.view);
    if (!planned || !view) return;
    if (byHand(planned, view, drawing.scene, drawing.scene.page(view.sheet).style).length) {
      const record = { ...planned, id: drawing.freshId('centre') };
      drawing.edit('Centreline', [{ op: 'put', record }]);
      drawing.select({ kind: 'record', id: record.id });
    } else notify('trouble', 'There is no centreline for these. Press one axis or circle, two edges, or three centres.');
    this.clear();
  }

  private get planned(): CentreRecord | undefined {
    const { picks, view } = this;
    return picks.length && view ? { type: 'centre', id: 'centre:planned', view, circle: null, off: [], of: picks } : undefined;
  }

  cancel(): boolean {
    const busy = this.picks.length > 0 || this.extending !== undefined;
    this.clear();
    return busy;
  }

  private clear(): void {
    [this.picks, this.view, this.extending] = [[], undefined, undefined];
  }

  sketches(): readonly Sketch[] {
    const { planned, under, drawing } = this;
    const { scene } = drawing;
    const view = scene.one('view', this.view) ?? under?.view;
    if (!view) return [];
    const out: Sketch[] = [];
    const hold = under && holdOf(scene, view, under.target);
    if (hold) out.push(holdSketch(hold, scene.map(view)));
    const shown = planned && under ? { ...planned, of: [...planned.of!, under.target] } : planned;
    if (shown) out.push({ kind: 'items', items: byHand(shown, view, scene, scene.page(view.sheet).style), id: 'centreline' });
    return out;
  }
}
