import { dot } from '../../core/base/vector.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { arrowHead, line, text } from '../../core/picture/shapes.ts';
import type { SheetStyle } from '../../core/sheet/paper.ts';

/** The arrow stands this far off its view, and is so long, mm. */
const OFF_MM = 3;
const LONG_MM = 11;

/**
 * The arrow on a view that says from where another one, which stands elsewhere, is seen, with its letter (ISO 128-3: views
 * placed freely). None when that view looks along the line of sight of this one.
 * @param sheet number of the sheet that the other view stands on, when it is another one
 */
export function drawReference(
  parent: ViewRecord,
  child: ViewRecord,
  box: readonly [x: number, y: number, width: number, height: number],
  style: SheetStyle,
  sheet: number | undefined,
): DisplayItem[] {
  if (!child.arrow) return [];
  const [sx, sy] = [dot(child.toward, parent.right), -dot(child.toward, parent.up)];
  const l = Math.hypot(sx, sy);
  if (l < 0.1) return [];
  const [ux, uy] = [sx / l, sy / l];
  const [cx, cy] = [box[0] + box[2] / 2, box[1] + box[3] / 2];
  // To the edge of the box in that direction.
  const reach = Math.min(Math.abs(ux) > 1e-9 ? box[2] / 2 / Math.abs(ux) : Infinity, Math.abs(uy) > 1e-9 ? box[3] / 2 / Math.abs(uy) : Infinity);
  const at = (off: number): [number, number] => [cx + ux * (reach + off), cy + uy * (reach + off)];
  const [tip, tail] = [at(OFF_MM), at(OFF_MM + LONG_MM)];
  const [lx, ly] = at(OFF_MM + LONG_MM + style.letter * 0.9);
  return [
    line(tail[0], tail[1], tip[0], tip[1], style.narrow),
    arrowHead(tip[0], tip[1], -ux, -uy, 3.5),
    text(lx, ly + style.letter / 2, child.arrow, style.letter, 'middle'),
    ...(sheet === undefined ? [] : [text(lx, ly + style.letter / 2 + style.text + 1.5, `sheet ${sheet}`, style.text, 'middle')]),
  ];
}
