import type { Assembly } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import { recordsOf, type DrawingDocument } from '../document/records.ts';
import { valuesOfNamed, type Item } from './items.ts';

/** A sub-assembly as a row of lists that show levels: the same contents under the same name are one, however often they are used. */
export interface Group {
  /** As an item: its number comes after those of the parts, its quantity counts its places, its components are all that stand in them. */
  readonly item: Item;
  /** Its places in `Assembly.nodes`. */
  readonly nodes: readonly number[];
}

/** Id by which properties, numbers and balloons name a sub-assembly. */
export const groupId = (name: string): string => `group:${name}`;

const known = new WeakMap<Assembly, { readonly items: readonly Item[]; readonly groups: readonly Group[] }>();

/** Sub-assemblies below the root, in the order of the tree. */
export function groupsOf(assembly: Assembly, doc: DrawingDocument, items: readonly Item[]): readonly Group[] {
  const before = known.get(assembly);
  if (before?.items === items) return before.groups;
  const groups = read(assembly, doc, items);
  known.set(assembly, { items, groups });
  return groups;
}

function read(assembly: Assembly, doc: DrawingDocument, items: readonly Item[]): Group[] {
  const { nodes } = assembly;
  const contents = contentsOf(assembly);
  const under = componentsUnder(assembly);
  const places = new Map<string, number[]>();
  nodes.forEach((n, i) => {
    if (n.part >= 0 || n.parent < 0) return;
    const key = `${n.product || n.name}\n${contents[i]}`;
    const list = places.get(key);
    if (list) list.push(i);
    else places.set(key, [i]);
  });
  const typed = new Map(recordsOf(doc, 'property').map((r) => [r.part, r]));
  const numbers = doc['numbers']?.type === 'numbers' ? doc['numbers'] : undefined;
  const itemOf = new Map(items.flatMap((i) => i.components.map((c) => [c, i] as const)));
  const used = new Map<string, number>();
  let last = Math.max(0, ...items.map((i) => i.number));
  return [...places.values()].map((list): Group => {
    const name = nodes[list[0]!]!.product || nodes[list[0]!]!.name;
    const again = (used.get(name) ?? 0) + 1;
    used.set(name, again);
    const id = groupId(again > 1 ? `${name}:${again}` : name);
    const record = typed.get(id);
    const one = under[list[0]!]!.map((c) => itemOf.get(c)!.massKg);
    const complete = one.every((m) => m !== undefined);
    const label = numbers?.labels?.[id];
    last = Math.max(last + 1, numbers?.of[id] ?? 0);
    return {
      nodes: list,
      item: {
        number: numbers?.of[id] ?? last,
        ...(label ? { label } : {}),
        part: id,
        quantity: list.length,
        components: list.flatMap((n) => under[n]!),
        values: valuesOfNamed(name, record?.values ?? {}, record?.when ?? {}),
        own: Object.fromEntries(Object.entries(record?.values ?? {}).filter(([k]) => k.startsWith('own:'))),
        massKg: complete ? one.reduce((a, b) => a! + b!, 0) : undefined,
        massTyped: false,
        massOrigin: complete ? 'The masses of its parts together.' : 'A part of it has no mass.',
        gaps: [],
      },
    };
  });
}

/** What each node holds, as a text that is equal for equal contents. */
function contentsOf({ nodes }: Assembly): string[] {
  const children = nodes.map((): string[] => []);
  const out: string[] = [];
  for (let i = nodes.length - 1; i >= 0; i--) {
    const n = nodes[i]!;
    out[i] = n.part >= 0 ? `p${n.part}` : `(${n.product || n.name}${children[i]!.sort().join(',')})`;
    if (n.parent >= 0) children[n.parent]!.push(out[i]!);
  }
  return out;
}

/** Components under each node, by their index. */
function componentsUnder(assembly: Assembly): number[][] {
  const out = assembly.nodes.map((): number[] => []);
  for (const c of componentsOf(assembly)) for (let n = c.node; n >= 0; n = assembly.nodes[n]!.parent) out[n]!.push(c.index);
  return out;
}
