import { circleThrough } from '../../core/assembly/fit.ts';
import { distance2, type Vec2 } from '../../core/base/vector.ts';
import type { Step } from '../../core/document/steps.ts';
import type { Scene } from '../scene.ts';
import { holdOf } from '../target.ts';
import type { FigureRecord } from './draw.ts';

/** How a line stands to another one, or to an edge of a view. */
export type Tie = NonNullable<FigureRecord['ties']>[number];
export type Relation = Tie['is'];

/** What relations are called, and the small signs that show them. */
export const RELATIONS: Readonly<Record<Relation, { readonly name: string; readonly sign: string; readonly needs: 'nothing' | 'line' | 'same' | 'round' }>> = {
  level: { name: 'Level', sign: '–', needs: 'nothing' },
  upright: { name: 'Upright', sign: '|', needs: 'nothing' },
  parallel: { name: 'Parallel', sign: '//', needs: 'line' },
  square: { name: 'Square', sign: '⊥', needs: 'line' },
  inline: { name: 'In line', sign: '––', needs: 'line' },
  equal: { name: 'Equal', sign: '=', needs: 'same' },
  tangent: { name: 'Tangent', sign: '○', needs: 'round' },
};

/** A line or a circle on the sheet, paper mm. */
type Guide = { readonly kind: 'line'; readonly a: Vec2; readonly b: Vec2 } | { readonly kind: 'round'; readonly centre: Vec2; readonly radius: number };

/** So far lines are followed that go by lines that go by lines …; a circle of them ends there. */
const MOST_DEEP = 12;

const minus = (a: Vec2, b: Vec2): Vec2 => [a[0] - b[0], a[1] - b[1]];
const along = (from: Vec2, way: Vec2, by: number): Vec2 => [from[0] + way[0] * by, from[1] + way[1] * by];
const unit = (v: Vec2): Vec2 | undefined => {
  const l = Math.hypot(v[0], v[1]);
  return l > 1e-9 ? [v[0] / l, v[1] / l] : undefined;
};
const dot2 = (a: Vec2, b: Vec2): number => a[0] * b[0] + a[1] * b[1];

function guideOf(tie: Tie, scene: Scene, deep: number): Guide | undefined {
  const other = scene.one('figure', tie.to);
  if (other) return guideOfFigure(other, scene, deep);
  const view = scene.one('view', tie.on?.view);
  const hold = view && tie.on && holdOf(scene, view, tie.on.of);
  if (!view || !hold) return undefined;
  const map = scene.map(view);
  const paper = (p: readonly [number, number, number]): Vec2 => map.toPaper([p[0], p[1]]);
  if (hold.kind === 'line') return { kind: 'line', a: paper(hold.ends[0]), b: paper(hold.ends[1]) };
  return hold.kind === 'circle' ? { kind: 'round', centre: paper(hold.at), radius: hold.radius * view.scale } : undefined;
}

function guideOfFigure(f: FigureRecord, scene: Scene, deep: number): Guide | undefined {
  const [a, b, c] = pointsOf(f, scene, deep + 1) as [Vec2, Vec2, Vec2 | undefined];
  if (f.shape === 'line') return { kind: 'line', a, b };
  if (f.shape === 'circle') return { kind: 'round', centre: a, radius: distance2(a, b) };
  const round = f.shape === 'arc' && c ? circleThrough([...a, 0], [...b, 0], [...c, 0]) : undefined;
  return round && { kind: 'round', centre: [round.centre[0], round.centre[1]], radius: round.radius };
}

/**
 * The points of a figure as its relations have it, whatever moved since: its first point stays, unless it has to lie in line or to
 * touch; its length stays, unless it has to be equal. What a relation goes by may be gone: it says nothing then.
 */
export function tiedPoints(f: FigureRecord, scene: Scene): readonly Vec2[] {
  return pointsOf(f, scene, 0);
}

/** The figure with those points. */
export const asTied = (f: FigureRecord, scene: Scene): FigureRecord => (f.ties ? { ...f, points: tiedPoints(f, scene) } : f);

