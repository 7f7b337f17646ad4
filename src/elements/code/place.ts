import { inflate, overlaps, type Rect } from '../../core/base/rect.ts';
import { composeSheet } from '../compose.ts';
import type { Scene } from '../scene.ts';
import type { CodeRecord } from './kind.ts';

const SIZE_MM = 22;
const AIR_MM = 2;

/** A new code where nothing stands: along the foot of the frame from the left, then up; in the lower left corner where there is no room. */
export function newCode(scene: Scene, sheet: string, id: string): CodeRecord {
  const { frame } = scene.page(sheet).geometry;
  const taken = composeSheet(scene, sheet).groups.flatMap((g) => (g.role === 'frame' ? [] : [inflate(g.ink, AIR_MM)]));
  const free = (x: number, y: number) => !taken.some((t) => overlaps({ x, y, width: SIZE_MM, height: SIZE_MM } satisfies Rect, t));
  const [left, low] = [frame.x + AIR_MM, frame.y + frame.height - SIZE_MM - AIR_MM];
  for (let y = low; y > frame.y; y -= SIZE_MM / 2)
    for (let x = left; x + SIZE_MM < frame.x + frame.width; x += SIZE_MM / 2) if (free(x, y)) return { type: 'code', id, sheet, at: [x, y], sizeMm: SIZE_MM };
  return { type: 'code', id, sheet, at: [left, low], sizeMm: SIZE_MM };
}
