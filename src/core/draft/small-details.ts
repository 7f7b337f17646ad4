import { newDetail } from '../../elements/view/detail-of.ts';
import type { Scene } from '../../elements/scene.ts';
import type { Vec2 } from '../base/vector.ts';
import type { ViewRecord } from '../document/records.ts';
import { sheetFindings } from '../proof/findings.ts';
import type { Outline } from '../views/outline.ts';
import { sightsIn, type Sight } from './sights.ts';

/** An item that is nowhere larger than this on paper is too small to be read, mm (common practice). */
const SMALL_MM = 3;
/** A detail encloses so much of its view on paper, mm. */
const RADIUS_MM = { least: 5, most: 13 } as const;
const MOST_DETAILS = 2;

/**
 * Details of places where items stand together that would be too small to be read, where their sheet has room for them and
 * nothing comes to lie over anything.
 * @param views that are looked at; exploded ones are not: nothing is in its place there
 */
export function smallDetails(scene: Scene, views: readonly ViewRecord[], idOf: (n: number) => string): ViewRecord[] {
  const best = new Map<number, Sight>();
  for (const view of views) {
    const result = scene.result(view.id);
    if (result) for (const s of sightsIn(scene, view, result)) if (s.size > (best.get(s.item)?.size ?? 0)) best.set(s.item, s);
  }
  const open = new Set([...best.values()].filter((s) => s.size < SMALL_MM));
  const out: ViewRecord[] = [];
  let now = scene;
  while (out.length < MOST_DETAILS) {
    const circle = bestCircle([...open]);
    if (!circle) break;
    for (const s of circle.covers) open.delete(s);
    const { record, free } = newDetail(now, circle.view, circle.outline, idOf(out.length));
    const next = now.with({ ...now.document, [record.id]: record });
    if (!free || marks(next, record.sheet) > marks(now, record.sheet)) continue;
    out.push(record);
    now = next;
  }
  return out;
}

const marks = (scene: Scene, sheet: string): number => sheetFindings(scene, sheet).filter((f) => f.code === 'OVERLAP' || f.code === 'OUTSIDE_FRAME').length;

/** The circle on one view that encloses most of the sights. */
function bestCircle(sights: readonly Sight[]): { readonly view: ViewRecord; readonly covers: readonly Sight[]; readonly outline: Outline } | undefined {
  let best: readonly Sight[] = [];
  for (const s of sights) {
    const reach = RADIUS_MM.most / s.view.scale;
    const covers = sights.filter((o) => o.view.id === s.view.id && Math.hypot(o.at[0] - s.at[0], o.at[1] - s.at[1]) + o.half <= reach);
    if (covers.length > best.length) best = covers;
  }
  const [first] = best;
  if (!first) return undefined;
  const { view } = first;
  const middle = (k: 0 | 1) => (Math.min(...best.map((s) => s.at[k] - s.half)) + Math.max(...best.map((s) => s.at[k] + s.half))) / 2;
  const at: Vec2 = [middle(0), middle(1)];
  const radius = Math.max(...best.map((s) => Math.hypot(s.at[0] - at[0], s.at[1] - at[1]) + 1.5 * s.half));
  const [least, most] = [RADIUS_MM.least / view.scale, RADIUS_MM.most / view.scale];
  return { view, covers: best, outline: { kind: 'circle', at, radius: Math.min(most, Math.max(least, radius)) } };
}
