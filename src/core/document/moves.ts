import { scaled } from '../../elements/change.ts';
import { followAll } from '../../elements/follow.ts';
import { alignedFamily, shiftedView } from '../../elements/view/move.ts';
import { formatByName, sheetGeometry, standardScales, type Standard } from '../sheet/formats.ts';
import { drawingOf, recordsOf, viewsOn, type DrawingDocument, type ViewRecord } from './records.ts';
import type { Step } from './steps.ts';

const put = (record: Extract<Step, { op: 'put' }>['record']): Step => ({ op: 'put', record });

/** Sets the scale of a view and of what is aligned with it; places keep their proportions, what belongs to the views follows. */
export function scaleView(doc: DrawingDocument, id: string, scale: number): Step[] {
  const family = alignedFamily(doc, id);
  const root = family.find((v) => !family.some((p) => p.id === v.parent)) ?? family[0];
  if (!root) return [];
  const views = family.map((v) => {
    const k = scale / v.scale;
    return put({ ...v, scale, at: v === root ? v.at : [root.at[0] + (v.at[0] - root.at[0]) * k, root.at[1] + (v.at[1] - root.at[1]) * k] });
  });
  return [...views, ...followAll(doc, scaled(new Map(family.map((v) => [v.id, scale / v.scale]))))];
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
    steps.push(...now.map((v) => put(shiftedView(v, dx, dy))));
  }
  return steps;
}
