import { applySteps, dropWithDependants, type Step } from '../core/document/steps.ts';
import type { ViewRecord } from '../core/document/records.ts';
import type { Scene } from './scene.ts';

/**
 * The steps that remove records with everything that needs them. Neighbours and details of a removed view stay: free, and
 * with the look that they took from it until now.
 */
export function removed(scene: Scene, ids: readonly string[]): Step[] {
  const gone = new Set(ids);
  const own: Step[] = scene
    .all('view')
    .filter((v) => v.detail?.of && !gone.has(v.id) && (gone.has(v.detail.of) || gone.has(scene.one('view', v.detail.of)?.sheet ?? '')))
    .map((v) => ({ op: 'put', record: scene.seenAs(v) }));
  const now = applySteps(scene.document, own);
  return now.ok ? [...own, ...dropWithDependants(now.document, ...ids)] : [];
}

/** A view with all that was projected from it, and from that, and its details and sections. */
export function withProjected(scene: Scene, id: string): string[] {
  const out = [id];
  const from = (v: ViewRecord): readonly (string | null | undefined)[] => [v.parent, v.detail?.of, v.cut?.shownIn];
  for (let i = 0; i < out.length; i++) for (const v of scene.all('view')) if (!out.includes(v.id) && from(v).includes(out[i]!)) out.push(v.id);
  return out;
}
