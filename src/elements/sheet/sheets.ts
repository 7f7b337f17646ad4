import type { SheetRecord } from '../../core/document/records.ts';
import type { Step } from '../../core/document/steps.ts';
import { without } from '../../core/base/without.ts';
import { copiesOf, withBelongings } from '../copy.ts';
import type { Scene } from '../scene.ts';

const put = (record: Extract<Step, { op: 'put' }>['record']): Step => ({ op: 'put', record });

/** The sheets in an order; only those whose place changes are written. */
function inOrder(sheets: readonly SheetRecord[]): Step[] {
  return sheets.flatMap((s, order) => (s.order === order ? [] : [put({ ...s, order })]));
}

/** Puts a new sheet after another one. @param like what it takes over */
export function addSheet(scene: Scene, id: string, after: string, like: Omit<SheetRecord, 'type' | 'id' | 'order'>): Step[] {
  const sheets = [...scene.sheets];
  const at = sheets.findIndex((s) => s.id === after) + 1 || sheets.length;
  const record: SheetRecord = { ...like, type: 'sheet', id, order: -1 };
  sheets.splice(at, 0, record);
  return inOrder(sheets);
}

/** What a new sheet takes over from another one: size, way up, frame and format; not what that one shows, nor its document type. */
export const blankLike = (sheet: SheetRecord): SheetRecord => ({ ...without(sheet, 'part', 'from'), name: '' });

/** A copy of a sheet with everything on it, right after it. @param freshId of each record copied @returns the steps, and the copy's id */
export function duplicateSheet(scene: Scene, id: string, freshId: (base: string) => string): { readonly steps: Step[]; readonly id: string } {
  const sheet = scene.one('sheet', id);
  if (!sheet) return { steps: [], id };
  const copy = freshId(id.split('~')[0]!);
  const on = withBelongings(scene, [id]).filter((r) => r.id !== id);
  const records = copiesOf(scene, on, { sheet: copy, by: [0, 0], freshId });
  return { steps: [...addSheet(scene, copy, id, sheet), ...records.map(put)], id: copy };
}

/** Moves a sheet to a place in the set, from 0. */
export function reorderSheet(scene: Scene, id: string, to: number): Step[] {
  const sheets = scene.sheets.filter((s) => s.id !== id);
  const sheet = scene.one('sheet', id);
  if (!sheet) return [];
  sheets.splice(Math.max(0, Math.min(sheets.length, to)), 0, sheet);
  return inOrder(sheets);
}
