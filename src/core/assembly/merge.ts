import { IDENTITY } from '../base/placement.ts';
import { uniqueId } from './unique-id.ts';
import type { Assembly, AssemblyNode, Part } from './assembly.ts';

/** Several assemblies, or single parts, under one new root, with their positions as they are. */
export function mergeAssemblies(name: string, list: readonly Assembly[]): Assembly {
  const parts: Part[] = [];
  const ids = new Set<string>();
  const nodes: AssemblyNode[] = [{ parent: -1, name, product: name, placement: IDENTITY, part: -1 }];
  for (const a of list) {
    const [partShift, nodeShift] = [parts.length, nodes.length];
    for (const p of a.parts) parts.push({ ...p, id: uniqueId(p.id, ids) });
    for (const n of a.nodes) nodes.push({ ...n, parent: n.parent < 0 ? 0 : n.parent + nodeShift, part: n.part < 0 ? -1 : n.part + partShift });
  }
  const all = (of: (a: Assembly) => string) => [...new Set(list.map(of))].join(', ');
  return { name, schema: all((a) => a.schema), unit: all((a) => a.unit), parts, nodes, properties: {}, notices: list.flatMap((a) => a.notices) };
}
