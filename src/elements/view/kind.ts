import type { Vec2 } from '../../core/base/vector.ts';
import type { ViewHatch } from './draw-caps.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { Drawn } from '../../core/picture/display-list.ts';
import { componentAt, type ViewResult } from '../../core/views/compute-view.ts';
import { nearestEdge } from '../../core/views/nearest-edge.ts';
import type { Kind } from '../kind.ts';
import type { Scene } from '../scene.ts';
import { mainScale, sameScale } from './main-scale.ts';
import type { LineLook, Pen } from './draw-lines.ts';
import { drawView, labelDrop, viewRect, type ViewContext } from './draw.ts';
import { drawThreads, simplified } from './draw-threads.ts';
import { viewFindings } from './findings.ts';
import { moveView } from './move.ts';
import { projectKnobs } from './knobs.ts';
import { movedPart } from './part.ts';
import { dragPart, partHandles } from './part-handles.ts';
import { dragSection, sectionHandles } from './section-handles.ts';

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
  handles: (view, scene) => [...partHandles(view, scene), ...sectionHandles(view, scene)],
  knobs: projectKnobs,
  drag(view, by, scene, handle) {
    if (handle === undefined) return moveView(scene.document, view.id, ...by);
    const record = dragPart(view, by, scene, handle) ?? dragSection(view, by, scene, handle);
    return record ? [{ op: 'put', record }] : [];
  },
  findings: viewFindings,
  follow: (view, change) => movedPart(view, (p, path) => change.point(view.id, p, path)),
  texts(view, scene) {
    // Letters are not typed here: they stand at the cutting line or the outline too.
    if (!view.label || view.cut?.letter || view.detail?.letter) return [];
    const [x, y, width, height] = viewRect(view, scene.result(view.id));
    const { style } = scene.page(view.sheet);
    const size = style.item;
    const box = { x: x + width / 2 - Math.max(40, width) / 2, y: y + height + labelDrop(view, style) - 1 - size, width: Math.max(40, width), height: size + 3 };
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
  /** Other records that its picture shows or takes from. */
  readonly others: readonly unknown[];
  readonly drawn: Drawn;
}

/** Records never change, they are replaced: a view drawn once for a record and a result is drawn. */
const known = new WeakMap<ViewRecord, Known>();

function drawnOnce(view: ViewRecord, scene: Scene): Drawn {
  const { style } = scene.page(view.sheet);
  const result = scene.result(view.id);
  const cuts = scene.sectionsShownIn(view.id);
  const details = scene.detailsOf(view.id);
  const scaleInLabel = !sameScale(view.scale, mainScale(scene, view.sheet));
  const families = view.cut || view.detail ? scene.families : [];
  const key = `${style.wide}/${scaleInLabel}/${families.join()}`;
  const arrows = scene
    .arrowsOn(view.id)
    .map((v) => ({ view: v, sheet: v.sheet === view.sheet ? undefined : scene.sheets.findIndex((s) => s.id === v.sheet) + 1 }));
  const others = [...cuts, ...details, ...sourcesOf(view, scene), ...arrows.flatMap((a) => [a.view, a.sheet]), scene.threads];
  const before = known.get(view);
  if (before && before.result === result && before.key === key && before.others.length === others.length && others.every((c, i) => c === before.others[i]))
    return before.drawn;
  const context: ViewContext = {
    cuts,
    details,
    arrows,
    scaleInLabel,
    families,
    look: lookOf(view, scene),
    hatch: hatchOf(scene.seenAs(view), scene),
    whole: scene.whole(view.id),
    threads: (seen, map) => drawThreads(view, scene, seen, map, style),
  };
  const drawn = drawView(scene.seenAs(view), result, style, context);
  known.set(view, { result, key, others, drawn });
  return drawn;
}

/** The views that a detail takes from. */
function sourcesOf(view: ViewRecord, scene: Scene): ViewRecord[] {
  const out: ViewRecord[] = [];
  for (let v = scene.one('view', view.detail?.of); v && !out.includes(v); v = scene.one('view', v.detail?.of)) out.push(v);
  return out;
}

function hatchOf(view: ViewRecord, scene: Scene): ReadonlyMap<number, ViewHatch> {
  const own = new Map<number, ViewHatch>();
  for (const { of, pattern, ...hatch } of view.hatch ?? [])
    for (const p of of) {
      const c = scene.component(p)?.index;
      if (c !== undefined) own.set(c, pattern === 'none' ? 'none' : { ...hatch, pattern });
    }
  return own;
}

function lookOf(view: ViewRecord, scene: Scene): LineLook {
  const indices = (paths: readonly string[]) => paths.flatMap((p) => scene.component(p)?.index ?? []);
  const pens = new Map<number, Pen>();
  for (const p of view.pens ?? []) for (const c of indices(p.of)) pens.set(c, { width: p.width, color: p.color });
  return {
    thinMm: view.thinMm ?? 0,
    hiddenOf: view.hiddenOf && new Set(indices(view.hiddenOf)),
    tangentWide: view.tangentWide,
    noEdges: view.shaded ? view.noEdges : undefined,
    pens: pens.size ? pens : undefined,
    leftOut: simplified(scene),
  };
}
