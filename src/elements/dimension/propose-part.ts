import { FACE_STRIDE, SurfaceKind } from '../../core/assembly/part-geometry.ts';
import { applyToDirection, IDENTITY } from '../../core/base/placement.ts';
import { dot, vectorAt, type Vec2, type Vec3 } from '../../core/base/vector.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { axesOf, type Axis } from '../../core/features/axes.ts';
import { hasAxis, isWhole } from '../../core/features/part-features.ts';
import { HIDDEN, LineClass } from '../../core/outline/linework.ts';
import { circlesOf, edgeOf } from '../centre/circles.ts';
import type { Scene } from '../scene.ts';
import { viewReach, type Target } from '../target.ts';
import { measured, type DimensionRecord } from './measure.ts';
import { overall, recordsOf, type Draft } from './propose.ts';

/** Places are one within this, mm. */
const ONE_MM = 0.01;
/** More places along one direction than this are a table's business. */
const MOST_PLACES = 14;
/** Up to so many each has a line of its own; more run from a zero. */
const MOST_LINES = 2;

/**
 * What the sheet of a part says of sizes (common practice): overall length, width and height; every step, from the left and from below;
 * each size of hole once, with how many there are, and where they are; every diameter of what is turned.
 * @param views the sheet's views of the part, the most telling one first
 * @param freshId an id for the n-th dimension
 */
export function proposePartDimensions(scene: Scene, views: readonly ViewRecord[], component: number, freshId: (n: number) => string): DimensionRecord[] {
  const plain = views.filter((v) => !v.off && !v.detail && !v.within && scene.result(v.id));
  const folded = recordsOf(
    draftsFor(
      scene,
      plain.filter((v) => !v.laid),
      component,
    ),
    scene,
    freshId,
  );
  // A flat pattern says its own sizes.
  const laid = recordsOf(
    draftsFor(
      scene,
      plain.filter((v) => v.laid),
      component,
    ),
    scene,
    (n) => freshId(folded.length + n),
  );
  return [...folded, ...laid];
}

function draftsFor(scene: Scene, plain: readonly ViewRecord[], component: number): Draft[] {
  const [first] = plain;
  if (!first) return [];
  const [uncut, cut] = [plain.filter((v) => !v.cut), plain.filter((v) => v.cut)];
  const features = scene.featuresIn(first, component);
  const placement = first.laid ? IDENTITY : scene.components[component]?.placement;
  const axes = features && placement ? axesOf([{ component, features, placement }]) : [];
  const told = new Set<string>();
  const bored = holes(scene, uncut, component, axes, told);
  const rounds = first.laid ? [] : diameters(scene, plain, component, axes, told);
  const whole = overall(scene, [...uncut, ...cut]);
  return [
    ...whole.filter((d) => !rounds.some((r) => r.view === d.view && isAcross(scene, d, r))),
    ...bored,
    // The outer diameter stands where the part is seen round.
    ...rounds.filter((r) => !whole.some((d) => d.kind === 'diameter' && isAcross(scene, d, r))),
    ...places(scene, [...uncut, ...cut], component),
  ];
}

/** Does a diameter say what an overall size would say? */
function isAcross(scene: Scene, overall: Draft, diameter: Draft): boolean {
  const [a, b] = [overall, diameter].map((d) => measured({ type: 'dimension', id: '', away: 0, ...d }, scene)?.[0]?.value ?? NaN);
  return Math.abs(a! - b!) < ONE_MM;
}

const round = (v: number) => Math.round(v / ONE_MM) * ONE_MM;

