import { overlaps, type Rect } from '../../core/base/rect.ts';
import type { ListRecord } from '../../core/document/records.ts';
import { listColumnsFor } from '../../core/ledger/list-rows.ts';
import { freeRoom, standingOn } from '../place.ts';
import type { Scene } from '../scene.ts';
import { listRects } from './layout.ts';

/** Corners of the frame that a list is docked to, after its usual place over the title block. */
const CORNERS = ['top right', 'top left', 'bottom left'] as const;

/** Another parts list on a sheet: over the title block, in another corner or anywhere else, wherever nothing is. @returns whether there was such a place */
export function newList(scene: Scene, sheet: string, id: string): { readonly record: ListRecord; readonly free: boolean } {
  const { frame } = scene.page(sheet).geometry;
  const usual: ListRecord = { type: 'list', id, sheet, columns: listColumnsFor(scene.drawing.standard) };
  const taken = standingOn(scene, sheet);
  const inFrame = (r: Rect) => r.x >= frame.x - 1e-6 && r.y >= frame.y - 1e-6;
  const docked = [usual, ...CORNERS.map((corner): ListRecord => ({ ...usual, corner }))].find((l) =>
    listRects(l, scene).every((r) => inFrame(r) && !taken.some((t) => overlaps(r, t))),
  );
  if (docked) return { record: docked, free: true };
  const { width, height } = listRects({ ...usual, at: [frame.x, frame.y] }, scene)[0]!;
  const at = freeRoom(scene, sheet, [width, height], [frame.x, frame.y]);
  return at ? { record: { ...usual, at }, free: true } : { record: usual, free: false };
}
