import { rectOf } from '../../core/base/rect.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import type { RecordOf, ViewRecord } from '../../core/document/records.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { inkOf, joined, segmentsOf } from '../../core/picture/ink.ts';
import { NOTHING_SOLID } from '../../core/picture/solid.ts';
import type { SheetStyle } from '../../core/sheet/paper.ts';
import type { Kind } from '../kind.ts';
import type { Scene } from '../scene.ts';
import { followTarget, isLost } from '../target.ts';
import { viewRect } from '../view/draw.ts';
import { axisLinesOf, type AxisLine } from './axes.ts';
import { byHand, handLine } from './by-hand.ts';
import { circlesOf, isCircle, type Circle } from './circles.ts';
import { drawAxes, drawCentres, drawPitch } from './draw.ts';
import { pitchCirclesOf, type PitchCircle } from './pitch.ts';

export type CentreRecord = RecordOf<'centre'>;

/** A single mark is taken hold of this near to its centre, mm. */
const GRAB_MM = 1.2;

/** Centre marks and centrelines (ISO 128-2, line type 04.1): of one circle or axis, drawn by hand, or of all that a view shows. */
export const centreKind: Kind<CentreRecord> = {
  title: 'centre mark',
  layer: 2.5,

  draw(record, scene) {
    const view = scene.one('view', record.view)!;
    const items = itemsOf(record, view, scene, scene.page(view.sheet).style);
    const lost = record.circle?.lost === true || (record.of ?? []).some(isLost);
    const ink = items.length ? joined(inkOf(items)) : { ...rectOf(viewRect(view, scene.result(view.id))), width: 0, height: 0 };
    const label = lost ? 'Centre mark that lost its circle' : record.of ? 'Centreline' : record.circle ? 'Centre mark' : `Centrelines of ${view.name}`;
    const [x, y] = [ink.x + ink.width / 2, ink.y + ink.height / 2];
    // A single one is taken hold of where its lines cross; all of a view are not in the way of what they mark.
    const grab = record.circle ? { x: x - GRAB_MM, y: y - GRAB_MM, width: 2 * GRAB_MM, height: 2 * GRAB_MM } : { x, y, width: 0, height: 0 };
    const grabLines = record.of ? items.flatMap((i) => (i.kind === 'stroke' ? segmentsOf(i.d) : [])) : [];
    // They cross whatever is there: nothing keeps clear of them.
    return [{ id: record.id, role: 'centre', label, box: [ink.x, ink.y, ink.width, ink.height], items, ink, solid: NOTHING_SOLID, grab, grabLines }];
  },

  handles(record, scene) {
    const view = scene.one('view', record.view);
    const line = view && handLine(record, view, scene);
    if (!line) return [];
    const { from, to, past } = onPaper(line, record, view, scene);
    return [
      { name: 'start', at: beyond(from, to, past[0]) },
      { name: 'end', at: beyond(to, from, past[1]) },
    ];
  },

  /** Its ends are pulled: how far they run past what it is the axis of. */
  drag(record, by, scene, handle) {
    const view = scene.one('view', record.view);
    const line = view && handLine(record, view, scene);
    if (!line || !handle) return [];
    const { from, to, past } = onPaper(line, record, view, scene);
    const l = Math.hypot(to[0] - from[0], to[1] - from[1]) || 1;
    const d = (by[0] * (to[0] - from[0]) + by[1] * (to[1] - from[1])) / l;
    const next: Vec2 = handle === 'start' ? [past[0] - d, past[1]] : [past[0], past[1] + d];
    return next[0] + next[1] + l < 1 ? [] : [{ op: 'put', record: { ...record, past: next } }];
  },

  follow(record, change) {
    if (!record.of) return record;
    const of = record.of.map((t) => followTarget(t, record.view, change));
    return of.every((t, i) => t === record.of![i]) ? record : { ...record, of };
  },

  findings(records, sheet) {
    return records
      .filter((r) => r.circle?.lost === true || (r.of ?? []).some(isLost))
      .map((r) => ({
        code: 'LOST_EDGE',
        severity: 'must',
        sheet,
        about: [r.id],
        text: `A ${r.of ? 'centreline lost what it was drawn for' : 'centre mark lost its circle'}: the part has another shape now. Mark it anew, or remove the mark.`,
      }));
  },
};

function itemsOf(record: CentreRecord, view: ViewRecord, scene: Scene, style: SheetStyle): DisplayItem[] {
  const map = scene.map(view);
  if (record.of) return byHand(record, view, scene, style);
  if (record.circle) return drawCentres(markedBy(record, scene), map, style);
  const off = new Set(record.offKinds);
  return [
    ...(off.has('pitch') ? [] : pitchesOf(record, scene).flatMap((p) => drawPitch(p, map, style))),
    ...(off.has('circles') ? [] : drawCentres(markedBy(record, scene), map, style)),
    ...(off.has('axes') ? [] : drawAxes(axesMarkedBy(record, view, scene), map, style)),
  ];
}

function onPaper(line: { readonly from: Vec2; readonly to: Vec2 }, record: CentreRecord, view: ViewRecord, scene: Scene) {
  const map = scene.map(view);
  return { from: map.toPaper(line.from), to: map.toPaper(line.to), past: record.past ?? ([3, 3] as const) };
}

function beyond(p: Vec2, other: Vec2, past: number): Vec2 {
  const l = Math.hypot(p[0] - other[0], p[1] - other[1]) || 1;
  return [p[0] + ((p[0] - other[0]) / l) * past, p[1] + ((p[1] - other[1]) / l) * past];
}

/** The circles that a record marks, as the view shows them now. */
export function markedBy(record: CentreRecord, scene: Scene): readonly Circle[] {
  const result = scene.result(record.view);
  if (!result || record.of) return [];
  const circles = circlesOf(result);
  const { circle, off } = record;
  const view = scene.one('view', record.view)!;
  if (circle) return circles.filter((c) => isCircle(scene, view, c, circle));
  const without = componentsOff(record, scene);
  return circles.filter((c) => !without.has(c.component) && !off.some((o) => isCircle(scene, view, c, o)));
}

/** The axes seen from the side that a record marks: all but those that are off. */
export function axesMarkedBy(record: CentreRecord, view: ViewRecord, scene: Scene): readonly AxisLine[] {
  const without = componentsOff(record, scene);
  const isOff = (o: AxisLine['on'][number]) => {
    if (without.has(o.component)) return true;
    const component = scene.components[o.component]!;
    const faces = scene.featuresIn(view, o.component)?.rounds[o.round]?.faces ?? [];
    return (record.offFaces ?? []).some((f) => f.component === component.path && faces.includes(f.face));
  };
  return axisLinesOf(scene, view).filter((l) => !l.on.every(isOff));
}

const pitchesOf = (record: CentreRecord, scene: Scene): readonly PitchCircle[] => pitchCirclesOf(markedBy(record, scene));

const componentsOff = (record: CentreRecord, scene: Scene): ReadonlySet<number> =>
  new Set((record.offOf ?? []).flatMap((p) => scene.component(p)?.index ?? []));
