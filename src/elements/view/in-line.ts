import { rectOf } from '../../core/base/rect.ts';
import { dot, type Vec2, type Vec3 } from '../../core/base/vector.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { placeBeside } from '../../core/draft/beside.ts';
import type { ViewFrame } from '../../core/outline/directions.ts';
import type { Standard } from '../../core/sheet/paper.ts';
import { allowedOn, standingOn } from '../place.ts';
import type { Scene } from '../scene.ts';
import { viewRect } from './draw.ts';

/** Room that a view's label takes below it, mm. */
export const LABEL_MM = 14;

/** Where projection puts a view beside the one that it was projected from or whose cutting line it is seen by. */
export interface Projected {
  readonly align: 'level' | 'upright';
  /** From the parent's middle, on paper: one of ±x, ±y, y down. */
  readonly side: readonly [number, number];
}

/**
 * ISO 5456-2 and ASME Y14.3: in third angle a view stands on the side from which it is seen, in first angle on the other one;
 * for a section that is the side from which its arrows come, or the one to which they point. Undefined where the two share no
 * axis: such a view stands free, under its letters.
 */
export function projectedSide(frame: ViewFrame, parent: ViewFrame, standard: Standard): Projected | undefined {
  const same = (a: Vec3, b: Vec3) => dot(a, b) > 0.9999;
  const k = standard === 'iso' ? -1 : 1;
  const [x, y] = [dot(frame.toward, parent.right), dot(frame.toward, parent.up)];
  if (Math.abs(x) > 0.9999 && same(frame.up, parent.up)) return { align: 'level', side: [k * Math.sign(x), 0] };
  if (Math.abs(y) > 0.9999 && same(frame.right, parent.right)) return { align: 'upright', side: [0, -k * Math.sign(y)] };
  return undefined;
}

/** The view that another one was projected from, or whose cutting line shows it; on the same sheet. */
export function projectedFrom(scene: Scene, view: ViewRecord): ViewRecord | undefined {
  const parent = scene.one('view', view.parent ?? view.cut?.shownIn);
  return parent && parent.id !== view.id && parent.sheet === view.sheet ? parent : undefined;
}

/**
 * A place for a view beside another: where projection has it, or free where there is room.
 * @param box of what it shows: minX minY maxX maxY, view space, model mm
 * @param but a view that is not in the way: the one that is placed anew
 */
export function placeProjected(
  scene: Scene,
  parent: ViewRecord,
  frame: ViewFrame,
  box: readonly [number, number, number, number],
  scale: number,
  but?: string,
): Pick<ViewRecord, 'at' | 'pivot' | 'align' | 'parent'> {
  const own = rectOf(viewRect(parent, scene.result(parent.id)));
  const size: [number, number] = [(box[2] - box[0]) * scale, (box[3] - box[1]) * scale + LABEL_MM];
  const projected = projectedSide(frame, parent, scene.drawing.standard);
  const obstacles = standingOn(scene, parent.sheet, { id: parent.id, ...(but === undefined ? {} : { family: but }) });
  const place = placeBeside(own, projected?.side, size, allowedOn(scene, parent.sheet), obstacles);
  const pivot: Vec2 = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2];
  let [x, y] = place.at;
  y -= LABEL_MM / 2;
  const align = place.inLine && projected ? projected.align : null;
  if (align === 'level') y = parent.at[1] - (pivot[1] - parent.pivot[1]) * scale;
  if (align === 'upright') x = parent.at[0] + (pivot[0] - parent.pivot[0]) * scale;
  return { at: [x, y], pivot, align, parent: align ? parent.id : null };
}

/** A view that stands free, put where projection has it; undefined where there is no such place, or no room there. */
export function broughtInLine(scene: Scene, view: ViewRecord): ViewRecord | undefined {
  const parent = projectedFrom(scene, view);
  const projected = parent && projectedSide(view, parent, scene.drawing.standard);
  const result = scene.result(view.id);
  if (!parent || !projected || !result) return undefined;
  // It may stand there already, only not kept in line.
  const [dx, dy] = [view.at[0] - parent.at[0], view.at[1] - parent.at[1]];
  const map = scene.map(parent);
  const level = projected.align === 'level';
  const onSide = level ? dx * projected.side[0] > 0 && Math.abs(dx) > Math.abs(dy) : dy * projected.side[1] > 0 && Math.abs(dy) > Math.abs(dx);
  if (onSide) {
    const at: Vec2 = level ? [view.at[0], map.y(view.pivot[1])] : [map.x(view.pivot[0]), view.at[1]];
    return { ...view, at, align: projected.align, parent: parent.id };
  }
  const placed = placeProjected(scene, parent, view, result.box, view.scale, view.id);
  return placed.align ? { ...view, ...placed } : undefined;
}
