import type { DrawingDocument, DrawingDocumentRecord } from './records.ts';

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
  const broken = brokenReference(next);
  return broken ? { ok: false, reason: broken } : { ok: true, document: next, inverse };
}

/** Views need their sheet, balloons their view, lists their sheet. */
function brokenReference(doc: DrawingDocument): string | undefined {
  for (const r of Object.values(doc)) {
    if ((r.type === 'view' || r.type === 'list') && doc[r.sheet]?.type !== 'sheet') return `“${r.id}” would be on no sheet`;
    if (r.type === 'balloon' && doc[r.view]?.type !== 'view') return `“${r.id}” would belong to no view`;
    if (r.type === 'view') {
      if (r.spread !== null && doc[r.spread]?.type !== 'spread') return `“${r.id}” would show no spread`;
      if (!(r.scale > 0)) return `“${r.id}” needs a scale`;
    }
  }
  return undefined;
}

/** Steps that drop a record together with everything that needs it; what only hung on it is set free. */
export function dropWithDependants(doc: DrawingDocument, id: string): Step[] {
  const gone = new Set<string>();
  const drop = (target: string) => {
    for (const r of Object.values(doc)) {
      if ((r.type === 'view' || r.type === 'list') && r.sheet === target) drop(r.id);
      if (r.type === 'balloon' && r.view === target) gone.add(r.id);
    }
    gone.add(target);
  };
  drop(id);
  const freed = Object.values(doc).flatMap((r): Step[] =>
    r.type === 'view' && !gone.has(r.id) && r.parent !== null && gone.has(r.parent) ? [{ op: 'put', record: { ...r, parent: null, align: null } }] : [],
  );
  return [...freed, ...[...gone].map((g): Step => ({ op: 'drop', id: g }))];
}
