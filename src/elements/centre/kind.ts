import { rectOf } from '../../core/base/rect.ts';
import type { RecordOf } from '../../core/document/records.ts';
import { inkOf, joined } from '../../core/picture/ink.ts';
import { NOTHING_SOLID } from '../../core/picture/solid.ts';
import type { Kind } from '../kind.ts';
import type { Scene } from '../scene.ts';
import { viewRect } from '../view/draw.ts';
import { circlesOf, isCircle, type Circle } from './circles.ts';
import { drawCentres } from './draw.ts';

export type CentreRecord = RecordOf<'centre'>;

/** A single mark is taken hold of this near to its centre, mm. */
const GRAB_MM = 1.2;

/** Centre marks and centrelines of circles (ISO 128-2, line type 04.1): of one circle, or of all that a view shows. */
export const centreKind: Kind<CentreRecord> = {
  title: 'centre mark',
  layer: 2.5,

  draw(record, scene) {
    const view = scene.one('view', record.view)!;
    const items = drawCentres(markedBy(record, scene), scene.map(view), scene.page(view.sheet).style);
    const lost = record.circle?.lost === true;
    const ink = items.length ? joined(inkOf(items)) : { ...rectOf(viewRect(view, scene.result(view.id))), width: 0, height: 0 };
    const label = lost ? 'Centre mark that lost its circle' : record.circle ? 'Centre mark' : `Centre marks of ${view.name}`;
    const [x, y] = [ink.x + ink.width / 2, ink.y + ink.height / 2];
    // A single one is taken hold of where its lines cross; all of a view are not in the way of what they mark.
    const grab = record.circle ? { x: x - GRAB_MM, y: y - GRAB_MM, width: 2 * GRAB_MM, height: 2 * GRAB_MM } : { x, y, width: 0, height: 0 };
    // They cross whatever is there: nothing keeps clear of them.
    return [{ id: record.id, role: 'centre', label, box: [ink.x, ink.y, ink.width, ink.height], items, ink, solid: NOTHING_SOLID, grab }];
  },

  findings(records, sheet) {
    return records
      .filter((r) => r.circle?.lost)
      .map((r) => ({
        code: 'LOST_EDGE',
        severity: 'trouble',
        sheet,
        about: [r.id],
        text: 'A centre mark lost its circle: the part has another shape now. Mark the circle anew, or remove the mark.',
      }));
  },
};

/** The circles that a record marks, as the view shows them now. */
export function markedBy(record: CentreRecord, scene: Scene): readonly Circle[] {
  const result = scene.result(record.view);
  if (!result) return [];
  const circles = circlesOf(result);
  const { circle, off } = record;
  return circle ? circles.filter((c) => isCircle(scene, c, circle)) : circles.filter((c) => !off.some((o) => isCircle(scene, c, o)));
}
