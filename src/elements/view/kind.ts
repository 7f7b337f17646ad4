import type { Vec2 } from '../../core/base/vector.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { Drawn } from '../../core/picture/display-list.ts';
import { scaleText } from '../../core/sheet/formats.ts';
import { componentAt, type ViewResult } from '../../core/views/compute-view.ts';
import { nearestEdge } from '../../core/views/nearest-edge.ts';
import type { Kind } from '../kind.ts';
import type { Scene } from '../scene.ts';
import { drawView, viewRect, type ViewContext } from './draw.ts';
import { viewFindings } from './findings.ts';
import { moveView } from './move.ts';

/** A view of the assembly: from outside, cut, or apart. */
export const viewKind: Kind<ViewRecord> = {
  title: 'view',
  layer: 2,
  draw: (view, scene) => [drawnOnce(view, scene)],
  press(view, at, scene, grace) {
    const component = componentNear(view, at, scene, grace);
    const item = scene.itemOf(component);
    return item && component !== undefined ? { kind: 'item', part: item.part, component, view: view.id } : undefined;
  },
  drag: (view, [dx, dy], scene) => moveView(scene.document, view.id, dx, dy),
  findings: viewFindings,
  texts(view, scene) {
    // The letters of a section are not typed: they belong to its cutting line too.
    if (!view.label || view.cut?.letter) return [];
    const [x, y, width, height] = viewRect(view, scene.result(view.id));
    const size = scene.page(view.sheet).style.item;
    const box = { x: x + width / 2 - Math.max(40, width) / 2, y: y + height + 8 - size, width: Math.max(40, width), height: size + 3 };
    return [{ name: 'name', label: 'Name of view', box, height: size, value: view.name, write: (name) => [{ op: 'put', record: { ...view, name } }] }];
  },
};

/** The component that a view shows at a place on its sheet; beside thin edges the one that is near. */
export function componentNear(view: ViewRecord, at: Vec2, scene: Scene, grace: number): number | undefined {
  const result = scene.result(view.id);
  if (!result) return undefined;
  const [x, y] = scene.map(view).toView(at);
  const hit = componentAt(result, x, y);
  if (hit >= 0) return hit;
  const near = nearestEdge(result, x, y);
  return near && near.distance * view.scale < grace ? near.component : undefined;
}

interface Known {
  readonly result: ViewResult | undefined;
  readonly key: string;
  readonly cuts: readonly ViewRecord[];
  readonly drawn: Drawn;
}

/** Records never change, they are replaced: a view drawn once for a record and a result is drawn. */
const known = new WeakMap<ViewRecord, Known>();

function drawnOnce(view: ViewRecord, scene: Scene): Drawn {
  const { style } = scene.page(view.sheet);
  const result = scene.result(view.id);
  const cuts = scene.sectionsShownIn(view.id);
  const scaleInLabel = new Set(scene.viewsOn(view.sheet).map((v) => scaleText(v.scale))).size > 1;
  const context: ViewContext = { cuts, scaleInLabel, families: view.cut ? scene.families : [] };
  const key = `${style.wide}/${scaleInLabel}/${context.families.join()}`;
  const before = known.get(view);
  const sameCuts = before?.cuts.length === cuts.length && cuts.every((c, i) => c === before.cuts[i]);
  if (before && before.result === result && before.key === key && sameCuts) return before.drawn;
  const drawn = drawView(view, result, style, context);
  known.set(view, { result, key, cuts, drawn });
  return drawn;
}
