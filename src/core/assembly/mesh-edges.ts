export interface MeshEdges {
  readonly sideEdge: Uint32Array;
  readonly ends: Uint32Array;
  /** Third and further triangles of an edge are passed over. */
  readonly sides: Int32Array;
  /** 1 where more than two triangles meet. */
  readonly crowded: Uint8Array;
  /** Number of the mesh edge between two vertices, -1 for none. */
  find(a: number, b: number): number;
}

/** Edges of a triangle mesh, numbered in order of first use. */
export function meshEdges(triangles: Uint32Array): MeshEdges {
  const count = triangles.length;
  let size = 16;
  while (size < count * 2) size *= 2;
  const mask = size - 1;
  const table = new Int32Array(size).fill(-1);
  const sideEdge = new Uint32Array(count);
  const ends = new Uint32Array(count * 2);
  const sides = new Int32Array(count * 2).fill(-1);
  const crowded = new Uint8Array(count);
  let n = 0;
  const slotOf = (a: number, b: number): number => {
    let h = (Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b)) >>> 0;
    h = (h ^ (h >>> 15)) & mask;
    for (;;) {
      const e = table[h]!;
      if (e < 0 || (ends[e * 2] === a && ends[e * 2 + 1] === b)) return h;
      h = (h + 1) & mask;
    }
  };
  for (let t = 0; t < count; t += 3)
    for (let s = 0; s < 3; s++) {
      const p = triangles[t + s]!;
      const q = triangles[t + (s === 2 ? 0 : s + 1)]!;
      const a = p < q ? p : q;
      const b = p < q ? q : p;
      const h = slotOf(a, b);
      let e = table[h]!;
      if (e < 0) {
        e = n++;
        table[h] = e;
        ends[e * 2] = a;
        ends[e * 2 + 1] = b;
        sides[e * 2] = t / 3;
      } else if (sides[e * 2 + 1]! < 0) sides[e * 2 + 1] = t / 3;
      else crowded[e] = 1;
      sideEdge[t + s] = e;
    }
  return {
    sideEdge,
    ends: ends.slice(0, n * 2),
    sides: sides.slice(0, n * 2),
    crowded: crowded.slice(0, n),
    find: (a, b) => table[slotOf(Math.min(a, b), Math.max(a, b))]!,
  };
}
