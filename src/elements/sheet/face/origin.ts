import type { SheetRecord } from '../../../core/document/records';
import { COMPUTED_FIELDS, FIELD_TITLES, fieldValue } from '../../field-values';
import type { Scene } from '../../scene';

export const fieldTitle = (field: string): string => FIELD_TITLES[field] ?? field;

/** Where the value of a field comes from, in a sentence. */
export function originOf(field: string, sheet: SheetRecord, scene: Scene): string {
  const computed = COMPUTED_FIELDS[field];
  if (computed) return computed;
  const title = fieldTitle(field);
  switch (fieldValue(field, undefined, sheet, scene)?.from) {
    case 'part':
      return `${title}: a property of the part that the sheet shows; ledger and lists have the same.`;
    case 'counted':
      return `${title}: counted.`;
    case 'model':
      return `${title}: stated by the file of the model.`;
    case 'sheet':
      return `${title}: of this sheet alone.`;
    case 'own':
      return `${title}: a field of your own, the same on every sheet.`;
    case 'job':
      return `${title}: of this drawing, the same on every sheet.`;
    default:
      return `${title}: a field of your own; nothing is written in it yet.`;
  }
}
