import { crosses, rectOf, type Rect, type Segment } from '../../core/base/rect.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { MaterialFamily } from '../../core/ledger/materials.ts';
import type { DisplayItem, Drawn } from '../../core/picture/display-list.ts';
import { inkOf, joined, solidOf } from '../../core/picture/ink.ts';
import { text } from '../../core/picture/shapes.ts';
import { scaleText, type SheetStyle } from '../../core/sheet/paper.ts';
import type { ViewResult } from '../../core/views/compute-view.ts';
import { viewMapOf, type ViewMap } from '../../core/views/view-map.ts';
import { drawCaps, type ViewHatch } from './draw-caps.ts';
import { drawBorder, drawGaps } from './draw-border.ts';
import { drawDetailMark } from './draw-detail.ts';
import { drawLines, drawPhantom, type LineLook } from './draw-lines.ts';
import { drawPulls } from './draw-pulls.ts';
import { drawReference } from './draw-reference.ts';
import { drawShading } from './draw-shading.ts';
import { drawBreak, drawCuttingPlanes, drawDivider } from './draw-section.ts';

export interface ViewContext {
  /** Sections whose cutting plane this view shows. */
  readonly cuts: readonly ViewRecord[];
  /** Details of this view: their outlines are drawn on it. */
  readonly details?: readonly ViewRecord[];
  /** Its scale is not the one that the title block states. */
  /** Views that stand elsewhere, with the number of their sheet when that is another one: an arrow stands for them. */
  readonly arrows?: readonly { readonly view: ViewRecord; readonly sheet: number | undefined }[];
  readonly scaleInLabel: boolean;
  readonly look?: LineLook;
  /** Screw threads, drawn over the lines. */
  readonly threads?: (result: ViewResult, map: ViewMap) => readonly DisplayItem[];
  readonly hatch?: ReadonlyMap<number, ViewHatch>;
  /** What there would be to see without outline and gaps. */
  readonly whole?: ViewResult | undefined;
  /** Material family of each component, for the hatching. */
  readonly families: readonly MaterialFamily[];
}

/** Box of a view's lines on paper: x, y, width, height. */
export function viewRect(view: ViewRecord, result: Pick<ViewResult, 'box'> | undefined): [number, number, number, number] {
  if (!result) return [view.at[0] - 20, view.at[1] - 15, 40, 30];
  const m = viewMapOf(view);
  const [x0, y0, x1, y1] = result.box;
  return [m.x(x0), m.y(y1), m.x(x1) - m.x(x0), m.y(y0) - m.y(y1)];
}

/** A view's picture: what it shows, its label, and the cutting planes that it carries. */
export function drawView(view: ViewRecord, result: ViewResult | undefined, style: SheetStyle, context: ViewContext): Drawn {
  const box = viewRect(view, result);
  const inside: DisplayItem[] = [];
  // What lies outside the box of its lines.
  const outside: DisplayItem[] = [];
  if (result) {
    const map = viewMapOf(view);
    inside.push(...drawShading(view, result, map));
    const pulls = drawPulls(view, result, map, style);
    inside.push(
      ...drawCaps(result, map, style, context.families, context.hatch),
      ...pulls,
      ...drawLines(result, map, style, context.look ?? { thinMm: view.thinMm ?? 0 }),
      ...drawPhantom(result, map, style),
      ...(context.threads?.(result, map) ?? []),
    );
    inside.push(...drawDivider(view, result, map, style), ...drawBreak(view, result, map, style));
    inside.push(...drawGaps(view, result, map, style), ...drawBorder(view, context.whole ?? result, map, style));
    for (const detail of context.details ?? [])
      outside.push(...drawDetailMark(detail, map, style, { covers: (r) => covers(view, result, r), lines: (r) => linesIn(result, map, r) }));
    for (const { view: other, sheet } of context.arrows ?? []) outside.push(...drawReference(view, other, box, style, sheet));
    outside.push(...drawCuttingPlanes(view, context.cuts, result, map, style));
  }
  const label = labelOf(view, context.scaleInLabel);
  if (label) outside.push(text(box[0] + box[2] / 2, box[1] + box[3] + labelDrop(view, style), label, lettered(view) ? style.letter : style.item, 'middle'));
  return {
    id: view.id,
    role: 'view',
    // What stands under it belongs to its name: so people speak of it.
    label: `${label ? `${label}: ` : ''}${view.name}, scale ${scaleText(view.scale)}`,
    box,
    items: [...inside, ...outside],
    // A little beside its lines, and on its label.
    grab: { x: box[0] - 2, y: box[1] - 2, width: box[2] + 4, height: box[3] + labelDrop(view, style) + 5 },
    ink: joined([rectOf(box), ...inkOf(outside)]),
    solid: { ...solidOf(outside), loose: [rectOf(box)], covers: (r) => result === undefined || covers(view, result, r) },
  };
}

/** The pieces of a view's lines that run through a rectangle of paper. */
function linesIn({ lines }: ViewResult, map: ViewMap, r: Rect): Segment[] {
  const out: Segment[] = [];
  for (let i = 0; i < lines.kind.length; i++)
    for (let p = lines.start[i]!; p < lines.start[i + 1]! - 1; p++) {
      const piece = [map.x(lines.xy[p * 2]!), map.y(lines.xy[p * 2 + 1]!), map.x(lines.xy[p * 2 + 2]!), map.y(lines.xy[p * 2 + 3]!)] as const;
      if (crosses(piece, r)) out.push(piece);
    }
  return out;
}

/** Does a view show something under a rectangle on the sheet? Its box may be empty there. */
function covers(view: ViewRecord, result: ViewResult, r: Rect): boolean {
  const m = viewMapOf(view);
  const { window, component } = result.map;
  const [x0, y1] = m.toView([r.x, r.y]);
  const [x1, y0] = m.toView([r.x + r.width, r.y + r.height]);
  const i0 = Math.max(0, Math.floor((x0 - window.minX) / window.pixelMm));
  const i1 = Math.min(window.width - 1, Math.ceil((x1 - window.minX) / window.pixelMm));
  const j0 = Math.max(0, Math.floor((window.maxY - y1) / window.pixelMm));
  const j1 = Math.min(window.height - 1, Math.ceil((window.maxY - y0) / window.pixelMm));
  for (let j = j0; j <= j1; j++) for (let i = i0; i <= i1; i++) if (component[j * window.width + i]! >= 0) return true;
  return false;
}

/** How far below a view its label stands, mm: clear of signs of symmetry, and farther the larger its letters. */
export const labelDrop = (view: ViewRecord, { letter }: SheetStyle): number => (view.border === 'symmetry' ? 15 : 9) + Math.max(0, letter - 5);

/** The letter that a view is called by: of its section, or of the detail it is. */
const lettered = (view: ViewRecord): string | undefined => view.detail?.letter || view.cut?.letter || view.arrow;

/** `A–A (1:2)` for sections, `B (2:1)` for details, the name for others; without a label only its scale, when it is another than the title block's. */
export function labelOf(view: ViewRecord, scaleInLabel: boolean): string {
  const scale = `(${scaleText(view.scale)})`;
  const letter = lettered(view);
  if (letter && view.label) return `${view.detail || !view.cut?.letter ? letter : `${letter}–${letter}`} ${scale}`;
  if (!view.label) return scaleInLabel ? scale : '';
  return scaleInLabel ? `${view.name} ${scale}` : view.name;
}
