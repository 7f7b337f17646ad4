import type { Assembly, Component } from '../core/assembly/assembly.ts';
import { drawingOf, recordsOf, sheetsOf, viewsOn, type DrawingDocument, type SheetRecord, type ViewRecord } from '../core/document/records.ts';
import { familyOf, type MaterialFamily } from '../core/ledger/materials.ts';
import { itemsOf, massText, totalMass, type Item } from '../core/ledger/items.ts';
import { formatByName, scaleText, sheetGeometry, styleFor, type SheetGeometry, type SheetStyle } from '../core/sheet/formats.ts';
import { drawFrame } from './sheet/frame.ts';
import { drawTitleBlock, titleBlockRect } from './sheet/title-block.ts';
import type { ViewResult } from '../core/views/compute-view.ts';
import type { DisplayGroup, DisplayList } from '../core/picture/display-list.ts';
import { drawBalloon } from './balloon/draw.ts';
import { drawList } from './list/draw.ts';
import { drawView, type ViewContext } from './view/draw.ts';

/** Everything a sheet is made of. */
export interface ComposeInput {
  readonly document: DrawingDocument;
  readonly assembly: Assembly;
  readonly components: readonly Component[];
  /** Computed views by record id; a view without one is drawn as an empty place. */
  readonly results: ReadonlyMap<string, ViewResult>;
}

/** Geometry and sizes of a sheet record. @throws RangeError for an unknown format */
export function pageOf(sheet: SheetRecord): { geometry: SheetGeometry; style: SheetStyle } {
  const format = formatByName(sheet.size);
  if (!format) throw new RangeError(`Unknown sheet size ${sheet.size}`);
  return { geometry: sheetGeometry(format, sheet.landscape), style: styleFor(format) };
}

/** Draws one sheet. Pure: the same input gives the same list. */
export function composeSheet(input: ComposeInput, sheetId: string): DisplayList {
  const { document, results } = input;
  const sheets = sheetsOf(document);
  const sheet = sheets.find((s) => s.id === sheetId);
  if (!sheet) throw new RangeError(`No sheet ${sheetId}`);
  const { geometry, style } = pageOf(sheet);
  const items = itemsOf(input.assembly, document);
  const views = viewsOn(document, sheetId);
  const groups: DisplayGroup[] = [drawFrame(geometry, style)];
  const cutShownIn = new Map<string, ViewRecord[]>();
  for (const v of recordsOf(document, 'view')) if (v.cut?.shownIn) cutShownIn.set(v.cut.shownIn, [...(cutShownIn.get(v.cut.shownIn) ?? []), v]);
  const families: MaterialFamily[] = [];
  for (const i of items) for (const c of i.components) families[c] = familyOf(i.values.material.text);
  const mixed = new Set(views.map((v) => scaleText(v.scale))).size > 1;
  for (const v of views) groups.push(cachedView(v, results.get(v.id), style, { cuts: cutShownIn.get(v.id) ?? [], scaleInLabel: mixed, families }));
  groups.push(...drawBalloons(input, items, views, style));
  groups.push(titleGroup(input, items, sheet, views, sheets, geometry, style));
  for (const l of recordsOf(document, 'list').filter((r) => r.sheet === sheetId)) groups.push(...drawList(l, items, geometry, style));
  return { width: geometry.width, height: geometry.height, groups };
}

interface CachedView {
  readonly result: ViewResult | undefined;
  readonly key: string;
  readonly cuts: readonly ViewRecord[];
  readonly group: DisplayGroup;
}

/** Records never change, they are replaced: a view drawn once for a record and a result is drawn. */
const drawn = new WeakMap<ViewRecord, CachedView>();

function cachedView(view: ViewRecord, result: ViewResult | undefined, style: SheetStyle, context: ViewContext): DisplayGroup {
  const known = drawn.get(view);
  const key = `${style.wide}/${context.scaleInLabel}/${view.cut ? context.families.join() : ''}`;
  const sameCuts = known?.cuts.length === context.cuts.length && context.cuts.every((c, i) => c === known.cuts[i]);
  if (known && known.result === result && known.key === key && sameCuts) return known.group;
  const group = drawView(view, result, style, context);
  drawn.set(view, { result, key, cuts: context.cuts, group });
  return group;
}

function drawBalloons(input: ComposeInput, items: readonly Item[], views: readonly ViewRecord[], style: SheetStyle): DisplayGroup[] {
  const itemOf = new Map<number, Item>();
  for (const i of items) for (const c of i.components) itemOf.set(c, i);
  const byPath = new Map(input.components.map((c) => [c.path, c.index]));
  const out: DisplayGroup[] = [];
  const onSheet = new Map(views.map((v) => [v.id, v]));
  for (const b of recordsOf(input.document, 'balloon').sort((p, q) => (p.id < q.id ? -1 : 1))) {
    const view = onSheet.get(b.view);
    if (!view) continue;
    const component = byPath.get(b.component);
    out.push(drawBalloon(b, view, component, component === undefined ? undefined : itemOf.get(component), style));
  }
  return out;
}

function titleGroup(
  input: ComposeInput,
  items: readonly Item[],
  sheet: SheetRecord,
  views: readonly ViewRecord[],
  sheets: readonly SheetRecord[],
  geometry: SheetGeometry,
  style: SheetStyle,
): DisplayGroup {
  const d = drawingOf(input.document);
  const rect = titleBlockRect(geometry);
  const scales = new Set(views.map((v) => scaleText(v.scale)));
  const mass = totalMass(items);
  return {
    id: 'title',
    role: 'title',
    label: `Title block: ${d.title}, ${d.number}, sheet ${sheets.indexOf(sheet) + 1} of ${sheets.length}`,
    box: [rect.x, rect.y, rect.width, rect.height],
    items: drawTitleBlock(
      rect,
      {
        ...d,
        sheet: sheets.indexOf(sheet) + 1,
        sheets: sheets.length,
        size: sheet.size,
        scale: scales.size === 1 ? [...scales][0]! : scales.size === 0 ? '–' : 'as shown',
        mass: mass.kg > 0 ? `${mass.complete ? '' : '> '}${massText(mass.kg)}` : '–',
        sheetName: sheet.name,
      },
      style,
    ),
  };
}
