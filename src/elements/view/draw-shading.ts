import { intersection, type Geom } from 'polyclip-ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { num } from '../../core/picture/shapes.ts';
import type { ViewResult } from '../../core/views/compute-view.ts';
import { gapsAlong, ringOf, type Gap } from '../../core/views/outline.ts';
import type { ViewMap } from '../../core/views/view-map.ts';

/** The shaded picture of a view: whole, or clipped to its outline and in the pieces that its gaps leave. */
export function drawShading(view: ViewRecord, result: ViewResult, map: ViewMap): DisplayItem[] {
  if (!view.shaded || !result.shading) return [];
  const w = result.shading.window;
  const [width, height] = [w.width * w.pixelMm, w.height * w.pixelMm];
  const whole = { kind: 'image', width: width * map.scale, height: height * map.scale, image: view.id } as const;
  if (!view.within && !view.gaps) return [{ ...whole, x: map.x(w.minX), y: map.y(w.maxY) }];
  const items: DisplayItem[] = [];
  for (const [x0, x1] of between(w.minX, w.minX + width, gapsAlong(view.gaps ?? [], 'x')))
    for (const [y0, y1] of between(w.maxY - height, w.maxY, gapsAlong(view.gaps ?? [], 'y'))) {
      const clip = clipPath(view, [x0, y0, x1, y1], map);
      // The whole picture, put where this piece of it lies.
      if (clip) items.push({ ...whole, x: map.x(x0) - (x0 - w.minX) * map.scale, y: map.y(y1) - (w.maxY - y1) * map.scale, clip });
    }
  return items;
}

/** What gaps leave of a stretch. */
function between(from: number, to: number, gaps: readonly Gap[]): [number, number][] {
  const out: [number, number][] = [];
  let at = from;
  for (const g of gaps) {
    if (g.from > at) out.push([at, Math.min(to, g.from)]);
    at = Math.max(at, g.to);
  }
  if (at < to) out.push([at, to]);
  return out;
}

function clipPath(view: ViewRecord, [x0, y0, x1, y1]: readonly [number, number, number, number], map: ViewMap): string {
  const piece: [number, number][] = [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ];
  const ring = view.within && ringOf(view.within);
  const outline: Geom | undefined = ring && [Array.from({ length: ring.length / 2 }, (_, i): [number, number] => [ring[2 * i]!, ring[2 * i + 1]!])];
  const shapes = outline ? intersection([piece], outline) : [[piece]];
  return shapes.flatMap((p) => p.map((r) => `${r.map(([x, y], i) => `${i ? 'L' : 'M'}${num(map.x(x))} ${num(map.y(y))}`).join('')}Z`)).join('');
}
