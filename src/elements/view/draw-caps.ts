import { capStyles, type OwnHatch } from '../../core/cut/hatch-styles.ts';
import { hatchLines, type HatchStyle } from '../../core/cut/hatch.ts';
import type { MaterialFamily } from '../../core/ledger/materials.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { num } from '../../core/picture/shapes.ts';
import type { SheetStyle } from '../../core/sheet/paper.ts';
import type { ViewResult } from '../../core/views/compute-view.ts';
import type { ViewMap } from '../../core/views/view-map.ts';

/** Hatching that someone chose for a component, or that it has none. */
export type ViewHatch = OwnHatch | 'none';

/** Cut faces: hatched, thin ones solid black (ISO 128-50). */
export function drawCaps(
  result: ViewResult,
  map: ViewMap,
  style: SheetStyle,
  families: readonly MaterialFamily[],
  own: ReadonlyMap<number, ViewHatch> = new Map(),
): DisplayItem[] {
  const styles = capStyles(
    result.caps,
    map.scale,
    (c) => families[c] ?? 'metal',
    (c) => {
      const chosen = own.get(c);
      return chosen === 'none' ? undefined : chosen;
    },
  );
  return result.caps.flatMap((cap, i): DisplayItem[] => {
    const loops = cap.loops.map((l) => Float64Array.from(l, (v, k) => (k % 2 ? map.y(v) : map.x(v))));
    const s = styles[i]!;
    if (own.get(cap.component) === 'none') return [];
    const source = { component: cap.component };
    if (s.solid) {
      const d = loops.map((l) => pointsPath(l) + 'Z').join('');
      return [{ kind: 'fill', d, color: '#000000', source }];
    }
    const d = [s.hatch, ...(s.also ? [s.also] : [])].map((h) => hatchPath(loops, h, map)).join('');
    return [{ kind: 'stroke', d, width: style.narrow, ...(s.dash ? { dash: s.dash } : {}), source }];
  });
}

/** @param loops on paper */
function hatchPath(loops: readonly Float64Array[], style: HatchStyle, map: ViewMap): string {
  // Counted from the view's origin: the lines move with the view.
  const angle = -style.angle;
  const phase = style.phase + map.y(0) * Math.cos(angle) - map.x(0) * Math.sin(angle);
  const h = hatchLines(loops, { ...style, angle, phase });
  let d = '';
  for (let k = 0; k < h.length; k += 4) d += `M${num(h[k]!)} ${num(h[k + 1]!)}L${num(h[k + 2]!)} ${num(h[k + 3]!)}`;
  return d;
}

function pointsPath(p: ArrayLike<number>): string {
  let d = '';
  for (let i = 0; i < p.length; i += 2) d += `${i ? 'L' : 'M'}${num(p[i]!)} ${num(p[i + 1]!)}`;
  return d;
}
