import type { Vec2 } from '../../../core/base/vector.ts';
import type { BalloonRecord, ViewRecord } from '../../../core/document/records.ts';
import { standingOn } from '../../place.ts';
import type { Scene } from '../../scene.ts';
import { itemsOfBalloon } from '../says.ts';
import { isModelled } from '../../../core/ledger/items.ts';
import { viewRect } from '../../view/draw.ts';
import { nearestEdge } from '../../../core/views/nearest-edge.ts';
import { balloonAreaIn, proposeBalloons, standingBalloon, type BalloonArea } from './propose.ts';

/** A new balloon stands so far beside its view, and so much higher than what it points at, mm. */
const OFF_VIEW_MM = 13;
const HIGHER_MM = 12;

/** Where balloons of a view may stand on its sheet: inside the frame, clear of everything but the view. Its own balloons give way. */
export function balloonAreaOf(scene: Scene, view: ViewRecord): BalloonArea {
  const { geometry, style } = scene.page(view.sheet);
  return balloonAreaIn(geometry.frame, standingOn(scene, view.sheet, { family: view.id }), style.balloon);
}

/** A balloon for a component, pressed at a place on paper: beside the view, on the nearer side. Undefined when it shows no edge. */
export function newBalloon(scene: Scene, view: ViewRecord, component: number, at: Vec2, id: string): BalloonRecord | undefined {
  const result = scene.result(view.id);
  const aim = result && nearestEdge(result, ...scene.map(view).toView(at), component);
  if (!aim) return undefined;
  const [x, y, width, height] = viewRect(view, result);
  const left = at[0] < x + width / 2;
  return {
    type: 'balloon',
    id,
    view: view.id,
    component: scene.components[component]!.path,
    anchor: [aim.x, aim.y],
    offset: [(left ? x - OFF_VIEW_MM : x + width + OFF_VIEW_MM) - view.at[0], Math.min(y + height, Math.max(y, at[1] - HIGHER_MM)) - view.at[1]],
    end: 'arrow',
  };
}

/**
 * Balloons for every item that has none yet and can be seen in the view. Those that are there are in the way.
 * @returns also how many items have none
 */
export function identifyRest(
  scene: Scene,
  view: ViewRecord,
  idOf: (part: string) => string,
): { readonly records: readonly BalloonRecord[]; readonly open: number } {
  const result = scene.result(view.id);
  const done = new Set(scene.all('balloon').flatMap((b) => itemsOfBalloon(b, scene).map((i) => i.part)));
  const open = scene.items.filter((i) => isModelled(i) && !done.has(i.part));
  if (!result) return { records: [], open: open.length };
  const standing = scene.all('balloon').flatMap((b) => (b.view === view.id ? [standingBalloon(b, view)] : []));
  const proposed = proposeBalloons(view, result, open, scene.components, { ...balloonAreaOf(scene, view), standing }, idOf);
  return { records: proposed.map((p) => p.record), open: open.length };
}
