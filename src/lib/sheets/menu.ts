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
  readonly groups: readonly (readonly Action[])[];
}

/** Commands that every element has. */
const EDITS = ['cut', 'copy', 'duplicate', 'to-next', 'to-previous', 'to-new', 'remove'];
const SEVERAL = ['align-left', 'align-centre', 'align-right', 'align-top', 'align-middle', 'align-bottom', 'spread-across', 'spread-down'];
const SHEET = [
  ['paste', 'place', 'arrange-sheet', 'views-on', 'select-all', 'fit'],
  ['sheet-add', 'sheet-copy', 'sheet-earlier', 'sheet-later', 'sheet-remove'],
  ['sheet', 'title'],
];

const FORMAT = [
  ['paste', 'select-all', 'fit'],
  ['format-keep', 'format-back'],
];

/** Actions by their ids, those that can be done now. */
function ready(drawing: Drawing, tools: Tools, ids: readonly string[]): Action[] {
  const actions = actionsOf(drawing, tools);
  return ids.flatMap((id) => actions.filter((a) => a.id === id && !a.disabled));
}

const menu = (title: string, ...groups: readonly (readonly Action[])[]): Menu => ({ title, groups: groups.filter((g) => g.length) });

/** What can be done with the open sheet. */
export function sheetMenu(drawing: Drawing, tools: Tools): Menu {
  drawing.select({ kind: 'none' });
  const { sheetId, openFormat } = drawing;
  if (openFormat) return menu(`Sheet format “${openFormat.name}”`, ready(drawing, tools, FORMAT[0]!), ready(drawing, tools, FORMAT[1]!));
  const number = drawing.sheets.findIndex((s) => s.id === sheetId) + 1;
  const name: Action = { id: 'name', label: 'Name this sheet', key: '', run: () => (tools.editing = { record: sheetId, name: 'sheetName' }) };
  const named = drawing.scene.one('sheet', sheetId)?.noTitle ? [] : [name];
  return menu(`Sheet ${number}`, ...SHEET.map((ids, i) => [...(i === 1 ? named : []), ...ready(drawing, tools, ids)]));
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
    return menu(`${drawing.chosen.length} elements`, ready(drawing, tools, SEVERAL), ready(drawing, tools, EDITS));

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
    [...edit, ...offers],
    ready(drawing, tools, face.menu ?? []),
    editsOf(record, drawing, tools),
    choices(record, tools),
  );
}

/** What every element has is done with the element, also when a component in it was pressed. */
function editsOf(record: ElementRecord, drawing: Drawing, tools: Tools): Action[] {
  if (record.type === 'sheet') return [];
  const selected = drawing.selection;
  drawing.select({ kind: 'record', id: record.id });
  const actions = actionsOf(drawing, tools).filter((a) => EDITS.includes(a.id) && !a.disabled);
  drawing.select(selected);
  return EDITS.flatMap((id) => actions.filter((a) => a.id === id)).map((a) => ({
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
