import { without } from '../../core/base/without.ts';
import { normalize, type Vec2, type Vec3 } from '../../core/base/vector.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { frameFrom, type ViewFrame } from '../../core/outline/directions.ts';
import type { Standard } from '../../core/sheet/paper.ts';
import type { Scene } from '../scene.ts';
import { boxFromParts } from './extent.ts';
import { OF_ITS_OWN } from './part.ts';

/** A way out of a view: over one of its sides, or over a corner. On paper, x to the right and y down, each -1, 0 or 1. */
export type WayOut = readonly [x: -1 | 0 | 1, y: -1 | 0 | 1];

/**
 * The frame of what is projected from a view over a side or a corner. Over a side: third angle shows the side that faces the
 * new view, first angle the one that is turned away from it (ISO 5456-2). Over a corner: a pictorial, seen from that corner.
 */
export function projectedFrame(parent: ViewFrame, [x, y]: WayOut, standard: Standard): ViewFrame {
  const sum = (kx: number, ky: number, kz: number): Vec3 =>
    [0, 1, 2].map((i) => parent.right[i]! * kx + parent.up[i]! * ky + parent.toward[i]! * kz) as unknown as Vec3;
  if (x !== 0 && y !== 0) return frameFrom(normalize(sum(x, -y, 1)), parent.up);
  const k = standard === 'iso' ? -1 : 1;
  // A view to a side turns about the upright of its parent, one above or below about the level.
  return x !== 0 ? frameFrom(sum(k * x, 0, 0), parent.up) : { right: parent.right, up: sum(0, 0, k * y), toward: sum(0, -k * y, 0) };
}

/** Which way a place lies from a view's box, for pulling a neighbour out; undefined over the box itself. */
export function wayOutTo(box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number }, [x, y]: Vec2): WayOut | undefined {
  const side = (v: number, from: number, size: number): -1 | 0 | 1 => (v < from ? -1 : v > from + size ? 1 : 0);
  const way: WayOut = [side(x, box.x, box.width), side(y, box.y, box.height)];
  return way[0] || way[1] ? way : undefined;
}

/**
 * A view projected from another one, in line with it over a side; over a corner it stands free.
 * @param at where its middle shall be on the sheet, mm; what is in line keeps only the free coordinate
 */
export function neighbour(scene: Scene, parent: ViewRecord, way: WayOut, at: Vec2, id: string, name: string): ViewRecord {
  const seen = scene.seenAs(parent);
  const frame = projectedFrame(seen, way, scene.drawing.standard);
  const box = boxFromParts(scene, frame, seen);
  const pivot: Vec2 = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2];
  const align = way[0] && way[1] ? null : way[0] ? 'level' : 'upright';
  const map = scene.map(parent);
  // Views in line share the axis along which they stand.
  const [x, y] = [align === 'upright' ? map.x(pivot[0]) : at[0], align === 'level' ? map.y(pivot[1]) : at[1]];
  const whole = without(seen, ...OF_ITS_OWN, 'second');
  return {
    ...whole,
    ...frame,
    id,
    name,
    at: [x, y],
    pivot,
    label: false,
    tangent: align === null,
    parent: parent.id,
    align,
    cut: null,
  };
}
