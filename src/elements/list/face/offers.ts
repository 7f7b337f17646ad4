import type { Action } from '$lib/shared/action';
import type { Drawing } from '$lib/shared/drawing.svelte';
import type { Press } from '$lib/sheets/tool';
import { contains } from '../../../core/base/rect';
import type { ListRecord } from '../../../core/document/records';
import type { Step } from '../../../core/document/steps';
import { stepsOf } from '../../../core/ledger/grid';
import { numberText, type PropertyKey } from '../../../core/ledger/items';
import { lockedNumber } from '../../../core/ledger/numbering';
import { columnAt, putList, shiftedColumn, withoutColumn } from '../columns';
import { listTexts } from '../texts';

/** What can be done with the cell at a place: its text, its column, its item. */
export function listOffers(list: ListRecord, p: Press, drawing: Drawing): { readonly title: string; readonly offers: readonly Action[] } {
  const { scene, selection } = drawing;
  const text = listTexts(list, scene).find((t) => contains(t.box, p.at));
  const found = columnAt(list, scene, p.at);
  const at = found?.index;
  const column = at === undefined ? undefined : list.columns[at];
  const item = selection.kind === 'item' ? scene.items.find((i) => i.part === selection.part) : undefined;
  const edit = (label: string, steps: readonly Step[]): Action => ({ id: label, label, key: '', run: () => drawing.edit(label, steps) });
  const offers: Action[] = [];
  if (item && column && item.values[column.key as PropertyKey]?.from === 'typed')
    offers.push(
      edit(
        `Put ${column.title} of item ${numberText(item)} back to the file’s`,
        stepsOf(drawing.document, [{ part: item.part, key: column.key, text: undefined }], new Date().toISOString()),
      ),
    );
  if (item) {
    const all = [...scene.items, ...scene.groups.map((g) => g.item)];
    offers.push(
      edit(`Leave out the row of item ${numberText(item)}`, putList({ ...list, hidden: [...new Set([...(list.hidden ?? []), item.part])] }, scene)),
      edit(item.locked ? `Free number ${numberText(item)}` : `Lock number ${numberText(item)}`, lockedNumber(scene.document, all, item.part, !item.locked)),
    );
  }
  if (item) offers.push({ id: 'item', label: `Properties of item ${numberText(item)}`, key: '', run: () => drawing.select({ kind: 'item', part: item.part }) });
  if (column && at !== undefined) {
    if (at > 0) offers.push(edit(`Column ${column.title} to the left`, shiftedColumn(list, scene, at, -1)));
    if (at < list.columns.length - 1) offers.push(edit(`Column ${column.title} to the right`, shiftedColumn(list, scene, at, 1)));
    if (list.columns.length > 1) offers.push(edit(`Column ${column.title} off`, withoutColumn(list, scene, at)));
  }
  offers.push({ id: 'columns', label: 'Columns of the list', key: 'L', run: () => drawing.select({ kind: 'record', id: list.id }) });
  return { title: text?.label ?? 'Parts list', offers };
}
