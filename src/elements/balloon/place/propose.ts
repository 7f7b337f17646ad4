import type { Component } from '../../../core/assembly/assembly.ts';
import { recordsOf, type BalloonRecord, type DrawingDocument, type ViewRecord } from '../../../core/document/records.ts';
import type { Step } from '../../../core/document/steps.ts';
import type { Item } from '../../../core/ledger/items.ts';
import { balloonPlace } from '../draw.ts';
import { viewRect } from '../../view/draw.ts';
import { inflate, type Rect } from '../../../core/base/rect.ts';
import { componentAt, type ViewResult } from '../../../core/views/compute-view.ts';
import { viewMapOf } from '../../../core/views/view-map.ts';
import { nearestEdge } from '../../../core/views/nearest-edge.ts';
import { anchorsOf } from './anchors.ts';
import { layoutBalloons, type BalloonRequest, type LayoutArea, type StandingBalloon } from './layout.ts';

/** Anchors looked at per item. */
const ANCHORS = 48;

/** Where balloons may stand on the sheet; the view's own box is known. */
export type BalloonArea = Omit<LayoutArea, 'view'>;

/** Balloons keep so far from the frame, mm. */
const OFF_FRAME_MM = 3;

/** Where balloons may stand: inside the frame, clear of obstacles. */
export const balloonAreaIn = (frame: Rect, obstacles: readonly Rect[], diameter: number): BalloonArea => ({
  allowed: inflate(frame, -OFF_FRAME_MM),
  obstacles,
  diameter,
});

/** A balloon as something that stands in the way of others. */
export function standingBalloon(b: BalloonRecord, view: ViewRecord): StandingBalloon {
  const { x, y, tipX, tipY } = balloonPlace(b, view);
  return { x, y, anchor: { x: tipX, y: tipY } };
}

/** A balloon that is wanted, and the components of which it may point at one. */
interface Wanted {
  readonly id: string;
  readonly components: readonly number[];
}

/** What placing decides about a balloon. */
type Placing = Pick<BalloonRecord, 'component' | 'anchor' | 'offset'>;

/**
 * A balloon for each item that has a visible outside edge in the view, as far as there is room around it.
 * @param idOf id for the balloon of a part
 */
export function proposeBalloons(
  view: ViewRecord,
  result: ViewResult,
  items: readonly Item[],
  components: readonly Component[],
  area: BalloonArea,
  idOf: (part: string) => string,
): { part: string; record: BalloonRecord }[] {
  // What is seen best comes first: there may not be room for all.
  const seen = (i: Item) => i.components.reduce((s, c) => s + (result.visibleArea[c] ?? 0), 0);
  const wanted = [...items].sort((a, b) => seen(b) - seen(a)).map((i) => ({ id: i.part, components: i.components }));
  return [...place(view, result, wanted, components, area)].map(([part, placing]) => ({
    part,
    record: { type: 'balloon', id: idOf(part), view: view.id, end: 'arrow', ...placing },
  }));
}

/**
 * Places the balloons of a view anew. Those that were put somewhere by hand stay, and so do leaders that end in a face.
 * An item's only balloon may point at another of its components; where it has several each stays with its own.
 * Where there is no room for all the others stay too.
 */
export function arrangeBalloons(
  doc: DrawingDocument,
  view: ViewRecord,
  result: ViewResult,
  items: readonly Item[],
  components: readonly Component[],
  area: BalloonArea,
): Step[] {
  const indexOf = new Map(components.map((c) => [c.path, c.index]));
  const itemOf = new Map(items.flatMap((i) => i.components.map((c) => [components[c]!.path, i] as const)));
  const here = recordsOf(doc, 'balloon').filter((b) => b.view === view.id && itemOf.has(b.component));
  const stays = (b: BalloonRecord) => b.byHand === true || b.end === 'dot';
  const moving = here.filter((b) => !stays(b));
  const alone = (b: BalloonRecord) => here.filter((x) => itemOf.get(x.component) === itemOf.get(b.component)).length === 1;
  const wanted = moving.map((b) => ({ id: b.id, components: alone(b) ? itemOf.get(b.component)!.components : [indexOf.get(b.component)!] }));
  const standing = here.filter(stays).map((b) => standingBalloon(b, view));
  const placed = place(view, result, wanted, components, { ...area, standing });
  return moving.flatMap((b): Step[] => {
    const placing = placed.get(b.id);
    return placing ? [{ op: 'put', record: { ...b, ...placing } }] : [];
  });
}

/** Steps in which a leader is followed, paper mm. */
const STEP_MM = 1;

/** How much of a leader lies over components that it does not point at, paper mm. */
function overOthers(view: ViewRecord, result: ViewResult, own: ReadonlySet<number>): NonNullable<BalloonRequest['over']> {
  const map = viewMapOf(view);
  return (a, x, y) => {
    const length = Math.hypot(x - a.x, y - a.y);
    const steps = Math.floor(length / STEP_MM);
    let over = 0;
    // Straight on paper is straight in the view, but for an interrupted one: its ends are mapped, not every step.
    const [vx, vy] = map.toView([a.x, a.y]);
    const [wx, wy] = map.toView([x, y]);
    for (let i = 1; i <= steps; i++) {
      const share = (i * STEP_MM) / length;
      const c = view.gaps
        ? componentAt(result, ...map.toView([a.x + (x - a.x) * share, a.y + (y - a.y) * share]))
        : componentAt(result, vx + (wx - vx) * share, vy + (wy - vy) * share);
      if (c >= 0 && !own.has(c)) over += STEP_MM;
    }
    return over;
  };
}

function place(view: ViewRecord, result: ViewResult, wanted: readonly Wanted[], components: readonly Component[], area: BalloonArea): Map<string, Placing> {
  const map = viewMapOf(view);
  const requests = wanted.map((one) => ({
    id: one.id,
    anchors: anchorsOf(result, new Set(one.components), ANCHORS).map((a) => ({ x: map.x(a.x), y: map.y(a.y), outX: a.outX, outY: -a.outY, view: a })),
    over: overOthers(view, result, new Set(one.components)),
  }));
  const own = new Map(wanted.map((one) => [one.id, one.components]));
  const [x, y, width, height] = viewRect(view, result);
  const out = new Map<string, Placing>();
  for (const p of layoutBalloons(requests, { ...area, view: { x, y, width, height }, rail: view.rail, ...(view.parallel ? { parallel: true } : {}) })) {
    const anchor = (p.anchor as (typeof requests)[number]['anchors'][number]).view;
    // Which of the components has the edge that the leader ends on.
    const aims = own.get(p.id)!.flatMap((c) => nearestEdge(result, anchor.x, anchor.y, c) ?? []);
    const aim = aims.reduce((a, b) => (b.distance < a.distance ? b : a), aims[0]!);
    if (!aim) continue;
    out.set(p.id, { component: components[aim.component]!.path, anchor: [anchor.x, anchor.y], offset: [p.x - view.at[0], p.y - view.at[1]] });
  }
  return out;
}
