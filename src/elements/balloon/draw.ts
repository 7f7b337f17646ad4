import { inflate, type Rect } from '../../core/base/rect.ts';
import type { BalloonRecord, ViewRecord } from '../../core/document/records.ts';
import type { Item } from '../../core/ledger/items.ts';
import type { SheetStyle } from '../../core/sheet/formats.ts';
import type { DisplayItem, Drawn } from '../../core/picture/display-list.ts';
import { viewMapOf } from '../../core/views/view-map.ts';
import { joined } from '../../core/picture/ink.ts';
import { arrowHead, circlePath, line, text } from '../../core/picture/shapes.ts';

/** Centre of a balloon and end of its leader on the sheet, paper mm. */
export function balloonPlace(b: BalloonRecord, view: ViewRecord): { x: number; y: number; tipX: number; tipY: number } {
  const m = viewMapOf(view);
  return { x: view.at[0] + b.offset[0], y: view.at[1] + b.offset[1], tipX: m.x(b.anchor[0]), tipY: m.y(b.anchor[1]) };
}

/** Half sides of rectangles that cover a circle of radius 1 and leave its corners free: a leader may pass there. */
const DISC = [
  [1, 0.35],
  [0.72, 0.72],
  [0.35, 1],
] as const;

/** Circle, number and leader of an item reference (ISO 6433). A balloon whose component is gone shows a question mark. */
export function drawBalloon(b: BalloonRecord, view: ViewRecord, component: number | undefined, item: Item | undefined, style: SheetStyle): Drawn {
  const { x, y, tipX, tipY } = balloonPlace(b, view);
  const r = style.balloon / 2;
  const length = Math.hypot(tipX - x, tipY - y);
  const source = { ...(component === undefined ? {} : { component }), ...(item ? { item: item.number } : {}) };
  const circle: Rect = { x: x - r, y: y - r, width: 2 * r, height: 2 * r };
  const items: DisplayItem[] = [];
  if (length > r) {
    const [ux, uy] = [(tipX - x) / length, (tipY - y) / length];
    items.push({ ...line(x + ux * r, y + uy * r, tipX, tipY, style.narrow), source } as DisplayItem);
    items.push(
      b.end === 'arrow'
        ? ({ ...arrowHead(tipX, tipY, ux, uy, 3), source } as DisplayItem)
        : { kind: 'fill', d: circlePath(tipX, tipY, 0.6), color: '#000000', source },
    );
  }
  items.push({ kind: 'stroke', d: circlePath(x, y, r), width: style.narrow, source });
  items.push(text(x, y + style.item / 2, item ? String(item.number) : '?', style.item, 'middle', source));
  return {
    id: b.id,
    role: 'balloon',
    label: item ? `Balloon ${item.number}: ${item.values.description.text}` : 'Balloon without a component',
    box: [x - r, y - r, 2 * r, 2 * r],
    items,
    grab: inflate(circle, 1),
    ink: joined([circle, { x: Math.min(x, tipX), y: Math.min(y, tipY), width: Math.abs(tipX - x), height: Math.abs(tipY - y) }]),
    solid: {
      rects: DISC.map(([w, h]) => ({ x: x - w * r, y: y - h * r, width: 2 * w * r, height: 2 * h * r })),
      segments: length > r ? [[x, y, tipX, tipY]] : [],
    },
  };
}
