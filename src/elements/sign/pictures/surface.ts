import type { Vec2 } from '../../../core/base/vector.ts';
import type { DisplayItem } from '../../../core/picture/display-list.ts';
import { textWidth } from '../../../core/picture/lettering.ts';
import { circlePath, text } from '../../../core/picture/shapes.ts';
import type { SignRecord } from '../draw.ts';
import { strokes, type SignPen, type SignPicture } from './picture.ts';

type Surface = Extract<SignRecord['is'], { sign: 'surface' }>;

/** Heights over the tip, shares of the height of capitals (ISO 21920-1 as ISO 1302, annex: 3.5 and 7.5 mm and more for 2.5 mm letters). */
const SHORT = 1.4;
const LONG = 3;
const SLOPE = Math.tan(Math.PI / 6);
/** Leaders end with the level line that the sign stands on. */
const SHELF = 1.6;

/** Surface texture: the tip at the reference point. */
export function surfacePicture(s: Surface, { at: [x, y], h, width }: SignPen): SignPicture {
  const [low, high] = [SHORT * h, Math.max(LONG, s.limits.length > 1 ? 4.4 : 0) * h];
  const knee: Vec2 = [x + high * SLOPE, y - high];
  const words = Math.max(0, ...[...s.limits, s.process].map((t) => textWidth(t, h)));
  const out: Vec2 = [knee[0] + words + h, knee[1]];
  const short: Vec2 = [x - low * SLOPE, y - low];
  const items: DisplayItem[] = [strokes(width, words > 0 ? [short, [x, y], knee, out] : [short, [x, y], knee])];
  if (s.removal === 'required') items.push(strokes(width, [short, [x + low * SLOPE, y - low]]));
  if (s.removal === 'forbidden') items.push({ kind: 'stroke', d: circlePath(x, y - (2 * low) / 3, low / 3), width });
  if (s.around) items.push({ kind: 'stroke', d: circlePath(knee[0], knee[1], 0.5 * h), width });
  const start = knee[0] + 0.5 * h;
  s.limits.forEach((t, i) => items.push(text(start, knee[1] + h * (1.4 + 1.5 * i), t, h, 'start')));
  if (s.process) items.push(text(start, knee[1] - 0.4 * h, s.process, h, 'start'));
  const [lx, ly] = [x + 0.9 * h, y - 0.1 * h];
  // The sign of “square to” is in no lettering.
  if (s.lay === '⊥')
    items.push(
      strokes(
        width,
        [
          [lx, ly],
          [lx + h, ly],
        ],
        [
          [lx + h / 2, ly],
          [lx + h / 2, ly - h],
        ],
      ),
    );
  else if (s.lay) items.push(text(lx, ly, s.lay, h, 'start'));
  if (s.allowance) items.push(text(short[0] - 0.3 * h, y - 0.1 * h, s.allowance, h, 'end'));
  const half = SHELF * h;
  return { items, left: [x - half, y], right: [x + half, y], shelfMm: 0 };
}

/** The level line under a surface texture sign that a leader carries. */
export const surfaceShelf = ({ at: [x, y], h, width }: SignPen): DisplayItem =>
  strokes(width, [
    [x - SHELF * h, y],
    [x + SHELF * h, y],
  ]);
