import { inflate, type Rect, type Segment } from '../../core/base/rect.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import { plainText, valueParts, wholeStyle, type ValueParts, type WholeStyle } from '../../core/dimension/value.ts';
import { layOutValue, type ValuePicture } from '../../core/dimension/value-layout.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { DisplayItem, Drawn } from '../../core/picture/display-list.ts';
import { inkOf, joined, textRect } from '../../core/picture/ink.ts';
import { arrowHead, circlePath, line, num, rectangle } from '../../core/picture/shapes.ts';
import type { SheetStyle } from '../../core/sheet/paper.ts';
import type { Scene } from '../scene.ts';
import { holdOf, isLost } from '../target.ts';
import { viewRect } from '../view/draw.ts';
import { hasChanged, chamferAngle, measured, type Corner, type DimensionRecord, type Measured, type Pointed, type Round, type Stretch } from './measure.ts';

/** Extension lines begin so far from the outline and run so far past the dimension line, mm (ISO 129-1 and common practice). */
const GAP_MM = 1;
const PAST_MM = 2;
/** First line beside a view, and from line to line, mm (common practice). */
export const FIRST_MM = 10;
export const NEXT_MM = 7;
/** Text stands so far above its line, mm. */
const OVER_MM = 0.9;
/** A value that nobody has seen since it changed stands in a box of this. */
const CHANGED_COLOR = '#b45309';
/** What was lost is drawn in this, so that nobody takes it for true. */
const LOST_COLOR = '#a3392a';

/** Everything that decides how dimensions of a sheet look. */
interface Look {
  readonly style: WholeStyle;
  readonly height: number;
  readonly arrow: number;
  readonly width: number;
  /** Text runs along its line (ISO 129-1), or stands level in it (ASME Y14.5). */
  readonly along: boolean;
}

/** A picture in the making. */
class Ink {
  readonly items: DisplayItem[] = [];
  /** What a dimension is taken hold of by. */
  readonly lines: Segment[] = [];
  readonly texts: Rect[] = [];
  /** Of a straight dimension: its ends and its direction. */
  line: { readonly ends: readonly [Vec2, Vec2]; readonly way: Vec2 } | undefined;
  readonly look: Look;

  constructor(look: Look) {
    this.look = look;
  }

  stroke(a: Vec2, b: Vec2, grab = false): void {
    this.items.push(line(a[0], a[1], b[0], b[1], this.look.width));
    if (grab) this.lines.push([a[0], a[1], b[0], b[1]]);
  }

  /** The end of a dimension line: its tip at a place, looking along a direction. */
  end(at: Vec2, way: Vec2): void {
    const { arrow, width, style } = this.look;
    const [x, y] = at;
    if (style.arrows === 'dot') this.items.push({ kind: 'fill', d: circlePath(x, y, 0.6), color: '#000000' });
    else if (style.arrows === 'stroke') {
      // A stroke at 45° to the line.
      const [sx, sy] = [(way[0] - way[1]) * 1.1, (way[1] + way[0]) * 1.1];
      this.items.push(line(x - sx, y - sy, x + sx, y + sy, width));
    } else if (style.arrows === 'open') {
      const [bx, by] = [x - way[0] * arrow, y - way[1] * arrow];
      const h = arrow / 4;
      this.items.push({
        kind: 'stroke',
        d: `M${num(bx - way[1] * h)} ${num(by + way[0] * h)}L${num(x)} ${num(y)}L${num(bx + way[1] * h)} ${num(by - way[0] * h)}`,
        width,
      });
    } else this.items.push(arrowHead(x, y, way[0], way[1], arrow));
  }

