import { titleBlockRect } from './title-block.ts';
import type { DisplayItem, Drawn } from '../../core/picture/display-list.ts';
import { NOTHING_SOLID } from '../../core/picture/solid.ts';
import { line, rectangle, text } from '../../core/picture/shapes.ts';
import type { SheetGeometry, SheetStyle } from '../../core/sheet/formats.ts';

/** Length of a zone (ISO 5457). */
const ZONE_MM = 50;
const STRIP_MM = 5;

/**
 * Where zones end along one side: 50 mm each from the sheet's axis of symmetry outwards, the corner ones take what is left
 * (ISO 5457, from memory); inch sheets divide the frame evenly (common practice).
 * @param sheet length of the side @param from,to ends of the frame along it, mm
 * @returns frame end, divisions, frame end
 */
export function zonesAlong(sheet: number, from: number, to: number, even: boolean): number[] {
  const half = Math.max(1, Math.round(sheet / 2 / ZONE_MM));
  if (even) {
    const n = Math.max(2, 2 * Math.round((to - from) / ZONE_MM / 2));
    return Array.from({ length: n + 1 }, (_, i) => from + ((to - from) * i) / n);
  }
  const inner = Array.from({ length: 2 * half - 1 }, (_, i) => sheet / 2 + (i - half + 1) * ZONE_MM);
  return [from, ...inner.filter((v) => v > from && v < to), to];
}

/** Frame, centring marks and the grid reference of ISO 5457: letters down the sides, numbers along top and foot; no I, no O. */
export function drawFrame(g: SheetGeometry, style: SheetStyle): Drawn {
  const { frame } = g;
  const items: DisplayItem[] = [rectangle(frame, 0.7)];
  const right = frame.x + frame.width;
  const foot = frame.y + frame.height;
  const strip = { x: frame.x - STRIP_MM, y: frame.y - STRIP_MM, width: frame.width + 2 * STRIP_MM, height: frame.height + 2 * STRIP_MM };
  items.push(rectangle(strip, 0.25));
  const even = frame.x * 2 + frame.width === g.width;
  const columns = zonesAlong(g.width, frame.x, right, even);
  const rows = zonesAlong(g.height, frame.y, foot, even);
  const size = Math.min(3.5, style.text);
  columns.slice(1).forEach((end, i) => {
    const x = (columns[i]! + end) / 2;
    for (const y of [frame.y - STRIP_MM / 2, foot + STRIP_MM / 2]) items.push(text(x, y + size / 2, String(i + 1), size, 'middle'));
    if (i === 0) return;
    const edge = columns[i]!;
    items.push(line(edge, frame.y - STRIP_MM, edge, frame.y, 0.25), line(edge, foot, edge, foot + STRIP_MM, 0.25));
  });
  const letters = 'ABCDEFGHJKLMNPQRSTUVWXYZ';
  rows.slice(1).forEach((end, j) => {
    const y = (rows[j]! + end) / 2;
    for (const x of [frame.x - STRIP_MM / 2, right + STRIP_MM / 2]) items.push(text(x, y + size / 2, letters[j % letters.length]!, size, 'middle'));
    if (j === 0) return;
    const edge = rows[j]!;
    items.push(line(frame.x - STRIP_MM, edge, frame.x, edge, 0.25), line(right, edge, right + STRIP_MM, edge, 0.25));
  });
  // Centring marks stand on the sheet's axes of symmetry and reach 5 mm into the frame; not on the right, where lists stand,
  // nor into the title block.
  const [cx, cy] = [g.width / 2, g.height / 2];
  const into = cx > titleBlockRect(g).x ? 0 : 5;
  items.push(line(cx, frame.y - STRIP_MM, cx, frame.y + 5, 0.7), line(cx, foot + STRIP_MM, cx, foot - into, 0.7));
  items.push(line(frame.x - STRIP_MM, cy, frame.x + 5, cy, 0.7), line(right + STRIP_MM, cy, right, cy, 0.7));
  return { id: 'frame', role: 'frame', label: 'Border', box: [0, 0, g.width, g.height], items, ink: strip, solid: NOTHING_SOLID };
}
