import { dot, scale, type Vec2, type Vec3 } from '../base/vector.ts';
import { translation, combine } from '../base/placement.ts';
import type { ViewFrame } from '../outline/directions.ts';
import { sceneDiagonal, type Body } from '../outline/scene.ts';
import { loopsWithout } from './cap-shape.ts';
import { boxOfLoops, insideLoops } from './loops.ts';
import type { Cap, CutScene } from './cut-scene.ts';
import type { Plane } from './plane-cut.ts';
import { turnedShape } from './turned-axis.ts';

/** Cut faces that reach less deep into each other touch, as meshes of mating cylinders do. mm and share of the smaller face's width */
const TOUCH_MM = 0.02;
/** Who lies in front of whom is told by so little that no picture shows it: share of the scene. */
const LIFT = 2e-5;

type Box = readonly [number, number, number, number];

/**
 * Where cut faces share their space every place is hatched once: a screw covers the thread that it is in (ISO 6410-1), what is
 * kept whole covers what it stands before, and of two bodies modelled into each other the inner one is drawn. The bodies that
 * cover are lifted a hair towards the reader, so that lines of what they cover are hidden. Areas stay as they were measured.
 */
export function settleSharedSpace(cut: CutScene, plane: Plane, frame: ViewFrame): CutScene {
  const caps = [...cut.caps];
  const boxes = caps.map((c) => boxOfLoops(c.loops));
  const covers = cut.covers.map((c) => ({ ...c, box: boxOfLoops(c.loops) }));
  const bodyOf = new Map(cut.bodies.map((b) => [b.component, b]));
  const lifted = new Map<number, number>();
  const taken = new Map<number, Cap['loops'][]>();
  const take = (i: number, by: Cap) => taken.set(i, [...(taken.get(i) ?? []), by.loops]);
  for (let i = 0; i < caps.length; i++) {
    for (const cover of covers) if (cover.component !== caps[i]!.component && meet(boxes[i]!, cover.box) && overlap(caps[i]!, cover)) take(i, cover);
    for (let j = i + 1; j < caps.length; j++) {
      const [a, b] = [caps[i]!, caps[j]!];
      if (a.component === b.component || !meet(boxes[i]!, boxes[j]!) || !overlap(a, b)) continue;
      const aCovers = isInner(a, b, bodyOf, frame, plane);
      const [over, under] = aCovers ? [a, b] : [b, a];
      take(aCovers ? j : i, over);
      lifted.set(over.component, Math.max(lifted.get(over.component) ?? 0, (lifted.get(under.component) ?? 0) + 1));
    }
  }
  if (!taken.size) return cut;
  const step = LIFT * sceneDiagonal(cut.bodies);
  return {
    ...cut,
    caps: caps.map((c, i) => {
      const by = taken.get(i);
      return by ? { ...c, loops: loopsWithout(c.loops, by) } : c;
    }),
    bodies: cut.bodies.map((b) => {
      const n = lifted.get(b.component);
      return n ? { ...b, placement: combine(translation(scale(frame.toward, n * step)), b.placement) } : b;
    }),
  };
}

const meet = (a: Box, b: Box): boolean => a[0] + TOUCH_MM < b[2] && b[0] + TOUCH_MM < a[2] && a[1] + TOUCH_MM < b[3] && b[1] + TOUCH_MM < a[3];

/** Does an edge of one, moved a little into its own area, lie in the other? */
function overlap(a: Pick<Cap, 'loops'>, b: Pick<Cap, 'loops'>): boolean {
  return entersInto(a.loops, b.loops) || entersInto(b.loops, a.loops);
}

function entersInto(of: readonly ArrayLike<number>[], other: readonly ArrayLike<number>[]): boolean {
  const box = boxOfLoops(other);
  for (const p of of)
    for (let i = 0, j = p.length - 2; i < p.length; j = i, i += 2) {
      const [x, y] = [(p[j]! + p[i]!) / 2, (p[j + 1]! + p[i + 1]!) / 2];
      if (x < box[0] || y < box[1] || x > box[2] || y > box[3]) continue;
      const [dx, dy] = [p[i]! - p[j]!, p[i + 1]! - p[j + 1]!];
      const l = Math.hypot(dx, dy);
      if (l < 1e-9) continue;
      // Material lies to one side of an edge: whichever it is, the point must lie in both.
      for (const side of [TOUCH_MM, -TOUCH_MM]) {
        const [u, v] = [x - (dy / l) * side, y + (dx / l) * side];
        if (insideLoops(other, u, v) && insideLoops(of, u, v)) return true;
      }
    }
  return false;
}

/**
 * Is the first the inner one of two that share space: a screw in a tapped hole? Seen from the axis of the smaller one the inner
 * one's material comes before what they share, the outer one's behind it. Without an axis the smaller one is.
 */
function isInner(a: Cap, b: Cap, bodyOf: ReadonlyMap<number, Body>, frame: ViewFrame, plane: Plane): boolean {
  const volume = (c: Cap) => bodyOf.get(c.component)?.geometry.volumeMm3 ?? Infinity;
  const [small, large] = volume(a) <= volume(b) ? [a, b] : [b, a];
  const body = bodyOf.get(small.component);
  const turned = body && turnedShape(body);
  const votes = turned ? innerVotes(small, large, turned.point, turned.axis, frame, plane) : 0;
  return (votes >= 0 ? small : large) === a;
}

/** More than nought when the first one's material lies nearer to the axis, in the edges where they overlap. */
function innerVotes(a: Cap, b: Cap, point: Vec3, axis: Vec3, frame: ViewFrame, plane: Plane): number {
  const at: Vec2 = [dot(point, frame.right), dot(point, frame.up)];
  const along: Vec2 = [dot(axis, frame.right), dot(axis, frame.up)];
  const endOn = Math.abs(dot(axis, plane.normal)) > 0.5;
  let votes = 0;
  for (const [own, other, sign] of [
    [a.loops, b.loops, 1],
    [b.loops, a.loops, -1],
  ] as const)
    for (const p of own)
      for (let i = 0, j = p.length - 2; i < p.length; j = i, i += 2) {
        const [x, y] = [(p[j]! + p[i]!) / 2, (p[j + 1]! + p[i + 1]!) / 2];
        if (!insideLoops(other, x, y)) continue;
        const from: Vec2 = [x - at[0], y - at[1]];
        const way: Vec2 = endOn ? from : [-along[1] * side(from, along), along[0] * side(from, along)];
        const l = Math.hypot(way[0], way[1]);
        if (l < 1e-9) continue;
        const outside: Vec2 = [x + (way[0] / l) * TOUCH_MM, y + (way[1] / l) * TOUCH_MM];
        const inside: Vec2 = [x - (way[0] / l) * TOUCH_MM, y - (way[1] / l) * TOUCH_MM];
        // An edge of one where its material ends outward, in the middle of the other: it is the inner one.
        const length = Math.hypot(p[i]! - p[j]!, p[i + 1]! - p[j + 1]!);
        if (insideLoops(own, ...inside) && !insideLoops(own, ...outside)) votes += sign * length;
        else if (insideLoops(own, ...outside) && !insideLoops(own, ...inside)) votes -= sign * length;
      }
  return votes;
}

/** On which side of the axis a place lies. */
const side = (from: Vec2, along: Vec2): number => (along[0] * from[1] - along[1] * from[0] >= 0 ? 1 : -1);
