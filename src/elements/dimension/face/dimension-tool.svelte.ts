import type { ViewRecord } from '$core/document/records';
import { drawDimension, textOf } from '$elements/dimension/draw';
import { awkwardText, nameOf } from '$elements/dimension/findings';
import { kindsFor } from '$elements/dimension/kinds-for';
import { measured, type DimensionRecord } from '$elements/dimension/measure';
import { placedAt } from '$elements/dimension/place';
import { targetsAt } from '$elements/pick-target';
import { holdOf, type Hold, type Target } from '$elements/target';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';
import { holdSketch } from '../../view/face/hold-sketch';
import { viewUnder } from '../../view/face/under';
import DimensionPanel from './DimensionPanel.svelte';

type Kind = DimensionRecord['kind'];
export type Row = NonNullable<DimensionRecord['row']>;

/** A view takes presses so far around it, paper mm: targets at its edge, and where its dimensions stand. */
const AROUND_MM = 4;

/**
 * Dimensions: what is picked decides the kind, the others are one key away. The value is seen before it is placed. A press on
 * something to measure from takes it; one beside everything, or with Shift, places the dimension.
 */
export class DimensionTool implements Tool {
  readonly name = 'dimension';
  readonly aims = true;
  readonly panel = DimensionPanel;
  /** More than two targets in one go. */
  row = $state<Row | undefined>(undefined);
  private chosen = $state<Kind | undefined>(undefined);
  private view = $state.raw<string | undefined>(undefined);
  picks = $state.raw<readonly Target[]>([]);
  /** A running dimension that more is added to. */
  private adding = $state.raw<DimensionRecord | undefined>(undefined);
  private at = $state.raw<Press | undefined>(undefined);
  private readonly drawing: Drawing;

  constructor(drawing: Drawing) {
    this.drawing = drawing;
  }

  /** Takes a row in hand to add targets to it. */
  addTo(record: DimensionRecord): void {
    this.adding = record;
    this.view = record.view;
    this.picks = [];
  }

  private get viewInHand(): ViewRecord | undefined {
    return this.drawing.scene.one('view', this.view);
  }

  private viewAt(p: Press): ViewRecord | undefined {
    return this.viewInHand ?? viewUnder(this.drawing, p.at) ?? viewUnder(this.drawing, [p.at[0], p.at[1] - AROUND_MM]);
  }

  /** What a press at the pointer would take. */
  readonly under: { readonly view: ViewRecord; readonly target: Target } | undefined = $derived.by(() => {
    const { at, drawing } = this;
    if (!at || this.full || at.add) return undefined;
    const view = this.viewAt(at);
    const target = view && targetsAt(drawing.scene, view, at.at, at.grace)[0];
    return view && target ? { view, target } : undefined;
  });

  /** Two are enough for one dimension: whatever lies under the pointer, the next press places it. */
  private get full(): boolean {
    return !this.row && !this.adding && this.picks.length >= 2;
  }

  /** The kinds that fit, the one in hand first. */
  readonly kinds: readonly Kind[] = $derived.by(() => {
    const { at, picks, drawing } = this;
    const view = this.viewInHand;
    const of = this.under && this.picks.length ? [...picks, this.under.target] : picks;
    if (!view || !at || !of.length) return [];
    const holds = of.map((t) => holdOf(drawing.scene, view, t));
    if (holds.some((h) => !h)) return [];
    const fitting = kindsFor(of, holds as Hold[], view, drawing.scene.map(view).toView(at.at));
    const { chosen } = this;
    return chosen && fitting.includes(chosen) ? [chosen, ...fitting.filter((k) => k !== chosen)] : fitting;
  });

  /** The dimension as it would be placed now. */
  readonly planned: DimensionRecord | undefined = $derived.by(() => {
    const { at, picks, under, drawing, adding } = this;
    if (!at) return undefined;
    if (adding) {
      const more = under ? [under.target] : [];
      return more.length ? { ...adding, of: [...adding.of, ...more] } : undefined;
    }
    const of = under && picks.length ? [...picks, under.target] : picks;
    const [kind] = this.kinds;
    if (!kind || !this.view) return undefined;
    const row = this.row && of.length >= 2 && (kind === 'level' || kind === 'upright' || kind === 'aligned') ? { row: this.row } : {};
    return placedAt({ type: 'dimension', id: 'dimension:planned', view: this.view, kind, of, away: 10, ...row }, at.at, drawing.scene, at.free ?? false);
  });

