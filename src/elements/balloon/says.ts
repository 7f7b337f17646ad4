import type { BalloonRecord } from '../../core/document/records.ts';
import { numberText, type Item } from '../../core/ledger/items.ts';
import { LIST_COLUMN_KEYS, LIST_COLUMN_TITLES } from '../../core/ledger/list-rows.ts';
import { cellOf } from '../list/rows.ts';
import type { Scene } from '../scene.ts';

/** What a balloon may say, by key: the number, and whatever a list of this drawing can have a column of. */
export function balloonWords(scene: Scene): (readonly [key: string, name: string])[] {
  const columns = LIST_COLUMN_KEYS.filter((k) => k !== 'item' && k !== 'level').map((k) => [k, LIST_COLUMN_TITLES[k] ?? k] as const);
  return [['number', 'Item number'], ...columns, ...scene.ledger.own.map((o) => [o.key, o.title] as const)];
}

/** A word of an item as a balloon writes it; `?` of none, a dash where it has nothing there. */
export function wordOf(item: Item | undefined, word: string, scene: Scene): string {
  if (!item) return '?';
  if (word === 'number') return numberText(item);
  return cellOf({ item, quantity: item.quantity, level: 0 }, word, scene) || '–';
}

/** Items that a balloon identifies: that of its component, and those of its stack. */
export const itemsOfBalloon = (b: BalloonRecord, scene: Scene): Item[] => [b.component, ...(b.stack ?? [])].flatMap((p) => scene.itemAt(p) ?? []);
