import type { Item } from '../ledger/items.ts';
import type { LedgerRecord } from '../document/records.ts';
import { PHRASES, type Language } from './phrases.ts';

/** What a guide reads of an item besides its properties. */
export interface GuideColumns {
  /** Its description in the guide's language. */
  nameOf(item: Item): string;
  /** Where it is fetched from: a bin of one's own column, else the supplier. */
  placeOf(item: Item): string;
}

const BIN = /^(bin|location|shelf|rack|lagerplatz|fach|casier)\b/i;
const escaped = (s: string) => s.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/**
 * Columns of the ledger that a guide goes by: one of one's own named “Bin” (or Location, Shelf, Rack), and one whose name ends with the
 * guide's language, as in “Description de” or “Beschreibung (Deutsch)”.
 */
export function guideColumns(ledger: Pick<LedgerRecord, 'own'>, language: Language): GuideColumns {
  const bin = ledger.own.find((c) => BIN.test(c.title));
  const ends = new RegExp(`(^|[\\s(,_-])(${language}|${escaped(PHRASES[language].language)})\\)?$`, 'i');
  const name = ledger.own.find((c) => ends.test(c.title));
  const own = (item: Item, column: { readonly key: string } | undefined) => (column ? (item.own[column.key] ?? '') : '');
  return {
    nameOf: (item) => own(item, name) || item.values.description.text,
    placeOf: (item) => own(item, bin) || item.values.supplier.text,
  };
}

/** Without a ledger: names as they are. */
export const PLAIN_COLUMNS: GuideColumns = { nameOf: (i) => i.values.description.text, placeOf: (i) => i.values.supplier.text };
