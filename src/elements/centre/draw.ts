import type { Vec2 } from '../../core/base/vector.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { circlePath, line } from '../../core/picture/shapes.ts';
import type { SheetStyle } from '../../core/sheet/paper.ts';
import type { ViewMap } from '../../core/views/view-map.ts';
import { mergedLines, type AxisLine } from './axes.ts';
import type { Circle } from './circles.ts';
import type { PitchCircle } from './pitch.ts';

/** Centrelines run past the outline, mm (ISO 128-2 shows them so; the measure is common practice). */
export const PAST_MM = 3;
/** Circles smaller than this have plain crosses: a chain would not show in them (common practice), mm. */
const SMALL_MM = 6;
/** Smaller ones are dots on paper: no mark. */
const LEAST_MM = 1.2;
/** Centres closer than this are one, mm. */
const ONE_MM = 0.1;
/** One axis runs on over a gap as long as this, mm. */
const RUNS_ON_MM = 15;

/** Long dash, gap, dot, gap, in mm: line type 04.1 of ISO 128-2. */
const CHAIN = [8, 1.2, 0.8, 1.2] as const;

/** A cross through the centre of each circle; of circles about one centre the largest decides how long it is. */
export function drawCentres(circles: readonly Circle[], map: ViewMap, style: SheetStyle): DisplayItem[] {
  const marks: { x: number; y: number; r: number }[] = [];
  for (const c of circles) {
    const [x, y, r] = [map.x(c.x), map.y(c.y), c.radius * map.scale];
    if (2 * r < LEAST_MM) continue;
    const there = marks.find((m) => Math.hypot(m.x - x, m.y - y) < ONE_MM);
    if (there) there.r = Math.max(there.r, r);
    else marks.push({ x, y, r });
  }
  return marks.flatMap(({ x, y, r }) => {
    const reach = r + Math.min(PAST_MM, Math.max(1, r));
    const dash = 2 * r < SMALL_MM ? undefined : centred(reach);
    return [line(x - reach, y, x + reach, y, style.narrow, dash), line(x, y - reach, x, y + reach, style.narrow, dash)];
  });
}

/** Axes seen from the side, those on one line as one. */
export function drawAxes(lines: readonly AxisLine[], map: ViewMap, style: SheetStyle): DisplayItem[] {
  return mergedLines(
    lines.filter((l) => 2 * l.radius * map.scale >= LEAST_MM),
    RUNS_ON_MM / map.scale,
  ).flatMap((l) => drawLine(map.toPaper(l.from), map.toPaper(l.to), style));
}

/** A centreline from place to place on paper. @param past how far it runs past either end, mm; absent: as is usual, and less for short ones */
export function drawLine(a: Vec2, b: Vec2, style: SheetStyle, past?: Vec2): DisplayItem[] {
  const l = Math.hypot(b[0] - a[0], b[1] - a[1]);
  if (l < 1e-6) return [];
  const [before, after] = past ?? [1, 1].map(() => Math.min(PAST_MM, Math.max(1.5, l / 2)));
  const [ux, uy] = [(b[0] - a[0]) / l, (b[1] - a[1]) / l];
  const length = l + before! + after!;
  return [
    line(a[0] - ux * before!, a[1] - uy * before!, b[0] + ux * after!, b[1] + uy * after!, style.narrow, length < SMALL_MM ? undefined : centred(length / 2)),
  ];
}

/** The circle on which the centres of holes lie. */
export function drawPitch({ at, radius }: PitchCircle, map: ViewMap, style: SheetStyle): DisplayItem[] {
  const r = radius * map.scale;
  if (2 * r < SMALL_MM) return [];
  return [{ kind: 'stroke', d: circlePath(map.x(at[0]), map.y(at[1]), r), width: style.narrow, dash: CHAIN }];
}

/** The chain stretched so that both lines cross in a dash: a whole number of periods and one dash fill the line. (ISO 128-2) */
function centred(reach: number): readonly number[] {
  const [dash, gap, dot] = [CHAIN[0], CHAIN[1], CHAIN[2]];
  const period = dash + gap + dot + gap;
  // An even number of periods puts a dash in the middle.
  const periods = 2 * Math.round((2 * reach - dash) / period / 2);
  if (periods === 0) return [2 * reach, gap, dot, gap];
  const k = (2 * reach) / (periods * period + dash);
  return CHAIN.map((v) => v * k);
}
