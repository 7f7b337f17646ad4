import { recordsOf, type DrawingDocument, type ViewRecord } from '../../core/document/records.ts';
import type { Step } from '../../core/document/steps.ts';

/** The views that are in line with a view because they were projected from it. */
export const neighboursOf = (doc: DrawingDocument, id: string): ViewRecord[] =>
  recordsOf(doc, 'view').filter((v) => v.parent === id && v.align !== null && v.id !== id);

/** Which views one move of `id` shifts, and by how much, mm: what is level or in line with it goes along as far as that takes. */
export function shiftsOf(doc: DrawingDocument, id: string, dx: number, dy: number): Map<string, readonly [number, number]> {
  const out = new Map<string, readonly [number, number]>();
  const view = doc[id];
  if (view?.type !== 'view') return out;
  const shift = (v: ViewRecord, x: number, y: number): void => {
    if (out.has(v.id)) return;
    out.set(v.id, [x, y]);
    for (const n of neighboursOf(doc, v.id)) {
      if (n.align === 'level' && y) shift(n, 0, y);
      if (n.align === 'upright' && x) shift(n, x, 0);
    }
  };
  // A neighbour moves only along its alignment.
  shift(view, view.align === 'upright' ? 0 : dx, view.align === 'level' ? 0 : dy);
  return out;
}

/** Moves a view on its sheet, mm. */
export function moveView(doc: DrawingDocument, id: string, dx: number, dy: number): Step[] {
  return [...shiftsOf(doc, id, dx, dy)].map(([of, [x, y]]) => ({ op: 'put', record: shiftedView(doc[of] as ViewRecord, x, y) }));
}

export const shiftedView = (v: ViewRecord, dx: number, dy: number): ViewRecord => ({ ...v, at: [v.at[0] + dx, v.at[1] + dy] });

/** The view from which a view was projected, and that one, and so on, as long as they are in line. */
export function rootOf(doc: DrawingDocument, view: ViewRecord): ViewRecord {
  const seen = new Set<string>();
  for (let v = view; ;) {
    seen.add(v.id);
    const parent = v.parent && v.align ? doc[v.parent] : undefined;
    if (parent?.type !== 'view' || seen.has(parent.id)) return v;
    v = parent;
  }
}

/** All views that are in line with each other through one root, the root first. */
export function alignedFamily(doc: DrawingDocument, id: string): ViewRecord[] {
  const view = doc[id];
  if (view?.type !== 'view') return [];
  const out = [rootOf(doc, view)];
  for (let i = 0; i < out.length; i++) out.push(...neighboursOf(doc, out[i]!.id).filter((n) => !out.includes(n)));
  return out;
}
