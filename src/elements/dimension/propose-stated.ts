import type { StatedSize } from '../../core/assembly/stated.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { Scene } from '../scene.ts';
import { holdOf, type Target } from '../target.ts';
import { kindsFor } from './kinds-for.ts';
import { measured, type DimensionRecord } from './measure.ts';
import { carries } from './propose.ts';
import { placeRows } from './rows.ts';
import { endsOf, KINDS, statedOf, statedText } from './stated.ts';

/** A view shows a size truly when it measures it to within this share. */
const TRUE_SHARE = 0.01;

/**
 * Sizes that the model states as dimensions with their tolerances, each once, in the first view that shows it truly.
 * @param views in which they may stand @param freshId an id for the n-th dimension
 */
export function statedDimensions(scene: Scene, views: readonly ViewRecord[], freshId: (n: number) => string): DimensionRecord[] {
  const known = new Set(scene.all('dimension').flatMap((d) => statedOf(d, scene) ?? []));
  const records: DimensionRecord[] = [];
  for (const view of views.filter((v) => carries(scene, v))) {
    const shown = new Set(scene.result(view.id)!.lines.component);
    for (const c of scene.components) {
      if (!shown.has(c.index)) continue;
      const part = scene.assembly.parts[c.part]!;
      for (const size of part.stated?.sizes ?? []) {
        if (known.has(size)) continue;
        const of = endsOf(size).map((faces): Target => ({ face: { component: c.path, geometry: part.geometryKey, face: faces[0]! } }));
        const record = inView(scene, view, size, of, freshId(records.length));
        if (!record) continue;
        known.add(size);
        records.push(record);
      }
    }
  }
  return placeRows(records, scene).map((r) => ({ ...r, seen: (measured(r, scene) ?? []).map((m) => m.value) }));
}

/** The dimension of a stated size, if the view shows it truly. */
function inView(scene: Scene, view: ViewRecord, size: StatedSize, of: readonly Target[], id: string): DimensionRecord | undefined {
  const holds = of.map((t) => holdOf(scene, view, t));
  if (holds.some((h) => !h)) return undefined;
  const all = holds.map((h) => h!);
  const kind = kindsFor(of, all, view, [all[0]!.at[0], all[0]!.at[1]]).find((k) => KINDS[size.kind].includes(k));
  if (!kind) return undefined;
  // Where it was taken hold of, so that a round surface and a plane have a place on paper.
  const placed = of.map((t, i): Target => ({ ...t, at: [all[i]!.at[0], all[i]!.at[1]] }));
  const text = statedText(size);
  const record: DimensionRecord = { type: 'dimension', id, view: view.id, kind, of: placed, away: 0, ...(Object.keys(text).length ? { text } : {}) };
  const [m] = measured(record, scene) ?? [];
  return m && Math.abs(m.value - size.value) <= TRUE_SHARE * Math.abs(size.value) ? record : undefined;
}
