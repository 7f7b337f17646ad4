import type { DisplayItem, Drawn } from '../../core/picture/display-list.ts';
import { NOTHING_SOLID } from '../../core/picture/solid.ts';
import { inflate } from '../../core/base/rect.ts';
import { line, num, rectangle, text } from '../../core/picture/shapes.ts';
import { foldsToA4, foldsToLetter } from '../../core/sheet/folds.ts';
import type { Form } from '../../core/sheet/form.ts';
import type { SheetGeometry, SheetStyle } from '../../core/sheet/paper.ts';

/** Length of a zone (ISO 5457). */
const ZONE_MM = 50;
const STRIP_MM = 5;

/**
 * Where zones end along one side: 50 mm each from the sheet's axis of symmetry outwards, the corner ones take what is left
 * (ISO 5457, from memory); inch sheets divide the frame evenly (common practice).
 * @param sheet length of the side @param from,to ends of the frame along it, mm
 * @returns frame end, divisions, frame end
 */
export function zonesAlong(sheet: number, from: number, to: number, even: boolean): number[] {
  const half = Math.max(1, Math.round(sheet / 2 / ZONE_MM));
  if (even) {
    const n = Math.max(2, 2 * Math.round((to - from) / ZONE_MM / 2));
    return Array.from({ length: n + 1 }, (_, i) => from + ((to - from) * i) / n);
  }
  const inner = Array.from({ length: 2 * half - 1 }, (_, i) => sheet / 2 + (i - half + 1) * ZONE_MM);
  return [from, ...inner.filter((v) => v > from && v < to), to];
}

const letters = 'ABCDEFGHJKLMNPQRSTUVWXYZ';

/** Frame, and what the form asks for around it: grid reference, centring marks, fold and trimming marks. @param framed the frame with its grid is drawn */
export function drawFrame(g: SheetGeometry, style: SheetStyle, form: Form, framed = true): Drawn {
  const { frame } = g;
  const room = Math.min(STRIP_MM, frame.x, frame.y, g.width - frame.x - frame.width, g.height - frame.y - frame.height);
  const items: DisplayItem[] = framed ? [rectangle(frame, 0.7)] : [];
  if (framed && form.zones !== 'none' && room > 2) items.push(...grid(g, style, form.zones === 'even', room));
  if (framed && form.centring) items.push(...centring(g, form.zones === 'none' ? Math.min(room, STRIP_MM) : room));
  if (form.folds) items.push(...foldMarks(g));
  if (form.trims) items.push(...trimmingMarks(g));
  const strip = inflate(frame, room);
  return { id: 'frame', role: 'frame', label: 'Border', box: [0, 0, g.width, g.height], items, ink: strip, solid: NOTHING_SOLID };
}

/** The grid reference of ISO 5457: letters down the sides, numbers along top and foot; no I, no O. */
function grid(g: SheetGeometry, style: SheetStyle, even: boolean, strip: number): DisplayItem[] {
  const { frame } = g;
  const [right, foot] = [frame.x + frame.width, frame.y + frame.height];
  const items: DisplayItem[] = [rectangle(inflate(frame, strip), 0.25)];
  const columns = zonesAlong(g.width, frame.x, right, even);
  const rows = zonesAlong(g.height, frame.y, foot, even);
  const size = Math.min(3.5, style.text, 0.8 * strip);
  columns.slice(1).forEach((end, i) => {
    const x = (columns[i]! + end) / 2;
    for (const y of [frame.y - strip / 2, foot + strip / 2]) items.push(text(x, y + size / 2, String(i + 1), size, 'middle'));
    if (i === 0) return;
    const edge = columns[i]!;
    items.push(line(edge, frame.y - strip, edge, frame.y, 0.25), line(edge, foot, edge, foot + strip, 0.25));
  });
  rows.slice(1).forEach((end, j) => {
    const y = (rows[j]! + end) / 2;
    for (const x of [frame.x - strip / 2, right + strip / 2]) items.push(text(x, y + size / 2, letters[j % letters.length]!, size, 'middle'));
    if (j === 0) return;
    const edge = rows[j]!;
    items.push(line(frame.x - strip, edge, frame.x, edge, 0.25), line(right, edge, right + strip, edge, 0.25));
  });
  return items;
}

/**
 * Centring marks stand on the sheet's axes of symmetry and reach 5 mm into the frame; not on the right, where lists stand, nor
 * into the title block.
 */
function centring(g: SheetGeometry, out: number): DisplayItem[] {
  const { frame } = g;
  const [right, foot] = [frame.x + frame.width, frame.y + frame.height];
  const [cx, cy] = [g.width / 2, g.height / 2];
  const into = g.title.height > 0 && cx > g.title.x ? 0 : 5;
  return [
    line(cx, frame.y - out, cx, frame.y + 5, 0.7),
    line(cx, foot + out, cx, foot - into, 0.7),
    line(frame.x - out, cy, frame.x + 5, cy, 0.7),
    line(right + out, cy, right, cy, 0.7),
  ];
}

const FOLD_MARK_MM = 4;

/** Short lines at the sheet's own edge where it is folded. */
function foldMarks(g: SheetGeometry): DisplayItem[] {
  const { x, y } = g.standard === 'asme' ? foldsToLetter(g) : foldsToA4(g);
  return [
    ...x.flatMap((at) => [line(at, 0, at, FOLD_MARK_MM, 0.25), line(at, g.height - FOLD_MARK_MM, at, g.height, 0.25)]),
    ...y.flatMap((at) => [line(0, at, FOLD_MARK_MM, at, 0.25), line(g.width - FOLD_MARK_MM, at, g.width, at, 0.25)]),
  ];
}

/** Two filled rectangles of 10 mm by 5 mm over each other in every corner of the sheet (ISO 5457, from memory). */
function trimmingMarks({ width, height }: SheetGeometry): DisplayItem[] {
  const corners = [
    [0, 0, 1, 1],
    [width, 0, -1, 1],
    [0, height, 1, -1],
    [width, height, -1, -1],
  ] as const;
  return corners.map(([x, y, i, j]): DisplayItem => ({
    kind: 'fill',
    d: `M${num(x)} ${num(y)}L${num(x + 10 * i)} ${num(y)}L${num(x + 10 * i)} ${num(y + 5 * j)}L${num(x + 5 * i)} ${num(y + 5 * j)}L${num(x + 5 * i)} ${num(y + 10 * j)}L${num(x)} ${num(y + 10 * j)}Z`,
    color: '#000000',
  }));
}
