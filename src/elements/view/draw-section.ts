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

/** Cutting-plane line: narrow with wide ends and bends, arrows in the direction of sight, letters beside them (ISO 128-40). */
export function drawCuttingPlane(view: ViewRecord, section: ViewRecord, result: ViewResult, map: ViewMap, style: SheetStyle): DisplayItem[] {
  const cut = section.cut!;
  if (cut.line === 'none') return [];
  const shown = lineOfCut(cut, view, result.box);
  if (!shown) return [];
  const p = shown.points.map(([x, y]): [number, number] => [map.x(x), map.y(y)]);
  const last = p.length - 1;
  const outward = (end: number, next: number): [number, number] => {
    const [dx, dy] = [p[end]![0] - p[next]![0], p[end]![1] - p[next]![1]];
    const l = Math.hypot(dx, dy) || 1;
    return [dx / l, dy / l];
  };
  for (const [end, next] of [
    [0, 1],
    [last, last - 1],
  ] as const) {
    const [dx, dy] = outward(end, next);
    p[end] = [p[end]![0] + dx * PAST, p[end]![1] + dy * PAST];
  }
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
    const [ax, ay] = [p[end]![0] - tx * 1.5, p[end]![1] - ty * 1.5];
    items.push(line(ax + px * 9, ay + py * 9, ax, ay, style.narrow), arrowHead(ax, ay, -px, -py, 3.5));
    if (cut.noLetter) return;
    const [bx, by] = [ax + px * (9 + style.letter * 0.8), ay + py * (9 + style.letter * 0.8)];
    items.push(text(bx, by + style.letter / 2, cut.letter, style.letter, 'middle'));
  });
  return items;
}

/** The break line around a broken-out section (ISO 128-2, line type 01.1). */
export function drawBreak(view: ViewRecord, result: ViewResult, map: ViewMap, style: SheetStyle): DisplayItem[] {
  const shape = view.cut?.shape;
  return shape?.kind === 'local' ? [shape, ...(shape.more ?? [])].flatMap((one) => breakAlong(one.outline, result, map, style)) : [];
}
