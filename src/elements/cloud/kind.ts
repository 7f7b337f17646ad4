import { inflate, type Rect } from '../../core/base/rect.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import type { RecordOf } from '../../core/document/records.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { textWidth } from '../../core/picture/lettering.ts';
import { num, text } from '../../core/picture/shapes.ts';
import { NOTHING_SOLID } from '../../core/picture/solid.ts';
import type { Kind } from '../kind.ts';

export type CloudRecord = RecordOf<'cloud'>;

/** Chord of one scallop, and the side of the flag, mm. */
const SCALLOP_MM = 7;
const FLAG_MM = 8;
/** Clouds are told from what is drawn by their colour too. */
const INK = '#a3271f';

export const boxOfCloud = ({ at, to }: Pick<CloudRecord, 'at' | 'to'>): Rect => ({
  x: Math.min(at[0], to[0]),
  y: Math.min(at[1], to[1]),
  width: Math.abs(to[0] - at[0]),
  height: Math.abs(to[1] - at[1]),
});

/** Arcs that bulge outward, side by side around a rectangle. */
function scallops(r: Rect): string {
  const corners: Vec2[] = [
    [r.x, r.y],
    [r.x + r.width, r.y],
    [r.x + r.width, r.y + r.height],
    [r.x, r.y + r.height],
  ];
  let d = `M${num(r.x)} ${num(r.y)}`;
  corners.forEach((from, i) => {
    const to = corners[(i + 1) % 4]!;
    const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
    const n = Math.max(1, Math.round(length / SCALLOP_MM));
    const radius = (length / n) * 0.56;
    for (let k = 1; k <= n; k++)
      d += `A${num(radius)} ${num(radius)} 0 0 1 ${num(from[0] + ((to[0] - from[0]) * k) / n)} ${num(from[1] + ((to[1] - from[1]) * k) / n)}`;
  });
  return d;
}

/** A triangle with the letter of the revision. @param at its middle, paper mm */
export function revisionFlag([x, y]: Vec2, revision: string, width: number): DisplayItem[] {
  const h = FLAG_MM * 0.87;
  const size = Math.min(2.5, (2.5 * FLAG_MM * 0.5) / Math.max(1e-6, textWidth(revision, 2.5)));
  const points = [`${num(x)} ${num(y - h * 0.6)}`, `${num(x + FLAG_MM / 2)} ${num(y + h * 0.4)}`, `${num(x - FLAG_MM / 2)} ${num(y + h * 0.4)}`];
  return [{ kind: 'stroke', d: `M${points.join('L')}Z`, width, color: INK }, { ...text(x, y + h * 0.28, revision, size, 'middle'), color: INK } as DisplayItem];
}

/** Revision clouds, on a layer of their own: the drawing can leave them out. */
export const cloudKind: Kind<CloudRecord> = {
  title: 'revision cloud',
  layer: 6,
  draw(record, scene) {
    const { style } = scene.page(record.sheet);
    const box = boxOfCloud(record);
    const flag: Vec2 = [box.x + box.width + FLAG_MM * 0.3, box.y - FLAG_MM * 0.5];
    const items: DisplayItem[] = scene.drawing.cloudsOff
      ? []
      : [{ kind: 'stroke', d: scallops(box), width: style.wide, color: INK }, ...revisionFlag(flag, record.revision, style.wide)];
    const edge = 1.5;
    return [
      {
        id: record.id,
        role: 'cloud',
        label: `Revision cloud ${record.revision}`,
        box: [box.x, box.y, box.width, box.height],
        items,
        ink: inflate(box, 2),
        // Only its line is taken hold of: what it goes around stays within reach.
        grab: { x: box.x - edge, y: box.y - 3, width: Math.min(box.width, 12), height: 4 },
        grabLines: [
          [box.x, box.y, box.x + box.width, box.y],
          [box.x + box.width, box.y, box.x + box.width, box.y + box.height],
          [box.x + box.width, box.y + box.height, box.x, box.y + box.height],
          [box.x, box.y + box.height, box.x, box.y],
        ],
        solid: NOTHING_SOLID,
      },
    ];
  },
  handles: (c) => [
    { name: 'at', at: c.at },
    { name: 'to', at: c.to },
  ],
  drag(c, [dx, dy], _, handle) {
    const shift = (p: Vec2): Vec2 => [p[0] + dx, p[1] + dy];
    if (handle === 'at') return [{ op: 'put', record: { ...c, at: shift(c.at) } }];
    if (handle === 'to') return [{ op: 'put', record: { ...c, to: shift(c.to) } }];
    return [{ op: 'put', record: { ...c, at: shift(c.at), to: shift(c.to) } }];
  },
};
