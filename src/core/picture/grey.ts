import type { DisplayItem, DisplayList } from './display-list.ts';

/** The grey that is as light as a colour, 0…255: luma of ITU-R BT.709 on the written values. */
export const luma = (r: number, g: number, b: number): number => Math.round(0.2126 * r + 0.7152 * g + 0.0722 * b);

/** A colour as the grey that is as light. @param hex `#rrggbb` */
export function greyOf(hex: string): string {
  const m = /^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(hex);
  if (!m) return hex;
  const [r, g, b] = [m[1]!, m[2]!, m[3]!].map((c) => parseInt(c, 16)) as [number, number, number];
  const v = luma(r, g, b).toString(16).padStart(2, '0');
  return `#${v}${v}${v}`;
}

const greyItem = (i: DisplayItem): DisplayItem => (i.kind === 'image' || i.color === undefined ? i : { ...i, color: greyOf(i.color) });

/** A sheet without colours; pictures are made grey where they are written. */
export const inGrey = (list: DisplayList): DisplayList => ({ ...list, groups: list.groups.map((g) => ({ ...g, items: g.items.map(greyItem) })) });
