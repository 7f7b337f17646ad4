import type { DrawingDocument, DrawingDocumentRecord } from './records.ts';
import { referencesOf } from './refs.ts';
import type { Step } from './steps.ts';

/** Values of JSON, whatever the order of their keys: a database may change that. */
function same(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null || Array.isArray(a) !== Array.isArray(b)) return false;
  const there = (o: object) => Object.keys(o).filter((k) => (o as Record<string, unknown>)[k] !== undefined);
  const keys = there(a);
  return keys.length === there(b).length && keys.every((k) => same((a as Record<string, unknown>)[k], (b as Record<string, unknown>)[k]));
}

const record = (document: DrawingDocument, id: string): DrawingDocumentRecord | undefined => (Object.hasOwn(document, id) ? document[id] : undefined);

const recordsHeldBy = (r: DrawingDocumentRecord): string[] => referencesOf(r).flatMap((h) => (h.reference.to === 'record' ? [h.value as string] : []));

/** The steps that make one document of another. */
export function changesBetween(before: DrawingDocument, after: DrawingDocument): Step[] {
  const puts = Object.values(after).flatMap((r): Step[] => (same(record(before, r.id), r) ? [] : [{ op: 'put', record: r }]));
  const drops = Object.keys(before).flatMap((id): Step[] => (Object.hasOwn(after, id) ? [] : [{ op: 'drop', id }]));
  return [...puts, ...drops];
}

/**
 * What was made out of `before` while somebody else worked on it, as steps on what stands now: where both changed something the
 * other's stays, what holds on to something that was taken away is left out, and what something was hung on stays.
 */
export function changesOnto(present: DrawingDocument, before: DrawingDocument, after: DrawingDocument): Step[] {
  let steps = changesBetween(before, after).filter((s) => {
    const id = s.op === 'put' ? s.record.id : s.id;
    return same(record(present, id), record(before, id));
  });
  for (;;) {
    const next = new Set(Object.keys(present));
    for (const s of steps) {
      if (s.op === 'put') next.add(s.record.id);
      else next.delete(s.id);
    }
    const put = new Map(steps.flatMap((s) => (s.op === 'put' ? [[s.record.id, s.record] as const] : [])));
    const held = new Set([...next].flatMap((id) => recordsHeldBy(put.get(id) ?? present[id]!)));
    const fits = steps.filter((s) => (s.op === 'drop' ? !held.has(s.id) : recordsHeldBy(s.record).every((id) => next.has(id))));
    if (fits.length === steps.length) return steps;
    steps = fits;
  }
}
