import { add, scale, type Vec2, type Vec3 } from '../../core/base/vector.ts';
import { applyToDirection, applyToPoint } from '../../core/base/placement.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { LineClass } from '../../core/outline/linework.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { num } from '../../core/picture/shapes.ts';
import type { SheetStyle } from '../../core/sheet/paper.ts';
import type { Thread } from '../../core/thread/threads-of.ts';
import { componentAt, type ViewResult } from '../../core/views/compute-view.ts';
import type { ViewMap } from '../../core/views/view-map.ts';
import { circlesOf } from '../centre/circles.ts';
import type { Scene } from '../scene.ts';

/** Threads smaller than this on paper are drawn by their outline alone, mm. */
const LEAST_MM = 2.4;
/** Root and crest stand at least so far apart on paper (ISO 6410-1: 0.7 mm, or twice the wide line). */
const APART_MM = 0.7;
const DASHED = [3, 1] as const;
/** Steps along a line in which it is looked whether it is seen, paper mm. */
const STEP_MM = 0.4;

/**
 * Screw threads as ISO 6410-1 draws them (from memory): crest wide, root narrow, three quarters of a circle seen along the axis,
 * a wide line where the thread ends; in sections the hatching goes on to the crest, and a screw covers the thread it is in.
 */
export function drawThreads(view: ViewRecord, scene: Scene, result: ViewResult, map: ViewMap, style: SheetStyle): DisplayItem[] {
  if (view.laid) return [];
  const shown = new Set(result.lines.component);
  const places = scene.placed(view);
  const cut = cutFaces(result);
  const out: DisplayItem[] = [];
  for (const t of scene.threads) {
    if (!shown.has(t.component) || t.majorMm * map.scale < LEAST_MM) continue;
    const round = scene.features(t.component)?.rounds[t.round];
    if (!round) continue;
    const place = places[t.component]!;
    const axis = applyToDirection(place, round.axis);
    const at = applyToPoint(place, round.at);
    if (Math.abs(axis[2]) > 1 - 1e-4) out.push(...endOn(t, at, result, map, style));
    else if (Math.abs(axis[2]) < 1e-4)
      out.push(...fromTheSide(t, at, axis, { scene, view, result, map, style, laidOpen: round.faces.some((f) => cut.has(`${t.component}/${f}`)) }));
  }
  return out;
}

/** Faces that a cut laid open, by component. */
function cutFaces({ lines }: ViewResult): ReadonlySet<string> {
  const out = new Set<string>();
  for (let i = 0; i < lines.kind.length; i++)
    if (lines.kind[i] === LineClass.cut && lines.edge[i]! < 0) out.add(`${lines.component[i]}/${-1 - lines.edge[i]!}`);
  return out;
}

/** What of a component is not drawn because its thread is: crests and flanks of a modelled helix. By component: edges, and `-1 - f` for faces. */
export function simplified(scene: Scene): ReadonlyMap<number, ReadonlySet<number>> {
  const out = new Map<number, Set<number>>();
  for (const t of scene.threads) {
    if (t.from !== 'helix') continue;
    const f = scene.features(t.component);
    if (!f) continue;
    const set = out.get(t.component) ?? new Set<number>();
    for (const h of f.helices) {
      set.add(h.edge);
      for (const face of [f.edgeFaces[h.edge * 2]!, f.edgeFaces[h.edge * 2 + 1]!]) if (face >= 0) set.add(-1 - face);
    }
    out.set(t.component, set);
  }
  return out;
}

/** Half the distance of the narrow lines from each other, model mm. */
function narrowRadius(t: Thread, scaleOf: number): number {
  const depth = Math.max((t.majorMm - t.minorMm) / 2, APART_MM / scaleOf);
  return t.internal ? t.minorMm / 2 + depth : t.majorMm / 2 - depth;
}

/** Three quarters of a circle, open at the upper right. */
function endOn(t: Thread, at: Vec3, result: ViewResult, map: ViewMap, style: SheetStyle): DisplayItem[] {
  const [least, most] = t.internal ? [t.minorMm * 0.48, t.majorMm * 0.505] : [t.minorMm * 0.4, t.majorMm * 0.52];
  const seen = circlesOf(result).some(
    (c) => c.component === t.component && c.radius >= least && c.radius <= most && Math.hypot(c.x - at[0], c.y - at[1]) < 0.02,
  );
  if (!seen) return [];
  const r = narrowRadius(t, map.scale) * map.scale;
  const [x, y] = [map.x(at[0]), map.y(at[1])];
  const point = (degrees: number): Vec2 => [x + r * Math.cos((degrees * Math.PI) / 180), y - r * Math.sin((degrees * Math.PI) / 180)];
  // A little past the axes, so that nobody takes it for a whole quarter (common practice).
  const [from, to] = [point(80), point(350)];
  return [
    {
      kind: 'stroke',
      d: `M${num(from[0])} ${num(from[1])}A${num(r)} ${num(r)} 0 1 0 ${num(to[0])} ${num(to[1])}`,
      width: style.narrow,
      source: { component: t.component },
    },
  ];
}