  /** What it would say, and what a checker would say of that. */
  get says(): { readonly text: string; readonly between: string; readonly awkward: string } | undefined {
    const { planned, drawing } = this;
    if (!planned) return undefined;
    const { scene } = drawing;
    const awkward = awkwardText(planned, scene);
    return {
      text: textOf(planned, scene),
      between: [...new Set(planned.of.map((t) => nameOf(t, scene)))].join(' to '),
      awkward: awkward ? `cannot be set in the field: ${awkward.instead}?` : '',
    };
  }

  choose(kind: Kind): void {
    this.chosen = kind;
  }

  down(p: Press): boolean {
    this.at = p;
    const { under, drawing } = this;
    if (this.adding) {
      if (under) this.addOne(this.adding, under.target);
      return under !== undefined;
    }
    if (under && !(this.full || p.add)) {
      this.view ??= under.view.id;
      this.picks = [...this.picks, under.target];
      return true;
    }
    if (!this.picks.length) return false;
    const { planned } = this;
    if (!planned) {
      notify('trouble', 'These two have no distance or angle between them. Esc takes the last one back.');
      return true;
    }
    this.place({ ...planned, id: drawing.freshId('dimension') });
    return true;
  }

  private addOne(record: DimensionRecord, target: Target): void {
    const next = withValues({ ...record, of: [...record.of, target], row: record.row ?? 'running' }, this.drawing);
    this.drawing.edit('Add to the dimension', [{ op: 'put', record: next }]);
    this.adding = next;
  }

  private place(record: DimensionRecord): void {
    const { drawing } = this;
    drawing.edit('Dimension', [{ op: 'put', record: withValues(record, drawing) }]);
    drawing.select({ kind: 'record', id: record.id });
    this.clear();
  }

  move(p: Press): void {
    this.at = p;
  }

  up(): void {}

  /** Letters choose another kind while something is picked. */
  key(key: string): boolean {
    if (!this.picks.length) return false;
    const kind = KEYS[key.toUpperCase()];
    if (kind && this.kinds.includes(kind)) {
      this.choose(kind);
      return true;
    }
    if (key === 'Tab') {
      const [, next] = this.kinds;
      if (next) this.choose(next);
      return true;
    }
    return false;
  }

  cancel(): boolean {
    const busy = this.picks.length > 0 || this.adding !== undefined;
    if (this.picks.length > 1) this.picks = this.picks.slice(0, -1);
    else this.clear();
    return busy;
  }

  private clear(): void {
    this.picks = [];
    this.view = undefined;
    this.adding = undefined;
    this.chosen = undefined;
  }

  sketches(): readonly Sketch[] {
    const { planned, under, drawing } = this;
    const { scene } = drawing;
    const out: Sketch[] = [];
    const view = this.viewInHand ?? under?.view;
    if (view) for (const t of [...this.picks, ...(under ? [under.target] : [])]) out.push(...highlight(t, view, drawing));
    if (planned && measured(planned, scene)) out.push({ kind: 'items', items: drawDimension(planned, scene).flatMap((d) => d.items), id: 'dimension' });
    return out;
  }
}

export const KEYS: Readonly<Record<string, Kind>> = {
  L: 'level',
  U: 'upright',
  A: 'aligned',
  D: 'diameter',
  R: 'radius',
  G: 'angle',
  B: 'arc',
  C: 'chamfer',
  S: 'slope',
};

/** Someone sees the values as they are now. */
export function withValues(record: DimensionRecord, drawing: Drawing): DimensionRecord {
  return { ...record, seen: (measured(record, drawing.scene) ?? []).map((m) => m.value) };
}

/** What is taken shows on the sheet. */
function highlight(t: Target, view: ViewRecord, drawing: Drawing): Sketch[] {
  const { scene } = drawing;
  const hold = holdOf(scene, view, t);
  if (!hold) return [];
  const map = scene.map(view);
  // Of a circle the centre is what is measured to.
  const centre: Sketch[] = hold.kind === 'circle' ? [{ kind: 'ring', at: map.toPaper([hold.at[0], hold.at[1]]), id: 'target-centre' }] : [];
  return [holdSketch(hold, map), ...centre];
}
