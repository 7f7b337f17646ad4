import { DIRECTION_NAMES, namedFrame } from '$core/outline/directions';
import { recordsOf } from '$core/document/records';
import type { Action } from '../shared/action';
import type { Drawing } from '../shared/drawing.svelte';
import type { Tools } from './tools.svelte';

/** Everything that can be done in the Sheets stage as things stand. */
export function actionsOf(drawing: Drawing, tools: Tools): Action[] {
  const s = drawing.selection;
  const record = s.kind === 'record' ? drawing.document[s.id] : undefined;
  const viewId = s.kind === 'item' ? s.view : record?.type === 'view' ? record.id : undefined;
  const found = viewId ? drawing.document[viewId] : undefined;
  const view = found?.type === 'view' ? found : undefined;
  const component = s.kind === 'item' ? (s.component ?? drawing.items.find((i) => i.part === s.part)?.components[0]) : undefined;
  const index = drawing.sheets.findIndex((x) => x.id === drawing.sheetId);
  const go = (i: number) => {
    const sheet = drawing.sheets[i];
    if (sheet) drawing.sheetId = sheet.id;
  };
  const toggle = (key: 'hidden' | 'tangent' | 'shaded' | 'label', label: string, letter: string): Action => ({
    id: key,
    label: `${label} ${view?.[key] ? 'off' : 'on'}`,
    key: letter,
    disabled: !view,
    run: () => view && drawing.edit(`${label} ${view[key] ? 'off' : 'on'}`, [{ op: 'put', record: { ...view, [key]: !view[key] } }]),
  });
  const list = recordsOf(drawing.document, 'list')[0];
  const download = (name: string) => () => {
    location.href = `/api/jobs/${drawing.id}/files/${name}`;
  };
  return [
    { id: 'pick', label: 'Pick', key: 'V', shelf: true, on: tools.tool === 'pick', run: () => tools.take('pick') },
    {
      id: 'balloon',
      label: 'Balloon for a component',
      short: 'Balloon',
      key: 'B',
      shelf: true,
      on: tools.tool === 'balloon',
      run: () => tools.take(tools.tool === 'balloon' ? 'pick' : 'balloon'),
    },
    {
      id: 'section',
      label: 'Cutting line on a view: a section',
      short: 'Section',
      key: 'N',
      shelf: true,
      on: tools.tool === 'section',
      run: () => tools.take(tools.tool === 'section' ? 'pick' : 'section'),
    },
    {
      id: 'break',
      label: 'Broken-out section: draw around it',
      short: 'Break',
      key: 'O',
      shelf: true,
      on: tools.tool === 'break',
      run: () => tools.take(tools.tool === 'break' ? 'pick' : 'break'),
    },
    {
      id: 'finish',
      label: 'End the cutting line',
      key: 'Enter',
      disabled: tools.sections.points.length < 2 || tools.tool !== 'section',
      run: () => void tools.sections.finish(),
    },
    {
      id: 'level',
      label: 'Section through what is selected, level',
      key: '',
      disabled: !view || component === undefined,
      run: () => view && component !== undefined && void tools.sections.through(view, component, false),
    },
    {
      id: 'upright',
      label: 'Section through what is selected, upright',
      key: '',
      disabled: !view || component === undefined,
      run: () => view && component !== undefined && void tools.sections.through(view, component, true),
    },
    { id: 'round', label: 'Turn the section round', key: 'U', disabled: !view?.cut, run: () => view && tools.sections.turnRound(view) },
    {
      id: 'identify',
      label: 'Identify the rest in this view',
      short: 'Identify',
      key: 'I',
      shelf: true,
      disabled: !view,
      run: () => view && tools.identifyRest(view),
    },
    ...DIRECTION_NAMES.map((name) => ({
      id: `view-${name}`,
      label: `Add a view: ${name}`,
      key: '',
      run: () => tools.addView(name[0]!.toUpperCase() + name.slice(1), namedFrame(name), null),
    })),
    {
      id: 'copy',
      label: 'Copy this view',
      key: '',
      disabled: !view || !!view.cut,
      run: () => view && tools.addView(`${view.name}, copy`, view, view.spread, view),
    },
    {
      id: 'together',
      label: 'Add this view with its parts together',
      key: '',
      disabled: !view?.spread,
      run: () => view && tools.addView(`${view.name}, together`, view, null, view),
    },
    { id: 'arrange', label: 'Arrange the balloons of this view anew', key: 'R', disabled: !view, run: () => view && tools.arrangeBalloons(view) },
    {
      id: 'list',
      label: 'Columns of the parts list',
      short: 'List',
      key: 'L',
      shelf: true,
      disabled: !list,
      run: () => list && ((drawing.sheetId = list.sheet), drawing.select({ kind: 'record', id: list.id })),
    },
    { id: 'title', label: 'Title block', short: 'Title', key: 'T', shelf: true, run: () => drawing.select({ kind: 'field', field: 'title' }) },
    { id: 'sheet', label: 'Sheet size and standard', short: 'Sheet', key: 'S', shelf: true, run: () => drawing.select({ kind: 'none' }) },
    { id: 'fit', label: 'Fit the sheet', short: 'Fit', key: 'F', shelf: true, run: () => tools.fit() },
    toggle('hidden', 'Hidden lines', 'H'),
    toggle('tangent', 'Tangent edges', 'G'),
    toggle('shaded', 'Shading', 'D'),
    toggle('label', 'Label', 'A'),
    {
      id: 'half',
      label: view?.cut?.shape ? 'Full section' : 'Half section',
      key: 'X',
      disabled: !view?.cut,
      run: () => view && tools.toggleHalf(view),
    },
    { id: 'in', label: 'Zoom in', key: '+', run: () => tools.zoomBy(1.25) },
    { id: 'out', label: 'Zoom out', key: '-', run: () => tools.zoomBy(0.8) },
    { id: 'next', label: 'Next sheet', key: 'PageDown', disabled: index >= drawing.sheets.length - 1, run: () => go(index + 1) },
    { id: 'previous', label: 'Previous sheet', key: 'PageUp', disabled: index <= 0, run: () => go(index - 1) },
    {
      id: 'remove',
      label: 'Remove what is selected',
      key: 'Delete',
      disabled: record?.type !== 'view' && record?.type !== 'balloon',
      run: () => tools.remove(),
    },
    { id: 'undo', label: 'Undo', key: 'Ctrl Z', disabled: !drawing.canUndo, run: () => drawing.undo() },
    { id: 'redo', label: 'Redo', key: 'Ctrl Shift Z', disabled: !drawing.canRedo, run: () => drawing.redo() },
    { id: 'ledger', label: tools.ledger ? 'Fold the ledger away' : 'Show the ledger', key: '[', run: () => (tools.ledger = !tools.ledger) },
    { id: 'slip', label: tools.slip ? 'Fold the slip away' : 'Show the slip', key: ']', run: () => (tools.slip = !tools.slip) },
    { id: 'pdf', label: 'PDF of all sheets', key: 'P', run: download('drawing.pdf') },
    { id: 'csv', label: 'Parts list as CSV', key: 'C', run: download('parts-list.csv') },
    { id: 'quick', label: 'Do anything', key: 'Ctrl K', run: () => (tools.quickBar = true) },
  ];
}
