import type { DisplayGroup } from './display-list.ts';

/** Layers of a drawing, in the order in which they are listed: what kinds of elements stand on each. */
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

/** Names of the layers that every drawing has. */
export const KIND_LAYERS: readonly string[] = KINDS.map(([name]) => name);

/** Name of the layer that a group lies on: one of the drafter's own, else that of its kind. */
export const layerOf = ({ role, layer }: Pick<DisplayGroup, 'role' | 'layer'>): string =>
  layer ?? KINDS.find(([, roles]) => roles.includes(role))?.[0] ?? OTHER;

/** Names of the layers of groups, each once: those of kinds in their order, then the drafter's own as they come. */
export function layersOf(groups: readonly Pick<DisplayGroup, 'role' | 'layer'>[]): string[] {
  const used = new Set(groups.map(layerOf));
  return [...KIND_LAYERS.filter((name) => used.has(name)), ...[...used].filter((name) => !KIND_LAYERS.includes(name))];
}
