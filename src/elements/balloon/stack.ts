import type { BalloonRecord, ViewRecord } from '../../core/document/records.ts';
import { applySteps, type Step } from '../../core/document/steps.ts';
import { isFastener } from '../../core/assembly/role.ts';
import { axesOf, type PlacedFeatures } from '../../core/features/axes.ts';
import type { Scene } from '../scene.ts';
import { itemsOfBalloon } from './says.ts';

const fasteners = (scene: Scene, c: number): boolean => {
  const component = scene.components[c]!;
  return isFastener(component, scene.assembly.parts[component.part]!);
};

/**
 * What is fastened with the component that a balloon points at: bolt, washers and nut about one axis, in the order in which they
 * sit on it. Paths, one for each item; empty when it is no fastener or stands alone.
 */
export function fastenedWith(b: BalloonRecord, scene: Scene): string[] {
  const own = scene.component(b.component);
  if (!own || !fasteners(scene, own.index)) return [];
  const placed = scene.components.flatMap((c): PlacedFeatures[] => {
    const features = fasteners(scene, c.index) ? scene.features(c.index) : undefined;
    return features ? [{ component: c.index, features, placement: c.placement }] : [];
  });
  const axis = axesOf(placed).find((a) => a.on.some((o) => o.component === own.index));
  if (!axis) return [];
  const middles = new Map<number, number>();
  for (const o of axis.on) middles.set(o.component, middles.has(o.component) ? middles.get(o.component)! : (o.from + o.to) / 2);
  const at = middles.get(own.index)!;
  const order = [...middles].filter(([c]) => c !== own.index).sort((x, y) => Math.abs(x[1] - at) - Math.abs(y[1] - at));
  const seen = new Set([scene.itemOf(own.index)]);
  return order.flatMap(([c]) => {
    const item = scene.itemOf(c);
    if (!item || seen.has(item)) return [];
    seen.add(item);
    return [scene.components[c]!.path];
  });
}

/** Every bolt of a view that has a balloon, with what is fastened with it; washers and nuts lose their own. */
export function stackedAll(scene: Scene, view: ViewRecord): Step[] {
  let now = scene;
  const steps: Step[] = [];
  // What goes onto other things is numbered with them, not they with it: the longest first.
  const along = (b: BalloonRecord) => {
    const c = scene.component(b.component);
    const box = c ? scene.assembly.parts[c.part]!.box : [];
    return Math.max(...[0, 1, 2].map((k) => (box[k + 3] ?? 0) - (box[k] ?? 0)));
  };
  const all = scene.at(view.id).filter((r): r is BalloonRecord => r.type === 'balloon' && !r.stack?.length);
  for (const b of [...all].sort((x, y) => along(y) - along(x))) {
    if (!now.one('balloon', b.id)) continue;
    const stack = fastenedWith(b, now);
    if (!stack.length) continue;
    const more = stacked(b, stack, now);
    const r = applySteps(now.document, more);
    // Numbers that nobody else says would stand twice.
    if (!r.ok || more.length < 2) continue;
    steps.push(...more);
    now = now.with(r.document);
  }
  return steps;
}

/** Steps that let a balloon stand in a stack with others; balloons of the same view that say nothing else go. */
export function stacked(b: BalloonRecord, stack: readonly string[], scene: Scene): Step[] {
  const record: BalloonRecord = { ...b, stack };
  const said = new Set(itemsOfBalloon(record, scene));
  const gone = scene
    .at(b.view)
    .filter(
      (r): r is BalloonRecord =>
        r.type === 'balloon' && r.id !== b.id && itemsOfBalloon(r, scene).length > 0 && itemsOfBalloon(r, scene).every((i) => said.has(i)),
    );
  return [{ op: 'put', record }, ...gone.map((r): Step => ({ op: 'drop', id: r.id }))];
}
