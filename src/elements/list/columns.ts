import { contains, rectOf } from '../../core/base/rect.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import { recordsOf, type ListColumn, type ListRecord } from '../../core/document/records.ts';
import type { Step } from '../../core/document/steps.ts';
import type { Scene } from '../scene.ts';
import { drawList } from './draw.ts';

/** Changes the columns of a list; all parts of one that goes over several sheets have the same. */
export function putColumns(list: ListRecord, scene: Scene, columns: readonly ListColumn[]): Step[] {
  const parts = list.share ? recordsOf(scene.document, 'list').filter((l) => l.share) : [list];
  return parts.map((l) => ({ op: 'put', record: { ...l, columns } }));
}

export const retitled = (list: ListRecord, scene: Scene, at: number, title: string): Step[] =>
  putColumns(
    list,
    scene,
    list.columns.map((c, k) => (k === at ? { ...c, title } : c)),
  );

/** @param by -1: to the left, 1: to the right */
export function shiftedColumn(list: ListRecord, scene: Scene, at: number, by: number): Step[] {
  const columns = [...list.columns];
  const [c] = columns.splice(at, 1);
  if (!c) return [];
  columns.splice(at + by, 0, c);
  return putColumns(list, scene, columns);
}

export const withoutColumn = (list: ListRecord, scene: Scene, at: number): Step[] =>
  putColumns(
    list,
    scene,
    list.columns.filter((_, k) => k !== at),
  );

/** The column at a place on the sheet. */
export function columnAt(list: ListRecord, scene: Scene, at: Vec2): number | undefined {
  const total = list.columns.reduce((sum, c) => sum + c.widthMm, 0);
  for (const block of drawList(list, scene.items, scene.ledger, scene.page(list.sheet), scene.one('sheet', list.sheet))) {
    const rect = rectOf(block.box);
    if (!contains(rect, at)) continue;
    let x = rect.x;
    for (const [i, c] of list.columns.entries()) {
      x += (c.widthMm * rect.width) / total;
      if (at[0] <= x) return i;
    }
  }
  return undefined;
}
