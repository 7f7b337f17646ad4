import { rectOf, type Rect } from '../../core/base/rect.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { MaterialFamily } from '../../core/ledger/materials.ts';
import type { DisplayItem, Drawn } from '../../core/picture/display-list.ts';
import { inkOf, joined, solidOf } from '../../core/picture/ink.ts';
import { text } from '../../core/picture/shapes.ts';
import { scaleText, type SheetStyle } from '../../core/sheet/formats.ts';
import type { ViewResult } from '../../core/views/compute-view.ts';
import { viewMapOf } from '../../core/views/view-map.ts';
import { drawCaps } from './draw-caps.ts';
import { drawLines } from './draw-lines.ts';
import { drawPulls } from './draw-pulls.ts';
import { drawBreak, drawCuttingPlane, drawDivider } from './draw-section.ts';

export interface ViewContext {
  /** Sections whose cutting plane this view shows. */
  readonly cuts: readonly ViewRecord[];
  readonly scaleInLabel: boolean;
  /** Material family of each component, for the hatching. */
  readonly families: readonly MaterialFamily[];
}

/** Box of a view's lines on paper: x, y, width, height. */
export function viewRect(view: ViewRecord, result: Pick<ViewResult, 'box'> | undefined): [number, number, number, number] {
  if (!result) return [view.at[0] - 20, view.at[1] - 15, 40, 30];
  const m = viewMapOf(view);
  const [x0, y0, x1, y1] = result.box;
  return [m.x(x0), m.y(y1), (x1 - x0) * m.scale, (y1 - y0) * m.scale];
}

/** A view's picture: what it shows, its label, and the cutting planes that it carries. */
export function drawView(view: ViewRecord, result: ViewResult | undefined, style: SheetStyle, context: ViewContext): Drawn {
  const box = viewRect(view, result);
  const inside: DisplayItem[] = [];
  // What lies outside the box of its lines.
  const outside: DisplayItem[] = [];
  if (result) {
    const map = viewMapOf(view);
    if (view.shaded && result.shading) {
      const w = result.shading.window;
      inside.push({
        kind: 'image',
        x: map.x(w.minX),
        y: map.y(w.maxY),
        width: w.width * w.pixelMm * map.scale,
        height: w.height * w.pixelMm * map.scale,
        image: view.id,
      });
    }
    const pulls = drawPulls(view, result, map, style);
    inside.push(...drawCaps(result, map, style, context.families), ...pulls, ...drawLines(result, map, style, view.thinMm ?? 0));
    inside.push(...drawDivider(view, result, map, style), ...drawBreak(view, result, map, style));
    for (const section of context.cuts) outside.push(...drawCuttingPlane(view, section, result, map, style));
  }
  const label = labelOf(view, context.scaleInLabel);
  if (label) outside.push(text(box[0] + box[2] / 2, box[1] + box[3] + 9, label, view.cut?.letter ? style.letter : style.item, 'middle'));
  return {
    id: view.id,
    role: 'view',
    label: `${view.name}, scale ${scaleText(view.scale)}`,
    box,
    items: [...inside, ...outside],
    // A little beside its lines, and on its label.
    grab: { x: box[0] - 2, y: box[1] - 2, width: box[2] + 4, height: box[3] + 14 },
    ink: joined([rectOf(box), ...inkOf(outside)]),
    solid: { ...solidOf(outside), loose: [rectOf(box)], covers: (r) => result === undefined || covers(view, result, r) },
  };
}

/** Does a view show something under a rectangle on the sheet? Its box may be empty there. */
function covers(view: ViewRecord, result: ViewResult, r: Rect): boolean {
  const m = viewMapOf(view);
  const { window, component } = result.map;
  const step = window.pixelMm * m.scale;
  const i0 = Math.max(0, Math.floor((r.x - m.x(window.minX)) / step));
  const i1 = Math.min(window.width - 1, Math.ceil((r.x + r.width - m.x(window.minX)) / step));
  const j0 = Math.max(0, Math.floor((r.y - m.y(window.maxY)) / step));
  const j1 = Math.min(window.height - 1, Math.ceil((r.y + r.height - m.y(window.maxY)) / step));
  for (let j = j0; j <= j1; j++) for (let i = i0; i <= i1; i++) if (component[j * window.width + i]! >= 0) return true;
  return false;
}

/** `A–A (1:2)`: sections with a letter always, others when they ask for it or the scales on the sheet differ. */
export function labelOf(view: ViewRecord, scaleInLabel: boolean): string {
  const scale = `(${scaleText(view.scale)})`;
  if (view.cut?.letter) return `${view.cut.letter}–${view.cut.letter} ${scale}`;
  if (!view.label) return '';
  return scaleInLabel ? `${view.name} ${scale}` : view.name;
}
