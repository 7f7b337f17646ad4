import { LIST_STYLES } from '$core/ledger/list-rows';
import type { RecipeSlot } from '$core/recipe/record';

/** Slots that can be put into a recipe by hand, as people call them. */
export const SLOT_KINDS: readonly (readonly [key: string, title: string, make: () => RecipeSlot])[] = [
  ['arrangement', 'Front, top, right, pictorial', () => ({ want: 'arrangement', name: 'Front, top, right, isometric' })],
  ['view', 'View from one side', () => ({ want: 'view', name: 'Front', look: 'front', dimensions: true, centrelines: true })],
  ['part views', 'The views that a part needs', () => ({ want: 'part views', name: 'The views it needs', dimensions: true, centrelines: true })],
  ['section', 'Section through the main axis', () => ({ want: 'section', name: 'Section through the main axis', centrelines: true })],
  ['exploded view', 'Exploded view', () => ({ want: 'exploded view', name: 'Exploded view', balloons: true })],
  ['flat pattern', 'Flat pattern', () => ({ want: 'flat pattern', name: 'Flat pattern', dimensions: true })],
  ['bend table', 'Table of bends', () => ({ want: 'bend table', name: 'Bends' })],
  ['hole table', 'Table of holes', () => ({ want: 'hole table', name: 'Holes' })],
  ['list', 'Parts list', () => ({ want: 'list', name: 'Parts list' })],
  ['cut list', 'Cut list', cutList],
  ['note', 'Note', () => ({ want: 'note', name: 'Note', like: { at: [30, 20], text: 'Unless stated otherwise, dimensions are in {unit}.' } })],
];

function cutList(): RecipeSlot {
  const style = LIST_STYLES.find((s) => 'rows' in s && s.rows === 'stock');
  return { want: 'list', name: 'Cut list', ...(style ? { like: { columns: style.columns, rows: 'stock' as const } } : {}) };
}

/** What can be put onto the views of a slot. */
export const BESIDES = [
  ['balloons', 'Balloons'],
  ['dimensions', 'Dimensions'],
  ['centrelines', 'Centrelines'],
] as const;
export type Besides = (typeof BESIDES)[number][0];

/** Has a slot views that things are put onto? */
export const hasViews = (slot: RecipeSlot): boolean => ['view', 'part views', 'section', 'exploded view', 'flat pattern'].includes(slot.want);
