import type { z } from 'zod';
import { referenceOf, shrinkingOf, type EdgeReference, type FaceReference, type Reference, type Shrinking } from './fields.ts';
import type { DrawingDocument, DrawingDocumentRecord, RecordType } from './records.ts';
import { SCHEMAS } from './schemas.ts';

/** One reference that a record holds: an id, a path, an edge or a face. */
export type Held =
  | { readonly reference: Reference & { readonly to: 'record' | 'path' }; readonly value: string }
  | { readonly reference: Reference & { readonly to: 'edge' }; readonly value: EdgeReference }
  | { readonly reference: Reference & { readonly to: 'face' }; readonly value: FaceReference };

/** The references below a field, as its schema declares them; fields without any are left out. */
type Tree =
  | { readonly kind: 'leaf'; readonly reference: Reference }
  | { readonly kind: 'list'; readonly item: Tree; readonly shrinking: Shrinking }
  | { readonly kind: 'fields'; readonly fields: readonly (readonly [string, Tree])[] };

function treeOf(schema: z.core.$ZodType): Tree | undefined {
  const reference = referenceOf(schema);
  if (reference) return { kind: 'leaf', reference };
  const def = (schema as z.core.$ZodTypes)._zod.def;
  switch (def.type) {
    case 'object': {
      const fields = Object.entries(def.shape).flatMap(([key, s]) => {
        const tree = treeOf(s);
        return tree ? [[key, tree] as const] : [];
      });
      return fields.length ? { kind: 'fields', fields } : undefined;
    }
    case 'array': {
      const item = treeOf(def.element);
      return item && { kind: 'list', item, shrinking: shrinkingOf(schema) ?? {} };
    }
    case 'nullable':
    case 'optional':
    case 'readonly':
      return treeOf(def.innerType);
    default:
      // A union whose variants point at something needs a reading of its own: none does.
      return undefined;
  }
}

const TREES: ReadonlyMap<string, Tree | undefined> = new Map([...SCHEMAS].map(([type, schema]) => [type, treeOf(schema)]));

/** Everything a record points at, in the order of its schema. */
export function referencesOf(record: DrawingDocumentRecord): Held[] {
  const out: Held[] = [];
  const visit = (tree: Tree, value: unknown): void => {
    if (value === null || value === undefined) return;
    if (tree.kind === 'leaf') out.push({ reference: tree.reference, value } as Held);
    else if (tree.kind === 'list') for (const v of value as readonly unknown[]) visit(tree.item, v);
    else for (const [key, t] of tree.fields) visit(t, (value as Record<string, unknown>)[key]);
  };
  const tree = TREES.get(record.type);
  if (tree) visit(tree, record);
  return out;
}

type To<T extends Reference['to']> = Reference & { readonly to: T };

/** What targets are called from now on; undefined when one is gone. What is not told stays. */
export interface Follow {
  record?(id: string, reference: To<'record'>): string | undefined;
  path?(path: string, reference: To<'path'>): string | undefined;
  edge?(edge: EdgeReference, reference: To<'edge'>): EdgeReference | undefined;
  face?(face: FaceReference, reference: To<'face'>): FaceReference | undefined;
}

/** The record with its references followed. */
export interface Followed<R> {
  /** Undefined: it goes with what it pointed at. */
  readonly record: R | undefined;
  /** Targets that are gone and still pointed at. */
  readonly stale: readonly string[];
}

const GONE = Symbol('gone');
const DROP = Symbol('drop');

/**
 * Follows every reference of a record: the one way in which removal, a newer model and copies change what points at
 * something. What did not change is the same object as before.
 */
export function followed<R extends DrawingDocumentRecord>(record: R, follow: Follow): Followed<R> {
  const stale: string[] = [];
  const visit = (tree: Tree, value: unknown): unknown => {
    if (value === null || value === undefined) return value;
    if (tree.kind === 'leaf') {
      const next = followLeaf(tree.reference, value, follow);
      if (next !== undefined) return next;
      const { whenGone } = tree.reference;
      if (whenGone === 'leaveOut') return GONE;
      if (whenGone !== 'stale') return whenGone === 'dropWith' ? DROP : null;
      if (tree.reference.to === 'path') stale.push(value as string);
      else {
        const lost = value as EdgeReference | FaceReference;
        stale.push(lost.component);
        return lost.lost ? lost : { ...lost, lost: true };
      }
      return value;
    }
    return tree.kind === 'list' ? list(tree, value as readonly unknown[]).value : fields(tree, value as Record<string, unknown>);
  };
  /** @returns the list, or what becomes of it, and which entries of the old one are in it */
  const list = (tree: Tree & { kind: 'list' }, value: readonly unknown[]) => {
    const next = value.map((v) => visit(tree.item, v));
    if (next.includes(DROP)) return { value: DROP, kept: undefined };
    if (next.every((v, i) => v === value[i])) return { value, kept: undefined };
    const kept = next.flatMap((v, i) => (v === GONE ? [] : [i]));
    const shrunk = kept.length < value.length;
    return { value: shrunk && kept.length < (tree.shrinking.least ?? 0) ? GONE : kept.map((i) => next[i]), kept: shrunk ? kept : undefined };
  };
  const fields = (tree: Tree & { kind: 'fields' }, value: Record<string, unknown>): unknown => {
    let next = value;
    const put = (key: string, v: unknown) => {
      if (next === value) next = { ...value };
      next[key] = v;
    };
    for (const [key, t] of tree.fields) {
      const before = value[key];
      const { value: after, kept } =
        t.kind === 'list' && Array.isArray(before) ? list(t, before as readonly unknown[]) : { value: visit(t, before), kept: undefined };
      if (after === DROP || after === GONE) return after;
      if (after === before) continue;
      put(key, after);
      if (kept && t.kind === 'list')
        for (const b of t.shrinking.beside ?? []) {
          const list = value[b] as readonly unknown[] | undefined;
          if (list)
            put(
              b,
              kept.map((i) => list[i]),
            );
        }
      if (after === null && t.kind === 'leaf' && t.reference.to === 'record') for (const a of t.reference.also ?? []) put(a, null);
    }
    return next;
  };
  const tree = TREES.get(record.type);
  const next = tree ? visit(tree, record) : record;
  return { record: next === DROP || next === GONE ? undefined : (next as R), stale };
}

function followLeaf(reference: Reference, value: unknown, follow: Follow): unknown {
  switch (reference.to) {
    case 'record':
      return follow.record ? follow.record(value as string, reference) : value;
    case 'path':
      return follow.path ? follow.path(value as string, reference) : value;
    case 'edge':
      return follow.edge ? follow.edge(value as EdgeReference, reference) : value;
    case 'face':
      return follow.face ? follow.face(value as FaceReference, reference) : value;
  }
}

/** A sentence about a reference to a record that is not there, or is of another type. @param of looks only at these */
export function brokenReference(doc: DrawingDocument, of: readonly DrawingDocumentRecord[] = Object.values(doc)): string | undefined {
  for (const r of of)
    for (const { reference, value } of referencesOf(r))
      if (reference.to === 'record' && !isA(doc, value as string, reference.type))
        return reference.type === 'sheet'
          ? `“${r.id}” would be on no sheet`
          : `“${r.id}” would ${reference.whenGone === 'dropWith' ? `belong to no ${reference.type}` : `point at no ${reference.type}`}`;
  return undefined;
}

function isA(doc: DrawingDocument, id: string, type: string): boolean {
  return Object.hasOwn(doc, id) && doc[id]!.type === (type as RecordType);
}
