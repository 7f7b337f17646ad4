/**
 * Cheapest assignment of rows to columns (Kuhn–Munkres with potentials, O(rows² · columns)).
 * @param cost rows × columns, rows ≤ columns
 * @returns column of each row
 */
export function assign(cost: readonly (readonly number[])[]): number[] {
  const n = cost.length;
  const m = cost[0]?.length ?? 0;
  if (n > m) throw new RangeError(`${n} rows do not fit into ${m} columns.`);
  const u = new Float64Array(n + 1);
  const v = new Float64Array(m + 1);
  const match = new Int32Array(m + 1);
  const way = new Int32Array(m + 1);
  for (let i = 1; i <= n; i++) {
    match[0] = i;
    let j0 = 0;
    const least = new Float64Array(m + 1).fill(Infinity);
    const used = new Uint8Array(m + 1);
    do {
      used[j0] = 1;
      const row = match[j0]!;
      let delta = Infinity;
      let j1 = 0;
      for (let j = 1; j <= m; j++) {
        if (used[j]) continue;
        const reduced = cost[row - 1]![j - 1]! - u[row]! - v[j]!;
        if (reduced < least[j]!) {
          least[j] = reduced;
          way[j] = j0;
        }
        if (least[j]! < delta) {
          delta = least[j]!;
          j1 = j;
        }
      }
      for (let j = 0; j <= m; j++) {
        if (used[j]) {
          u[match[j]!]! += delta;
          v[j]! -= delta;
        } else least[j]! -= delta;
      }
      j0 = j1;
    } while (match[j0] !== 0);
    do {
      const j1 = way[j0]!;
      match[j0] = match[j1]!;
      j0 = j1;
    } while (j0);
  }
  const out = new Array<number>(n).fill(-1);
  for (let j = 1; j <= m; j++) if (match[j]) out[match[j]! - 1] = j - 1;
  return out;
}
