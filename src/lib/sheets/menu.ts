import { contains } from '$core/base/rect';
import { faceOf } from '$elements/faces';
import { kindOf, type ElementRecord } from '$elements/kinds';
import { sectionOffers } from '$elements/view/face/offers';
import { sectionAt } from '$elements/view/section-at';
import type { Action } from '../shared/action';
import type { Drawing } from '../shared/drawing.svelte';
import { actionsOf } from './actions';
import type { Press } from './tool';
import type { Tools } from './tools.svelte';

/** What can be done with what is under the pointer, in groups. */
export interface Menu {
  readonly title: string;
  readonly groups: readonly (readonly Entry[])[];
}

/** Actions behind one entry. */
export interface Submenu {
  readonly id: string;
  readonly label: string;
  readonly actions: readonly Action[];
}

export type Entry = Action | Submenu;

export const isSubmenu = (e: Entry): e is Submenu => 'actions' in e;

/** Everything that a menu offers, wherever it is. */
export const actionsIn = (m: Menu): Action[] => m.groups.flat().flatMap((e) => (isSubmenu(e) ? e.actions : [e]));

/** Commands that every element has: every day, and less often. */
const EDITS = ['duplicate', 'remove'];
const MOVES = ['copy', 'cut', 'to-next', 'to-previous', 'to-new'];
const SEVERAL = ['align-left', 'align-centre', 'align-right', 'align-top', 'align-middle', 'align-bottom', 'spread-across', 'spread-down'];
const SHEET = [
  ['paste', 'place', 'arrange-sheet', 'views-on', 'select-all', 'fit'],
  ['sheet-add', 'sheet-copy', 'sheet-remove'],
];
const SHEET_SETTINGS = ['sheet', 'title', 'sheet-earlier', 'sheet-later'];

const FORMAT = [
  ['paste', 'select-all', 'fit'],
  ['format-keep', 'format-back'],
];

/** Actions by their ids, those that can be done now. */
function ready(drawing: Drawing, tools: Tools, ids: readonly string[]): Action[] {
  const actions = actionsOf(drawing, tools);
  return ids.flatMap((id) => actions.filter((a) => a.id === id && !a.disabled));
}

/** Empty submenus and groups are left out; what stands alone behind an entry takes its place. */
const menu = (title: string, ...groups: readonly (readonly Entry[])[]): Menu => ({
  title,
  groups: groups.map((g) => g.flatMap((e): readonly Entry[] => (isSubmenu(e) && e.actions.length < 2 ? e.actions : [e]))).filter((g) => g.length),
});

/** Offers that say where they belong stand behind an entry of that name. */
function folded(offers: readonly Action[]): Entry[] {
  const names = [...new Set(offers.flatMap((a) => a.under ?? []))];
  return [...offers.filter((a) => a.under === undefined), ...names.map((label) => ({ id: label, label, actions: offers.filter((a) => a.under === label) }))];
}

/** What can be done with the open sheet. */
export function sheetMenu(drawing: Drawing, tools: Tools): Menu {
  drawing.select({ kind: 'none' });
  const { sheetId, openFormat } = drawing;
  if (openFormat) return menu(`Sheet format “${openFormat.name}”`, ready(drawing, tools, FORMAT[0]!), ready(drawing, tools, FORMAT[1]!));
  const number = drawing.sheets.findIndex((s) => s.id === sheetId) + 1;
  const name: Action = { id: 'name', label: 'Name this sheet', key: '', run: () => (tools.editing = { record: sheetId, name: 'sheetName' }) };
  const named = drawing.scene.one('sheet', sheetId)?.noTitle ? [] : [name];
  const settings: Submenu = { id: 'settings', label: 'Size, title block, order', actions: ready(drawing, tools, SHEET_SETTINGS) };
  return menu(`Sheet ${number}`, ready(drawing, tools, SHEET[0]!), [...named, ...ready(drawing, tools, SHEET[1]!), settings]);
}

/** Selects what is at a place, unless it is among what is selected, and says what can be done with exactly that. */
export function menuAt(drawing: Drawing, tools: Tools, p: Press): Menu {
  const { scene } = drawing;
  const section = sectionAt(scene, drawing.sheetId, p.at, p.grace);
  if (section) {
    drawing.select({ kind: 'record', id: section.id });
    return menu(`Cutting line ${section.cut!.letter}–${section.cut!.letter}`, sectionOffers(drawing, tools, section));
  }
  const record = tools.pick.elementAt(p.at);
  const pressed = record && kindOf(record).press?.(record, p.at, scene, p.grace);
  if (!record || (record.type === 'sheet' && !pressed)) {
    return sheetMenu(drawing, tools);
  }
  if (drawing.selection.kind === 'records' && drawing.chosen.includes(record.id))
    return menu(`${drawing.chosen.length} elements`, [
      ...ready(drawing, tools, EDITS),
      { id: 'align', label: 'Align and space', actions: ready(drawing, tools, SEVERAL) },
      { id: 'moves', label: 'Copy and move', actions: ready(drawing, tools, MOVES) },
    ]);

  drawing.select(pressed ?? { kind: 'record', id: record.id });
  const face = faceOf(record);
  const text = kindOf(record)
    .texts?.(record, scene)
    .find((t) => contains(t.box, p.at));
  const edit: Action[] = text
    ? [{ id: 'edit-here', label: `Edit here: ${text.label}`, key: 'F2', run: () => (tools.editing = { record: record.id, name: text.name }) }]
    : [];
  const { title, offers } = face.offers?.(record, p, drawing, tools) ?? { offers: [] };
  return menu(
    title ?? titleOf(record, drawing),
    [...edit, ...folded(offers)],
    (face.menu ?? []).flatMap((e): Entry[] =>
      typeof e === 'string' ? ready(drawing, tools, [e]) : [{ id: e.label, label: e.label, actions: ready(drawing, tools, e.actions) }],
    ),
    [
      ...editsOf(record, drawing, tools, EDITS),
      { id: 'moves', label: 'Copy, move, select', actions: [...editsOf(record, drawing, tools, MOVES), ...choices(record, tools)] },
    ],
  );
}

/** What every element has is done with the element, also when a component in it was pressed. */
function editsOf(record: ElementRecord, drawing: Drawing, tools: Tools, ids: readonly string[]): Action[] {
  if (record.type === 'sheet') return [];
  const selected = drawing.selection;
  drawing.select({ kind: 'record', id: record.id });
  const actions = actionsOf(drawing, tools).filter((a) => ids.includes(a.id) && !a.disabled);
  drawing.select(selected);
  return ids
    .flatMap((id) => actions.filter((a) => a.id === id))
    .map((a) => ({
      ...a,
      run: () => {
        drawing.select({ kind: 'record', id: record.id });
        a.run();
      },
    }));
}

/** Others like it, others beside it. */
function choices(record: ElementRecord, tools: Tools): Action[] {
  if (record.type === 'sheet') return [];
  const view = record.type === 'view' ? record.id : 'view' in record ? record.view : undefined;
  return [
    { id: 'like', label: `Select every ${kindOf(record).title} of this sheet`, key: '', run: () => tools.selectWhere((r) => r.type === record.type) },
    ...(view === undefined
      ? []
      : [{ id: 'in-view', label: 'Select all that belongs to this view', key: '', run: () => tools.selectWhere((r) => 'view' in r && r.view === view) }]),
  ];
}

function titleOf(record: ElementRecord, drawing: Drawing): string {
  const [drawn] = kindOf(record).draw(record, drawing.scene);
  return record.type === 'sheet' ? 'Title block' : (drawn?.label ?? kindOf(record).title);
}
