import type { DisplayGroup } from './display-list.ts';

/** Layers of a file, in the order in which they are listed: what kinds of elements stand on each. */
const KINDS: readonly (readonly [name: string, roles: readonly string[]])[] = [
  ['Sheet', ['frame', 'title', 'block', 'revisions']],
  ['Views', ['view', 'picture', 'step']],
  ['Centrelines', ['centre']],
  ['Dimensions', ['dimension', 'positions']],
  ['Balloons', ['balloon']],
  ['Parts list', ['list']],
  ['Notes', ['note', 'sign', 'table', 'figure', 'code']],
  ['Revision clouds', ['cloud']],
];
const OTHER = 'Notes';

/** Name of the layer that a group lies on. */
export const layerOf = ({ role }: Pick<DisplayGroup, 'role'>): string => KINDS.find(([, roles]) => roles.includes(role))?.[0] ?? OTHER;

/** Names of the layers of groups, each once, in their order. */
export function layersOf(groups: readonly Pick<DisplayGroup, 'role'>[]): string[] {
  const used = new Set(groups.map(layerOf));
  return KINDS.flatMap(([name]) => (used.has(name) ? [name] : []));
}
