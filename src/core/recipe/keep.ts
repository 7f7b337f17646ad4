import { dot } from '../base/vector.ts';
import { without } from '../base/without.ts';
import type { DrawingDocumentRecord, ListRecord, SheetRecord, ViewRecord } from '../document/records.ts';
import type { ViewFrame } from '../outline/directions.ts';
import { BEND_COLUMNS } from '../flat/bend-table.ts';
import { formatFrom } from '../format/apply.ts';
import type { Scene } from '../../elements/scene.ts';
import { frontOf } from '../document/front.ts';
import { principalFrames } from '../draft/arrangement.ts';
import { seenFrom } from './part-look.ts';
import { OPPOSITE_HAND } from './opposite-hand.ts';
import { RECIPE_FORMAT, type Look, type Recipe, type RecipeSheet, type RecipeSlot } from './record.ts';

/** Views and lists that the first drawing makes, by their ids. */
const FIRST_VIEW = /^view:(front|top|right|isometric|section|exploded(-\d+)?)$/;
const FIRST_LIST = /^list:\d+$/;
const PER_PART: ReadonlySet<RecipeSheet['per']> = new Set(['made part', 'bent part', 'sub-assembly']);

/**
 * A recipe of a drawing's sheets: what is on them becomes slots that say what they want, not what they show. Sheets that a recipe
 * made for several parts become one sheet for each of them again, and those over which a first drawing spreads what belongs together
 * become one. Details, dimensions and what else hangs on edges of this very model are made anew where the recipe is applied.
 */
export function recipeFrom(scene: Scene, name: string, words: string): Recipe {
  const sheets: RecipeSheet[] = [];
  const known = new Map<string, number>();
  for (const sheet of scene.sheets) {
    const family = familyOf(scene, sheet);
    const made = sheetOf(scene, sheet, family !== undefined);
    if (!made) continue;
    // Sheets of parts are alike: one of them stands for all.
    const key = family ?? (PER_PART.has(made.per) ? `${made.per} ${JSON.stringify(made.slots.map((s) => s.want))}` : undefined);
    const before = key === undefined ? undefined : known.get(key);
    if (before === undefined) {
      if (key !== undefined) known.set(key, sheets.length);
      sheets.push(made);
    } else if (family) sheets[before] = joined(sheets[before]!, made);
    else sheets[before] = { ...sheets[before]!, ...mostTogether(sheets[before]!, made) };
  }
  const used = new Set(sheets.flatMap((s) => s.format ?? []));
  const formats = scene.formats.filter((f) => used.has(f.name)).flatMap((f) => formatFrom(scene, f.id) ?? []);
  return { format: RECIPE_FORMAT, name, words, sheets, ...(formats.length ? { formats } : {}) };
}

/** Which of the first drawing's own sheets it is, as it was made; undefined for any other. */
function familyOf(scene: Scene, sheet: SheetRecord): 'arrangement' | 'exploded' | undefined {
  if (sheet.part !== undefined) return undefined;
  const views = scene.viewsOn(sheet.id).filter((v) => !v.off && !v.detail);
  const lists = scene.at(sheet.id).filter((r) => r.type === 'list');
  if (!views.every((v) => FIRST_VIEW.test(v.id)) || !lists.every((l) => FIRST_LIST.test(l.id))) return undefined;
  if (views.some((v) => v.spread) || (!views.length && lists.length)) return 'exploded';
  return views.length ? 'arrangement' : undefined;
}

/** A sheet of the recipe that asks for what another one asks for too. */
function joined(sheet: RecipeSheet, other: RecipeSheet): RecipeSheet {
  const has = new Set(sheet.slots.map((s) => s.want));
  return { ...sheet, slots: [...sheet.slots, ...other.slots.filter((s) => s.want === 'note' || s.want === 'table' || !has.has(s.want))] };
}

const mostTogether = (...sheets: readonly RecipeSheet[]): Pick<RecipeSheet, 'together'> => {
  const most = Math.max(0, ...sheets.map((s) => s.together ?? 0));
  return most ? { together: most } : {};
};