  /** @param at middle of the baseline @param turn degrees against the clock */
  text(p: ValuePicture, at: Vec2, turn: number): void {
    const rad = (turn * Math.PI) / 180;
    const [c, s] = [Math.cos(rad), Math.sin(rad)];
    const place = (x: number, y: number): Vec2 => [at[0] + (x - p.width / 2) * c + y * s, at[1] - (x - p.width / 2) * s + y * c];
    for (const { text, x, y, height } of p.pieces) {
      const [px, py] = place(x, y);
      const item = { kind: 'text' as const, x: px, y: py, text, height, anchor: 'start' as const, ...(turn ? { turn } : {}) };
      this.items.push(item);
      this.texts.push(textRect(item));
    }
    for (const [x0, y0, x1, y1] of p.strokes) this.items.push(line(...place(x0, y0), ...place(x1, y1), this.look.width));
  }
}

/** How the values of a dimension are written: its own style goes before the job's. */
export const styleOf = (record: Pick<DimensionRecord, 'style'>, scene: Scene): WholeStyle =>
  wholeStyle(scene.drawing.standard, record.style, scene.drawing.values);

/** The look of dimensions in a view; a record's own style goes before the job's. */
function lookOf(scene: Scene, view: ViewRecord, record: DimensionRecord): Look {
  const sheet: SheetStyle = scene.page(view.sheet).style;
  const style = styleOf(record, scene);
  return { style, height: style.heightMm ?? sheet.text, arrow: Math.max(2.5, sheet.text), width: sheet.narrow, along: style.standard === 'iso' };
}

/** What a dimension says: each value of its row, and how it is written. */
export function valuesOf(record: DimensionRecord, scene: Scene): readonly { readonly measured: Measured; readonly parts: ValueParts }[] {
  const view = scene.one('view', record.view);
  const all = view && measured(record, scene);
  if (!all) return [];
  const { style } = lookOf(scene, view, record);
  return all.map((m) => ({ measured: m, parts: partsOf(record, m, style, scene, view) }));
}

function partsOf(record: DimensionRecord, m: Measured, style: WholeStyle, scene: Scene, view: ViewRecord): ValueParts {
  const parts = valueParts(m.value, m.kind, style, record.text);
  if (m.kind !== 'chamfer' || record.text?.typed !== undefined) return parts;
  const hold = holdOf(scene, view, record.of[0]!);
  const degrees = hold ? Math.round((chamferAngle(hold) * 1800) / Math.PI) / 10 : 45;
  return { ...parts, trail: ` × ${degrees}°${parts.trail}` };
}

/** In one line, for people and programs. */
export const textOf = (record: DimensionRecord, scene: Scene): string =>
  valuesOf(record, scene)
    .map((v) => plainText(v.parts))
    .join(', ');

export interface DimensionPicture extends Drawn {
  /** Boxes of its texts. */
  readonly texts: readonly Rect[];
  /** Of a single straight one: the ends of its line, where its extension lines come to, and the direction of the line, paper mm. */
  readonly line?: { readonly ends: readonly [Vec2, Vec2]; readonly way: Vec2 } | undefined;
}

/** A jogged extension line is straight over this share of its length at both ends. */
const KNEE = 0.35;

