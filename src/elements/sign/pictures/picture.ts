import type { Vec2 } from '../../../core/base/vector.ts';
import type { DisplayItem } from '../../../core/picture/display-list.ts';
import { num } from '../../../core/picture/shapes.ts';
import type { Joints } from '../../leader.ts';

/** A sign as it stands on paper, mm, and where leaders join it. */
export interface SignPicture extends Joints {
  readonly items: readonly DisplayItem[];
}

/** What the pictures of signs are drawn with. */
export interface SignPen {
  /** Reference point, paper mm. */
  readonly at: Vec2;
  /** Height of capitals, mm. */
  readonly h: number;
  /** Width of lines: a tenth of the height of capitals (ISO 3098, type B). */
  readonly width: number;
  /** To which side its first leader goes. */
  readonly side: 'left' | 'right';
}

/** Points to a path; every list is a line of its own. */
export const strokes = (width: number, ...lines: readonly (readonly Vec2[])[]): DisplayItem => ({
  kind: 'stroke',
  d: lines.map((points) => points.map(([x, y], i) => `${i ? 'L' : 'M'}${num(x)} ${num(y)}`).join('')).join(''),
  width,
});

/** Points of an arc against the clock seen with y upwards, degrees. */
export function arcPoints(cx: number, cy: number, rx: number, ry: number, from: number, to: number): Vec2[] {
  const n = Math.max(6, Math.ceil(Math.abs(to - from) / 7.5));
  return Array.from({ length: n + 1 }, (_, i): Vec2 => {
    const a = ((from + ((to - from) * i) / n) * Math.PI) / 180;
    return [cx + rx * Math.cos(a), cy + ry * Math.sin(a)];
  });
}
