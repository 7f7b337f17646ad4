import { inflate, type Rect, type Segment } from '../../core/base/rect.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import type { BalloonRecord, ViewRecord } from '../../core/document/records.ts';
import type { Item } from '../../core/ledger/items.ts';
import type { SheetStyle } from '../../core/sheet/paper.ts';
import type { DisplayItem, Drawn, Source } from '../../core/picture/display-list.ts';
import { viewMapOf } from '../../core/views/view-map.ts';
import { joined } from '../../core/picture/ink.ts';
import { textWidth } from '../../core/picture/lettering.ts';
import { arrowHead, circlePath, line, num, text } from '../../core/picture/shapes.ts';

/** Centre of a balloon and end of its leader on the sheet, paper mm. */
export function balloonPlace(b: BalloonRecord, view: ViewRecord): { x: number; y: number; tipX: number; tipY: number } {
  const m = viewMapOf(view);
  return { x: view.at[0] + b.offset[0], y: view.at[1] + b.offset[1], tipX: m.x(b.anchor[0]), tipY: m.y(b.anchor[1]) };
}

/** End of its second leader on the sheet, paper mm. */
export function secondTip(b: BalloonRecord, view: ViewRecord): Vec2 | undefined {
  const m = viewMapOf(view);
  return b.second && [m.x(b.second.anchor[0]), m.y(b.second.anchor[1])];
}

/** Half sides of rectangles that cover a circle of radius 1 and leave its corners free: a leader may pass there. */
const DISC = [
  [1, 0.35],
  [0.72, 0.72],
  [0.35, 1],
] as const;
/** Air between a text and the circle around it, and under it to its line, mm. */
const AIR_MM = 1.2;
/** Texts of the two halves of a circle, as shares of the height of item numbers. */
const HALF = 0.72;

/** A component that a balloon identifies. */
export interface Identified {
  readonly component: number | undefined;
  readonly item: Item | undefined;
  /** What it says of its item, by key. */
  readonly word: (key: string) => string;
}

const WAYS: Readonly<Record<'right' | NonNullable<BalloonRecord['stackWay']>, Vec2>> = { right: [1, 0], left: [-1, 0], up: [0, -1], down: [0, 1] };

/** Half width and half height of what stands in a balloon with its shape, mm; circles grow with their text (ISO 6433: one size where it can be). */
function halves(b: BalloonRecord, words: string, style: SheetStyle): Vec2 {
  const w = textWidth(words, b.shape === 'split' ? style.item * HALF : style.item) / 2;
  if (b.shape === 'none' || b.shape === 'underline') return [w + AIR_MM / 2, style.item / 2 + AIR_MM / 2];
  const r = Math.max(style.balloon / 2, Math.hypot(w, style.item / 2) + AIR_MM * 0.4);
  return [r, r];
}