/** A dimension's picture; one that lost its target is drawn where it was, in another colour and with a question mark. */
export function drawDimension(record: DimensionRecord, scene: Scene): DimensionPicture[] {
  const view = scene.one('view', record.view);
  if (!view || view.off || scene.drawing.dimensionsOff) return [];
  const look = lookOf(scene, view, record);
  const lost = record.of.some(isLost);
  const shown = lost ? { ...record, of: record.of.map((t) => (isLost(t) && t.at ? { at: t.at } : t)) } : record;
  const all = measured(shown, scene);
  if (!all?.length) return [];
  const ink = new Ink(look);
  const map = scene.map(view);
  const paper = (p: Vec2) => map.toPaper(p);
  const lay = (m: Measured) => {
    const parts = partsOf(record, m, look.style, scene, view);
    return layOutValue(
      lost ? { ...parts, main: { text: `${record.seen ? plainText(valueParts(record.seen[0]!, m.kind, look.style)) : ''}?` }, lead: '' } : parts,
      look.style,
      look.height,
    );
  };
  if (record.row === 'running' && all[0]!.shape === 'stretch') drawRunning(ink, record, all as readonly Stretch[], lay, paper, rectOfView(view, scene));
  else
    all.forEach((m, i) => {
      const nth = record.row === 'baseline' ? i : 0;
      if (m.shape === 'stretch') drawStretch(ink, record, m, lay(m), paper, rectOfView(view, scene), nth);
      else if (m.shape === 'round') drawRound(ink, record, m, lay(m), paper, map.scale);
      else if (m.shape === 'corner') drawCorner(ink, record, m, lay(m), paper, map.scale);
      else drawPointed(ink, record, m, lay(m), paper);
    });
  const text = joined(ink.texts);
  const changed = !lost && all.some((m, i) => hasChanged(record.seen?.[i], m.value));
  const items = lost
    ? ink.items.map((i) => (i.kind === 'image' ? i : { ...i, color: LOST_COLOR }))
    : changed
      ? [...ink.items, { ...rectangle(inflate(text, 0.7), 0.35), color: CHANGED_COLOR } as DisplayItem]
      : ink.items;
  const box = joined(inkOf(items));
  return [
    {
      id: record.id,
      role: 'dimension',
      label: lost ? `Dimension that lost what it measured` : `Dimension ${textOf(record, scene)}${changed ? ', changed' : ''}`,
      box: [box.x, box.y, box.width, box.height],
      items,
      ink: box,
      // Lines cross others where they must; texts are kept clear.
      solid: { rects: ink.texts, segments: ink.lines },
      grab: inflate(text, 0.8),
      grabLines: ink.lines,
      texts: ink.texts,
      line: record.row ? undefined : ink.line,
    },
  ];
}

const rectOfView = (view: ViewRecord, scene: Scene): Rect => {
  const [x, y, width, height] = viewRect(view, scene.result(view.id));
  return { x, y, width, height };
};

/** Where the line of a stretch stands: a point of it, paper mm; and the direction of the line. */
export function lineOf(record: DimensionRecord, s: Stretch, from: Vec2, box: Rect, nth: number): { readonly at: Vec2; readonly way: Vec2 } {
  const way: Vec2 = [s.along[0], -s.along[1]];
  const away = record.away + nth * NEXT_MM * (record.away < 0 && !record.side ? -1 : 1);
  if (record.kind === 'level') return { at: [from[0], record.side === 'top' ? box.y - away : box.y + box.height + away], way };
  if (record.kind === 'upright') return { at: [record.side === 'left' ? box.x - away : box.x + box.width + away, from[1]], way };
  // To the left of the way from the first to the second, on paper upwards for one that goes to the right.
  return { at: [from[0] + way[1] * away, from[1] - way[0] * away], way };
}

const onLine = (p: Vec2, at: Vec2, way: Vec2): Vec2 => {
  const t = (p[0] - at[0]) * way[0] + (p[1] - at[1]) * way[1];
  return [at[0] + way[0] * t, at[1] + way[1] * t];
};
const step = (p: Vec2, way: Vec2, by: number): Vec2 => [p[0] + way[0] * by, p[1] + way[1] * by];
const apart = (a: Vec2, b: Vec2) => Math.hypot(b[0] - a[0], b[1] - a[1]);
const unit = (a: Vec2, b: Vec2, otherwise: Vec2): Vec2 => {
  const l = apart(a, b);
  return l > 1e-9 ? [(b[0] - a[0]) / l, (b[1] - a[1]) / l] : otherwise;
};

/** Extension lines are as short as can be: they begin at the end that is nearer to the dimension line. */
function nearestEnd(p: Vec2, ends: readonly [Vec2, Vec2] | undefined, a: Vec2, paper: (p: Vec2) => Vec2): Vec2 {
  return (ends ?? []).map(paper).reduce((best, e) => (apart(e, a) < apart(best, a) ? e : best), p);
}

