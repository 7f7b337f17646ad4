import { HIDDEN, LineClass, linesBox, type Linework } from '../core/outline/linework.ts';
import { runPath } from '../core/picture/run-path.ts';
import { num } from '../core/picture/shapes.ts';

/** How many pens wide a picture is. */
const PENS = 800;

/** Lines of one view as an SVG at 1:1, to look at. @param small a picture for the screen: its pens are pixels however large it is shown */
export function linesAsSvg(lines: Linework, small = false): string {
  const [x0, y0, x1, y1] = lines.kind.length ? linesBox(lines) : [0, 0, 1, 1];
  const pen = Math.max(x1 - x0, y1 - y0) / PENS;
  const map = { scale: 1, x: (v: number) => v - x0, y: (v: number) => y1 - v };
  const paths = Array.from(lines.kind, (kind, i) => {
    const hidden = kind & HIDDEN;
    const thin = hidden || (kind & 3) === LineClass.tangent;
    const width = small ? (thin ? 0.5 : 0.9) : thin ? pen / 2 : pen;
    return `<path d="${runPath(lines, i, map)}" stroke-width="${num(width)}"${hidden ? ` stroke-dasharray="${num(pen * 6)} ${num(pen * 2)}"` : ''}/>`;
  });
  const m = (small ? 12 : 2) * pen;
  const style = small ? '<style>path{vector-effect:non-scaling-stroke}</style>\n' : '';
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${num(-m)} ${num(-m)} ${num(x1 - x0 + 2 * m)} ${num(y1 - y0 + 2 * m)}" fill="none" stroke="#000" stroke-linecap="round">\n${style}${paths.join('\n')}\n</svg>\n`;
}
