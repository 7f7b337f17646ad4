import type { ViewRecord } from '../../core/document/records.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { num } from '../../core/picture/shapes.ts';
import type { SheetStyle } from '../../core/sheet/paper.ts';
import type { ViewResult } from '../../core/views/compute-view.ts';
import type { ViewMap } from '../../core/views/view-map.ts';

/** Pull lines: from where a component sat to where it is, broken where any component lies over them. */
export function drawPulls(view: ViewRecord, result: ViewResult, map: ViewMap, style: SheetStyle): DisplayItem[] {
  const lines = view.pullLines ? result.pulls : [];
  const { window, component } = result.map;
  const taken = (x: number, y: number) => {
    const i = Math.floor((x - window.minX) / window.pixelMm);
    const j = Math.floor((window.maxY - y) / window.pixelMm);
    return i >= 0 && j >= 0 && i < window.width && j < window.height && component[j * window.width + i]! >= 0;
  };
  const seen = new Set<string>();
  // What someone drew is drawn, whatever lies there.
  let d = (view.handLines ?? [])
    .map(({ from, to }) => `M${num(map.x(from.at[0]))} ${num(map.y(from.at[1]))}L${num(map.x(to.at[0]))} ${num(map.y(to.at[1]))}`)
    .join('');
  const legs = lines.flatMap((l) => l.points.slice(1).map((to, i) => ({ from: l.points[i]!, to })));
  for (const p of legs) {
    const length = Math.hypot(p.to[0] - p.from[0], p.to[1] - p.from[1]);
    const n = Math.max(1, Math.ceil(length / window.pixelMm));
    let start = -1;
    const at = (k: number): [number, number] => [p.from[0] + ((p.to[0] - p.from[0]) * k) / n, p.from[1] + ((p.to[1] - p.from[1]) * k) / n];
    for (let k = 0; k <= n + 1; k++) {
      const free = k <= n && !taken(...at(k));
      if (free && start < 0) start = k;
      if (free || start < 0) continue;
      const [a, b] = [at(start), at(k - 1)];
      // What is shorter than 1 mm on paper is a speck.
      if (Math.hypot(b[0] - a[0], b[1] - a[1]) * map.scale > 1) {
        const piece = `M${num(map.x(a[0]))} ${num(map.y(a[1]))}L${num(map.x(b[0]))} ${num(map.y(b[1]))}`;
        if (!seen.has(piece)) d += piece;
        seen.add(piece);
      }
      start = -1;
    }
  }
  return d ? [{ kind: 'stroke', d, width: style.narrow / 1.4, dash: [6, 1, 1, 1] }] : [];
}
