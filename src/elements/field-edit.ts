import type { SheetRecord } from '../core/document/records.ts';
import { without } from '../core/base/without.ts';
import type { Step } from '../core/document/steps.ts';
import { stepsOf } from '../core/ledger/grid.ts';
import { COMPUTED_FIELDS, fieldValue, isJobField, partOfSheet } from './field-values.ts';
import type { Scene } from './scene.ts';

const MOST_TO_MAKE = 1_000_000;
/** Longest words for a scale. */
const MOST_SAID = 60;

/** What is typed for a field, as it is kept: a date without its pattern. */
export const typedValue = (name: string, sheet: SheetRecord, scene: Scene): string =>
  name === 'quantity' ? String(scene.drawing.quantity) : (fieldValue(name, undefined, sheet, scene)?.text ?? '');

/** Is a field written by people, on this sheet? What is counted, and what the model's file states, is not. */
export function isTyped(name: string, sheet: SheetRecord, scene: Scene): boolean {
  if (name === 'scale') return true;
  if (Object.hasOwn(COMPUTED_FIELDS, name) || name === 'sheets') return false;
  if (name === 'material') return sheet.part !== undefined;
  if (name === 'quantity') return sheet.part === undefined;
  return fieldValue(name, undefined, sheet, scene)?.from !== 'model';
}

/** The steps that write a field of a sheet: to the drawing, to its part's property, or to the sheet. @param now ISO 8601 */
export function writeField(name: string, text: string, sheet: SheetRecord, scene: Scene, now: string): Step[] {
  const { drawing } = scene;
  if (!isTyped(name, sheet, scene)) return [];
  const part = partOfSheet(sheet, scene);
  const property = part && fieldValue(name, undefined, sheet, scene)?.property;
  if (property) return stepsOf(scene.document, [{ part: part.part, key: property, text }], now);
  if (name === 'scale') {
    const counted = without(sheet, 'scaleSaid');
    const said = text.trim().slice(0, MOST_SAID);
    const usual = said === '' || said === fieldValue('scale', undefined, counted, scene)?.text;
    return [{ op: 'put', record: usual ? counted : { ...counted, scaleSaid: said } }];
  }
  if (name === 'sheetName') return [{ op: 'put', record: { ...sheet, name: text } }];
  if (isJobField(name)) return [{ op: 'put', record: { ...drawing, [name]: text } }];
  if (name === 'quantity') {
    const quantity = Number(text);
    return Number.isInteger(quantity) && quantity >= 1 && quantity <= MOST_TO_MAKE ? [{ op: 'put', record: { ...drawing, quantity } }] : [];
  }
  return [{ op: 'put', record: { ...drawing, fields: { ...drawing.fields, [name]: text } } }];
}