function pointsOf(f: FigureRecord, scene: Scene, deep: number): readonly Vec2[] {
  if (!f.ties || deep > MOST_DEEP) return f.points;
  let [a, b] = f.points as [Vec2, Vec2];
  if (f.shape === 'circle') {
    for (const tie of f.ties) {
      const guide = tie.is === 'equal' ? guideOf(tie, scene, deep) : undefined;
      const way = unit(minus(b, a));
      if (guide?.kind === 'round' && way) b = along(a, way, guide.radius);
    }
    return [a, b];
  }
  if (f.shape !== 'line') return f.points;
  const turnTo = (way: Vec2 | undefined) => {
    if (!way) return;
    // It points as it did, rather than round about.
    const sign = dot2(minus(b, a), way) < 0 ? -1 : 1;
    b = along(a, way, sign * distance2(a, b));
  };
  const apply: Readonly<Record<Relation, (g: Guide | undefined) => void>> = {
    level: () => turnTo([1, 0]),
    upright: () => turnTo([0, 1]),
    parallel: (g) => g?.kind === 'line' && turnTo(unit(minus(g.b, g.a))),
    square: (g) => {
      const way = g?.kind === 'line' ? unit(minus(g.b, g.a)) : undefined;
      if (way) turnTo([-way[1], way[0]]);
    },
    inline: (g) => {
      const way = g?.kind === 'line' ? unit(minus(g.b, g.a)) : undefined;
      if (g?.kind !== 'line' || !way) return;
      turnTo(way);
      const off = dot2(minus(a, g.a), [-way[1], way[0]]);
      [a, b] = [along(a, [-way[1], way[0]], -off), along(b, [-way[1], way[0]], -off)];
    },
    equal: (g) => {
      const way = unit(minus(b, a));
      if (g?.kind === 'line' && way) b = along(a, way, distance2(g.a, g.b));
    },
    tangent: (g) => {
      const way = unit(minus(b, a));
      if (g?.kind !== 'round' || !way) return;
      const normal: Vec2 = [-way[1], way[0]];
      const off = dot2(minus(a, g.centre), normal);
      const by = (off < 0 ? -1 : 1) * g.radius - off;
      [a, b] = [along(a, normal, by), along(b, normal, by)];
    },
  };
  // Directions first: what a line touches, and how long it is, counts in its final direction.
  const order: readonly Relation[] = ['level', 'upright', 'parallel', 'square', 'inline', 'tangent', 'equal'];
  for (const is of order) for (const tie of f.ties) if (tie.is === is) apply[is](tie.to || tie.on ? guideOf(tie, scene, deep) : undefined);
  return [a, b];
}

/** Can a figure have a relation to something, as it is? */
export function mayTie(f: FigureRecord, is: Relation, to: FigureRecord | undefined): boolean {
  if (f.shape === 'circle') return is === 'equal' && to?.shape === 'circle';
  if (f.shape !== 'line') return false;
  switch (RELATIONS[is].needs) {
    case 'nothing':
      return true;
    case 'round':
      return to === undefined || to.shape === 'circle' || to.shape === 'arc';
    default:
      return to === undefined || to.shape === 'line';
  }
}

/** Ends so near to each other are joined: they stay together, mm. */
export const JOINED_MM = 0.02;
/** Relations that turn a line to a direction: it has one of them at most. */
const TURNING: ReadonlySet<Relation> = new Set(['level', 'upright', 'parallel', 'square', 'inline']);

/** The steps that give a figure a relation: it is brought there at once, and ends of others that are joined to it go along. */
export function tied(scene: Scene, f: FigureRecord, tie: Tie): Step[] {
  const others = (f.ties ?? []).filter((t) => t.is !== tie.is && !(TURNING.has(t.is) && TURNING.has(tie.is)));
  const asked: FigureRecord = { ...f, ties: [...others, tie] };
  const points = tiedPoints(asked, scene);
  const moved = scene.all('figure').flatMap((o): Step[] => {
    if (o.id === f.id || o.sheet !== f.sheet || o.id === tie.to) return [];
    const next = o.points.map((p) => {
      const i = f.points.findIndex((q) => distance2(p, q) < JOINED_MM);
      return i < 0 ? p : points[i]!;
    });
    return next.some((p, i) => p !== o.points[i]) ? [{ op: 'put', record: { ...o, points: next } }] : [];
  });
  return [{ op: 'put', record: { ...asked, points } }, ...moved];
}
