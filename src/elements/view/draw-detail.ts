import { outlineBox, ringOf } from '../../core/views/outline.ts';
import type { ViewMap } from '../../core/views/view-map.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { circlePath, line, text } from '../../core/picture/shapes.ts';
import { textWidth } from '../../core/picture/lettering.ts';
import { crosses, inflate, type Rect, type Segment } from '../../core/base/rect.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import type { SheetStyle } from '../../core/sheet/paper.ts';
import { pathOf } from './draw-border.ts';

/** Distance of a detail's letter from its outline, and how much farther it may go in one step, mm. */
const OFF_MM = 1.5;
const STEP_MM = 2.5;
const STEPS = 9;
/** Farther off than this a narrow line leads from the letter to the outline, mm. */
const LED_MM = 5;
/** Around the outline, from the upper right on. */
const WAYS = 16;
/** On a blank face a letter may stand; it would rather stand so much farther off on blank paper, mm. */
const OVER_FACE_MM = 9;

/** What lies under a rectangle of paper in a view. */
export interface Under {
  /** Something is shown there. */
  covers(r: Rect): boolean;
  /** The lines that run through it. */
  lines(r: Rect): readonly Segment[];
}

/**
 * The outline of a detail on the view that it is a detail of, and its letter: a narrow line, the letter beside it where nothing
 * else is (ISO 128-3); where there is no such place near, a narrow line leads to it.
 */
export function drawDetailMark(detail: ViewRecord, map: ViewMap, style: SheetStyle, under: Under): DisplayItem[] {
  const { within } = detail;
  if (!within) return [];
  const d = within.kind === 'circle' ? circlePath(...map.toPaper(within.at), within.radius * map.scale) : pathOf(ringOf(within), map);
  const letter = detail.detail?.letter ?? '';
  const outline: DisplayItem = { kind: 'stroke', d, width: style.narrow };
  if (!letter) return [outline];
  const [x0, y0, x1, y1] = outlineBox(within);
  const [left, right, top, foot] = [map.x(x0), map.x(x1), map.y(y1), map.y(y0)];
  const [cx, cy] = [(left + right) / 2, (top + foot) / 2];
  const [halfX, halfY] = [(right - left) / 2, (foot - top) / 2];
  const width = textWidth(letter, style.letter);
  /** The outline's own point in a direction. */
  const edge = (ux: number, uy: number): Vec2 => {
    const t = within.kind === 'circle' ? halfX : Math.min(ux ? halfX / Math.abs(ux) : Infinity, uy ? halfY / Math.abs(uy) : Infinity);
    return [cx + ux * t, cy + uy * t];
  };
  const near = under.lines(inflate({ x: left, y: top, width: right - left, height: foot - top }, OFF_MM + STEPS * STEP_MM + style.letter));
  let best: { at: Vec2; from: Vec2; off: number; cost: number } | undefined;
  for (let k = 0; k < STEPS; k++)
    for (let i = 0; i < WAYS; i++) {
      // Upper right first, then to both sides of it in turn.
      const angle = Math.PI / 4 + (Math.ceil(i / 2) * (i % 2 ? 1 : -1) * 2 * Math.PI) / WAYS;
      const [ux, uy] = [Math.cos(angle), -Math.sin(angle)];
      const from = edge(ux, uy);
      const off = OFF_MM + k * STEP_MM;
      // Half of the letter that lies towards the outline.
      const half = Math.abs(ux) * (width / 2) + Math.abs(uy) * (style.letter / 2);
      const at: Vec2 = [from[0] + ux * (off + half), from[1] + uy * (off + half)];
      const r = inflate({ x: at[0] - width / 2, y: at[1] - style.letter / 2, width, height: style.letter }, AIR_MM);
      const cost = off + i * 1e-3 + (near.some((s) => crosses(s, r)) ? 1000 : under.covers(r) ? OVER_FACE_MM : 0);
      if (!best || cost < best.cost - 1e-9) best = { at, from, off, cost };
    }
  const { at, from, off } = best!;
  const [fx, fy] = [at[0] - from[0], at[1] - from[1]];
  const l = Math.hypot(fx, fy) || 1;
  const led = off > LED_MM ? [line(from[0], from[1], from[0] + (fx / l) * (off - 1), from[1] + (fy / l) * (off - 1), style.narrow)] : [];
  return [outline, ...led, text(at[0], at[1] + style.letter / 2, letter, style.letter, 'middle')];
}

/** Air around a detail's letter, mm. */
const AIR_MM = 0.4;