/** Each size of hole that is seen as a circle: its diameter, and how many there are. */
function holes(scene: Scene, views: readonly ViewRecord[], component: number, axes: readonly Axis[], told: Set<string>): Draft[] {
  const out: Draft[] = [];
  for (const view of views) {
    const bySize = new Map<number, { readonly target: Target; readonly at: Vec2 }[]>();
    const seen = circlesOf(scene.result(view.id)!).filter((c) => c.component === component);
    for (const axis of axes) {
      if (Math.abs(dot(axis.way, view.toward)) < 1 - 1e-6) continue;
      const [x, y] = [dot(axis.foot, view.right), dot(axis.foot, view.up)];
      for (const on of axis.on) {
        const r = round(on.radius);
        if (!on.inward || on.kind !== SurfaceKind.cylinder || told.has(keyOf(axis, r))) continue;
        const rim = seen.find((c) => Math.hypot(c.x - x, c.y - y) < ONE_MM && Math.abs(c.radius - on.radius) < ONE_MM);
        const edge = rim && edgeOf(scene, view, rim);
        if (!edge) continue;
        told.add(keyOf(axis, r));
        bySize.set(r, [...(bySize.get(r) ?? []), { target: { edge, at: [x, y] }, at: [x, y] }]);
      }
    }
    for (const group of bySize.values()) {
      const corner = [...group].sort((a, b) => b.at[0] + b.at[1] - a.at[0] - a.at[1])[0]!;
      out.push({
        view: view.id,
        kind: 'diameter',
        of: [corner.target],
        turn: Math.PI / 4,
        ...(group.length > 1 ? { text: { before: `${group.length}×` } } : {}),
      });
    }
  }
  return out;
}

const keyOf = (axis: Axis, radius: number): string => [...axis.way, ...axis.foot, radius].map((v) => Math.round(v * 100)).join();

/** Diameters of what is turned or bored, where its axis lies in the paper and no circle of it was told. */
function diameters(scene: Scene, views: readonly ViewRecord[], component: number, axes: readonly Axis[], told: Set<string>): Draft[] {
  const out: Draft[] = [];
  const c = scene.components[component]!;
  const geometry = scene.assembly.parts[c.part]!.geometryKey;
  const features = scene.features(component);
  for (const axis of axes)
    for (const on of axis.on) {
      const r = round(on.radius);
      const own = features?.rounds[on.round];
      if (!own || on.kind !== SurfaceKind.cylinder || !isWhole(own) || !hasAxis(own) || told.has(keyOf(axis, r))) continue;
      // A bore is measured where it is cut, what is turned where its outline is.
      const view = views.find((v) => Math.abs(dot(axis.way, v.toward)) < 1e-6 && (on.inward ? v.cut !== null : true));
      if (!view) continue;
      const seen = linesOf(scene, view, component).some((l) => l.face === own.faces[0] || own.faces.includes(l.face));
      if (on.inward && !seen) continue;
      told.add(keyOf(axis, r));
      const middle = (on.from + on.to) / 2;
      const at: Vec2 = [dot(axis.foot, view.right) + dot(axis.way, view.right) * middle, dot(axis.foot, view.up) + dot(axis.way, view.up) * middle];
      out.push({ view: view.id, kind: 'diameter', of: [{ face: { component: c.path, geometry, face: own.faces[0]! }, at }] });
    }
  return out;
}

/** A line of a view that is straight, level or upright, and visible. */
interface StraightLine {
  /** 0: upright, at this x. 1: level, at this y. */
  readonly index: 0 | 1;
  readonly value: number;
  readonly edge: number;
  /** Face whose outline or cut it is; -1 for an edge. */
  readonly face: number;
  readonly low: number;
  readonly high: number;
}

function linesOf(scene: Scene, view: ViewRecord, component: number): StraightLine[] {
  const { lines } = scene.result(view.id)!;
  const out: StraightLine[] = [];
  for (let i = 0; i < lines.kind.length; i++) {
    const kind = lines.kind[i]!;
    if (lines.component[i] !== component || kind & HIDDEN || kind === LineClass.tangent) continue;
    const [a, b] = [2 * lines.start[i]!, 2 * (lines.start[i + 1]! - 1)];
    const [x0, y0, x1, y1] = [lines.xy[a]!, lines.xy[a + 1]!, lines.xy[b]!, lines.xy[b + 1]!];
    if (b - a > 2 || Math.hypot(x1 - x0, y1 - y0) < ONE_MM) continue;
    const edge = lines.edge[i]!;
    const common = { edge, face: edge < 0 ? -1 - edge : -1 };
    if (Math.abs(x1 - x0) < 1e-6) out.push({ index: 0, value: x0, low: Math.min(y0, y1), high: Math.max(y0, y1), ...common });
    else if (Math.abs(y1 - y0) < 1e-6) out.push({ index: 1, value: y0, low: Math.min(x0, x1), high: Math.max(x0, x1), ...common });
  }
  return out;
}

