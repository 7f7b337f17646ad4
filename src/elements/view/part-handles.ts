import type { Vec2 } from '../../core/base/vector.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { movedOutline, outlineBox, type Outline } from '../../core/views/outline.ts';
import type { Handle } from '../kind.ts';
import type { Scene } from '../scene.ts';
import { movedWithin } from './part.ts';

/** More corners than this are not dragged one by one. */
const MOST_CORNERS = 60;
/** A circle or a box is at least this large on paper, mm. */
const LEAST_MM = 3;

/** The view on which an outline is dragged: of a detail the one it is of, if that stands on the same sheet. */
function carrierOf(view: ViewRecord, scene: Scene): ViewRecord {
  const of = scene.one('view', view.detail?.of);
  return of && of.sheet === view.sheet ? of : view;
}

/** Handles of a view's outline, of its gaps, and of what is broken out of it. */
export function partHandles(view: ViewRecord, scene: Scene): Handle[] {
  const carrier = scene.map(carrierOf(view, scene));
  const own = scene.map(view);
  const out: Handle[] = [];
  const { within } = view;
  const corner = (name: string, p: Vec2, map = carrier): Handle => ({ name, at: map.toPaper(p) });
  if (within?.kind === 'circle')
    out.push(
      corner('outline-all', within.at),
      corner('outline-rim', [within.at[0] + within.radius * Math.SQRT1_2, within.at[1] - within.radius * Math.SQRT1_2]),
    );
  if (within?.kind === 'box') {
    const [x0, y0, x1, y1] = outlineBox(within);
    out.push(...boxCorners(x0, y0, x1, y1).map((p, i) => corner(`outline-corner-${i}`, p)));
    if (view.detail) out.push(corner('outline-all', [(x0 + x1) / 2, (y0 + y1) / 2]));
  }
  if (within?.kind === 'free' && within.points.length <= MOST_CORNERS) out.push(...within.points.map((p, i) => corner(`outline-point-${i}`, p)));
  const box = scene.result(view.id)?.box;
  if (box)
    view.gaps?.forEach((g, i) => {
      for (const end of ['from', 'to'] as const)
        out.push(corner(`gap-${i}-${end}`, g.axis === 'x' ? [g[end], (box[1] + box[3]) / 2] : [(box[0] + box[2]) / 2, g[end]], own));
    });
  const shape = view.detail ? undefined : view.cut?.shape;
  if (shape?.kind === 'local')
    [shape, ...(shape.more ?? [])].forEach(({ outline }, n) => {
      if (outline.length <= 2 * MOST_CORNERS)
        for (let i = 0; i < outline.length; i += 2) out.push(corner(`break-${n}-${i / 2}`, [outline[i]!, outline[i + 1]!], own));
    });
  return out;
}

const boxCorners = (x0: number, y0: number, x1: number, y1: number): Vec2[] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];

/** The view with an outline, a gap or a break dragged by a handle, paper mm; undefined for no handle of these. */
export function dragPart(view: ViewRecord, by: Vec2, scene: Scene, handle: string): ViewRecord | undefined {
  const [what, a, b] = handle.split('-');
  const carrier = carrierOf(view, scene);
  const shift = (v: ViewRecord): Vec2 => [by[0] / v.scale, -by[1] / v.scale];
  if (what === 'outline' && view.within) {
    const within = draggedOutline(view.within, a!, Number(b), shift(carrier), LEAST_MM / carrier.scale);
    return { ...view, ...movedWithin(view, within) };
  }
  if (what === 'gap' && view.gaps) {
    const gaps = view.gaps.map((g, i) => {
      if (i !== Number(a)) return g;
      const to = g[b as 'from' | 'to'] + shift(view)[g.axis === 'x' ? 0 : 1];
      const least = LEAST_MM / view.scale;
      return b === 'from' ? { ...g, from: Math.min(to, g.to - least) } : { ...g, to: Math.max(to, g.from + least) };
    });
    return { ...view, gaps };
  }
  const { cut } = view;
  if (what === 'break' && cut?.shape?.kind === 'local') {
    const [dx, dy] = shift(view);
    const { shape } = cut;
    const moved = (outline: readonly number[]) => outline.map((v, i) => (i >> 1 === Number(b) ? v + (i % 2 ? dy : dx) : v));
    const n = Number(a);
    const next =
      n === 0
        ? { ...shape, outline: moved(shape.outline) }
        : { ...shape, more: shape.more!.map((m, i) => (i === n - 1 ? { ...m, outline: moved(m.outline) } : m)) };
    return { ...view, cut: { ...cut, shape: next } };
  }
  return undefined;
}

function draggedOutline(outline: Outline, what: string, i: number, [dx, dy]: Vec2, least: number): Outline {
  if (what === 'all') return movedOutline(outline, (p) => [p[0] + dx, p[1] + dy]);
  if (outline.kind === 'circle') {
    const rim: Vec2 = [outline.radius * Math.SQRT1_2 + dx, -outline.radius * Math.SQRT1_2 + dy];
    return { ...outline, radius: Math.max(least, Math.hypot(...rim)) };
  }
  if (outline.kind === 'free') return { ...outline, points: outline.points.map((p, k): Vec2 => (k === i ? [p[0] + dx, p[1] + dy] : p)) };
  const box = outlineBox(outline);
  // Corners go round: 0 and 3 hold the left side, 0 and 1 the lower one.
  const [kx, ky] = [i === 0 || i === 3 ? 0 : 2, i < 2 ? 1 : 3];
  box[kx] = kx === 0 ? Math.min(box[0] + dx, box[2] - least) : Math.max(box[2] + dx, box[0] + least);
  box[ky] = ky === 1 ? Math.min(box[1] + dy, box[3] - least) : Math.max(box[3] + dy, box[1] + least);
  return { ...outline, from: [box[0], box[1]], to: [box[2], box[3]] };
}
