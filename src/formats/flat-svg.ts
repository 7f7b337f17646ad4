import type { Vec2 } from '../core/base/vector.ts';
import { piecesOf } from '../core/flat/curves.ts';
import type { FlatBend, FlatPattern } from '../core/flat/unfold.ts';
import { num } from '../core/picture/shapes.ts';

/** Air around the pattern, mm. */
export const MARGIN_MM = 10;

/** A closed outline of lines and arcs; a whole circle as two halves. */
export function outlinePath(points: readonly Vec2[], at: (p: Vec2) => string): string {
  const n = points.length;
  const pieces = piecesOf(points);
  // On paper y goes down: what turns left turns against the clock there too, seen from the front.
  const arc = (radius: number, long: boolean, left: boolean, to: Vec2) => `A${num(radius)} ${num(radius)} 0 ${long ? 1 : 0} ${left ? 0 : 1} ${at(to)}`;
  const [first] = pieces;
  const drawn = pieces.map((p) => {
    if (p.kind === 'line') return `L${at(points[p.to % n]!)}`;
    const [from, to] = [points[p.from % n]!, points[p.to % n]!];
    const opposite: Vec2 = [2 * p.centre[0] - from[0], 2 * p.centre[1] - from[1]];
    if (p.whole) return arc(p.radius, false, p.left, opposite) + arc(p.radius, false, p.left, from);
    return arc(p.radius, turnOf(p.centre, from, to, p.left) > Math.PI, p.left, to);
  });
  return `M${at(points[first!.from % n]!)}${drawn.join('')}Z`;
}

/** How far an arc goes from one of its ends to the other, rad. */
function turnOf([x, y]: Vec2, from: Vec2, to: Vec2, left: boolean): number {
  const turn = Math.atan2(to[1] - y, to[0] - x) - Math.atan2(from[1] - y, from[0] - x);
  const way = left ? turn : -turn;
  return way < 0 ? way + 2 * Math.PI : way;
}

/** `up 90° R3`. */
export const bendWords = (b: FlatBend): string => `${b.up ? 'up' : 'down'} ${num((b.angle * 180) / Math.PI)}° R${num(b.radiusMm)}`;

/**
 * A flat pattern in millimetres 1:1 for a cutter: what is cut, what is bent and what is written are groups of their own. Bends up are
 * dashed, bends down dash-dotted.
 */
export function flatAsSvg(name: string, { contours, bends, sizeMm }: FlatPattern): string {
  const [width, height] = [sizeMm[0] + 2 * MARGIN_MM, sizeMm[1] + 2 * MARGIN_MM];
  const at = ([x, y]: Vec2) => `${num(x + MARGIN_MM)} ${num(sizeMm[1] - y + MARGIN_MM)}`;
  const outline = contours.map((c) => `<path d="${outlinePath(c, at)}"/>`).join('\n');
  const lines = bends
    .map((b) => `<path d="M${at(b.line[0])}L${at(b.line[1])}"${b.up ? ' stroke-dasharray="6 2"' : ' stroke-dasharray="6 1.5 1 1.5"'}/>`)
    .join('\n');
  const marks = bends
    .map((b) => {
      const [x, y] = [(b.line[0][0] + b.line[1][0]) / 2, (b.line[0][1] + b.line[1][1]) / 2];
      const words = bendWords(b);
      return `<text x="${num(x + MARGIN_MM + 1.5)}" y="${num(sizeMm[1] - y + MARGIN_MM - 1.5)}" font-size="4">${words}</text>`;
    })
    .join('\n');
  const title = name.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${num(width)}mm" height="${num(height)}mm" viewBox="0 0 ${num(width)} ${num(height)}">
<title>${title}</title>
<g id="outline" fill="none" stroke="#000" stroke-width="0.2">
${outline}
</g>
<g id="bend-lines" fill="none" stroke="#0b6e4f" stroke-width="0.2">
${lines}
</g>
<g id="marks" fill="#0b6e4f" font-family="sans-serif">
${marks}
</g>
</svg>
`;
}