/** Steps and centres of holes along both directions of a view, from its left and from its foot; nothing that another view told. */
function places(scene: Scene, views: readonly ViewRecord[], component: number): Draft[] {
  const out: Draft[] = [];
  const c = scene.components[component]!;
  const told = new Set<string>();
  for (const view of views) {
    const geometry = scene.shapeIn(view, component);
    const box = viewReach(scene, view);
    if (!box) continue;
    const lines = linesOf(scene, view, component);
    const circles = circlesOf(scene.result(view.id)!).filter((k) => k.component === component);
    for (const index of [0, 1] as const) {
      const way = index === 0 ? view.right : view.up;
      const [low, high] = [box[index], box[index + 2]!];
      const found = new Map<number, Target>();
      for (const k of circles) {
        const edge = edgeOf(scene, view, k);
        const value = index === 0 ? k.x : k.y;
        // What is about the middle of something round needs no place.
        if (edge && !found.has(round(value))) found.set(round(value), { edge, at: [k.x, k.y] });
      }
      for (const l of lines) {
        if (l.index !== index || l.edge < 0 || found.has(round(l.value)) || !endsFlat(scene, view, component, l.edge, way)) continue;
        // The end that is nearer to where the dimension will stand.
        const at: Vec2 = index === 0 ? [l.value, l.low] : [l.low, l.value];
        found.set(round(l.value), { edge: { component: c.path, geometry, edge: l.edge }, at });
      }
      const key = (value: number) => placeKey(way, value);
      const wanted = [...found]
        .filter(([value]) => value > low + ONE_MM && value < high - ONE_MM && !told.has(key(value)))
        .sort((a, b) => a[0] - b[0])
        .slice(0, MOST_PLACES);
      const middleOnly = wanted.length === 1 && Math.abs(wanted[0]![0] - (low + high) / 2) < ONE_MM && isRoundIn(circles, box);
      if (!wanted.length || middleOnly) continue;
      for (const [value] of wanted) told.add(key(value));
      const zero: Target = { side: index === 0 ? 'left' : 'bottom', at: index === 0 ? [low, (box[1] + box[3]) / 2] : [(box[0] + box[2]) / 2, low] };
      const kind = index === 0 ? 'level' : 'upright';
      if (wanted.length > MOST_LINES) out.push({ view: view.id, kind, of: [zero, ...wanted.map(([, t]) => t)], row: 'running' });
      else for (const [, t] of wanted) out.push({ view: view.id, kind, of: [zero, t] });
    }
  }
  return out;
}

/** Does a flat face square to a direction end at an edge? What only a rounding or a slope ends at is no step. */
function endsFlat(scene: Scene, view: ViewRecord, component: number, edge: number, way: Vec3): boolean {
  const f = scene.featuresIn(view, component);
  const placement = view.laid ? IDENTITY : scene.components[component]!.placement;
  if (!f) return false;
  return [0, 1].some((k) => {
    const face = f.edgeFaces[2 * edge + k]!;
    if (face < 0 || f.faceKind[face] !== SurfaceKind.plane) return false;
    return Math.abs(dot(applyToDirection(placement, vectorAt(f.faceParams, face * FACE_STRIDE + 3)), way)) > 1 - 1e-6;
  });
}

/** A place along a direction of the model, whichever way that is looked at. */
function placeKey(way: readonly number[], value: number): string {
  const lead = Math.sign(way.find((x) => Math.abs(x) > 1e-6) ?? 1);
  return `${way.map((x) => Math.round(x * lead * 1e4) + 0).join()} ${Math.round((value * lead) / ONE_MM)}`;
}

/** Is the whole outline one circle? */
function isRoundIn(circles: readonly { readonly x: number; readonly y: number; readonly radius: number }[], box: readonly number[]): boolean {
  const [x, y, r] = [(box[0]! + box[2]!) / 2, (box[1]! + box[3]!) / 2, (box[2]! - box[0]!) / 2];
  return circles.some((k) => Math.abs(k.radius - r) < ONE_MM && Math.hypot(k.x - x, k.y - y) < ONE_MM);
}
