import { HIDDEN, LineClass, linesBox, type Linework } from '../core/outline/linework.ts';
import { runPath } from '../core/picture/run-path.ts';
import { num } from '../core/picture/shapes.ts';

/**
 * Lines of one view as an SVG at 1:1, to look at.
 * @param pens how many pens wide the picture is: fewer make bolder lines, for small pictures
 */
export function linesAsSvg(lines: Linework, pens = 800): string {
  const [x0, y0, x1, y1] = lines.kind.length ? linesBox(lines) : [0, 0, 1, 1];
  const pen = Math.max(x1 - x0, y1 - y0) / pens;
  const map = { scale: 1, x: (v: number) => v - x0, y: (v: number) => y1 - v };
  const paths = Array.from(lines.kind, (kind, i) => {
    const hidden = kind & HIDDEN;
    const thin = hidden || (kind & 3) === LineClass.tangent;
    return `<path d="${runPath(lines, i, map)}" stroke-width="${num(thin ? pen / 2 : pen)}"${hidden ? ` stroke-dasharray="${num(pen * 6)} ${num(pen * 2)}"` : ''}/>`;
  });
  const m = 2 * pen;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${num(-m)} ${num(-m)} ${num(x1 - x0 + 2 * m)} ${num(y1 - y0 + 2 * m)}" fill="none" stroke="#000" stroke-linecap="round">\n${paths.join('\n')}\n</svg>\n`;
}
