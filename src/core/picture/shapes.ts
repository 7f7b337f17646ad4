import type { Rect } from '../base/rect.ts';
import type { DisplayItem, Source } from './display-list.ts';

/** Numbers on paper to a micrometre: the same text every time. */
export const num = (v: number): string => {
  const r = Math.round(v * 1000) / 1000;
  return Object.is(r, -0) ? '0' : String(r);
};

export function line(x0: number, y0: number, x1: number, y1: number, width: number, dash?: readonly number[]): DisplayItem {
  return { kind: 'stroke', d: `M${num(x0)} ${num(y0)}L${num(x1)} ${num(y1)}`, width, ...(dash ? { dash } : {}) };
}

export function rectangle(r: Rect, width: number): DisplayItem {
  return { kind: 'stroke', d: `M${num(r.x)} ${num(r.y)}h${num(r.width)}v${num(r.height)}h${num(-r.width)}Z`, width };
}

export function text(x: number, y: number, content: string, height: number, anchor: 'start' | 'middle' | 'end', source?: Source): DisplayItem {
  return { kind: 'text', x, y, text: content, height, anchor, ...(source ? { source } : {}) };
}

/** A filled arrow head with its tip at (x, y), pointing along (dx, dy); length 2.5–3.5 mm, about 1:3 (ISO 128). */
export function arrowHead(x: number, y: number, dx: number, dy: number, length: number): DisplayItem {
  const l = Math.hypot(dx, dy) || 1;
  const [ux, uy] = [dx / l, dy / l];
  const [bx, by] = [x - ux * length, y - uy * length];
  const h = length / 6;
  return { kind: 'fill', d: `M${num(x)} ${num(y)}L${num(bx - uy * h)} ${num(by + ux * h)}L${num(bx + uy * h)} ${num(by - ux * h)}Z`, color: '#000000' };
}

/** A full circle as two arcs. */
export function circlePath(x: number, y: number, r: number): string {
  return `M${num(x - r)} ${num(y)}A${num(r)} ${num(r)} 0 1 1 ${num(x + r)} ${num(y)}A${num(r)} ${num(r)} 0 1 1 ${num(x - r)} ${num(y)}Z`;
}
