import type { Vec2 } from '../../../core/base/vector.ts';
import type { DisplayItem } from '../../../core/picture/display-list.ts';
import { textWidth } from '../../../core/picture/lettering.ts';
import { circlePath, line, num, text } from '../../../core/picture/shapes.ts';
import { arcPoints, strokes, type SignPen, type SignPicture } from './picture.ts';

/** A hook: here it is lifted; with what is said of it (common practice). */
export function liftingPicture(words: string, { at: [x, y], h, width, side }: SignPen): SignPicture {
  // As wide as the hook, so that its leader touches it.
  const total = 1.4 * h + (words ? textWidth(words, h) + 0.5 * h : 0);
  const left = side === 'left' ? x : x - total;
  const cx = left + 0.7 * h;
  const items: DisplayItem[] = [
    { kind: 'stroke', d: circlePath(cx, y - 1.25 * h, 0.35 * h), width: 2 * width },
    strokes(2 * width, [[cx, y - 0.9 * h], [cx, y - 0.2 * h], ...arcPoints(cx, y + 0.5 * h, 0.7 * h, 0.7 * h, -90, 180)]),
  ];
  if (words) items.push(text(left + 1.9 * h, y + h / 2, words, h, 'start'));
  return { items, left: [left, y], right: [left + total, y], shelfMm: 0 };
}

/** The centre of mass, a circle with two of its quarters filled (ISO 780, ISO 7000 no. 0627, from memory), and a line to what is said of it. */
export function massCentrePicture(centre: Vec2, words: string, { at: [x, y], h, width }: SignPen): SignPicture {
  const r = 0.9 * h;
  const [cx, cy] = centre;
  const quarter = (sx: number, sy: number) =>
    `M${num(cx)} ${num(cy)}L${num(cx + sx * r)} ${num(cy)}A${num(r)} ${num(r)} 0 0 ${sx * sy > 0 ? 1 : 0} ${num(cx)} ${num(cy + sy * r)}Z`;
  const items: DisplayItem[] = [
    { kind: 'fill', d: quarter(1, -1) + quarter(-1, 1), color: '#000000' },
    { kind: 'stroke', d: circlePath(cx, cy, r), width },
    line(cx - 1.6 * r, cy, cx + 1.6 * r, cy, width),
    line(cx, cy - 1.6 * r, cx, cy + 1.6 * r, width),
  ];
  if (words) {
    const onRight = x >= cx;
    const l = Math.hypot(x - cx, y - cy);
    if (l > 2 * r) items.push(line(cx + ((x - cx) / l) * r, cy + ((y - cy) / l) * r, x, y, width));
    items.push(text(x + (onRight ? 0.4 : -0.4) * h, y + h / 2, words, h, onRight ? 'start' : 'end'));
  }
  return { items, left: centre, right: centre, shelfMm: 0 };
}
