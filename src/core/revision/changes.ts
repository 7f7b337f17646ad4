import type { Assembly, Component } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import { samePlace, sameShape, type Matching } from './match.ts';

export type ChangeKind = 'added' | 'removed' | 'reshaped' | 'moved' | 'count' | 'renamed' | 'property';

/** One thing that a newer model changes, of one part. */
export interface ModelChange {
  readonly kind: ChangeKind;
  /** Id of the part in the old assembly, in the new one for what was added. */
  readonly part: string;
  readonly name: string;
  readonly text: string;
  /** Geometry keys for the pictures. */
  readonly before: string | null;
  readonly after: string | null;
  /** Paths in the new assembly, in the old one for what was removed. */
  readonly components: readonly string[];
}

/** Names a change inside its report. */
export const changeId = (c: Pick<ModelChange, 'kind' | 'part'>): string => `${c.kind}/${c.part}`;

export interface ChangeReport {
  readonly changes: readonly ModelChange[];
  /** Components that are the same in every respect. */
  readonly unchanged: number;
}

/** What differs between two matched assemblies, part by part. */
export function changeReport(before: Assembly, after: Assembly, matching: Matching): ChangeReport {
  const [old, fresh] = [componentsOf(before), componentsOf(after)];
  const changes: ModelChange[] = [];
  const of = (list: readonly Component[], part: number) => list.filter((c) => c.part === part);
  let unchanged = 0;
  for (const { before: a, after: b } of [...matching.parts].sort((x, y) => x.before - y.before)) {
    const [p, q] = [before.parts[a]!, after.parts[b]!];
    const base = { part: p.id, name: q.name, before: p.geometryKey, after: q.geometryKey };
    const add = (kind: ChangeKind, text: string, components: readonly string[]) => changes.push({ ...base, kind, text, components });
    const [was, is] = [of(old, a), of(fresh, b)];
    const paths = is.map((c) => c.path);
    const reshaped = !sameShape(p, q);
    if (reshaped) add('reshaped', shapeText(p.volumeMm3, q.volumeMm3), paths);
    if (p.name !== q.name) add('renamed', `“${p.name}” is now “${q.name}”.`, paths);
    if (was.length !== is.length) add('count', `${was.length} became ${is.length}.`, paths);
    const moved = was.flatMap((c) => {
      const j = matching.components[c.index]!;
      return j >= 0 && !samePlace(c.placement, fresh[j]!.placement) ? [{ c, to: fresh[j]! }] : [];
    });
    if (moved.length)
      add(
        'moved',
        moveText(moved),
        moved.map((m) => m.to.path),
      );
    const texts = propertyTexts(p, q);
    if (texts.length) add('property', texts.join(' '), paths);
    if (!reshaped && texts.length === 0 && p.name === q.name) unchanged += was.filter((c) => matching.components[c.index]! >= 0).length - moved.length;
  }
  const [kept, come] = [new Set(matching.parts.map((m) => m.before)), new Set(matching.parts.map((m) => m.after))];
  before.parts.forEach((p, i) => {
    if (kept.has(i)) return;
    const was = of(old, i);
    changes.push({
      kind: 'removed',
      part: p.id,
      name: p.name,
      text: `${pieces(was.length)} gone.`,
      before: p.geometryKey,
      after: null,
      components: was.map((c) => c.path),
    });
  });
  after.parts.forEach((q, i) => {
    if (come.has(i)) return;
    const is = of(fresh, i);
    changes.push({
      kind: 'added',
      part: q.id,
      name: q.name,
      text: `${pieces(is.length)} new.`,
      before: null,
      after: q.geometryKey,
      components: is.map((c) => c.path),
    });
  });
  return { changes, unchanged };
}

const pieces = (n: number) => (n === 1 ? 'One piece is' : `${n} pieces are`);

function shapeText(before: number, after: number): string {
  if (!(before > 0) || !(after > 0)) return 'Its shape changed.';
  const percent = (after / before - 1) * 100;
  return Math.abs(percent) < 0.05
    ? 'Its shape changed, its volume did not.'
    : `Its volume changed by ${percent > 0 ? '+' : '−'}${Number(Math.abs(percent).toPrecision(2))} %.`;
}

function moveText(moved: readonly { readonly c: Component; readonly to: Component }[]): string {
  const distances = moved.map(({ c, to }) => Math.hypot(...[3, 7, 11].map((k) => to.placement[k]! - c.placement[k]!)));
  const most = Math.max(...distances);
  const far = most < 0.01 ? 'turned in place' : `moved by ${Number(most.toPrecision(3))} mm${moved.length > 1 ? ' at most' : ''}`;
  return `${moved.length === 1 ? 'One piece' : `${moved.length} pieces`} ${far}.`;
}

function propertyTexts(p: Assembly['parts'][number], q: Assembly['parts'][number]): string[] {
  const out: string[] = [];
  if ((p.material ?? '') !== (q.material ?? '')) out.push(`Material: ${p.material || 'none'} became ${q.material || 'none'}.`);
  for (const key of new Set([...Object.keys(p.properties), ...Object.keys(q.properties)]))
    if ((p.properties[key] ?? '') !== (q.properties[key] ?? '')) out.push(`${key}: ${p.properties[key] || 'empty'} became ${q.properties[key] || 'empty'}.`);
  return out;
}