function sheetOf(scene: Scene, sheet: SheetRecord, first: boolean): RecipeSheet | undefined {
  const views = scene.viewsOn(sheet.id).filter((v) => !v.off && !v.detail);
  const together = first ? [] : partsTogether(scene, sheet);
  const per = first ? 'whole' : together.length ? 'made part' : subjectOf(scene, sheet, views);
  const ofPart = per === 'made part' || per === 'bent part';
  const slots: RecipeSlot[] = ofPart && views.length ? partSlots(scene, views) : viewSlots(scene, views);
  for (const r of [...scene.at(sheet.id), ...views.flatMap((v) => scene.at(v.id))]) {
    const slot = besideViews(r, ofPart, together.length > 0);
    if (slot) slots.push(slot);
  }
  if (!slots.length) return undefined;
  const item = sheet.part === undefined ? undefined : scene.items.find((i) => i.part === sheet.part);
  const subject = together.length ? together.join(', ') : (item?.values.description.text ?? (per === 'sub-assembly' ? sheet.name : ''));
  return {
    name: subject ? sheet.name.replaceAll(subject, '{subject}') : sheet.name,
    per,
    ...(per === 'whole' ? { size: sheet.size, landscape: sheet.landscape } : {}),
    ...(together.length ? { together: Math.max(MOST_TOGETHER[0], Math.min(MOST_TOGETHER[1], together.length)) } : {}),
    ...(sheet.noFrame ? { noFrame: true as const } : {}),
    ...(sheet.noTitle ? { noTitle: true as const } : {}),
    ...(sheet.format ? { format: scene.formatOf(sheet.id).name } : {}),
    slots,
  };
}

/** How many parts may share a sheet. */
const MOST_TOGETHER = [2, 9] as const;

/** Names of the parts that a recipe put onto one sheet; none where it is of one or of the whole. */
function partsTogether(scene: Scene, { from }: SheetRecord): string[] {
  const ids = from?.of.split('\n') ?? [];
  return ids.length > 1 ? ids.map((id) => scene.items.find((i) => i.part === id)?.values.description.text ?? id) : [];
}

/** What stands on a sheet besides its views; undefined for what the filling of another slot brings with it. */
function besideViews(r: DrawingDocumentRecord, ofPart: boolean, together: boolean): RecipeSlot | undefined {
  switch (r.type) {
    case 'list':
      return r.share && r.share.part > 1 ? undefined : { want: 'list', name: 'Parts list', like: listLike(r) };
    case 'positions':
      return { want: 'hole table', name: 'Holes' };
    case 'note': {
      // What says which part it is, or its opposite hand, says so of that part alone.
      if (r.sheet === null || together || (ofPart && OPPOSITE_HAND.test(r.text))) return undefined;
      const { at, text, heightMm, widthMm, frame } = r;
      const like = { at, text, ...(heightMm === undefined ? {} : { heightMm }), ...(widthMm === undefined ? {} : { widthMm }), ...(frame ? { frame } : {}) };
      return { want: 'note', name: text.split('\n')[0]!.slice(0, 60) || 'Note', like };
    }
    case 'table':
      if (BEND_COLUMNS.every((c, i) => r.rows[0]?.[i] === c)) return { want: 'bend table', name: 'Bends' };
      return { want: 'table', name: r.rows[0]?.join(' ').slice(0, 60) || 'Table', like: without(r, 'type', 'id', 'sheet') };
    default:
      return undefined;
  }
}

/** What a sheet is about: the part it is of, a sub-assembly when all of its views show that alone, else the whole. */
function subjectOf(scene: Scene, sheet: SheetRecord, views: readonly ViewRecord[]): RecipeSheet['per'] {
  if (sheet.part !== undefined) return views.some((v) => v.laid) ? 'bent part' : 'made part';
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

/** The views of a part, and its flat pattern where it had one. */
function partSlots(scene: Scene, views: readonly ViewRecord[]): RecipeSlot[] {
  const shown = views.filter((v) => !v.laid);
  return [
    ...(shown.length ? [{ want: 'part views' as const, name: 'The views it needs', ...besides(scene, shown) }] : []),
    ...views.filter((v) => v.laid).map((v) => ({ want: 'flat pattern' as const, name: v.name, ...besides(scene, [v]) })),
  ];
}

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
    if (v.laid) out.push({ want: 'flat pattern', ...common });
    else if (v.spread) out.push({ want: 'exploded view', ...common, ...(v.shaded ? { shaded: true as const } : {}) });
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
