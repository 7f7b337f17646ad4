import type { Vec2 } from '../core/base/vector.ts';
import type { ViewRecord } from '../core/document/records.ts';
import { kindsFor } from './dimension/kinds-for.ts';
import { measured, type DimensionRecord } from './dimension/measure.ts';
import type { Leaders } from './leader.ts';
import { pickedLines, targetsAt } from './pick-target.ts';
import type { Scene } from './scene.ts';
import { holdOf, isLost, pathOfTarget, type Target } from './target.ts';

/** How far around the place where something was lost is looked, paper mm. */
const REACHES_MM = [2, 5, 10, 20, 40] as const;
/** So many proposals are made. */
const MOST = 3;

/** What is now where a lost target was, the likeliest first: the same component before others, the nearer before the farther. */
export function targetsInstead(scene: Scene, view: ViewRecord, lost: Target): Target[] {
  if (!lost.at) return [];
  const at = scene.map(view).toPaper(lost.at);
  const seen = new Set<string>();
  const out: Target[] = [];
  for (const reach of REACHES_MM) {
    const found = targetsAt(scene, view, at, reach).filter((t) => pickedLines(t) && Boolean(t.edge) === Boolean(lost.edge));
    for (const t of found) {
      const key = JSON.stringify([t.edge, t.face]);
      if (seen.has(key)) continue;
      seen.add(key);
      // Which point of it was meant stays what it was.
      out.push({ ...t, at: t.at ?? lost.at, ...(lost.as ? { as: lost.as } : {}) });
    }
    if (out.length >= MOST) break;
  }
  const same = (t: Target) => Number(pathOfTarget(t) !== pathOfTarget(lost));
  return out.sort((a, b) => same(a) - same(b));
}

export interface Instead {
  readonly record: DimensionRecord;
  /** What it would measure, mm or rad. */
  readonly value: number;
}

/** A dimension that lost what it measured, held by what is there now: up to three proposals, each of another value. */
export function dimensionInstead(record: DimensionRecord, scene: Scene): Instead[] {
  const view = scene.one('view', record.view);
  if (!view || !record.of.some(isLost)) return [];
  const choices = record.of.map((t): readonly Target[] => (isLost(t) ? targetsInstead(scene, view, t) : [t]));
  const out: Instead[] = [];
  const tries = Math.max(...choices.map((c) => c.length));
  for (let i = 0; i < tries && out.length < MOST; i++) {
    const of = choices.map((c) => c[Math.min(i, c.length - 1)]);
    if (of.some((t) => !t)) return out;
    const next = { ...record, of: of as Target[] };
    const holds = next.of.map((t) => holdOf(scene, view, t));
    // Only what can be measured the same way.
    if (
      holds.some((h) => !h) ||
      (record.of.length <= 2 && !kindsFor(next.of, holds as NonNullable<(typeof holds)[number]>[], view, MIDDLE).includes(record.kind))
    )
      continue;
    const [m] = measured(next, scene) ?? [];
    if (m && !out.some((o) => Math.abs(o.value - m.value) < 1e-6))
      out.push({ record: { ...next, seen: (measured(next, scene) ?? []).map((x) => x.value) }, value: m.value });
  }
  return out;
}

const MIDDLE: Vec2 = [0, 0];

/** Leaders of which those that are lost point at what is there now; undefined when there is nothing for one of them. */
export function leadersInstead(leaders: Leaders | undefined, view: ViewRecord | undefined, scene: Scene): Leaders | undefined {
  if (!leaders || !view || !leaders.some((l) => isLost(l.to))) return undefined;
  const next = leaders.map((l) => {
    if (!isLost(l.to)) return l;
    const [to] = targetsInstead(scene, view, l.to);
    return to && { ...l, to };
  });
  return next.every((l) => l !== undefined) ? next : undefined;
}
