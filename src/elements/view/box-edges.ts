import type { Assembly, Component } from '../../core/assembly/assembly.ts';
import { applyToPoint, combine, type Placement } from '../../core/base/placement.ts';
import { dot, type Vec3 } from '../../core/base/vector.ts';
import type { ViewFrame } from '../../core/outline/directions.ts';

/** The largest components say which way a thing looks. */
const MOST = 120;

const EDGES = [0, 1, 2, 3, 4, 5, 6].flatMap((a) => [1, 2, 4].filter((bit) => !(a & bit)).map((bit) => [a, a | bit] as const));

/**
 * Edges of the boxes of the largest components as they are seen in a frame: what a view would look like, without the model.
 * @param motions where each component is, relative to its assembled place; absent: there
 * @returns flat `[x0, y0, x1, y1, …]`, view space, model mm
 */
export function boxEdges(assembly: Assembly, components: readonly Component[], frame: ViewFrame, motions?: readonly Placement[]): Float64Array {
  const sized = components.map((c) => {
    const b = assembly.parts[c.part]!.box;
    return { c, b, size: Math.hypot(b[3]! - b[0]!, b[4]! - b[1]!, b[5]! - b[2]!) };
  });
  const largest = sized.sort((p, q) => q.size - p.size || p.c.index - q.c.index).slice(0, MOST);
  const out = new Float64Array(largest.length * EDGES.length * 4);
  let n = 0;
  for (const { c, b } of largest) {
    const m = motions ? combine(motions[c.index]!, c.placement) : c.placement;
    const corners = Array.from({ length: 8 }, (_, k) => {
      const p = applyToPoint(m, [b[k & 1 ? 3 : 0]!, b[k & 2 ? 4 : 1]!, b[k & 4 ? 5 : 2]!] as Vec3);
      return [dot(p, frame.right), dot(p, frame.up)] as const;
    });
    for (const [i, j] of EDGES) {
      out.set([corners[i]![0], corners[i]![1], corners[j]![0], corners[j]![1]], n);
      n += 4;
    }
  }
  return out;
}
