import type { PartGeometry } from '../assembly/part-geometry.ts';

/** Closed rings of vertices around the triangles of a face. */
export function ringsOf(g: PartGeometry, face: number): number[][] {
  const next = new Map<number, number[]>();
  const open = new Set<string>();
  for (let t = 0; t < g.triangleFace.length; t++) {
    if (g.triangleFace[t] !== face) continue;
    for (let k = 0; k < 3; k++) {
      const [a, b] = [g.triangles[t * 3 + k]!, g.triangles[t * 3 + ((k + 1) % 3)]!];
      if (!open.delete(`${b},${a}`)) open.add(`${a},${b}`);
    }
  }
  for (const s of open) {
    const [a, b] = s.split(',').map(Number) as [number, number];
    next.set(a, [...(next.get(a) ?? []), b]);
  }
  const rings: number[][] = [];
  for (const [start, list] of next)
    while (list.length) {
      const ring = [start];
      let at = list.pop()!;
      while (at !== start) {
        ring.push(at);
        const on = next.get(at)?.pop();
        if (on === undefined) break;
        at = on;
      }
      rings.push(ring);
    }
  return rings;
}
