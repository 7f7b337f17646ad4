import { scaleView } from '../../core/document/moves.ts';
import type { DrawingDocument } from '../../core/document/records.ts';
import { applySteps, type Step } from '../../core/document/steps.ts';

/** Gives several views one scale, one after the other: views in line with each other share theirs. */
export function scaledTogether(doc: DrawingDocument, ids: readonly string[], scale: number): Step[] {
  let now = doc;
  const steps = new Map<string, Step>();
  for (const id of ids) {
    const view = now[id];
    if (view?.type !== 'view' || Math.abs(view.scale - scale) < 1e-12) continue;
    const made = scaleView(now, id, scale);
    const result = applySteps(now, made);
    if (!result.ok) continue;
    now = result.document;
    for (const s of made) if (s.op === 'put') steps.set(s.record.id, s);
  }
  return [...steps.values()];
}
