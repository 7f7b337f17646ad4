import { without } from '../base/without.ts';
import { scaled } from '../../elements/change.ts';
import { followAll } from '../../elements/follow.ts';
import { alignedFamily, neighboursOf, rootOf, shiftedView } from '../../elements/view/move.ts';
import { paperByName, sheetGeometry, standardScales, type Standard } from '../sheet/paper.ts';
import { drawingOf, recordsOf, viewsOn, type DrawingDocument, type ViewRecord } from './records.ts';
import type { Step } from './steps.ts';

const put = (record: Extract<Step, { op: 'put' }>['record']): Step => ({ op: 'put', record });

/**
 * Sets the scale of a view. What is in line with it follows, at distances in proportion, unless it has a scale of its own;
 * a neighbour that is asked itself takes one, or follows again when it is the one of its parent. What belongs to the views
 * follows them.
 */
export function scaleView(doc: DrawingDocument, id: string, scale: number): Step[] {
  const view = doc[id];
  if (view?.type !== 'view') return [];
  const parent = view.parent && view.align ? doc[view.parent] : undefined;
  const follows = parent?.type === 'view' && Math.abs(parent.scale / scale - 1) < 1e-9;
  const scaledViews = new Map<string, ViewRecord>();
  const putScaled = (v: ViewRecord, at: ViewRecord['at']): void => {
    if (scaledViews.has(v.id)) return;
    scaledViews.set(v.id, { ...v, scale, at });
    for (const n of neighboursOf(doc, v.id)) {
      const k = scale / v.scale;
      if (!n.ownScale) putScaled(n, [at[0] + (n.at[0] - v.at[0]) * k, at[1] + (n.at[1] - v.at[1]) * k]);
    }
  };
  putScaled(parent?.type !== 'view' ? view : follows ? without(view, 'ownScale') : { ...view, ownScale: true }, view.at);
  const factors = new Map([...scaledViews.values()].map((v) => [v.id, scale / (doc[v.id] as ViewRecord).scale]));
  return [...[...scaledViews.values()].map(put), ...followAll(doc, scaled(factors))];
}

/** Puts a sheet on another size; its views keep their places in proportion and take the nearest standard scale that fits. */
export function resizeSheet(doc: DrawingDocument, sheetId: string, size: string, landscape: boolean): Step[] {
  const sheet = doc[sheetId];
  const to = paperByName(size);
  if (sheet?.type !== 'sheet' || !to) return [];
  const lies = typeof sheet.format === 'string' ? doc[sheet.format] : undefined;
  const form = lies?.type === 'sheet' ? lies.form : undefined;
  const from = sheetGeometry(paperByName(sheet.size)!, sheet.landscape, form).frame;
  const frame = sheetGeometry(to, landscape, form).frame;
  const k = Math.min(frame.width / from.width, frame.height / from.height);
  const steps: Step[] = [put({ ...sheet, size, landscape })];
  const scales = standardScales(drawingOf(doc).standard);
  const factors = new Map<string, number>();
  for (const v of viewsOn(doc, sheetId)) {
    const scale = scales.find((s) => s <= v.scale * k * 1.001) ?? v.scale;
    const at: readonly [number, number] = [
      frame.x + ((v.at[0] - from.x) * frame.width) / from.width,
      frame.y + ((v.at[1] - from.y) * frame.height) / from.height,
    ];
    steps.push(put({ ...v, scale, at }));
    factors.set(v.id, scale / v.scale);
  }
  return [...steps, ...followAll(doc, scaled(factors))];
}

/** First angle for ISO, third angle for ASME: neighbours change sides of their parent. */
export function changeStandard(doc: DrawingDocument, standard: Standard): Step[] {
  const drawing = drawingOf(doc);
  if (drawing.standard === standard) return [];
  const steps: Step[] = [put({ ...drawing, standard })];
  // Each is put on the other side of its parent, wherever that stands now; the family comes back to where its middle was.
  const middle = (list: readonly ViewRecord[], k: 0 | 1) => (Math.min(...list.map((v) => v.at[k])) + Math.max(...list.map((v) => v.at[k]))) / 2;
  for (const root of recordsOf(doc, 'view').filter((v) => rootOf(doc, v) === v)) {
    const family = alignedFamily(doc, root.id);
    if (family.length < 2) continue;
    const now = new Map([[root.id, root]]);
    for (const v of family.slice(1)) {
      const [was, is] = [doc[v.parent!] as ViewRecord, now.get(v.parent!)!];
      const [dx, dy] = [v.at[0] - was.at[0], v.at[1] - was.at[1]];
      now.set(v.id, { ...v, at: v.align === 'level' ? [is.at[0] - dx, is.at[1] + dy] : [is.at[0] + dx, is.at[1] - dy] });
    }
    const turned = [...now.values()];
    const [dx, dy] = [middle(family, 0) - middle(turned, 0), middle(family, 1) - middle(turned, 1)];
    steps.push(...turned.map((v) => put(shiftedView(v, dx, dy))));
  }
  return steps;
}
