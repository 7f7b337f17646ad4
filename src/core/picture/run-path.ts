import { arcPoint } from '../outline/arcs.ts';
import { ARC_STRIDE, type Linework } from '../outline/linework.ts';
import { num } from './shapes.ts';

/** Where a point of a view lies on paper, by axis. */
export interface AxisMap {
  readonly scale: number;
  x(viewX: number): number;
  y(viewY: number): number;
}

/** SVG path of one run on paper; arcs stay arcs. */
export function runPath(lines: Linework, i: number, map: AxisMap): string {
  const a = lines.arc.subarray(i * ARC_STRIDE, (i + 1) * ARC_STRIDE);
  if (a[2]! > 0) {
    const arc = { cx: a[0]!, cy: a[1]!, rx: a[2]!, ry: a[3]!, turn: a[4]! };
    const sweep = a[6]! - a[5]!;
    const parts = Math.abs(sweep) > Math.PI ? 2 : 1;
    const [x0, y0] = arcPoint(arc, a[5]!);
    let d = `M${num(map.x(x0))} ${num(map.y(y0))}`;
    for (let k = 1; k <= parts; k++) {
      const [x, y] = arcPoint(arc, a[5]! + (sweep * k) / parts);
      // The sheet's y looks down: a turn against the clock keeps its look and gets flag 0.
      d += `A${num(arc.rx * map.scale)} ${num(arc.ry * map.scale)} ${num((-arc.turn * 180) / Math.PI)} 0 ${sweep > 0 ? 0 : 1} ${num(map.x(x))} ${num(map.y(y))}`;
    }
    return d;
  }
  let d = '';
  for (let p = lines.start[i]!; p < lines.start[i + 1]!; p++) d += `${d ? 'L' : 'M'}${num(map.x(lines.xy[p * 2]!))} ${num(map.y(lines.xy[p * 2 + 1]!))}`;
  return d;
}
