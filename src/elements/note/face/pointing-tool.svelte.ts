import type { Vec2 } from '$core/base/vector';
import type { ViewRecord } from '$core/document/records';
import { kindOf, type ElementRecord } from '$elements/kinds';
import type { Leaders } from '$elements/leader';
import { pickedLines, targetsAt } from '$elements/pick-target';
import type { Target } from '$elements/target';
import { componentNear } from '$elements/view/kind';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';
import { viewUnder } from '../../view/face/under';

interface Pointed {
  readonly view: ViewRecord;
  readonly leader: Leaders[number];
}

/** Where a note or a sign is put: beside a view, pointing at something in it or not, or free on the sheet. Places as its record keeps them. */
export type Spot =
  | { readonly view: string; readonly sheet: null; readonly at: Vec2; readonly leaders?: Leaders }
  | { readonly view: null; readonly sheet: string; readonly at: Vec2 };

interface Made {
  readonly name: string;
  /** For history: “Note”. */
  readonly title: string;
  /** Must it point at something, may it, or does it never? */
  readonly points: 'always' | 'maybe' | 'never';
  /** How leaders end on edges; inside a part with a dot. */
  readonly end?: Leaders[number]['end'];
  /** What it points at must be of a kind. */
  readonly needs?: {
    accepts(target: Target, drawing: Drawing): boolean;
    /** Told when something else is pressed. */
    readonly sentence: string;
  };
  /** @returns undefined when it cannot stand there */
  make(id: string, spot: Spot, drawing: Drawing): ElementRecord | undefined;
  readonly done?: (record: ElementRecord) => void;
}

/** A press on an edge or inside a part begins a leader, the next one says where it stands; on empty paper it stands free. */
export class PointingTool implements Tool {
  readonly aims = true;
  private begun = $state.raw<Pointed | undefined>(undefined);
  private at = $state.raw<Press | undefined>(undefined);
  private placing = false;
  private readonly drawing: Drawing;
  private readonly made: Made;

  constructor(drawing: Drawing, made: Made) {
    [this.drawing, this.made] = [drawing, made];
  }

  get name(): string {
    return this.made.name;
  }

  private pointedAt(p: Press): Pointed | undefined {
    const { drawing, made } = this;
    const view = made.points === 'never' ? undefined : viewUnder(drawing, p.at);
    if (!view) return undefined;
    const [edge] = targetsAt(drawing.scene, view, p.at, p.grace)
      .filter(pickedLines)
      .filter((t) => made.needs?.accepts(t, drawing) ?? true);
    const at = drawing.scene.map(view).toView(p.at);
    if (edge) return { view, leader: { to: { ...edge, at: edge.at ?? at }, end: made.end ?? 'arrow' } };
    if (made.needs) return undefined;
    const component = componentNear(view, p.at, drawing.scene, p.grace);
    const path = component === undefined ? undefined : drawing.components[component]?.path;
    // Inside a part the leader ends with a dot on it.
    return path === undefined ? undefined : { view, leader: { to: { at, of: path } as Target, end: made.end === 'triangle' ? 'triangle' : 'dot' } };
  }

  down(p: Press): boolean {
    this.at = p;
    if (!this.begun) {
      this.begun = this.pointedAt(p);
      if (this.begun) return true;
      if (this.made.needs && viewUnder(this.drawing, p.at)) {
        notify('trouble', this.made.needs.sentence);
        return true;
      }
      if (this.made.points === 'always') return false;
    }
    this.placing = true;
    return true;
  }

  /** It goes where the press ends: what comes after has the pointer for itself. */
  up(p: Press): void {
    if (!this.placing) return;
    this.placing = false;
    const record = this.recordAt(p.at, this.drawing.freshId(this.made.name.split('-')[0]!));
    if (!record) return;
    this.drawing.edit(this.made.title, [{ op: 'put', record }]);
    this.drawing.select({ kind: 'record', id: record.id });
    this.begun = undefined;
    this.made.done?.(record);
  }

  private recordAt(at: Vec2, id: string): ElementRecord | undefined {
    const { begun, drawing, made } = this;
    const view = begun?.view ?? (made.points === 'never' ? viewUnder(drawing, at) : undefined);
    const spot: Spot = view
      ? { view: view.id, sheet: null, at: [at[0] - view.at[0], at[1] - view.at[1]], ...(begun ? { leaders: [begun.leader] } : {}) }
      : { view: null, sheet: drawing.sheetId, at };
    return made.make(id, spot, drawing);
  }

  move(p: Press): void {
    this.at = p;
  }

  cancel(): boolean {
    const busy = this.begun !== undefined;
    this.begun = undefined;
    this.placing = false;
    return busy;
  }

  sketches(): readonly Sketch[] {
    const { begun, at, drawing, made } = this;
    if (!at) return [];
    if (begun || made.points === 'never') {
      const record = this.recordAt(at.at, `${made.name}:planned`);
      return record
        ? [
            {
              kind: 'items',
              items: kindOf(record)
                .draw(record, drawing.scene)
                .flatMap((d) => d.items),
              id: 'planned',
            },
          ]
        : [];
    }
    const pointed = this.pointedAt(at);
    const tip = pointed?.leader.to.at;
    return pointed && tip ? [{ kind: 'ring', at: drawing.scene.map(pointed.view).toPaper(tip), id: 'target' }] : [];
  }
}
