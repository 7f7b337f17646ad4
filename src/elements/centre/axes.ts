import { add, dot, scale, subtract, type Vec2, type Vec3 } from '../../core/base/vector.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { edgeReach } from '../../core/features/extent.ts';
import { hasAxis } from '../../core/features/part-features.ts';
import { axesOf, type PlacedFeatures } from '../../core/features/axes.ts';
import { HIDDEN, LineClass } from '../../core/outline/linework.ts';
import type { ViewResult } from '../../core/views/compute-view.ts';
import type { Scene } from '../scene.ts';

/** The axis of something round seen from the side. View space, model mm. */
export interface AxisLine {
  readonly from: Vec2;
  readonly to: Vec2;
  /** The largest radius about it. */
  readonly radius: number;
  /** Rounds that it is the axis of: component, and index in the features of its part. */
  readonly on: readonly { readonly component: number; readonly round: number; readonly inward: boolean }[];
}

/** A round surface so wide, against its component, makes that a turned part: its axis runs through all of it. */
const TURNED_SHARE = 0.4;

const known = new WeakMap<ViewResult, { readonly parts: unknown; readonly lines: readonly AxisLine[] }>();

/**
 * Axes of holes and shafts that a view shows from the side: outlines of what is round, and where a cut laid a hole open.
 * Each round surface is told once; those on one line of the picture may overlap. Pictorials have none (common practice).
 */
export function axisLinesOf(scene: Scene, view: ViewRecord): readonly AxisLine[] {
  const result = scene.result(view.id);
  if (!result) return [];
  const there = known.get(result);
  if (there && there.parts === scene.partFeatures) return there.lines;
  const lines = find(scene, view, result);
  known.set(result, { parts: scene.partFeatures, lines });
  return lines;
}

function find(scene: Scene, view: ViewRecord, { lines }: ViewResult): AxisLine[] {
  const seen = scene.seenAs(view);
  if (!view.toward.some((x) => Math.abs(x) > 1 - 1e-6) && !seen.cut) return [];
  const shown = new Map<number, Set<number>>();
  for (let i = 0; i < lines.kind.length; i++) {
    const kind = lines.kind[i]!;
    const edge = lines.edge[i]!;
    if (edge >= 0 || (kind & HIDDEN && !seen.hidden) || (kind & 3) === LineClass.tangent) continue;
    const c = lines.component[i]!;
    const set = shown.get(c);
    if (set) set.add(-1 - edge);
    else shown.set(c, new Set([-1 - edge]));
  }
  const places = scene.placed(view);
  const placed: PlacedFeatures[] = [];
  const visible = new Map<number, Set<number>>();
  for (const [component, faces] of shown) {
    const features = scene.featuresIn(view, component);
    if (!features) continue;
    placed.push({ component, features, placement: places[component]! });
    visible.set(component, new Set([...faces].flatMap((f) => features.faceRound[f] ?? [])));
  }
  return axesOf(placed, hasAxis).flatMap((axis) => {
    // Across the line of sight; what lies along it is a circle.
    if (Math.abs(axis.way[2]) > 1e-4) return [];
    const at = (t: number): Vec2 => {
      const p: Vec3 = add(axis.foot, scale(axis.way, t));
      return [p[0], p[1]];
    };
    return axis.on
      .filter((o) => visible.get(o.component)?.has(o.round))
      .map((o): AxisLine => {
        const [from, to] = alongTurned(scene, view, places, o, axis.way) ?? [o.from, o.to];
        return { from: at(from), to: at(to), radius: o.radius, on: [o] };
      });
  });
}

/** How far a turned part reaches along its axis. @returns undefined for a part in which the round surface is only a hole or a boss */
function alongTurned(
  scene: Scene,
  view: ViewRecord,
  places: ReturnType<Scene['placed']>,
  o: { component: number; radius: number; inward: boolean },
  way: Vec3,
): readonly [number, number] | undefined {
  if (o.inward) return undefined;
  const f = scene.featuresIn(view, o.component)!;
  const place = places[o.component]!;
  const square: Vec3 = [-way[1], way[0], 0];
  const [least, most] = edgeReach(f, place, square);
  return 2 * o.radius >= TURNED_SHARE * (most - least) ? edgeReach(f, place, way) : undefined;
}

/** Axis lines that lie on one line of the picture as one; apart by more than `gap` (model mm) they stay two. */
export function mergedLines(lines: readonly AxisLine[], gap: number): AxisLine[] {
  const groups = new Map<string, { way: Vec2; foot: Vec2; spans: { a: number; b: number; line: AxisLine }[] }>();
  for (const line of lines) {
    const d: Vec2 = [line.to[0] - line.from[0], line.to[1] - line.from[1]];
    const l = Math.hypot(...d);
    if (l < 1e-9) continue;
    const flip = d[0] < -1e-9 * l || (Math.abs(d[0]) <= 1e-9 * l && d[1] < 0) ? -1 : 1;
    const way: Vec2 = [(flip * d[0]) / l, (flip * d[1]) / l];
    const off = line.from[0] * -way[1] + line.from[1] * way[0];
    const key = `${Math.round(Math.atan2(way[1], way[0]) * 1e4)} ${Math.round(off * 50)}`;
    const along = (p: Vec2) => p[0] * way[0] + p[1] * way[1];
    const [a, b] = [along(line.from), along(line.to)].sort((x, y) => x - y) as [number, number];
    const group = groups.get(key) ?? { way, foot: [-way[1] * off, way[0] * off] as Vec2, spans: [] };
    group.spans.push({ a, b, line });
    groups.set(key, group);
  }
  const out: AxisLine[] = [];
  for (const { way, foot, spans } of groups.values()) {
    spans.sort((p, q) => p.a - q.a);
    let run = [spans[0]!];
    let end = spans[0]!.b;
    const close = () => {
      const at = (t: number): Vec2 => [foot[0] + way[0] * t, foot[1] + way[1] * t];
      out.push({ from: at(run[0]!.a), to: at(end), radius: Math.max(...run.map((s) => s.line.radius)), on: run.flatMap((s) => s.line.on) });
    };
    for (const s of spans.slice(1)) {
      if (s.a - end > gap) {
        close();
        run = [];
        end = s.b;
      }
      run.push(s);
      end = Math.max(end, s.b);
    }
    close();
  }
  return out;
}

/** Distance of a point from an axis line, and how far beyond its ends; view space. */
export function distanceToLine(line: AxisLine, p: Vec2): number {
  const d: Vec2 = [line.to[0] - line.from[0], line.to[1] - line.from[1]];
  const l = Math.hypot(...d) || 1;
  const v = subtract([p[0], p[1], 0], [line.from[0], line.from[1], 0]);
  const t = Math.max(0, Math.min(l, dot(v, [d[0] / l, d[1] / l, 0])));
  return Math.hypot(v[0] - (d[0] / l) * t, v[1] - (d[1] / l) * t);
}
