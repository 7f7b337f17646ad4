/** Pieces joined end to end. */
export interface Chain {
  /** One more than pieces; a ring ends with its first node. */
  readonly nodes: readonly number[];
  readonly pieces: readonly number[];
}

/**
 * Joins pieces end to end through the nodes where exactly two of them meet: first the chains that end somewhere, then
 * the rings.
 * @param ends two nodes per piece
 * @param goesOn may end a chain at a node between two pieces; it must not matter which of them comes first
 */
export function chainsOf(ends: ArrayLike<number>, goesOn: (piece: number, node: number, next: number) => boolean = () => true): Chain[] {
  const count = ends.length / 2;
  const at = new Map<number, number[]>();
  for (let i = 0; i < count; i++)
    for (const n of [ends[i * 2]!, ends[i * 2 + 1]!]) {
      const here = at.get(n);
      if (here) here.push(i);
      else at.set(n, [i]);
    }
  /** The piece that goes on from `piece` at a node, or -1. */
  const after = (piece: number, node: number): number => {
    const here = at.get(node)!;
    if (here.length !== 2) return -1;
    const next = here[0] === piece ? here[1]! : here[0]!;
    return goesOn(piece, node, next) ? next : -1;
  };
  const used = new Uint8Array(count);
  const walk = (first: number, from: number): Chain => {
    const nodes = [from];
    const pieces: number[] = [];
    let node = from;
    for (let i = first; i >= 0 && !used[i]; i = after(i, node)) {
      used[i] = 1;
      node = ends[i * 2] === node ? ends[i * 2 + 1]! : ends[i * 2]!;
      nodes.push(node);
      pieces.push(i);
    }
    return { nodes, pieces };
  };
  const out: Chain[] = [];
  for (let i = 0; i < count; i++) for (const n of [ends[i * 2]!, ends[i * 2 + 1]!]) if (!used[i] && after(i, n) < 0) out.push(walk(i, n));
  for (let i = 0; i < count; i++) if (!used[i]) out.push(walk(i, ends[i * 2]!));
  return out;
}
