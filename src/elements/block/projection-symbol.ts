import type { DisplayItem } from '../../core/picture/display-list.ts';
import { circlePath, line, num as n } from '../../core/picture/shapes.ts';
import type { Standard } from '../../core/sheet/paper.ts';

/** Length of the symbol with its axes, and its height, mm, at its usual size. */
export const SYMBOL_MM = [16, 8] as const;

/** First- or third-angle symbol by ISO 5456-2, centred at (x, y). @param k times its usual size */
export function projectionSymbol(x: number, y: number, standard: Standard, width: number, k = 1): DisplayItem[] {
  const first = standard === 'iso';
  const cone = x + k * (first ? -4.5 : 0.8);
  const eye = x + k * (first ? 3.6 : -3.6);
  const small = 1.25 * k;
  const large = 2.5 * k;
  const over = 0.8 * k;
  const dash = [2, 0.6, 0.4, 0.6];
  const out: DisplayItem[] = [
    {
      kind: 'stroke',
      d: `M${n(cone)} ${n(y - small)}L${n(cone + 4 * k)} ${n(y - large)}L${n(cone + 4 * k)} ${n(y + large)}L${n(cone)} ${n(y + small)}Z`,
      width,
    },
    line(cone - k, y, cone + 5 * k, y, width / 2, dash),
    line(eye - large - over, y, eye + large + over, y, width / 2, dash),
    line(eye, y - large - over, eye, y + large + over, width / 2, dash),
  ];
  for (const r of [small, large]) out.push({ kind: 'stroke', d: circlePath(eye, y, r), width });
  return out;
}
