import type { Action } from '$lib/shared/action';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { SheetRecord } from '../../../core/document/records';
import { COMPUTED_FIELDS } from '../../field-values';
import { changeFormat } from './format-actions';
import { fieldTitle, originOf } from './origin';

/** What can be done with the field of the title block that is selected, besides editing it. */
export function titleOffers(sheet: SheetRecord, _: unknown, drawing: Drawing): { readonly title?: string; readonly offers: readonly Action[] } {
  const field = drawing.selection.kind === 'field' ? drawing.selection.field : '';
  const computed = COMPUTED_FIELDS[field];
  return {
    ...(computed ? { title: computed.split(':')[0]! } : {}),
    offers: [
      ...(field
        ? [{ id: 'from', label: `Where “${fieldTitle(field)}” comes from`, key: '', run: () => notify('good', originOf(field, sheet, drawing.scene)) }]
        : []),
      { id: 'fields', label: 'All fields of the title block', key: 'T', run: () => drawing.select({ kind: 'field', field: field || 'title' }) },
      { id: 'format', label: 'Change the format: cells, fields, logo', key: '', run: () => changeFormat(drawing, sheet.id, false) },
      {
        id: 'no-title',
        label: 'Leave the title block out of this sheet',
        key: '',
        run: () => drawing.edit('Title block off', [{ op: 'put', record: { ...sheet, noTitle: true } }]),
      },
    ],
  };
}
