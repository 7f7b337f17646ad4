import type { Vec2 } from '../../../core/base/vector.ts';
import type { DisplayItem } from '../../../core/picture/display-list.ts';
import { textWidth } from '../../../core/picture/lettering.ts';
import { circlePath, line, num, text } from '../../../core/picture/shapes.ts';
import type { Standard } from '../../../core/sheet/paper.ts';
import type { SignRecord } from '../draw.ts';
import { arcPoints, strokes, type SignPen, type SignPicture } from './picture.ts';

type Weld = Extract<SignRecord['is'], { sign: 'weld' }>;
type Side = NonNullable<Weld['arrowSide']>;

/** Lines of each basic symbol in a square of side 1 that stands on the reference line, y upwards (ISO 2553, table 1). */
const SYMBOLS: Readonly<Record<Side['weld'], readonly (readonly Vec2[])[]>> = {
  fillet: [
    [
      [0, 0],
      [0, 1],
      [1, 0],
    ],
  ],
  square: [upright(0.35), upright(0.65)],
  v: [
    [
      [0, 1],
      [0.5, 0],
      [1, 1],
    ],
  ],
  bevel: [
    upright(0.3),
    [
      [0.3, 0],
      [1, 1],
    ],
  ],
  'v-root': [
    [
      [0, 1],
      [0.5, 0.45],
      [1, 1],
    ],
    upright(0.5, 0.45),
  ],
  'bevel-root': [
    upright(0.3),
    [
      [0.3, 0.45],
      [1, 1],
    ],
  ],
  u: [arcPoints(0.5, 1, 0.45, 0.55, 180, 360), upright(0.5, 0.45)],
  j: [upright(0.3), arcPoints(0.3, 1, 0.5, 0.55, 270, 360)],
  plug: [
    [
      [0, 0],
      [0, 0.6],
      [1, 0.6],
      [1, 0],
    ],
  ],
  spot: [arcPoints(0.5, 0, 0.5, 0.5, 0, 360)],
  seam: [
    arcPoints(0.5, 0, 0.5, 0.5, 0, 360),
    [
      [-0.1, 0.2],
      [1.1, 0.2],
    ],
    [
      [-0.1, -0.2],
      [1.1, -0.2],
    ],
  ],
  edge: [upright(0.2), upright(0.5), upright(0.8)],
  surfacing: [arcPoints(0.25, 0, 0.25, 0.3, 180, 0), arcPoints(0.75, 0, 0.25, 0.3, 180, 0)],
  backing: [arcPoints(0.5, 0, 0.5, 0.5, 180, 0)],
};
/** On both sides of the line at once. */
const STRADDLES: ReadonlySet<Side['weld']> = new Set(['spot', 'seam']);

function upright(x: number, to = 1): readonly Vec2[] {
  return [
    [x, 0],
    [x, to],
  ];
}

function contourOf({ weld, contour }: Side): readonly Vec2[] {
  // Over a fillet it lies along the slope.
  const [a, b]: [Vec2, Vec2] =
    weld === 'fillet'
      ? [
          [0.2, 1.15],
          [1.15, 0.2],
        ]
      : [
          [0, 1.25],
          [1, 1.25],
        ];
  if (contour === 'flat') return [a, b];
  const out: Vec2 = weld === 'fillet' ? [Math.SQRT1_2, Math.SQRT1_2] : [0, 1];
  const bow = contour === 'convex' ? 0.2 : -0.2;
  return Array.from({ length: 9 }, (_, i): Vec2 => {
    const t = i / 8;
    const b4 = 4 * t * (1 - t) * bow + (contour === 'concave' ? 0.1 : 0);
    return [a[0] + (b[0] - a[0]) * t + out[0] * b4, a[1] + (b[1] - a[1]) * t + out[1] * b4];
  });
}

/**
 * A weld on its reference line. ISO 2553 system A: a dashed line beside the solid one stands for the other side, and is left out
 * when both sides are alike. ASME (AWS A2.4, as system B of ISO 2553): no dashed line, the arrow side below the line.
 */
export function weldPicture(w: Weld, standard: Standard, { at: [x, y], h, width, side }: SignPen): SignPicture {
  const s = 1.6 * h;
  const gap = 0.35 * h;
  const { arrowSide: near, otherSide: far } = w;
  const alike = near && far && near.weld === far.weld && near.size === far.size && near.length === far.length && near.contour === far.contour;
  const iso = standard === 'iso';
  const straddles = [near, far].some((o) => o && STRADDLES.has(o.weld));
  const dashed = iso && (far !== undefined || near !== undefined) && !alike && !straddles;
  const widest = (of: 'size' | 'length') => Math.max(0, ...[near, far].map((o) => (o ? textWidth(o[of], h) : 0)));
  const [left, right] = [widest('size'), widest('length')];
  const symbol = 1.6 * h + left + gap;
  const total = symbol + s + gap + right + 1.6 * h;
  const lead = side === 'left' ? x : x - total;
  const items: DisplayItem[] = [line(lead, y, lead + total, y, width)];
  const low = 0.7 * h;
  if (dashed) items.push(line(lead, y + low, lead + total, y + low, width, [2, 0.8]));
  const put = (o: Side, up: boolean, base: number) => {
    const way = up ? -1 : 1;
    const on = ([px, py]: Vec2): Vec2 => [lead + symbol + px * s, base + way * py * s];
    items.push(strokes(width, ...SYMBOLS[o.weld].map((l) => l.map(on))));
    if (o.contour) items.push(strokes(width, contourOf(o).map(on)));
    const foot = up ? base - gap : base + gap + h;
    if (o.size) items.push(text(lead + symbol - gap, foot, o.size, h, 'end'));
    if (o.length) items.push(text(lead + symbol + s + gap, foot, o.length, h, 'start'));
  };
  if (near) put(near, iso, y);
  if (far) put(far, !iso, dashed ? y + low : y);
  const joint: Vec2 = [side === 'left' ? lead : lead + total, y];
  if (w.around) items.push({ kind: 'stroke', d: circlePath(joint[0], joint[1], 0.6 * h), width });
  if (w.field) {
    const top = y - 3 * h;
    items.push(line(joint[0], y, joint[0], top, width));
    items.push({
      kind: 'fill',
      d: `M${num(joint[0])} ${num(top)}L${num(joint[0] + 1.2 * h)} ${num(top + 0.5 * h)}L${num(joint[0])} ${num(top + h)}Z`,
      color: '#000000',
    });
  }
  if (w.tail) {
    const [end, out] = side === 'left' ? [lead + total, 1] : [lead, -1];
    items.push(
      strokes(width, [
        [end + out * h, y - h],
        [end, y],
        [end + out * h, y + h],
      ]),
    );
    items.push(text(end + out * 1.2 * h, y + h / 2, w.tail, h, out > 0 ? 'start' : 'end'));
  }
  return { items, left: [lead, y], right: [lead + total, y], shelfMm: 0 };
}
