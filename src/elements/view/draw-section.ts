import { overlaps, type Rect } from '../../core/base/rect.ts';
import { lineOfCut } from '../../core/cut/section-line.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { breakAlong } from './draw-border.ts';
import { arrowHead, line, num, text } from '../../core/picture/shapes.ts';
import type { SheetStyle } from '../../core/sheet/paper.ts';
import type { ViewResult } from '../../core/views/compute-view.ts';
import type { ViewMap } from '../../core/views/view-map.ts';

/** A half section is divided by a centreline (ISO 128-40). */
export function drawDivider(view: ViewRecord, result: ViewResult, map: ViewMap, style: SheetStyle): DisplayItem[] {
  const shape = view.cut?.shape;
  if (shape?.kind !== 'half') return [];
  const { across } = shape;
  const side = across[0] * view.right[0] + across[1] * view.right[1] + across[2] * view.right[2];
  // Seen aslant the divider is no line of the picture.
  if (Math.abs(side) < 0.999) return [];
  const x = map.x(shape.from * Math.sign(side));
  const past = 3;
  return [line(x, map.y(result.box[3]) - past, x, map.y(result.box[1]) + past, style.narrow, [8, 1.2, 0.8, 1.2])];
}

/** How far a cutting-plane line runs past the view, and its arrows stand off, mm. */
export const PAST = 7;

/** Length of the wide ends of a cutting-plane line, and of each side of its wide bends, mm. */
const WIDE_END = 6;
const WIDE_BEND = 2.5;

/** Length of an arrow of sight with its head, and how far before the line's end it stands, mm. */
const ARROW_MM = 9;
const BEFORE_END_MM = 1.5;
/** Ends are lengthened in such steps until their arrows and letters are clear of others', mm; so often at most. */
const STEP_MM = 3;
const STEPS = 12;

type Shown = NonNullable<ReturnType<typeof lineOfCut>>;

/**
 * Cutting-plane lines of a view: narrow with wide ends and bends, arrows in the direction of sight, letters beside them (ISO 128-40).
 * Where the arrows of two would stand on each other the line of one runs on until they are clear.
 */
export function drawCuttingPlanes(view: ViewRecord, sections: readonly ViewRecord[], result: ViewResult, map: ViewMap, style: SheetStyle): DisplayItem[] {
  const shown = sections.flatMap((section) => {
    const line = section.cut && section.cut.line !== 'none' ? lineOfCut(section.cut, view, result.box) : undefined;
    return line ? [{ cut: section.cut!, line }] : [];
  });
  // The one nearest to the reader stays short: the lines of the others run past behind its arrow.
  const near = ({ line }: (typeof shown)[number]) => {
    const reader = line.readers[0] ?? line.readers.at(-1);
    return reader ? line.points[0]![0] * reader[0] + line.points[0]![1] * reader[1] : 0;
  };
  const taken: Rect[] = [];
  return shown.sort((a, b) => near(b) - near(a)).flatMap(({ cut, line }) => drawCuttingPlane(cut, line, map, style, taken));
}

/** One of them. @param taken what arrows and letters cover, paper mm; its own are added */
function drawCuttingPlane(cut: NonNullable<ViewRecord['cut']>, shown: Shown, map: ViewMap, style: SheetStyle, taken: Rect[]): DisplayItem[] {
  const p = shown.points.map(([x, y]): [number, number] => [map.x(x), map.y(y)]);
  const last = p.length - 1;
  const outward = (end: number, next: number): [number, number] => {
    const [dx, dy] = [p[end]![0] - p[next]![0], p[end]![1] - p[next]![1]];
    const l = Math.hypot(dx, dy) || 1;
    return [dx / l, dy / l];
  };
  const ends = ([0, last] as const).map((end, k) => {
    const [tx, ty] = outward(end, k ? last - 1 : 1);
    const reader = shown.readers[k];
    /** What arrow and letter cover when the line runs so far past the view. */
    const covered = (past: number): Rect | undefined => {
      if (!reader) return undefined;
      const [ax, ay] = [p[end]![0] + tx * (past - BEFORE_END_MM), p[end]![1] + ty * (past - BEFORE_END_MM)];
      const long = ARROW_MM + (cut.noLetter ? 0 : style.letter * 1.3);
      const [bx, by] = [ax + reader[0] * long, ay - reader[1] * long];
      const wide = style.letter / 2;
      return { x: Math.min(ax, bx) - wide, y: Math.min(ay, by) - wide, width: Math.abs(bx - ax) + 2 * wide, height: Math.abs(by - ay) + 2 * wide };
    };
    let past = PAST;
    for (let i = 0; i < STEPS && covered(past) && taken.some((t) => overlaps(t, covered(past)!)); i++) past += STEP_MM;
    const own = covered(past);
    if (own) taken.push(own);
    return [p[end]![0] + tx * past, p[end]![1] + ty * past] as [number, number];
  });
  [p[0], p[last]] = [ends[0]!, ends[1]!];
  const path = p.map(([x, y], i) => `${i ? 'L' : 'M'}${num(x)} ${num(y)}`).join('');
  const items: DisplayItem[] = cut.line === 'ends' ? [] : [{ kind: 'stroke', d: path, width: style.narrow, dash: [8, 1.2, 0.8, 1.2] }];
  const wide = (at: number, next: number, most: number) => {
    const [dx, dy] = outward(at, next);
    const reach = Math.min(most, Math.hypot(p[at]![0] - p[next]![0], p[at]![1] - p[next]![1]) / 2);
    items.push(line(p[at]![0] - dx * reach, p[at]![1] - dy * reach, p[at]![0], p[at]![1], style.wide));
  };
  for (let i = 1; i < last; i++) {
    wide(i, i - 1, WIDE_BEND);
    wide(i, i + 1, WIDE_BEND);
  }
  [0, last].forEach((end, k) => {
    const next = k ? last - 1 : 1;
    wide(end, next, WIDE_END);
    const reader = shown.readers[k];
    if (!reader) return;
    // The arrow comes from the reader's side and points the way one looks.
    const [px, py] = [reader[0], -reader[1]];
    const [tx, ty] = outward(end, next);
    const [ax, ay] = [p[end]![0] - tx * BEFORE_END_MM, p[end]![1] - ty * BEFORE_END_MM];
    items.push(line(ax + px * ARROW_MM, ay + py * ARROW_MM, ax, ay, style.narrow), arrowHead(ax, ay, -px, -py, 3.5));
    if (cut.noLetter) return;
    const [bx, by] = [ax + px * (ARROW_MM + style.letter * 0.8), ay + py * (ARROW_MM + style.letter * 0.8)];
    items.push(text(bx, by + style.letter / 2, cut.letter, style.letter, 'middle'));
  });
  return items;
}

/** The break line around a broken-out section (ISO 128-2, line type 01.1). */
export function drawBreak(view: ViewRecord, result: ViewResult, map: ViewMap, style: SheetStyle): DisplayItem[] {
  const shape = view.cut?.shape;
  return shape?.kind === 'local' ? [shape, ...(shape.more ?? [])].flatMap((one) => breakAlong(one.outline, result, map, style)) : [];
}
