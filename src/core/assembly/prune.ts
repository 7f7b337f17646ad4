import type { AssemblyNode } from './assembly.ts';

/** Sub-assemblies in which nothing can be drawn go; parents keep coming before their children. */
export function dropEmptyBranches(nodes: readonly AssemblyNode[]): AssemblyNode[] {
  const used = new Array<boolean>(nodes.length).fill(false);
  for (let i = nodes.length - 1; i >= 0; i--) {
    if (nodes[i]!.part >= 0) used[i] = true;
    if (used[i] && nodes[i]!.parent >= 0) used[nodes[i]!.parent] = true;
  }
  const number = new Array<number>(nodes.length).fill(-1);
  const out: AssemblyNode[] = [];
  nodes.forEach((n, i) => {
    if (!used[i]) return;
    number[i] = out.length;
    out.push({ ...n, parent: n.parent < 0 ? -1 : number[n.parent]! });
  });
  return out;
}