/** Shape, words and leader of an item reference, with those that stand in a stack with it (ISO 6433). A component that is gone shows a question mark. */
export function drawBalloon(b: BalloonRecord, view: ViewRecord, of: readonly Identified[], style: SheetStyle): Drawn {
  const { x, y, tipX, tipY } = balloonPlace(b, view);
  const sources = of.map(({ component, item }): Source => ({ ...(component === undefined ? {} : { component }), ...(item ? { item: item.number } : {}) }));
  const items: DisplayItem[] = [];
  const rects: Rect[] = [];
  const boxes: Rect[] = [];
  const way = WAYS[b.stackWay ?? 'right'];
  let [cx, cy] = [x, y];
  let [first, last]: [Vec2, Vec2] = [
    [0, 0],
    [0, 0],
  ];
  of.forEach(({ word }, i) => {
    const words = `${i === 0 && b.before ? `${b.before} ` : ''}${word(b.says ?? 'number')}`;
    const [w, h] = halves(b, words, style);
    if (i === 0) first = [w, h];
    else [cx, cy] = [cx + way[0] * (w + last[0]), cy + way[1] * (h + last[1])];
    last = [w, h];
    boxes.push({ x: cx - w, y: cy - h, width: 2 * w, height: 2 * h });
    const round = b.shape !== 'none' && b.shape !== 'underline';
    rects.push(...(round ? DISC.map(([kw, kh]) => ({ x: cx - kw * w, y: cy - kh * h, width: 2 * kw * w, height: 2 * kh * h })) : [boxes.at(-1)!]));
    items.push(...shapeOf(b, cx, cy, w, h, style, sources[i]!), ...wordsIn(b, word(b.lower ?? 'quantity'), words, cx, cy, style, sources[i]!));
  });
  const led = !b.noLeader && Math.hypot(tipX - x, tipY - y) > Math.min(...first);
  const segments: Segment[] = [];
  const leader = (tip: Vec2) => {
    const start = leaderStart(b, [x, y], first, tip);
    const bend: Vec2 | undefined = b.jogMm ? [start[0] + Math.sign(tip[0] - x || 1) * b.jogMm, start[1]] : undefined;
    const from = bend ?? start;
    const length = Math.hypot(tip[0] - from[0], tip[1] - from[1]) || 1;
    const end: DisplayItem =
      b.end === 'arrow'
        ? arrowHead(...tip, (tip[0] - from[0]) / length, (tip[1] - from[1]) / length, 3)
        : { kind: 'fill', d: circlePath(...tip, 0.6), color: '#000000' };
    const lines = bend
      ? ([
          [...start, ...bend],
          [...bend, ...tip],
        ] as const)
      : ([[...start, ...tip]] as const);
    for (const l of lines) segments.push([...l]);
    items.unshift(...lines.map((l) => ({ ...line(...l, style.narrow), source: sources[0] }) as DisplayItem), { ...end, source: sources[0] } as DisplayItem);
  };
  const second = secondTip(b, view);
  if (led && second) leader(second);
  if (led) leader([tipX, tipY]);
  const box = joined(boxes);
  const [item] = of.map((o) => o.item);
  return {
    id: b.id,
    role: 'balloon',
    label: item ? `Balloon ${of.map((o) => o.item?.number ?? '?').join(', ')}: ${item.values.description.text}` : 'Balloon without a component',
    box: [box.x, box.y, box.width, box.height],
    items: b.color ? items.map((i) => (i.kind === 'image' ? i : { ...i, color: b.color! })) : items,
    grab: inflate(box, 1),
    ink: joined([
      box,
      ...segments.map(([x1, y1, x2, y2]) => ({ x: Math.min(x1, x2), y: Math.min(y1, y2), width: Math.abs(x2 - x1), height: Math.abs(y2 - y1) })),
    ]),
    solid: { rects, segments },
  };
}

function shapeOf(b: BalloonRecord, x: number, y: number, w: number, h: number, style: SheetStyle, source: Source): DisplayItem[] {
  const width = style.narrow;
  switch (b.shape) {
    case 'none':
      return [];
    case 'underline':
      return [{ ...line(x - w, y + h, x + w, y + h, width), source } as DisplayItem];
    case 'hexagon': {
      const points = Array.from({ length: 6 }, (_, k) => `${num(x + w * Math.cos((k * Math.PI) / 3))} ${num(y + w * Math.sin((k * Math.PI) / 3))}`);
      return [{ kind: 'stroke', d: `M${points.join('L')}Z`, width, source }];
    }
    case 'split':
      return [{ kind: 'stroke', d: circlePath(x, y, w), width, source }, { ...line(x - w, y, x + w, y, width), source } as DisplayItem];
    default:
      return [{ kind: 'stroke', d: circlePath(x, y, w), width, source }];
  }
}

function wordsIn(b: BalloonRecord, lower: string, words: string, x: number, y: number, style: SheetStyle, source: Source): DisplayItem[] {
  if (b.shape !== 'split') return [text(x, y + style.item / 2, words, style.item, 'middle', source)];
  const size = style.item * HALF;
  return [text(x, y - 0.7, words, size, 'middle', source), text(x, y + 0.7 + size, lower, size, 'middle', source)];
}

/** Where the leader leaves: a circle on its rim, towards the tip; words at their nearer end, on their line if they have one. */
function leaderStart(b: BalloonRecord, [x, y]: Vec2, [w, h]: Vec2, [tipX, tipY]: Vec2): Vec2 {
  if (b.jogMm && b.shape !== 'underline') return [tipX < x ? x - w : x + w, y];
  if (b.shape === 'none' || b.shape === 'underline') return [tipX < x ? x - w : x + w, b.shape === 'underline' ? y + h : y];
  const d = Math.hypot(tipX - x, tipY - y) || 1;
  return [x + ((tipX - x) / d) * w, y + ((tipY - y) / d) * w];
}
