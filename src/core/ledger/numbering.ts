import { without } from '../base/without.ts';
import type { DrawingDocument, NumbersRecord } from '../document/records.ts';
import type { Step } from '../document/steps.ts';
import type { Item } from './items.ts';

/** The numbers as they are now, written down. */
function pinned(doc: DrawingDocument, items: readonly Item[]): NumbersRecord {
  const known = doc['numbers']?.type === 'numbers' ? doc['numbers'] : undefined;
  const of: Record<string, number> = { ...known?.of };
  for (const i of items) if (!i.unnumbered) of[i.part] = i.number;
  return { ...(known ?? { type: 'numbers', id: 'numbers' }), of, last: Math.max(known?.last ?? 0, ...Object.values(of)) };
}

const lessOne = <V>(of: Readonly<Record<string, V>> | undefined, key: string): Record<string, V> =>
  Object.fromEntries(Object.entries(of ?? {}).filter(([k]) => k !== key));

function withLabels(record: NumbersRecord, labels: Readonly<Record<string, string>>): NumbersRecord {
  const rest = without(record, 'labels');
  return Object.keys(labels).length ? { ...rest, labels } : rest;
}

/**
 * A number that someone types: a whole number takes the place of the item's own, and the item that had it gets this one's;
 * anything else (`3.1`, `12a`) is written instead of the number. Nothing typed: written as its number again. It is locked.
 * @param items all that have numbers, sub-assemblies too
 * @returns no step when the text is too long, or the item that has this number is locked
 */
export function numberedByHand(doc: DrawingDocument, items: readonly Item[], part: string, typed: string): Step[] {
  const text = typed.trim();
  const item = items.find((i) => i.part === part);
  if (!item || text.length > 12) return [];
  let record = pinned(doc, items);
  const locked = [...new Set([...(record.locked ?? []), part])];
  if (text === '') return [{ op: 'put', record: withLabels(record, lessOne(record.labels, part)) }];
  if (!/^[1-9]\d{0,6}$/.test(text)) {
    // Two that are written alike could not be told apart.
    if (items.some((i) => i !== item && (i.label ?? String(i.number)) === text)) return [];
    return [{ op: 'put', record: { ...record, labels: { ...record.labels, [part]: text }, locked } }];
  }
  const number = Number(text);
  const other = items.find((i) => i !== item && i.number === number && !i.unnumbered);
  if (other?.locked) return [];
  const of = { ...record.of, [part]: number, ...(other ? { [other.part]: item.number } : {}) };
  record = { ...withLabels(record, lessOne(record.labels, part)), of, locked, last: Math.max(record.last, number) };
  return [{ op: 'put', record }];
}

/** Locks or frees the number of an item: giving numbers anew leaves locked ones. */
export function lockedNumber(doc: DrawingDocument, items: readonly Item[], part: string, lock: boolean): Step[] {
  const { locked, ...record } = pinned(doc, items);
  const now = new Set(locked);
  if (lock) now.add(part);
  else now.delete(part);
  return [{ op: 'put', record: { ...record, ...(now.size ? { locked: [...now] } : {}) } }];
}

/**
 * Numbers given anew, in the order given; locked ones keep theirs and are stepped over.
 * @param order items in the order wanted; those that are not among them follow in their old order
 * @param step 10 leaves gaps for what comes later
 */
export function renumbered(
  doc: DrawingDocument,
  items: readonly Item[],
  order: readonly Item[],
  { from = 1, step = 1 }: { readonly from?: number; readonly step?: number } = {},
): Step[] {
  const record = pinned(doc, items);
  const numbered = items.filter((i) => !i.unnumbered);
  const first = order.filter((i) => numbered.includes(i));
  const all = [...new Set([...first, ...[...numbered].sort((a, b) => a.number - b.number)])];
  const taken = new Set(all.filter((i) => i.locked).map((i) => i.number));
  const of: Record<string, number> = { ...record.of };
  let next = from;
  for (const i of all) {
    if (i.locked) continue;
    while (taken.has(next)) next += step;
    of[i.part] = next;
    next += step;
  }
  const locked = new Set(record.locked);
  const labels = Object.fromEntries(Object.entries(record.labels ?? {}).filter(([part]) => locked.has(part)));
  return [{ op: 'put', record: { ...withLabels(record, labels), of, last: Math.max(...Object.values(of)) } }];
}
