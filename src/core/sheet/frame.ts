import type { DisplayGroup, DisplayItem } from '../picture/display-list.ts';
import { line, rectangle, text } from '../picture/shapes.ts';
import type { SheetGeometry, SheetStyle } from './formats.ts';

/** Zones are about this long (ISO 5457). */
const ZONE_MM = 50;
const STRIP_MM = 5;

/** Frame, centring marks and the grid reference of ISO 5457: letters down the sides, numbers along top and foot; no I, no O. */
export function drawFrame(g: SheetGeometry, style: SheetStyle): DisplayGroup {
  const { frame } = g;
  const items: DisplayItem[] = [rectangle(frame, 0.7)];
  const right = frame.x + frame.width;
  const foot = frame.y + frame.height;
  const strip = { x: frame.x - STRIP_MM, y: frame.y - STRIP_MM, width: frame.width + 2 * STRIP_MM, height: frame.height + 2 * STRIP_MM };
  items.push(rectangle(strip, 0.25));
  const columns = Math.max(2, 2 * Math.round(frame.width / ZONE_MM / 2));
  const rows = Math.max(2, 2 * Math.round(frame.height / ZONE_MM / 2));
  const size = Math.min(3.5, style.text);
  for (let i = 0; i < columns; i++) {
    const x = frame.x + (frame.width * (i + 0.5)) / columns;
    for (const y of [frame.y - STRIP_MM / 2, foot + STRIP_MM / 2]) items.push(text(x, y + size / 2, String(i + 1), size, 'middle'));
    if (i === 0) continue;
    const edge = frame.x + (frame.width * i) / columns;
    items.push(line(edge, frame.y - STRIP_MM, edge, frame.y, 0.25), line(edge, foot, edge, foot + STRIP_MM, 0.25));
  }
  const letters = 'ABCDEFGHJKLMNPQRSTUVWXYZ';
  for (let j = 0; j < rows; j++) {
    const y = frame.y + (frame.height * (j + 0.5)) / rows;
    for (const x of [frame.x - STRIP_MM / 2, right + STRIP_MM / 2]) items.push(text(x, y + size / 2, letters[j % letters.length]!, size, 'middle'));
    if (j === 0) continue;
    const edge = frame.y + (frame.height * j) / rows;
    items.push(line(frame.x - STRIP_MM, edge, frame.x, edge, 0.25), line(right, edge, right + STRIP_MM, edge, 0.25));
  }
  // Centring marks reach 5 mm into the frame; not on the right, where lists stand.
  const [cx, cy] = [frame.x + frame.width / 2, frame.y + frame.height / 2];
  items.push(line(cx, frame.y - STRIP_MM, cx, frame.y + 5, 0.7), line(cx, foot + STRIP_MM, cx, foot - 5, 0.7));
  items.push(line(frame.x - STRIP_MM, cy, frame.x + 5, cy, 0.7), line(right + STRIP_MM, cy, right, cy, 0.7));
  return { id: 'frame', role: 'frame', label: 'Border', box: [0, 0, g.width, g.height], items };
}
