import type { Vec2 } from '../../core/base/vector.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { pickedLines, targetsAt } from '../pick-target.ts';
import type { Scene } from '../scene.ts';
import type { Target } from '../target.ts';

/** The edge, outline or axis at a place of a view (view space, model mm), as the pointer would take it. */
export function pickAt(scene: Scene, view: ViewRecord, at: Vec2): Target {
  const found = targetsAt(scene, view, scene.map(view).toPaper(at), 0.4).filter(pickedLines);
  const [first] = found;
  if (!first) throw new Error(`Nothing to pick at ${at.join()} in ${view.name}`);
  return first;
}
