import { without } from '../../core/base/without.ts';
import type { ValueStyle, ValueText } from '../../core/dimension/value.ts';
import type { Scene } from '../scene.ts';
import type { Target } from '../target.ts';
import { holdOf } from '../target.ts';
import { measured, type DimensionRecord } from './measure.ts';

/** Part of a choice; undefined takes it back to what is usual. */
export type Change<T> = { readonly [K in keyof T]?: T[K] | undefined };

function merged<T extends object>(before: T | undefined, change: Change<T>): T | undefined {
  const next = { ...before, ...change } as Record<string, unknown>;
  for (const key of Object.keys(next)) if (next[key] === undefined) delete next[key];
  return Object.keys(next).length ? (next as T) : undefined;
}

/** The dimension with another look of its value. */
export function withStyle(record: DimensionRecord, change: Change<ValueStyle>): DimensionRecord {
  const style = merged(record.style, change);
  return style ? { ...record, style } : without(record, 'style');
}

/** … and with other words, tolerance or form. */
export function withText(record: DimensionRecord, change: Change<ValueText>): DimensionRecord {
  const text = merged(record.text, change);
  return text ? { ...record, text } : without(record, 'text');
}

/** The values as they are now, seen by someone. */
export function seenNow(record: DimensionRecord, scene: Scene): DimensionRecord {
  return { ...record, seen: (measured(record, scene) ?? []).map((m) => m.value) };
}

/** Targets of a dimension that are round: it can go to the nearer rim, the centre or the farther rim. */
export function roundTargets(record: DimensionRecord, scene: Scene): readonly number[] {
  const view = scene.one('view', record.view);
  if (!view || (record.kind !== 'level' && record.kind !== 'upright' && record.kind !== 'aligned')) return [];
  return record.of.flatMap((t, i) => (holdOf(scene, view, t)?.kind === 'circle' ? [i] : []));
}

/** The dimension going to another point of one of its targets. */
export function withEnd(record: DimensionRecord, index: number, as: 'near' | 'far' | undefined, scene: Scene): DimensionRecord {
  const of = record.of.map((t, i): Target => (i === index ? (as ? { ...t, as } : without(t, 'as')) : t));
  return seenNow({ ...record, of }, scene);
}

/** What is typed as a tolerance: `0.2`, `±0.2`, `+0.1 -0.05`, `H7`; an empty text is none. @returns undefined for what is none of these */
export function toleranceFrom(typed: string): ValueText['tolerance'] | null | undefined {
  const t = typed.trim().replace(/,/g, '.').replace(/[−–]/g, '-');
  if (t === '') return null;
  const fit = /^([A-Za-z]{1,2}\d{1,2})$/.exec(t);
  if (fit) return { kind: 'fit', fit: fit[1]!, shows: 'both' };
  const equal = /^(?:±|\+\/-|\+-)?\s*(\d*\.?\d+)$/.exec(t);
  if (equal) return { kind: 'equal', mm: Number(equal[1]) };
  const limits = /^([+-]?\d*\.?\d+)\s*[/ ]\s*([+-]?\d*\.?\d+)$/.exec(t);
  if (!limits) return undefined;
  const [a, b] = [Number(limits[1]), Number(limits[2])];
  return { kind: 'limits', upper: Math.max(a, b), lower: Math.min(a, b) };
}

/** A tolerance as it would be typed. */
export function toleranceText(t: ValueText['tolerance']): string {
  if (!t) return '';
  if (t.kind === 'equal') return `±${t.mm}`;
  if (t.kind === 'fit') return t.fit;
  const sign = (v: number) => (v > 0 ? `+${v}` : String(v));
  return `${sign(t.upper)} ${sign(t.lower)}`;
}
