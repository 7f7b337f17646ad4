import type { Rect } from '../base/rect.ts';
import type { DrawingDocumentRecord, SheetRecord, ViewRecord } from '../document/records.ts';
import { applySteps } from '../document/steps.ts';
import { placeByMask } from '../draft/place-by-mask.ts';
import { EXPLODED_MARGIN } from '../draft/room.ts';
import { blocksOn } from '../../elements/list/layout.ts';
import type { Scene } from '../../elements/scene.ts';
import { arrangeSheet } from '../../elements/view/arrange-sheet.ts';
import type { ViewResult } from '../views/compute-view.ts';
import type { Side } from './part-look.ts';

/** A view that waits for its place. */
export interface Waiting {
  readonly view: ViewRecord;
  readonly result: ViewResult;
  /** Where it stands from the view that it is in line with. */
  readonly side?: Side;
  /** A pictorial may be smaller than the others. */
  readonly pictorial?: true;
}

/** Records of one sheet by id. */
export type Records = Readonly<Record<string, DrawingDocumentRecord>>;

/** How much smaller than the others a pictorial may get. */
const PICTORIAL_STEPS = 3;
/** Free paper beside views for labels and dimensions, mm; only to see what cannot fit. */
const AROUND_MM = 12;

/**
 * Puts views onto a sheet at the largest scale at which they fit with their dimensions, neighbours in line.
 * @param sceneOf a scene of the sheet with these records
 * @param dimensions of views that stand
 * @param scales that may be taken, the largest first
 * @returns the views and dimensions, or undefined where even the smallest scale is too large
 */
export function fitOnSheet(
  sheet: SheetRecord,
  waiting: readonly Waiting[],
  sceneOf: (records: Records) => Scene,
  dimensions: (scene: Scene) => readonly DrawingDocumentRecord[],
  scales: readonly number[],
): Records | undefined {
  const first = sceneOf({});
  const { frame } = first.page(sheet.id).geometry;
  for (const [i, scale] of scales.entries()) {
    if (!mayFit(waiting, scale, frame)) continue;
    const smaller = waiting.some((w) => w.pictorial) && waiting.length > 1 ? scales.slice(i, i + PICTORIAL_STEPS) : [scale];
    for (const pictorial of smaller) {
      const placed = placedAt(waiting, scale, pictorial, frame, first.drawing.standard === 'iso');
      // Dimensions look for room around where views stand; then all is arranged with them.
      const plain = arranged(sceneOf(byId(placed)), sheet.id, Object.keys(byId(placed)));
      if (!plain) continue;
      const records = { ...plain, ...byId(dimensions(sceneOf(plain))) };
      const done = arranged(sceneOf(records), sheet.id, Object.keys(records));
      if (done) return done;
    }
  }
  return undefined;
}

/** The records after the sheet was arranged; undefined where there is no room. */
function arranged(scene: Scene, sheet: string, ids: readonly string[]): Records | undefined {
  const steps = arrangeSheet(scene, sheet);
  const result = steps && applySteps(scene.document, steps);
  return result?.ok ? Object.fromEntries(ids.map((id) => [id, result.document[id]!])) : undefined;
}

/** One view with balloons around it: as large as it gets, by what it really covers. */
export function fitAlone(sheet: SheetRecord, { view, result }: Waiting, sceneOf: (records: Records) => Scene, scales: readonly number[]): Records | undefined {
  const scene = sceneOf({});
  const { frame } = scene.page(sheet.id).geometry;
  const blocks = blocksOn(scene, sheet.id);
  for (const scale of scales) {
    const at = placeByMask(result, scale, frame, blocks, EXPLODED_MARGIN, EXPLODED_MARGIN);
    if (at) return byId([{ ...view, scale, at, pivot: middleOf(result) }]);
  }
  return undefined;
}

export const middleOf = ({ box: [x0, y0, x1, y1] }: ViewResult): readonly [number, number] => [(x0 + x1) / 2, (y0 + y1) / 2];
const byId = (records: readonly DrawingDocumentRecord[]): Records => Object.fromEntries(records.map((r) => [r.id, r]));

/** Nothing is larger than the frame, and all of it not more than there is. */
function mayFit(waiting: readonly Waiting[], scale: number, frame: Rect): boolean {
  let area = 0;
  for (const { result, pictorial } of waiting) {
    const [x0, y0, x1, y1] = result.box;
    const [w, h] = [(x1 - x0) * scale, (y1 - y0) * scale];
    if (pictorial && waiting.length > 1) continue;
    if (w + AROUND_MM > frame.width || h + AROUND_MM > frame.height) return false;
    area += (w + AROUND_MM) * (h + AROUND_MM);
  }
  return area < frame.width * frame.height;
}

/** Views about where they go: neighbours on their side, by the method of projection (ISO 5456-2). */
function placedAt(waiting: readonly Waiting[], scale: number, pictorial: number, frame: Rect, firstAngle: boolean): ViewRecord[] {
  const out = new Map<string, ViewRecord>();
  const k = firstAngle ? -1 : 1;
  for (const w of waiting) {
    const own = w.pictorial ? pictorial : scale;
    const parent = w.view.parent ? out.get(w.view.parent) : undefined;
    const [px, py] = parent?.at ?? [frame.x + frame.width / 2, frame.y + frame.height / 2];
    const [dx, dy] = w.side === 'right' ? [k, 0] : w.side === 'left' ? [-k, 0] : w.side === 'top' ? [0, -k] : w.side === 'bottom' ? [0, k] : [0, 0];
    // Far enough that it does not lie on its parent; arranging closes the gaps.
    const far = 3 * Math.max(frame.width, frame.height);
    const pivot = middleOf(w.result);
    const at: readonly [number, number] = parent
      ? w.view.align === 'level'
        ? [px + dx * far, py - (pivot[1] - parent.pivot[1]) * own]
        : [px + (pivot[0] - parent.pivot[0]) * own, py + dy * far]
      : [px, py];
    out.set(w.view.id, { ...w.view, scale: own, at, pivot });
  }
  return [...out.values()];
}
