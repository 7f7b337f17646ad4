import { dot } from '../base/vector.ts';
import { without } from '../base/without.ts';
import type { ListRecord, SheetRecord, ViewRecord } from '../document/records.ts';
import type { ViewFrame } from '../outline/directions.ts';
import { formatFrom } from '../format/apply.ts';
import type { Scene } from '../../elements/scene.ts';
import { frontOf } from '../document/front.ts';
import { principalFrames } from '../draft/arrangement.ts';
import { seenFrom } from './part-look.ts';
import { RECIPE_FORMAT, type Look, type Recipe, type RecipeSheet, type RecipeSlot } from './record.ts';

/**
 * A recipe of a drawing's sheets: what is on them becomes slots that say what they want, not what they show. Sheets that a recipe
 * made for several parts become one sheet for each of them again. Details, dimensions and what else hangs on edges of this very
 * model are made anew where the recipe is applied.
 */
export function recipeFrom(scene: Scene, name: string, words: string): Recipe {
  const sheets: RecipeSheet[] = [];
  const parts = new Set<string>();
  for (const sheet of scene.sheets) {
    const made = sheetOf(scene, sheet);
    if (!made) continue;
    // Sheets of parts are alike: one of them stands for all.
    if (made.per === 'made part' || made.per === 'sub-assembly') {
      const key = JSON.stringify(made.slots.map((s) => s.want));
      if (parts.has(`${made.per} ${key}`)) continue;
      parts.add(`${made.per} ${key}`);
    }
    sheets.push(made);
  }
  const used = new Set(sheets.flatMap((s) => s.format ?? []));
  const formats = scene.formats.filter((f) => used.has(f.name)).flatMap((f) => formatFrom(scene, f.id) ?? []);
  return { format: RECIPE_FORMAT, name, words, sheets, ...(formats.length ? { formats } : {}) };
}

function sheetOf(scene: Scene, sheet: SheetRecord): RecipeSheet | undefined {
  const per = subjectOf(scene, sheet);
  const views = scene.viewsOn(sheet.id).filter((v) => !v.off && !v.detail);
  const slots: RecipeSlot[] = per === 'made part' && views.length ? [partSlot(scene, views)] : viewSlots(scene, views);
  for (const r of scene.at(sheet.id)) {
    if (r.type === 'list' && !(r.share && r.share.part > 1)) slots.push({ want: 'list', name: 'Parts list', like: listLike(r) });
    else if (r.type === 'note') {
      const { at, text, heightMm, widthMm, frame } = r;
      const like = { at, text, ...(heightMm === undefined ? {} : { heightMm }), ...(widthMm === undefined ? {} : { widthMm }), ...(frame ? { frame } : {}) };
      slots.push({ want: 'note', name: text.split('\n')[0]!.slice(0, 60) || 'Note', like });
    } else if (r.type === 'table') slots.push({ want: 'table', name: r.rows[0]?.join(' ').slice(0, 60) || 'Table', like: without(r, 'type', 'id', 'sheet') });
  }
  if (!slots.length) return undefined;
  const item = sheet.part === undefined ? undefined : scene.items.find((i) => i.part === sheet.part);
  const subject = item?.values.description.text ?? (per === 'sub-assembly' ? sheet.name : '');
  return {
    name: subject ? sheet.name.replaceAll(subject, '{subject}') : sheet.name,
    per,
    ...(per === 'whole' ? { size: sheet.size, landscape: sheet.landscape } : {}),
    ...(sheet.noFrame ? { noFrame: true as const } : {}),
    ...(sheet.noTitle ? { noTitle: true as const } : {}),
    ...(sheet.format ? { format: scene.formatOf(sheet.id).name } : {}),
    slots,
  };
}

/** What a sheet is about: the part it is of, a sub-assembly when all of its views show that alone, else the whole. */
function subjectOf(scene: Scene, sheet: SheetRecord): RecipeSheet['per'] {
  if (sheet.part !== undefined) return 'made part';
  const views = scene.viewsOn(sheet.id).filter((v) => !v.detail);
  const alone = views.length > 0 && views.every((v) => v.shows?.only && v.shows.of.length < scene.components.length);
  return alone ? 'sub-assembly' : 'whole';
}

const besides = (scene: Scene, views: readonly ViewRecord[]) => {
  const has = (type: string) => views.some((v) => scene.at(v.id).some((r) => r.type === type));
  return {
    ...(has('balloon') ? { balloons: true as const } : {}),
    ...(has('dimension') ? { dimensions: true as const } : {}),
    ...(has('centre') ? { centrelines: true as const } : {}),
  };
};

const partSlot = (scene: Scene, views: readonly ViewRecord[]): RecipeSlot => ({ want: 'part views', name: 'The views it needs', ...besides(scene, views) });

/** Slots of views; those of the first drawing's own arrangement are one. */
function viewSlots(scene: Scene, views: readonly ViewRecord[]): RecipeSlot[] {
  const ids = new Set(views.map((v) => v.id));
  const arrangement = ['view:front', 'view:top', 'view:right', 'view:isometric'].every((id) => ids.has(id));
  const out: RecipeSlot[] = arrangement ? [{ want: 'arrangement', name: 'Front, top, right, isometric' }] : [];
  const left = views.filter((v) => !arrangement || !['view:front', 'view:top', 'view:right', 'view:isometric'].includes(v.id));
  // What others stand in line with comes before them.
  const ordered = [...left].sort((a, b) => Number(a.parent !== null && ids.has(a.parent)) - Number(b.parent !== null && ids.has(b.parent)));
  const place = new Map<string, number>();
  for (const v of ordered) {
    place.set(v.id, out.length);
    const common = { name: v.name, ...besides(scene, [v]) };
    if (v.spread) out.push({ want: 'exploded view', ...common, ...(v.shaded ? { shaded: true as const } : {}) });
    else if (v.cut) out.push({ want: 'section', ...common });
    else {
      const look = lookOf(scene, v);
      const beside = v.parent === null ? undefined : place.get(v.parent);
      out.push({
        want: 'view',
        ...common,
        ...(look ? { look } : { axes: { right: v.right, up: v.up, toward: v.toward } }),
        ...(v.hidden ? { hidden: true as const } : {}),
        ...(v.tangent ? { tangent: true as const } : {}),
        ...(v.shaded ? { shaded: true as const } : {}),
        ...(beside === undefined ? {} : { beside }),
      });
    }
  }
  return out;
}

/** The name of the side that a view looks from. */
function lookOf(scene: Scene, view: ViewFrame): Look | undefined {
  const front = frontOf(scene.document);
  const frames: readonly (readonly [Look, ViewFrame])[] = [
    ...Object.entries(principalFrames(front)).map(([n, f]) => [n as Look, f] as const),
    ['left', seenFrom(front, 'left')],
    ['bottom', seenFrom(front, 'bottom')],
  ];
  return frames.find(([, f]) => dot(f.toward, view.toward) > 1 - 1e-6 && dot(f.up, view.up) > 1 - 1e-6)?.[0];
}

const listLike = (r: ListRecord) => without(r, 'type', 'id', 'sheet', 'of', 'view', 'share');