/** The thin line from what is measured to past the dimension line; one that comes to another place there has a jog on its way (ISO 129-1). */
function extension(ink: Ink, p: Vec2, a: Vec2, end = a): void {
  const l = apart(p, a);
  if (l < GAP_MM) return;
  const way = unit(p, a, [0, 1]);
  if (apart(a, end) > 1e-6) {
    const knees = [step(p, way, Math.max(GAP_MM, l * KNEE)), step(end, way, -l * KNEE)] as const;
    ink.stroke(step(p, way, GAP_MM), knees[0]);
    ink.stroke(knees[0], knees[1]);
    ink.stroke(knees[1], step(end, way, PAST_MM));
    return;
  }
  ink.stroke(step(p, way, GAP_MM), step(a, way, PAST_MM));
}

/** Degrees against the clock at which a text along a direction reads from the foot or from the right. */
function readable(way: Vec2): number {
  let turn = (Math.atan2(-way[1], way[0]) * 180) / Math.PI;
  if (turn > 90 + 1e-6) turn -= 180;
  if (turn <= -90 + 1e-6) turn += 180;
  return Math.abs(turn) < 1e-6 ? 0 : turn;
}

function drawStretch(ink: Ink, record: DimensionRecord, s: Stretch, text: ValuePicture, paper: (p: Vec2) => Vec2, box: Rect, nth: number): void {
  const [p, q] = [paper(s.from), paper(s.to)];
  const { at, way } = lineOf(record, s, p, box, nth);
  const [a, b] = [onLine(p, at, way), onLine(q, at, way)];
  const [first, second] = (!record.row && record.jogs) || [0, 0];
  const [from, to] = [step(a, way, first), step(b, way, second)];
  ink.line = { ends: [from, to], way };
  if (record.half !== 'first') extension(ink, nearestEnd(p, s.fromEnds, a, paper), a, from);
  if (record.half !== 'last') extension(ink, nearestEnd(q, s.toEnds, b, paper), b, to);
  const half = record.half ?? (s.half ? 'first' : undefined);
  // From left to right, and from the foot upwards, as the text reads.
  const turn = readable(way);
  const reads = readable(way) === (Math.atan2(-way[1], way[0]) * 180) / Math.PI || turn === 0 ? unit(a, b, way) : unit(b, a, way);
  dimensionLine(ink, record, from, to, reads, text, half);
}

/** The line with its ends and the text, on it or beside it. */
function dimensionLine(ink: Ink, record: DimensionRecord, a: Vec2, b: Vec2, reads: Vec2, text: ValuePicture, half: 'first' | 'last' | undefined): void {
  const { arrow, along } = ink.look;
  const l = apart(a, b);
  const way = unit(a, b, reads);
  const turn = along ? readable(way) : 0;
  const across = turn === 0 && Math.abs(way[1]) > 0.5 ? text.rise + text.drop : text.width;
  const heads = ink.look.style.arrows === 'dot' || ink.look.style.arrows === 'stroke' ? 0 : arrow;
  const fits = across + 2 * heads + 1.5 <= l;
  const inside = record.arrows ? record.arrows === 'inside' : l >= 2 * heads + (fits && !along ? across : 1.5);
  const middle: Vec2 = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  // What does not fit between stands beside the end that is read last.
  const last = (b[0] - a[0]) * reads[0] + (b[1] - a[1]) * reads[1] >= 0 ? b : a;
  const beyond = across / 2 + (inside ? 1 : 2 * arrow + 0.5);
  const spot =
    record.slide !== undefined ? step(middle, reads, record.slide) : fits || (across + 1 <= l && along && !inside) ? middle : step(last, reads, beyond);
  const jog = record.jog ?? 0;
  const up: Vec2 = [reads[1], -reads[0]];
  const lifted = jog ? step(spot, up, jog) : spot;
  const onto = (p: Vec2) => (p[0] - middle[0]) * reads[0] + (p[1] - middle[1]) * reads[1];
  const [from, to] = half === 'first' ? [step(middle, way, -Math.min(3, l / 4)), b] : half === 'last' ? [a, step(middle, way, Math.min(3, l / 4))] : [a, b];
  const reach = (side: 1 | -1) => side * Math.max(l / 2, inside ? 0 : l / 2 + 2 * arrow);
  const textFrom = onto(spot) - across / 2 - 0.5;
  const textTo = onto(spot) + across / 2 + 0.5;
  const start = Math.min(reach(-1), textFrom < -l / 2 ? textFrom : Infinity);
  const end = Math.max(reach(1), textTo > l / 2 ? textTo : -Infinity);
  const pieces: [Vec2, Vec2][] = [];
  if (half) pieces.push([from, to]);
  else if (along || jog) pieces.push([step(middle, reads, start), step(middle, reads, end)]);
  else {
    // The line is broken where the text stands in it.
    if (textFrom > start) pieces.push([step(middle, reads, start), step(middle, reads, textFrom)]);
    if (textTo < end) pieces.push([step(middle, reads, textTo), step(middle, reads, end)]);
  }
  for (const [f, t] of pieces) ink.stroke(f, t, true);
  if (jog) ink.stroke(spot, lifted, true);
  const out = inside ? 1 : -1;
  if (half !== 'first') ink.end(a, [-way[0] * out, -way[1] * out]);
  if (half !== 'last') ink.end(b, [way[0] * out, way[1] * out]);
  ink.text(text, along ? step(lifted, up, OVER_MM + text.drop) : [lifted[0], lifted[1] + (text.rise - text.drop) / 2], turn);
}

