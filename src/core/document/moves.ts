import { formatByName, sheetGeometry, standardScales, type Standard } from '../sheet/formats.ts';
import { drawingOf, recordsOf, viewsOn, type DrawingDocument, type ViewRecord } from './records.ts';
import type { Step } from './steps.ts';

const put = (record: Extract<Step, { op: 'put' }>['record']): Step => ({ op: 'put', record });

/**
 * Moves a view on its sheet, mm. A neighbour moves only along its alignment; what is aligned to the view goes along, so
 * that it stays level or in line.
 */
export function moveView(doc: DrawingDocument, id: string, dx: number, dy: number): Step[] {
  const view = doc[id];
  if (view?.type !== 'view') return [];
  const x = view.align === 'upright' ? 0 : dx;
  const y = view.align === 'level' ? 0 : dy;
  const steps = [put(shifted(view, x, y))];
  for (const child of recordsOf(doc, 'view')) {
    if (child.parent !== id) continue;
    if (child.align === 'level' && y) steps.push(put(shifted(child, 0, y)));
    if (child.align === 'upright' && x) steps.push(put(shifted(child, x, 0)));
  }
  return steps;
}

const shifted = (v: ViewRecord, dx: number, dy: number): ViewRecord => ({ ...v, at: [v.at[0] + dx, v.at[1] + dy] });

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

/** Sets the scale of a view and of what is aligned with it; places and balloons keep their proportions. */
export function scaleView(doc: DrawingDocument, id: string, scale: number): Step[] {
  const family = alignedFamily(doc, id);
  const root = family.find((v) => !family.some((p) => p.id === v.parent)) ?? family[0];
  if (!root) return [];
  return family.flatMap((v) => {
    const k = scale / v.scale;
    const at = v === root ? v.at : ([root.at[0] + (v.at[0] - root.at[0]) * k, root.at[1] + (v.at[1] - root.at[1]) * k] as const);
    return [put({ ...v, scale, at }), ...scaledBalloons(doc, v.id, k)];
  });
}

function scaledBalloons(doc: DrawingDocument, view: string, k: number): Step[] {
  return recordsOf(doc, 'balloon')
    .filter((b) => b.view === view)
    .map((b) => put({ ...b, offset: [b.offset[0] * k, b.offset[1] * k] }));
}

/** Puts a sheet on another size; its views keep their places in proportion and take the nearest standard scale that fits. */
export function resizeSheet(doc: DrawingDocument, sheetId: string, size: string, landscape: boolean): Step[] {
  const sheet = doc[sheetId];
  const to = formatByName(size);
  if (sheet?.type !== 'sheet' || !to) return [];
  const from = sheetGeometry(formatByName(sheet.size)!, sheet.landscape).frame;
  const frame = sheetGeometry(to, landscape).frame;
  const k = Math.min(frame.width / from.width, frame.height / from.height);
  const steps: Step[] = [put({ ...sheet, size, landscape })];
  const scales = standardScales(drawingOf(doc).standard);
  for (const v of viewsOn(doc, sheetId)) {
    const scale = scales.find((s) => s <= v.scale * k * 1.001) ?? v.scale;
    const at: readonly [number, number] = [
      frame.x + ((v.at[0] - from.x) * frame.width) / from.width,
      frame.y + ((v.at[1] - from.y) * frame.height) / from.height,
    ];
    steps.push(put({ ...v, scale, at }), ...scaledBalloons(doc, v.id, scale / v.scale));
  }
  return steps;
}

/** First angle for ISO, third angle for ASME: neighbours change sides of their parent. */
export function changeStandard(doc: DrawingDocument, standard: Standard): Step[] {
  const drawing = drawingOf(doc);
  if (drawing.standard === standard) return [];
  const steps: Step[] = [put({ ...drawing, standard })];
  const turned = new Map<string, ViewRecord>();
  for (const v of recordsOf(doc, 'view')) {
    const parent = v.parent ? doc[v.parent] : undefined;
    if (parent?.type !== 'view' || !v.align) continue;
    turned.set(v.id, { ...v, at: v.align === 'level' ? [2 * parent.at[0] - v.at[0], v.at[1]] : [v.at[0], 2 * parent.at[1] - v.at[1]] });
  }
  // A family may now stand off centre: each is brought back to where its middle was.
  const middle = (list: readonly ViewRecord[], k: 0 | 1) => (Math.min(...list.map((v) => v.at[k])) + Math.max(...list.map((v) => v.at[k]))) / 2;
  for (const root of new Set([...turned.values()].map((v) => v.parent!))) {
    const family = alignedFamily(doc, root);
    const now = family.map((v) => turned.get(v.id) ?? v);
    const [dx, dy] = [middle(family, 0) - middle(now, 0), middle(family, 1) - middle(now, 1)];
    steps.push(...now.map((v) => put(shifted(v, dx, dy))));
  }
  return steps;
}
