import { contains } from '../../core/base/rect.ts';
import { without } from '../../core/base/without.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import { recordsOf, type ListColumn, type ListRecord } from '../../core/document/records.ts';
import type { Step } from '../../core/document/steps.ts';
import type { Scene } from '../scene.ts';
import { textWidth } from '../../core/picture/lettering.ts';
import { AIR_MM, layOutList } from './layout.ts';
import { cellOf, rowsOf } from './rows.ts';

/** Changes what a list shows; all parts of one that goes over several sheets show the same, each in its own place. */
export function putList(list: ListRecord, scene: Scene): Step[] {
  if (!list.share) return [{ op: 'put', record: list }];
  return recordsOf(scene.document, 'list')
    .filter((l) => l.share)
    .map((l) => {
      const { id, sheet, share, at, to, corner } = l;
      const shown = without(list, 'at', 'to', 'corner');
      return {
        op: 'put',
        record: { ...shown, id, sheet, ...(share ? { share } : {}), ...(at ? { at } : {}), ...(to ? { to } : {}), ...(corner ? { corner } : {}) },
      };
    });
}

export const putColumns = (list: ListRecord, scene: Scene, columns: readonly ListColumn[]): Step[] => putList({ ...list, columns }, scene);

export const retitled = (list: ListRecord, scene: Scene, at: number, title: string): Step[] =>
  putColumns(
    list,
    scene,
    list.columns.map((c, k) => (k === at ? { ...c, title } : c)),
  );

/** Every text in full: long ones wrap, and no column is narrower than its longest word. */
export function shownInFull(list: ListRecord, scene: Scene): Step[] {
  const rows = rowsOf(list, scene);
  const size = list.heightMm ?? scene.page(list.sheet).style.text;
  const columns = list.columns.map((c): ListColumn => {
    const words = [c.title, ...rows.map((r) => cellOf(r, c.key, scene))].flatMap((t) => t.split(/\s+/));
    const longest = Math.max(...words.map((w) => textWidth(w, c.heightMm ?? size)));
    return { ...c, long: 'wrap', widthMm: Math.max(c.widthMm, Math.ceil(longest + 2 * AIR_MM)) };
  });
  return putColumns(list, scene, columns);
}

/** @param to place among the columns, from 0 */
export function placedColumn(list: ListRecord, scene: Scene, at: number, to: number): Step[] {
  const columns = [...list.columns];
  const [c] = columns.splice(at, 1);
  if (!c || to === at) return [];
  columns.splice(to, 0, c);
  return putColumns(list, scene, columns);
}

/** @param by -1: to the left, 1: to the right */
export const shiftedColumn = (list: ListRecord, scene: Scene, at: number, by: number): Step[] => placedColumn(list, scene, at, at + by);

export const withoutColumn = (list: ListRecord, scene: Scene, at: number): Step[] =>
  putColumns(
    list,
    scene,
    list.columns.filter((_, k) => k !== at),
  );

/** The column at a place on the sheet, and whether the place is in its head. */
export function columnAt(list: ListRecord, scene: Scene, at: Vec2): { readonly index: number; readonly head: boolean } | undefined {
  for (const { rect, head } of layOutList(list, scene)) {
    if (!contains(rect, at)) continue;
    const index = head.cells.findIndex(({ box }) => at[0] <= box.x + box.width);
    if (index >= 0) return { index, head: contains(head.box, at) };
  }
  return undefined;
}
