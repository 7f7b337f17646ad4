import { freeRoom, OFF_FRAME_MM } from '../place.ts';
import type { Scene } from '../scene.ts';
import type { CodeRecord } from './kind.ts';

const SIZE_MM = 22;

/** A new code where nothing stands, nearest to the lower left corner of the frame; in that corner where there is no room. */
export function newCode(scene: Scene, sheet: string, id: string): CodeRecord {
  const { frame } = scene.page(sheet).geometry;
  const corner = [frame.x + OFF_FRAME_MM, frame.y + frame.height - SIZE_MM - OFF_FRAME_MM] as const;
  return { type: 'code', id, sheet, at: freeRoom(scene, sheet, [SIZE_MM, SIZE_MM], corner) ?? corner, sizeMm: SIZE_MM };
}