interface Side {
  readonly scene: Scene;
  readonly view: ViewRecord;
  readonly result: ViewResult;
  readonly map: ViewMap;
  readonly style: SheetStyle;
  /** The hole is cut open. */
  readonly laidOpen: boolean;
}

function fromTheSide(t: Thread, at: Vec3, axis: Vec3, side: Side): DisplayItem[] {
  const { scene, view, map, style } = side;
  const [from, to] = t.span;
  const across: Vec3 = [-axis[1], axis[0], 0];
  const l = Math.hypot(across[0], across[1]);
  const place = (along: number, out: number): Vec2 => {
    const p = add(add(at, scale(axis, along)), scale(across, out / l));
    return [p[0], p[1]];
  };
  const r = narrowRadius(t, map.scale);
  const crest = t.internal ? t.minorMm / 2 : t.majorMm / 2;
  const isSeen = (p: Vec2) => (!t.internal || side.laidOpen) && componentAt(side.result, p[0], p[1]) === t.component;
  const hidden = scene.seenAs(view).hidden && !view.hiddenOf;
  const items: DisplayItem[] = [];
  const put = (a: Vec2, b: Vec2, wide: boolean, inset: (p: Vec2) => Vec2 = (p) => p) => {
    for (const { seen, d } of stretches(a, b, map, (p) => isSeen(inset(p)))) {
      if (seen) items.push({ kind: 'stroke', d, width: wide ? style.wide : style.narrow, source: { component: t.component } });
      else if (hidden) items.push({ kind: 'stroke', d, width: style.narrow, dash: DASHED, source: { component: t.component } });
    }
  };
  // Looked at a little inside the material: on a border either side may be told.
  const pixel = side.result.map.window.pixelMm;
  const inset =
    (sign: number, of: number) =>
    (p: Vec2): Vec2 => [p[0] - (across[0] / l) * sign * of, p[1] - (across[1] / l) * sign * of];
  for (const sign of [1, -1]) {
    put(place(from, sign * r), place(to, sign * r), false, inset(sign, t.internal ? 0 : Math.min(pixel, r / 4)));
    // A modelled helix has no straight crest: it gets one.
    if (t.from === 'helix') put(place(from, sign * crest), place(to, sign * crest), true, inset(sign, 1.5 * pixel));
  }
  const round = scene.features(t.component)!.rounds[t.round]!;
  for (const end of [from, to]) {
    // Where the cylinder ends too there is a line already.
    if (t.from !== 'helix' && (Math.abs(end - round.from) < 1e-6 || Math.abs(end - round.to) < 1e-6)) continue;
    const inward = end === to ? -1.5 * pixel : 1.5 * pixel;
    const along = (p: Vec2): Vec2 => [p[0] + axis[0] * inward, p[1] + axis[1] * inward];
    if (t.internal) for (const sign of [1, -1]) put(place(end, sign * crest), place(end, (sign * t.majorMm) / 2), true, along);
    else put(place(end, crest), place(end, -crest), true, along);
  }
  return items;
}

/** A line in stretches that are seen and not seen, as paths on paper. */
function stretches(a: Vec2, b: Vec2, map: ViewMap, isSeen: (p: Vec2) => boolean): { readonly seen: boolean; readonly d: string }[] {
  const length = Math.hypot(map.x(b[0]) - map.x(a[0]), map.y(b[1]) - map.y(a[1]));
  const n = Math.max(1, Math.ceil(length / STEP_MM));
  const at = (k: number): Vec2 => [a[0] + ((b[0] - a[0]) * k) / n, a[1] + ((b[1] - a[1]) * k) / n];
  const out: { seen: boolean; from: number; to: number }[] = [];
  for (let k = 0; k < n; k++) {
    const seen = isSeen(at(k + 0.5));
    const last = out.at(-1);
    if (last && last.seen === seen) last.to = k + 1;
    else out.push({ seen, from: k, to: k + 1 });
  }
  return out.map(({ seen, from, to }) => {
    const [p, q] = [at(from), at(to)];
    return { seen, d: `M${num(map.x(p[0]))} ${num(map.y(p[1]))}L${num(map.x(q[0]))} ${num(map.y(q[1]))}` };
  });
}
