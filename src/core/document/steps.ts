import type { DrawingDocument, DrawingDocumentRecord } from './records.ts';
import { brokenReference, followed } from './refs.ts';

/** The only ways a document changes. Both are invertible. */
export type Step = { readonly op: 'put'; readonly record: DrawingDocumentRecord } | { readonly op: 'drop'; readonly id: string };

/** One gesture: its steps are applied together or not at all, and undone together. */
export interface Edit {
  readonly label: string;
  readonly steps: readonly Step[];
}

export type EditResult =
  { readonly ok: true; readonly document: DrawingDocument; readonly inverse: readonly Step[] } | { readonly ok: false; readonly reason: string };

/** Applies steps in order. A step that does not fit is an answer, not an exception; the document is never half changed. */
export function applySteps(document: DrawingDocument, steps: readonly Step[]): EditResult {
  const next: Record<string, DrawingDocumentRecord> = { ...document };
  const inverse: Step[] = [];
  // By own keys only: every object has a “constructor”, and “__proto__” is none of ours to put.
  const known = (id: string) => (Object.hasOwn(next, id) ? next[id] : undefined);
  for (const s of steps) {
    if (s.op === 'put') {
      if (s.record.id === '__proto__') return { ok: false, reason: 'nothing can be called “__proto__”' };
      const before = known(s.record.id);
      if (before && before.type !== s.record.type) return { ok: false, reason: `“${s.record.id}” is a ${before.type}, not a ${s.record.type}` };
      next[s.record.id] = s.record;
      inverse.unshift(before ? { op: 'put', record: before } : { op: 'drop', id: s.record.id });
    } else {
      const before = known(s.id);
      if (!before) return { ok: false, reason: `“${s.id}” is not there any more` };
      if (before.type === 'drawing') return { ok: false, reason: 'the drawing itself cannot be removed' };
      delete next[s.id];
      inverse.unshift({ op: 'put', record: before });
    }
  }
  // What was there before still fits, unless something that it needs went.
  const broken = steps.some((s) => s.op === 'drop')
    ? brokenReference(next)
    : brokenReference(
        next,
        steps.flatMap((s) => (s.op === 'put' ? [s.record] : [])),
      );
  return broken ? { ok: false, reason: broken } : { ok: true, document: next, inverse };
}

/** Steps that drop records together with everything that needs them; what only hung on one is set free. */
export function dropWithDependants(doc: DrawingDocument, ...ids: readonly string[]): Step[] {
  const gone = new Set<string>(ids);
  const freed = new Map<string, Step>();
  for (let before = -1; before !== gone.size;) {
    before = gone.size;
    for (const r of Object.values(doc)) {
      if (gone.has(r.id)) continue;
      const { record } = followed(r, { record: (id) => (gone.has(id) ? undefined : id) });
      if (!record) gone.add(r.id);
      else if (record !== r) freed.set(r.id, { op: 'put', record });
    }
  }
  for (const id of gone) freed.delete(id);
  return [...freed.values(), ...[...gone].map((id): Step => ({ op: 'drop', id }))];
}
