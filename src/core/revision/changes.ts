import type { Assembly, Component, Part } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { holeChanges, sizeChange } from './features.ts';
import type { Matching } from './match.ts';
import type { PartPair } from './part-pair.ts';
import { axisText, motionBetween, SAME_PLACE_MM, SAME_TURN_DEGREES, type Motion } from './motion.ts';

export const CHANGE_KINDS = ['added', 'removed', 'reshaped', 'moved', 'turned', 'count', 'renamed', 'property', 'colour'] as const;
export type ChangeKind = (typeof CHANGE_KINDS)[number];

/** One thing that a newer model changes, of one part. */
export interface ModelChange {
  readonly kind: ChangeKind;
  /** Id of the part in the old assembly, in the new one for what was added. */
  readonly part: string;
  /** The part's name in the newer model, in the older one for what was removed. */
  readonly name: string;
  readonly text: string;
  /** Geometry keys for the pictures. */
  readonly before: string | null;
  readonly after: string | null;
  /** Paths in the new assembly, in the old one for what was removed. */
  readonly components: readonly string[];
  /** How many pieces were added, removed, moved, turned or coloured. */
  readonly pieces?: number;
  /** How far the farthest one moved. */
  readonly mm?: number;
  /** How much the farthest one turned. */
  readonly degrees?: number;
  /** Name, count, properties or colour, as they were and as they are. */
  readonly from?: string;
  readonly to?: string;
}

/** Names a change inside its report. */
export const changeId = (c: Pick<ModelChange, 'kind' | 'part'>): string => `${c.kind}/${c.part}`;

export interface ChangeReport {
  readonly changes: readonly ModelChange[];
  /** Components that are the same in every respect. */
  readonly unchanged: number;
}

interface Moved {
  readonly motion: Motion;
  readonly to: Component;
}

/**
 * What differs between two matched assemblies: one entry for each kind of change and part.
 * @param geometries by key; where both of a pair are known, it is said which hole or size changed
 */
export function changeReport(before: Assembly, after: Assembly, matching: Matching, geometries: ReadonlyMap<string, PartGeometry> = new Map()): ChangeReport {
  const [old, fresh] = [componentsOf(before), componentsOf(after)];
  const changes: ModelChange[] = [];
  const of = (list: readonly Component[], part: number) => list.filter((c) => c.part === part);
  let unchanged = 0;
  for (const pair of [...matching.parts].sort((x, y) => x.before - y.before)) {
    const [p, q] = [before.parts[pair.before]!, after.parts[pair.after]!];
    const add = (kind: ChangeKind, text: string, components: readonly string[], measures: Partial<ModelChange> = {}) =>
      changes.push({ part: p.id, name: q.name, before: p.geometryKey, after: q.geometryKey, kind, text, components, ...measures });
    const [was, is] = [of(old, pair.before), of(fresh, pair.after)];
    const paths = is.map((c) => c.path);
    const kept = was.flatMap((c) => (matching.components[c.index]! >= 0 ? [{ c, to: fresh[matching.components[c.index]!]! }] : []));

    if (!pair.sameShape) add('reshaped', shapeText(p, q, pair, geometries), paths);
    if (p.name !== q.name) add('renamed', `“${p.name}” is now “${q.name}”.`, paths, { from: p.name, to: q.name });
    if (was.length !== is.length)
      add('count', `${was.length} became ${is.length}.`, paths, { pieces: Math.abs(is.length - was.length), from: `${was.length}`, to: `${is.length}` });

    const motions = kept.map(({ c, to }): Moved => ({ motion: motionBetween(c.placement, to.placement, p, pair.shift), to }));
    const moved = motions.filter(({ motion: m }) => m.mm >= SAME_PLACE_MM);
    const turned = motions.filter(({ motion: m }) => m.degrees >= SAME_TURN_DEGREES || m.mirrored);
    if (moved.length) add('moved', moveText(moved), pathsOf(moved), { pieces: moved.length, mm: rounded(Math.max(...moved.map((m) => m.motion.mm))) });
    if (turned.length) {
      const degrees = rounded(Math.max(...turned.map((m) => m.motion.degrees)));
      add('turned', turnText(turned), pathsOf(turned), { pieces: turned.length, degrees });
    }
    const properties = propertyChanges(p, q);
    if (properties.length) {
      const several = properties.length > 1;
      const side = (k: 'from' | 'to') => properties.map((x) => (several ? `${x.name}: ${x[k]}` : x[k])).join('; ');
      const texts = properties.map(
        (x) => `${x.name}: ${x.from || (x.name === 'Material' ? 'none' : 'empty')} became ${x.to || (x.name === 'Material' ? 'none' : 'empty')}.`,
      );
      add('property', texts.join(' '), paths, { from: side('from'), to: side('to') });
    }
    const recoloured = kept.flatMap(({ c, to }) => {
      const [from, now] = [colorOf(before, c), colorOf(after, to)];
      return from === now ? [] : [{ from, now, to }];
    });
    if (recoloured.length) {
      const [from, to] = [recoloured[0]!.from ?? 'none', recoloured[0]!.now ?? 'none'];
      const what = recoloured.length < kept.length ? `${pieces(recoloured.length)} coloured otherwise` : 'Its colour changed';
      add(
        'colour',
        `${what}: ${from} became ${to}.`,
        recoloured.map((r) => r.to.path),
        { pieces: recoloured.length, from, to },
      );
    }
    if (pair.sameShape && properties.length === 0 && p.name === q.name) {
      const touched = new Set([...moved, ...turned, ...recoloured].map((m) => m.to.index));
      unchanged += kept.length - touched.size;
    }
  }
  const [kept, come] = [new Set(matching.parts.map((m) => m.before)), new Set(matching.parts.map((m) => m.after))];
  const whole = (kind: 'added' | 'removed', p: Part, list: readonly Component[], word: string) =>
    changes.push({
      kind,
      part: p.id,
      name: p.name,
      text: `${pieces(list.length)} ${word}.`,
      before: kind === 'removed' ? p.geometryKey : null,
      after: kind === 'added' ? p.geometryKey : null,
      components: list.map((c) => c.path),
      pieces: list.length,
    });
  before.parts.forEach((p, i) => void (kept.has(i) || whole('removed', p, of(old, i), 'gone')));
  after.parts.forEach((q, i) => void (come.has(i) || whole('added', q, of(fresh, i), 'new')));
  return { changes, unchanged };
}