/** Values from one zero, each at the end of its extension line (ISO 129-1, superimposed running dimensions). */
function drawRunning(
  ink: Ink,
  record: DimensionRecord,
  all: readonly Stretch[],
  lay: (m: Measured) => ValuePicture,
  paper: (p: Vec2) => Vec2,
  box: Rect,
): void {
  const [first] = all as [Stretch];
  const zero = paper(first.from);
  const { at, way } = lineOf(record, first, zero, box, 0);
  const start = onLine(zero, at, way);
  const outward = unit(zero, start, [way[1], -way[0]]);
  const place = (p: Vec2, text: ValuePicture) => {
    const a = onLine(p, at, way);
    extension(ink, p, a);
    const turn = readable(outward);
    const half = text.width / 2 + PAST_MM + 0.8;
    const upwards: Vec2 = [Math.sin((turn * Math.PI) / 180), Math.cos((turn * Math.PI) / 180)];
    const centre = step(a, outward, half);
    ink.text(text, [centre[0] + (upwards[0] * (text.rise - text.drop)) / 2, centre[1] + (upwards[1] * (text.rise - text.drop)) / 2], turn);
    return a;
  };
  place(zero, lay({ ...first, value: 0 }));
  ink.items.push({ kind: 'stroke', d: circlePath(start[0], start[1], 0.9), width: ink.look.width });
  for (const s of all) {
    const a = place(paper(s.to), lay(s));
    const way = unit(start, a, [1, 0]);
    if (apart(start, a) > 1e-6) {
      ink.stroke(start, a, true);
      ink.end(a, way);
    }
  }
}

/** From the rim outwards along a radius, then level; large circles have their line through the middle. */
function drawRound(ink: Ink, record: DimensionRecord, m: Round, text: ValuePicture, paper: (p: Vec2) => Vec2, scale: number): void {
  const c = paper(m.centre);
  const r = m.radius * scale;
  const angle = record.turn ?? Math.PI / 4;
  const way: Vec2 = [Math.cos(angle), -Math.sin(angle)];
  const rim = step(c, way, r);
  const { arrow } = ink.look;
  const outside = record.away >= 0;
  const corner = step(c, way, r + record.away);
  const side = way[0] < -1e-9 ? -1 : 1;
  if (outside) {
    if (m.kind === 'diameter' && r > 2 * arrow && record.arrows !== 'outside') {
      const far = step(c, way, -r);
      ink.stroke(far, corner, true);
      ink.end(far, [-way[0], -way[1]]);
      ink.end(rim, way);
    } else {
      ink.stroke(rim, corner, true);
      ink.end(rim, [-way[0], -way[1]]);
    }
  } else {
    // Inside: from the centre, or the place of the text, to the rim.
    ink.stroke(m.kind === 'radius' ? c : corner, rim, true);
    ink.end(rim, way);
  }
  shelf(ink, corner, side, text);
}

