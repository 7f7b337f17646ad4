import { recordsOf, type DrawingDocument, type ViewRecord } from '../../core/document/records.ts';
import type { Step } from '../../core/document/steps.ts';

const put = (record: ViewRecord): Step => ({ op: 'put', record });

/**
 * Moves a view on its sheet, mm. A neighbour moves only along its alignment; what is aligned to the view goes along, so
 * that it stays level or in line.
 */
export function moveView(doc: DrawingDocument, id: string, dx: number, dy: number): Step[] {
  const view = doc[id];
  if (view?.type !== 'view') return [];
  const x = view.align === 'upright' ? 0 : dx;
  const y = view.align === 'level' ? 0 : dy;
  const steps = [put(shiftedView(view, x, y))];
  for (const child of recordsOf(doc, 'view')) {
    if (child.parent !== id) continue;
    if (child.align === 'level' && y) steps.push(put(shiftedView(child, 0, y)));
    if (child.align === 'upright' && x) steps.push(put(shiftedView(child, x, 0)));
  }
  return steps;
}

export const shiftedView = (v: ViewRecord, dx: number, dy: number): ViewRecord => ({ ...v, at: [v.at[0] + dx, v.at[1] + dy] });

/** Which views one move of `id` shifts, and by how much. */
export function shiftsOf(doc: DrawingDocument, id: string, dx: number, dy: number): Map<string, readonly [number, number]> {
  const out = new Map<string, readonly [number, number]>();
  for (const s of moveView(doc, id, dx, dy)) {
    if (s.op !== 'put' || s.record.type !== 'view') continue;
    const before = doc[s.record.id] as ViewRecord;
    out.set(s.record.id, [s.record.at[0] - before.at[0], s.record.at[1] - before.at[1]]);
  }
  return out;
}

/** The view together with the views it is aligned with: they share one scale. */
export function alignedFamily(doc: DrawingDocument, id: string): ViewRecord[] {
  const views = recordsOf(doc, 'view');
  const view = views.find((v) => v.id === id);
  if (!view) return [];
  const root = view.parent && view.align ? view.parent : id;
  return views.filter((v) => v.id === root || (v.parent === root && v.align));
}
