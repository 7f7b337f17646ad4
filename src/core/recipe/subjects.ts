import type { Assembly, Component } from '../assembly/assembly.ts';
import type { DrawingDocument } from '../document/records.ts';
import { groupsOf } from '../ledger/groups.ts';
import { isModelled, PROPERTY_KEYS, type Item } from '../ledger/items.ts';
import type { RecipeOnly, RecipeSheet } from './record.ts';

/** What a sheet of a recipe is about. */
export interface Subject {
  /** Of the part or the sub-assembly; `whole` of the whole. */
  readonly id: string;
  readonly name: string;
  /** Components that it shows; for parts used more than once the first one. */
  readonly components: readonly number[];
  readonly item?: Item;
}

/** What a sheet of a recipe is called for a subject. */
export const nameOf = (sheet: RecipeSheet, subject: Subject): string => sheet.name.replaceAll('{subject}', subject.name);

/** Shapes and names of what is bought by its name. */
const BOUGHT = /nut|bolt|screw|washer|circlip|rivet|pin|bearing|spring|o-ring/i;

/**
 * The subjects of a sheet, in the order of their numbers; none where the model has nothing for it.
 * @param isBent whether a component is bent from sheet
 */
export function subjectsOf(
  sheet: RecipeSheet,
  assembly: Assembly,
  components: readonly Component[],
  document: DrawingDocument,
  items: readonly Item[],
  isBent: (component: number) => boolean,
): Subject[] {
  switch (sheet.per) {
    case 'whole':
      return [{ id: 'whole', name: assembly.name, components: components.map((c) => c.index) }];
    case 'sub-assembly':
      return groupsOf(assembly, document, items)
        .map(({ item }) => ({
          id: item.part,
          name: item.values.description.text,
          components: item.components.slice(0, item.components.length / item.quantity),
          item,
        }))
        .filter((s) => s.components.length > 1 && matches(s.item, sheet.only, assembly, components));
    case 'made part':
    case 'bent part':
      return items
        .filter(
          (i) =>
            isModelled(i) &&
            (sheet.per === 'made part' || isBent(i.components[0]!)) &&
            matches(i, { ...(sheet.per === 'made part' ? { source: 'made' as const } : {}), ...sheet.only }, assembly, components),
        )
        .sort((a, b) => a.number - b.number)
        .map((item) => ({ id: item.part, name: item.values.description.text, components: item.components.slice(0, 1), item }));
  }
}

function matches(item: Item, only: RecipeOnly | undefined, assembly: Assembly, components: readonly Component[]): boolean {
  if (!only) return true;
  const part = assembly.parts[components[item.components[0]!]!.part]!;
  if (only.source && sourceOf(item, part) !== only.source) return false;
  const extent = Math.max(part.box[3]! - part.box[0]!, part.box[4]! - part.box[1]!, part.box[5]! - part.box[2]!);
  if (only.leastMm !== undefined && extent < only.leastMm) return false;
  if (only.contains) {
    const key = PROPERTY_KEYS.find((k) => k === only.property);
    const text = key
      ? item.values[key].text
      : only.property && only.property !== 'name'
        ? (item.own[only.property] ?? part.properties[only.property] ?? '')
        : `${item.values.description.text} ${part.name}`;
    if (!text.toLowerCase().includes(only.contains.toLowerCase())) return false;
  }
  return true;
}

/** What says nothing is made, unless it looks or is called like something that is bought. */
function sourceOf(item: Item, part: Assembly['parts'][number]): string {
  const said = item.values.source.text.trim().toLowerCase();
  if (said) return said;
  return part.looksLike || BOUGHT.test(item.values.description.text) ? 'standard' : 'made';
}