/** A short level line that carries a text over it, or before it where texts stand in their lines. */
function shelf(ink: Ink, at: Vec2, side: 1 | -1, text: ValuePicture): void {
  const { along } = ink.look;
  const end: Vec2 = [at[0] + side * (along ? text.width + 1 : 2), at[1]];
  ink.stroke(at, end, true);
  const middle = along ? (at[0] + end[0]) / 2 : end[0] + side * (0.6 + text.width / 2);
  ink.text(text, [middle, along ? at[1] - OVER_MM - text.drop : at[1] + (text.rise - text.drop) / 2], 0);
}

function drawCorner(ink: Ink, record: DimensionRecord, m: Corner, text: ValuePicture, paper: (p: Vec2) => Vec2, scale: number): void {
  const c = paper(m.centre);
  const radius = m.kind === 'arc' ? m.reach[0] * scale + record.away : Math.max(2, record.away);
  const at = (a: number, r = radius): Vec2 => [c[0] + r * Math.cos(a), c[1] - r * Math.sin(a)];
  const [from, to] = [m.start, m.start + m.turn];
  [from, to].forEach((a, i) => {
    const end = m.reach[i]! * scale;
    if (radius > end + GAP_MM) ink.stroke(at(a, end + GAP_MM), at(a, radius + PAST_MM));
  });
  const length = radius * m.turn;
  const { arrow } = ink.look;
  const inside = record.arrows ? record.arrows === 'inside' : length > 2 * arrow + 1.5;
  const more = inside ? 0 : (2 * arrow) / radius;
  const steps = (a: number, b: number) => {
    const large = Math.abs(b - a) > Math.PI ? 1 : 0;
    const [p, q] = [at(a), at(b)];
    ink.items.push({
      kind: 'stroke',
      d: `M${num(p[0])} ${num(p[1])}A${num(radius)} ${num(radius)} 0 ${large} 0 ${num(q[0])} ${num(q[1])}`,
      width: ink.look.width,
    });
  };
  steps(from - more, to + more);
  const n = Math.max(2, Math.ceil(m.turn / 0.2));
  for (let i = 0; i < n; i++) ink.lines.push([...at(from + (m.turn * i) / n), ...at(from + (m.turn * (i + 1)) / n)]);
  const out = inside ? 1 : -1;
  // A head lies along the chord of its length.
  const tilt = (arrow / radius / 2) * out;
  const tangent = (a: number, sense: number): Vec2 => [-Math.sin(a - sense * tilt) * sense, -Math.cos(a - sense * tilt) * sense];
  ink.end(at(from), tangent(from, -1).map((v) => v * out) as unknown as Vec2);
  ink.end(at(to), tangent(to, 1).map((v) => v * out) as unknown as Vec2);
  // What does not fit between stands beside the end that is read last.
  const beside = length > text.width + 2 ? 0 : -(length / 2 + text.width / 2 + 2 * arrow);
  const middle = (from + to) / 2 + (record.slide ?? beside) / radius;
  // Along the arc where it reads from the foot or the right.
  const tangentAt: Vec2 = [-Math.sin(middle), -Math.cos(middle)];
  const turn = ink.look.along ? readable(tangentAt) : 0;
  const rad = (turn * Math.PI) / 180;
  const up: Vec2 = [-Math.sin(rad), -Math.cos(rad)];
  const spot = at(middle);
  ink.text(text, step(spot, up, OVER_MM + text.drop), turn);
}

/** A leader with a shelf. */
function drawPointed(ink: Ink, record: DimensionRecord, m: Pointed, text: ValuePicture, paper: (p: Vec2) => Vec2): void {
  const at = paper(m.at);
  const angle = record.turn ?? Math.PI / 4;
  const way: Vec2 = [Math.cos(angle), -Math.sin(angle)];
  const corner = step(at, way, Math.max(3, record.away));
  const side = way[0] < -1e-9 ? -1 : 1;
  ink.stroke(at, corner, true);
  ink.end(at, [-way[0], -way[1]]);
  shelf(ink, corner, side, text);
}