const pieces = (n: number) => (n === 1 ? 'One piece is' : `${n} pieces are`);
const pathsOf = (list: readonly Moved[]) => list.map((m) => m.to.path);
const rounded = (v: number) => Number(v.toFixed(4));
const colorOf = (a: Assembly, c: Component) => (a.nodes[c.node]!.color ?? a.parts[c.part]!.color)?.toLowerCase();

/** What changed about a shape: its size, its holes, else its volume. */
function shapeText(p: Part, q: Part, { mirrored }: PartPair, geometries: ReadonlyMap<string, PartGeometry>): string {
  if (mirrored) return 'It is now its mirror image.';
  const [g, h] = [geometries.get(p.geometryKey), geometries.get(q.geometryKey)];
  const told = [sizeChange(p.box, q.box), ...(g && h ? holeChanges(g, h).slice(0, 4) : [])].filter((t) => t !== undefined);
  const text = told.map((t, i) => (i === 0 ? `${t[0]!.toUpperCase()}${t.slice(1)}` : t)).join('; ');
  const volume = volumeText(p.volumeMm3, q.volumeMm3);
  return text ? `${text}. ${volume}`.trim() : volume || 'Its shape changed, its volume did not.';
}

function volumeText(before: number, after: number): string {
  if (!(before > 0) || !(after > 0)) return '';
  const percent = (after / before - 1) * 100;
  return Math.abs(percent) < 0.05 ? '' : `Its volume changed by ${percent > 0 ? '+' : '−'}${Number(Math.abs(percent).toPrecision(2))} %.`;
}

function moveText(moved: readonly Moved[]): string {
  const most = Math.max(...moved.map((m) => m.motion.mm));
  const subject = moved.length === 1 ? 'One piece' : `${moved.length} pieces`;
  return `${subject} moved by ${Number(most.toPrecision(3))} mm${moved.length > 1 ? ' at most' : ''}.`;
}

function turnText(turned: readonly Moved[]): string {
  const most = turned.reduce((a, b) => (b.motion.degrees > a.motion.degrees ? b : a)).motion;
  const subject = turned.length === 1 ? 'One piece' : `${turned.length} pieces`;
  if (turned.some((t) => t.motion.mirrored)) return `${subject} mirrored.`;
  const inPlace = turned.every((t) => t.motion.mm < SAME_PLACE_MM) ? ' in place' : '';
  const axis = most.axis ? ` about ${axisText(most.axis)}` : '';
  return `${subject} turned${inPlace} by ${Number(most.degrees.toPrecision(3))}°${axis}${turned.length > 1 ? ' at most' : ''}.`;
}

function propertyChanges(p: Part, q: Part): { name: string; from: string; to: string }[] {
  const out: { name: string; from: string; to: string }[] = [];
  const compare = (name: string, from = '', to = '') => void (from !== to && out.push({ name, from, to }));
  compare('Material', p.material, q.material);
  // Another material has another density: that says nothing more.
  if (
    (p.material ?? '') === (q.material ?? '') &&
    p.densityKgM3 !== undefined &&
    q.densityKgM3 !== undefined &&
    Math.abs(p.densityKgM3 / q.densityKgM3 - 1) > 1e-6
  )
    compare('Density', `${p.densityKgM3} kg/m³`, `${q.densityKgM3} kg/m³`);
  for (const key of new Set([...Object.keys(p.properties), ...Object.keys(q.properties)])) compare(key, p.properties[key], q.properties[key]);
  return out;
}
