import type { Rect } from '../core/base/rect.ts';
import { inflate, rectOf } from '../core/base/rect.ts';
import { composeSheet } from './compose.ts';
import { homeOf, type Scene } from './scene.ts';

/** New things keep so far from the frame, mm. */
export const OFF_FRAME_MM = 4;

/** Where new things may stand on a sheet: inside the frame. */
export const allowedOn = (scene: Scene, sheet: string): Rect => inflate(scene.page(sheet).geometry.frame, -OFF_FRAME_MM);

/**
 * What stands on a sheet and is in the way of something new, paper mm.
 * @param but what is not: a view with all that belongs to it, an element alone, or every view itself
 */
export function standingOn(scene: Scene, sheet: string, but: { readonly family?: string; readonly id?: string; readonly views?: false } = {}): Rect[] {
  const inTheWay = (id: string) => {
    const record = scene.document[id.split('/')[0]!];
    if (record?.type === 'view' && but.views === false) return false;
    return id !== but.id && id !== but.family && (record === undefined || but.family === undefined || homeOf(record) !== but.family);
  };
  return composeSheet(scene, sheet)
    .groups.filter((g) => g.role !== 'frame' && inTheWay(g.id))
    .map((g) => rectOf(g.box));
}
