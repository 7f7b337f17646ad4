import { isElement, type ElementRecord } from '$elements/kinds';
import type { Scene } from '$elements/scene';

/** What is selected; a component belongs to an item, and both are shown everywhere. */
export type Selection =
  | { readonly kind: 'none' }
  | { readonly kind: 'item'; readonly part: string; readonly component?: number; readonly view?: string }
  | { readonly kind: 'record'; readonly id: string; readonly part?: string }
  /** Several elements of one sheet. */
  | { readonly kind: 'records'; readonly ids: readonly string[] }
  | { readonly kind: 'field'; readonly field: string };

const NONE: Selection = { kind: 'none' };

/** An element that stands on a sheet, or is it. */
const elementOn = (scene: Scene, sheet: string, id: string): ElementRecord | undefined => {
  const r = Object.hasOwn(scene.document, id) ? scene.document[id] : undefined;
  return r && isElement(r) && scene.sheetOf(r)?.id === sheet ? r : undefined;
};

/** Several elements as a selection: none, one or several. */
export const selectionOf = (ids: readonly string[]): Selection =>
  ids.length === 0 ? NONE : ids.length === 1 ? { kind: 'record', id: ids[0]! } : { kind: 'records', ids };

/** What of a selection stands on the sheet that is shown; the same object when all of it does. Heading, fields, keys and actions go by it. */
export function selectionOn(s: Selection, sheet: string, scene: Scene): Selection {
  switch (s.kind) {
    case 'record':
      return elementOn(scene, sheet, s.id) ? s : NONE;
    case 'records': {
      const there = s.ids.filter((id) => elementOn(scene, sheet, id));
      return there.length === s.ids.length ? s : selectionOf(there);
    }
    case 'item':
      return s.view === undefined || elementOn(scene, sheet, s.view) ? s : { kind: 'item', part: s.part };
    default:
      return s;
  }
}

/** The element that the slip shows: the one that is selected, else the sheet; undefined where an item, a field or several are selected. */
export function shownRecord(s: Selection, sheet: string, scene: Scene): ElementRecord | undefined {
  const on = selectionOn(s, sheet, scene);
  if (on.kind === 'record') return elementOn(scene, sheet, on.id);
  return on.kind === 'none' || on.kind === 'field' ? scene.one('sheet', sheet) : undefined;
}
