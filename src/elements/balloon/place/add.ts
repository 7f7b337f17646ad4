import type { Vec2 } from '../../../core/base/vector.ts';
import type { BalloonRecord, ViewRecord } from '../../../core/document/records.ts';
import { standingOn } from '../../place.ts';
import type { Scene } from '../../scene.ts';
import { itemsOfBalloon } from '../says.ts';
import { contains, rectOf, type Rect } from '../../../core/base/rect.ts';
import { HIDDEN } from '../../../core/outline/linework.ts';
import { visibleOnPaper } from '../../../core/proof/coverage.ts';
import { isModelled, type Item } from '../../../core/ledger/items.ts';
import { viewRect } from '../../view/draw.ts';
import { nearestEdge } from '../../../core/views/nearest-edge.ts';
import { isFree } from './free.ts';
import type { LayoutArea } from './layout.ts';
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
  const wanted: Vec2 = [at[0] < x + width / 2 ? x - OFF_VIEW_MM : x + width + OFF_VIEW_MM, Math.min(y + height, Math.max(y, at[1] - HIGHER_MM))];
  const [px, py] = freeBeside([x, y, width, height], wanted, standingArea(scene, view, id));
  return {
    type: 'balloon',
    id,
    view: view.id,
    component: scene.components[component]!.path,
    anchor: [aim.x, aim.y],
    offset: [px - view.at[0], py - view.at[1]],
    end: 'arrow',
  };
}

/** Where a balloon may stand beside its view, once for each state of a drawing: a pointer that moves asks often. */
const areas = new WeakMap<Scene, Map<string, LayoutArea>>();

function standingArea(scene: Scene, view: ViewRecord, id: string): LayoutArea {
  const known = areas.get(scene) ?? new Map<string, LayoutArea>();
  areas.set(scene, known);
  const key = `${view.id}\n${id}`;
  let area = known.get(key);
  if (!area) {
    const standing = scene.all('balloon').flatMap((b) => (b.view === view.id && b.id !== id ? [standingBalloon(b, view)] : []));
    area = { ...balloonAreaOf(scene, view), view: rectOf(viewRect(view, scene.result(view.id))), standing };
    known.set(key, area);
  }
  return area;
}

/** The free place on the left, the right, above or below a view that is nearest to a wanted one; that one where there is none. */
function freeBeside([x, y, width, height]: readonly [number, number, number, number], wanted: Vec2, area: LayoutArea): Vec2 {
  const step = area.diameter / 4;
  let best: Vec2 = wanted;
  let least = Infinity;
  const attempt = (px: number, py: number) => {
    const off = Math.hypot(px - wanted[0], py - wanted[1]);
    if (off < least && isFree(px, py, area)) [best, least] = [[px, py], off];
  };
  attempt(...wanted);
  if (least === 0) return best;
  for (const far of [OFF_VIEW_MM, OFF_VIEW_MM + area.diameter * 1.3]) {
    for (let v = y - far; v <= y + height + far; v += step) {
      attempt(x - far, v);
      attempt(x + width + far, v);
    }
    for (let u = x - far; u <= x + width + far; u += step) {
      attempt(u, y - far);
      attempt(u, y + height + far);
    }
  }
  return best;
}

/** A balloon with a second leader, to the piece of its item that is seen best besides its own. */
export function withSecond(b: BalloonRecord, scene: Scene): BalloonRecord | undefined {
  const result = scene.result(b.view);
  const own = scene.component(b.component)?.index;
  const others = scene.itemAt(b.component)?.components.filter((c) => c !== own && (result?.visibleArea[c] ?? 0) > 0) ?? [];
  for (const c of [...others].sort((x, y) => result!.visibleArea[y]! - result!.visibleArea[x]!)) {
    const aim = nearestEdge(result!, ...b.anchor, c);
    if (aim) return { ...b, second: { component: scene.components[c]!.path, anchor: [aim.x, aim.y] } };
  }
  return undefined;
}

/** Balloons for every item that has none yet, each in the view of a sheet that shows most of it on paper. */
export function identifyOnSheet(scene: Scene, sheet: string, idOf: (part: string) => string): BalloonRecord[] {
  const views = scene.viewsOn(sheet).filter((v) => !v.off && scene.result(v.id));
  const done = new Set(scene.all('balloon').flatMap((b) => itemsOfBalloon(b, scene).map((i) => i.part)));
  const best = new Map<string, Item[]>();
  for (const i of scene.items) {
    if (!isModelled(i) || done.has(i.part)) continue;
    const seen = views.map((v) => visibleOnPaper(i, scene.result(v.id)!.visibleArea, v.scale));
    const most = Math.max(...seen, 0);
    if (most > 0) {
      const view = views[seen.indexOf(most)]!.id;
      best.set(view, [...(best.get(view) ?? []), i]);
    }
  }
  return [...best].flatMap(([id, items]) => identified(scene, scene.one('view', id)!, items, idOf));
}

/** Balloons for items in a view; those that are there are in the way. */
export function identified(scene: Scene, view: ViewRecord, items: readonly Item[], idOf: (part: string) => string): BalloonRecord[] {
  const result = scene.result(view.id);
  if (!result) return [];
  const standing = scene.all('balloon').flatMap((b) => (b.view === view.id ? [standingBalloon(b, view)] : []));
  return proposeBalloons(view, result, items, scene.components, { ...balloonAreaOf(scene, view), standing }, idOf).map((p) => p.record);
}

/** Balloons for every item that is seen in a view and has none there, whatever other views say. Those that are there are in the way. */
export function identifyView(
  scene: Scene,
  view: ViewRecord,
  idOf: (part: string) => string,
): { readonly records: readonly BalloonRecord[]; readonly open: number } {
  const areas = scene.result(view.id)?.visibleArea;
  const here = new Set(scene.at(view.id).flatMap((r) => (r.type === 'balloon' ? itemsOfBalloon(r, scene) : [])));
  const open = scene.items.filter((i) => isModelled(i) && !here.has(i) && areas && i.components.some((c) => (areas[c] ?? 0) > 0));
  return { records: identified(scene, view, open, idOf), open: open.length };
}

/** Items without a balloon in a view of which something is seen inside a window. @param window paper mm */
export function itemsInWindow(scene: Scene, view: ViewRecord, window: Rect): Item[] {
  const result = scene.result(view.id);
  if (!result) return [];
  const map = scene.map(view);
  const { lines } = result;
  const found = new Set<number>();
  for (let i = 0; i < lines.kind.length; i++) {
    if (lines.kind[i]! & HIDDEN) continue;
    const c = lines.component[i]!;
    if (found.has(c)) continue;
    for (let p = lines.start[i]!; p < lines.start[i + 1]!; p++)
      if (contains(window, [map.x(lines.xy[p * 2]!), map.y(lines.xy[p * 2 + 1]!)])) {
        found.add(c);
        break;
      }
  }
  const here = new Set(scene.at(view.id).flatMap((r) => (r.type === 'balloon' ? itemsOfBalloon(r, scene) : [])));
  return scene.items.filter((i) => !here.has(i) && i.components.some((c) => found.has(c)));
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
  const done = new Set(scene.all('balloon').flatMap((b) => itemsOfBalloon(b, scene).map((i) => i.part)));
  const open = scene.items.filter((i) => isModelled(i) && !done.has(i.part));
  return { records: identified(scene, view, open, idOf), open: open.length };
}
