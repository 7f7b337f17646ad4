import { overlaps, type Rect } from '../../core/base/rect.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { scalesFor } from '../../core/sheet/paper.ts';
import { allowedOn, standingOn } from '../place.ts';
import type { Scene } from '../scene.ts';
import { viewRect } from './draw.ts';
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

/** Distance that a view keeps from what stands around it when it is drawn as large as it can be, mm. */
const AROUND_MM = 8;

/** The largest scale of the standard at which a view, the middle of it where it is, covers nothing else on its sheet. */
export function largestScale(scene: Scene, view: ViewRecord): number | undefined {
  const result = scene.result(view.id);
  return result && largestFor(scene, view, result.box);
}

/** The same of what a view is about to show. @param box minX minY maxX maxY, view space, model mm */
export function largestFor(scene: Scene, view: ViewRecord, box: readonly [number, number, number, number]): number | undefined {
  const [x, y, width, height] = viewRect(view, { box });
  const allowed = allowedOn(scene, view.sheet);
  const others = standingOn(scene, view.sheet, { family: view.id });
  const [cx, cy] = [x + width / 2, y + height / 2];
  return scalesFor(scene.drawing.standard, Math.max(width, height) / view.scale).find((s) => {
    const k = s / view.scale;
    const r: Rect = { x: cx - (width * k) / 2, y: cy - (height * k) / 2, width: width * k, height: height * k };
    const inside = r.x >= allowed.x && r.y >= allowed.y && r.x + r.width <= allowed.x + allowed.width && r.y + r.height <= allowed.y + allowed.height;
    return inside && !others.some((o) => overlaps(r, o, AROUND_MM));
  });
}
