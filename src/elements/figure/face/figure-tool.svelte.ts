import type { Vec2 } from '$core/base/vector';
import { drawFigure, type FigureRecord } from '$elements/figure/draw';
import { joinedPoint } from '$elements/figure/kind';
import type { Drawing } from '$lib/shared/drawing.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';

type Shape = FigureRecord['shape'];

const NEEDS: Readonly<Record<Shape, number>> = { line: 2, rectangle: 2, circle: 2, arc: 3, curve: Infinity };

/** Draws on the sheet, press by press: ends are brought onto other ends, level and upright. Lines go on from where the last one ended. */
export class FigureTool implements Tool {
  readonly aims = true;
  readonly name: string;
  private readonly shape: Shape;
  private points = $state.raw<readonly Vec2[]>([]);
  private at = $state.raw<Press | undefined>(undefined);
  private readonly drawing: Drawing;

  constructor(drawing: Drawing, shape: Shape) {
    [this.drawing, this.shape, this.name] = [drawing, shape, `figure-${shape}`];
  }

  private placeOf(p: Press): Vec2 {
    return p.free ? p.at : joinedPoint(this.drawing.scene, this.drawing.sheetId, p.at, this.points.at(-1), p.grace);
  }

  down(p: Press): boolean {
    this.at = p;
    const next = [...this.points, this.placeOf(p)];
    const last = this.points.at(-1);
    // The same place again ends a curve, and a row of lines.
    if (last && Math.hypot(next.at(-1)![0] - last[0], next.at(-1)![1] - last[1]) < p.grace / 2) {
      this.finish();
      return true;
    }
    this.points = next;
    if (next.length >= NEEDS[this.shape]) this.keep();
    return true;
  }

  private keep(): void {
    const { drawing, shape, points } = this;
    const record: FigureRecord = { type: 'figure', id: drawing.freshId('figure'), sheet: drawing.sheetId, shape, points };
    drawing.edit('Draw', [{ op: 'put', record }]);
    drawing.select({ kind: 'record', id: record.id });
    this.points = shape === 'line' ? [points.at(-1)!] : [];
  }

  move(p: Press): void {
    this.at = p;
  }

  up(): void {}

  finish(): void {
    if (this.shape === 'curve' && this.points.length >= 2) this.keep();
    this.points = [];
  }

  cancel(): boolean {
    const busy = this.points.length > 0;
    this.points = [];
    return busy;
  }

  sketches(): readonly Sketch[] {
    const { at, points, drawing, shape } = this;
    if (!at) return [];
    const to = this.placeOf(at);
    const all = [...points, to];
    const enough = all.length >= Math.min(NEEDS[shape], 2) && (shape !== 'arc' || all.length === 3);
    if (!points.length) return [{ kind: 'ring', at: to, id: 'end' }];
    if (!enough) return [{ kind: 'line', points: all, look: 'thin', id: 'figure' }];
    const [last] = points.slice(-1);
    const level = last && !at.free && (to[1] === last[1] || to[0] === last[0]) && (to[0] !== at.at[0] || to[1] !== at.at[1]);
    // What is levelled is seen to be: a guide runs on past it.
    const guide: readonly Sketch[] = level
      ? [{ kind: 'line', points: [last, [to[0] + (to[0] - last[0]) * 0.3, to[1] + (to[1] - last[1]) * 0.3]], look: 'guide', id: 'guide' }]
      : [];
    const record: FigureRecord = { type: 'figure', id: 'figure:planned', sheet: drawing.sheetId, shape, points: all };
    return [...guide, { kind: 'items', items: drawFigure(record, drawing.scene).flatMap((d) => d.items), id: 'figure' }];
  }
}
