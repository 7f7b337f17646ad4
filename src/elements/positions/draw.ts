import { inflate, type Rect } from '../../core/base/rect.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import { plainText, valueParts, wholeStyle } from '../../core/dimension/value.ts';
import type { RecordOf } from '../../core/document/records.ts';
import type { DisplayItem, Drawn } from '../../core/picture/display-list.ts';
import { inkOf, joined } from '../../core/picture/ink.ts';
import { textWidth } from '../../core/picture/lettering.ts';
import { circlePath, line, rectangle, text } from '../../core/picture/shapes.ts';
import type { Scene } from '../scene.ts';
import { holdOf, viewReach, type Target } from '../target.ts';
import { holesIn, type SeenHole } from './holes-in.ts';

export type PositionsRecord = RecordOf<'positions'>;

const HEAD = ['No.', 'X', 'Y', 'Hole'] as const;
/** Air beside a text in its cell, mm. */
const AIR_MM = 1.4;

/** Rows of a table of positions: label, across, up, what the hole is. Model mm from the zero. */
export function positionsOf(record: PositionsRecord, scene: Scene): readonly { readonly hole: SeenHole; readonly x: number; readonly y: number }[] {
  const zero = zeroOf(record, scene);
  const view = scene.one('view', record.view);
  return zero && view ? holesIn(scene, view).map((hole) => ({ hole, x: hole.x - zero[0], y: hole.y - zero[1] })) : [];
}

/** Where it is measured from, view space; undefined while that is not at hand. */
export function zeroOf(record: PositionsRecord, scene: Scene): Vec2 | undefined {
  const view = scene.one('view', record.view);
  const box = view && viewReach(scene, view);
  if (!view || !box) return undefined;
  const at = (t: Target | undefined, axis: 0 | 1): number => (t && holdOf(scene, view, t)?.at[axis]) ?? box[axis];
  return [at(record.zeroX, 0), at(record.zeroY, 1)];
}

/** A table of positions, the labels beside its holes, and a mark at the zero. */
export function drawPositions(record: PositionsRecord, scene: Scene): Drawn[] {
  const view = scene.one('view', record.view);
  const zero = zeroOf(record, scene);
  if (!view || view.off || !zero) return [];
  const { style } = scene.page(view.sheet);
  const map = scene.map(view);
  const size = style.text;
  const values = wholeStyle(scene.drawing.standard, scene.drawing.values);
  const length = (mm: number) => `${mm < -1e-9 ? '-' : ''}${plainText(valueParts(Math.abs(mm), 'length', values))}`;
  const positions = positionsOf(record, scene);
  const rows = [HEAD as readonly string[], ...positions.map(({ hole, x, y }) => [hole.label, length(x), length(y), hole.says])];
  const widths = HEAD.map((_, c) => Math.max(...rows.map((r) => textWidth(r[c]!, size))) + 2 * AIR_MM);
  const h = size * 2.2;
  const [left, top] = [view.at[0] + record.at[0], view.at[1] + record.at[1]];
  const box: Rect = { x: left, y: top, width: widths.reduce((a, b) => a + b, 0), height: rows.length * h };
  const items: DisplayItem[] = [rectangle(box, style.wide)];
  rows.forEach((row, r) => {
    if (r) items.push(line(left, top + r * h, left + box.width, top + r * h, r === 1 ? style.wide : style.narrow));
    let x = left;
    row.forEach((cell, c) => {
      const end = c === 1 || c === 2;
      items.push(text(end ? x + widths[c]! - AIR_MM : x + AIR_MM, top + (r + 0.5) * h + size / 2, cell, size, end ? 'end' : 'start'));
      x += widths[c]!;
      if (r === 0 && c < HEAD.length - 1) items.push(line(x, top, x, top + box.height, style.narrow));
    });
  });
  const labels: DisplayItem[] = [];
  for (const { hole } of positions) {
    // Beside the hole, at its upper right.
    const r = hole.radius * map.scale * Math.SQRT1_2 + 0.8;
    labels.push(text(map.x(hole.x) + r, map.y(hole.y) - r, hole.label, size, 'start'));
  }
  const [zx, zy] = map.toPaper(zero);
  labels.push(
    { kind: 'stroke', d: circlePath(zx, zy, 1.2), width: style.narrow },
    line(zx - 3, zy, zx + 3, zy, style.narrow),
    line(zx, zy - 3, zx, zy + 3, style.narrow),
  );
  const all = [...items, ...labels];
  return [
    {
      id: record.id,
      role: 'positions',
      label: `Positions of ${rows.length - 1} holes in ${view.name}`,
      box: [box.x, box.y, box.width, box.height],
      items: all,
      ink: joined(inkOf(all)),
      solid: { rects: [box], segments: [] },
      grab: inflate(box, 1),
    },
  ];
}
