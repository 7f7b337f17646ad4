import type { EdgeReference } from '../../core/document/fields.ts';
import { ARC_STRIDE, HIDDEN, LineClass } from '../../core/outline/linework.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { ViewResult } from '../../core/views/compute-view.ts';
import type { Scene } from '../scene.ts';

/** A circle that a view shows as a circle. View space, model mm. */
export interface Circle {
  readonly x: number;
  readonly y: number;
  readonly radius: number;
  readonly component: number;
  /** Edge of the part; `-1 - f` where a cut laid face f open. */
  readonly edge: number;
}

/** As much of its turn is seen that it reads as a circle and not as a rounding, rad. */
const LEAST_TURN = Math.PI * 0.9;

const known = new WeakMap<ViewResult, readonly Circle[]>();

/** Circles of a view by component and edge; of halves with one centre one. */
export function circlesOf(result: ViewResult): readonly Circle[] {
  let circles = known.get(result);
  if (!circles) known.set(result, (circles = find(result)));
  return circles;
}

function find({ lines }: ViewResult): Circle[] {
  const byPlace = new Map<string, { circle: Circle; turn: number }>();
  for (let i = 0; i < lines.kind.length; i++) {
    const a = lines.arc.subarray(i * ARC_STRIDE, (i + 1) * ARC_STRIDE);
    const kind = lines.kind[i]!;
    if (!(a[2]! > 0) || Math.abs(a[2]! - a[3]!) > 1e-6 * a[2]! || kind & HIDDEN || kind === LineClass.tangent || (lines.edge[i]! < 0 && kind !== LineClass.cut))
      continue;
    const circle: Circle = { x: a[0]!, y: a[1]!, radius: a[2]!, component: lines.component[i]!, edge: lines.edge[i]! };
    const key = [circle.component, ...[circle.x, circle.y, circle.radius].map((v) => Math.round(v * 1e4))].join();
    const turn = Math.abs(a[6]! - a[5]!);
    const there = byPlace.get(key);
    if (there) there.turn += turn;
    else byPlace.set(key, { circle, turn });
  }
  return [...byPlace.values()].filter((c) => c.turn >= LEAST_TURN).map((c) => c.circle);
}

/** A circle as it is kept: it is found again in a newer model. Undefined for one that a cut made. */
export function edgeOf(scene: Scene, view: ViewRecord, circle: Circle): EdgeReference | undefined {
  if (circle.edge < 0) return undefined;
  const component = scene.components[circle.component]!;
  return { component: component.path, geometry: scene.shapeIn(view, circle.component), edge: circle.edge };
}

/** Is it this circle that a reference points at? */
export function isCircle(scene: Scene, view: ViewRecord, circle: Circle, edge: EdgeReference): boolean {
  const component = scene.components[circle.component]!;
  return !edge.lost && component.path === edge.component && scene.shapeIn(view, circle.component) === edge.geometry && circle.edge === edge.edge;
}
