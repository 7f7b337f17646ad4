import type { BalloonRecord } from '../../core/document/records.ts';
import { numberText, type Item } from '../../core/ledger/items.ts';
import type { Scene } from '../scene.ts';

type Word = NonNullable<BalloonRecord['says']>;

export const WORD_NAMES: Readonly<Record<Word, string>> = {
  number: 'item number',
  quantity: 'quantity',
  partNumber: 'part number',
  drawingNumber: 'drawing number',
  description: 'description',
  material: 'material',
  supplierNumber: "supplier's number",
  remark: 'remark',
};

/** A word of an item as a balloon writes it; `?` of none. */
export function wordOf(item: Item | undefined, word: Word): string {
  if (!item) return '?';
  if (word === 'number') return numberText(item);
  if (word === 'quantity') return item.quantityText ?? String(item.quantity);
  return item.values[word].text || '–';
}

/** Items that a balloon identifies: that of its component, and those of its stack. */
export const itemsOfBalloon = (b: BalloonRecord, scene: Scene): Item[] => [b.component, ...(b.stack ?? [])].flatMap((p) => scene.itemAt(p) ?? []);
