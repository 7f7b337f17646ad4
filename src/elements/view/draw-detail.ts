import { outlineBox, ringOf } from '../../core/views/outline.ts';
import type { ViewMap } from '../../core/views/view-map.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { circlePath, text } from '../../core/picture/shapes.ts';
import { textWidth } from '../../core/picture/lettering.ts';
import type { Rect } from '../../core/base/rect.ts';
import type { SheetStyle } from '../../core/sheet/paper.ts';
import { pathOf } from './draw-border.ts';

/** Distance of a detail's letter from its outline, mm. */
const OFF_MM = 1.5;

/**
 * The outline of a detail on the view that it is a detail of, and its letter: a narrow line, the letter beside it where it
 * covers least (ISO 128-3).
 * @param covers does the view show something under a rectangle of paper?
 */
export function drawDetailMark(detail: ViewRecord, map: ViewMap, style: SheetStyle, covers: (r: Rect) => boolean): DisplayItem[] {
  const { within } = detail;
  if (!within) return [];
  const d = within.kind === 'circle' ? circlePath(...map.toPaper(within.at), within.radius * map.scale) : pathOf(ringOf(within), map);
  const [x0, y0, x1, y1] = outlineBox(within);
  const [left, right, top, foot] = [map.x(x0), map.x(x1), map.y(y1), map.y(y0)];
  const [cx, cy] = [(left + right) / 2, (top + foot) / 2];
  const letter = detail.detail?.letter ?? '';
  const width = textWidth(letter, style.letter);
  // A circle is nearer at its slants than its box.
  const k = within.kind === 'circle' ? Math.SQRT1_2 : 1;
  const [rx, ry] = [((right - left) / 2) * k + OFF_MM + width / 2, ((foot - top) / 2) * k + OFF_MM + style.letter / 2];
  const [sx, sy] = [(right - left) / 2 + OFF_MM + width / 2, (foot - top) / 2 + OFF_MM + style.letter / 2];
  const places: readonly (readonly [number, number])[] = [
    [cx + rx, cy - ry],
    [cx - rx, cy - ry],
    [cx + rx, cy + ry],
    [cx - rx, cy + ry],
    [cx + sx, cy],
    [cx, cy - sy],
    [cx - sx, cy],
    [cx, cy + sy],
  ];
  const rectAt = ([x, y]: readonly [number, number]): Rect => ({ x: x - width / 2, y: y - style.letter / 2, width, height: style.letter });
  const [x, y] = places.find((p) => !covers(rectAt(p))) ?? places[0]!;
  return [{ kind: 'stroke', d, width: style.narrow }, ...(letter ? [text(x, y + style.letter / 2, letter, style.letter, 'middle')] : [])];
}
