import type { Vec2 } from '$core/base/vector';
import type { ListRecord } from '$core/document/records';
import { without } from '$core/base/without';
import { drawList } from '$elements/list/draw';
import type { Drawing } from '$lib/shared/drawing.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';

const LEAST_MM = 15;

/** Draws the region that the selected list fills: two corners, pressed or dragged. */
export class RegionTool implements Tool {
  readonly name = 'list-region';
  readonly aims = true;
  private from = $state.raw<Vec2 | undefined>(undefined);
  private at = $state.raw<Vec2 | undefined>(undefined);
  private readonly drawing: Drawing;
  private readonly done: () => void;

  constructor(drawing: Drawing, done: () => void) {
    [this.drawing, this.done] = [drawing, done];
  }

  /** The list that is selected, else the first of the sheet. */
  get list(): ListRecord | undefined {
    const { selection: s, scene, sheetId } = this.drawing;
    return (s.kind === 'record' ? scene.one('list', s.id) : undefined) ?? scene.all('list').find((l) => l.sheet === sheetId);
  }

  private region(): ListRecord | undefined {
    const { list, from, at } = this;
    if (!list || !from || !at || Math.abs(at[0] - from[0]) < LEAST_MM || Math.abs(at[1] - from[1]) < LEAST_MM) return undefined;
    const corners = { at: [Math.min(from[0], at[0]), Math.min(from[1], at[1])], to: [Math.max(from[0], at[0]), Math.max(from[1], at[1])] } as const;
    return { ...(without(list, 'corner') as ListRecord), ...corners };
  }

  down(p: Press): boolean {
    this.at = p.at;
    if (this.from) this.keep();
    else this.from = p.at;
    return true;
  }

  move(p: Press): void {
    this.at = p.at;
  }

  up(): void {
    if (this.region()) this.keep();
  }

  private keep(): void {
    const record = this.region();
    if (!record) return;
    this.cancel();
    this.drawing.edit('Region of the parts list', [{ op: 'put', record }]);
    this.drawing.select({ kind: 'record', id: record.id });
    this.done();
  }

  cancel(): boolean {
    const busy = this.from !== undefined;
    this.from = undefined;
    return busy;
  }

  sketches(): readonly Sketch[] {
    const { from, at } = this;
    if (!from || !at) return [];
    const record = this.region();
    const corners: Vec2[] = [from, [at[0], from[1]], at, [from[0], at[1]], from];
    return [
      { kind: 'line', points: corners, look: 'thin', id: 'region' },
      ...(record ? [{ kind: 'items' as const, items: drawList(record, this.drawing.scene).flatMap((d) => d.items), id: 'region-list' }] : []),
    ];
  }
}
