import { FACE_STRIDE, SurfaceKind } from '../assembly/part-geometry.ts';
import { applyToDirection, applyToPoint, IDENTITY, type Placement } from '../base/placement.ts';
import { add, dot, scale, subtract, type Vec2, type Vec3 } from '../base/vector.ts';
import type { ViewFrame } from '../outline/directions.ts';
import type { Body } from '../outline/scene.ts';
import { applyPull, stepOf, takenOff, type Pull } from './spread.ts';

/** The way a component travelled, as a line in the model: from where it would sit now to where it is. */
export interface PullLine {
  readonly component: number;
  readonly points: readonly Vec3[];
}

/** Points drawn along a turn. */
const TURN_POINTS = 12;

/**
 * The pull lines of a spread. A component that only goes along with others has none of its own for that pull: its line
 * moves with them. Of a set that moves as one the largest part has the line.
 * @param bodies in their assembled places; what is not among them has no line
 */
export function pullLines(bodies: readonly Body[], pulls: readonly Pull[]): PullLine[] {
  // What is left out of a view still has its number.
  const most = Math.max(-1, ...bodies.map((b) => b.component), ...pulls.flatMap((p) => p.components));
  const motions = new Array<Placement>(most + 1).fill(IDENTITY);
  const bodyOf = new Map(bodies.map((b) => [b.component, b]));
  const ways = new Map<number, Vec3[]>();
  const moved = new Set<number>();
  for (const pull of pulls) {
    const before = motions[pull.components[0] ?? 0] ?? IDENTITY;
    const own = takenOff(
      pull,
      moved,
      (c) => bodyOf.get(c)?.geometry.volumeMm3 ?? 0,
      (c) => bodyOf.get(c)?.geometry,
    );
    pull.components.forEach((c, k) => {
      const step = stepOf(pull, k, before);
      const way = ways.get(c);
      if (!own.has(c)) {
        // It goes along, and the line it has goes with it.
        if (way)
          ways.set(
            c,
            way.map((p) => applyToPoint(step, p)),
          );
        return;
      }
      const body = bodyOf.get(c);
      if (!body) return;
      const start = way?.at(-1) ?? applyToPoint(motions[c]!, anchorOf(body, pull.turn?.axis ?? pull.direction));
      const line = way ?? [start];
      if (pull.turn) for (let i = 1; i < TURN_POINTS; i++) line.push(applyToPoint(stepOf(pull, k, before, i / TURN_POINTS), start));
      line.push(applyToPoint(step, start));
      ways.set(c, line);
    });
    for (const c of pull.components) moved.add(c);
    applyPull(motions, pull);
  }
  return [...ways].map(([component, points]) => ({ component, points })).sort((a, b) => a.component - b.component);
}

/**
 * Where the line leaves a body: on the axis of a hole or shaft along the direction, the one nearest to its middle; the
 * middle of its box where it has none. Model space, assembled.
 */
export function anchorOf(body: Body, direction: Vec3): Vec3 {
  const g = body.geometry;
  const b = g.box;
  const middle = applyToPoint(body.placement, [(b[0] + b[3]) / 2, (b[1] + b[4]) / 2, (b[2] + b[5]) / 2]);
  let best: { at: Vec3; away: number; radius: number } | undefined;
  for (let f = 0; f < g.faceKind.length; f++) {
    if (g.faceKind[f] !== SurfaceKind.cylinder) continue;
    const o = f * FACE_STRIDE;
    const axis = applyToDirection(body.placement, [g.faceParams[o + 3]!, g.faceParams[o + 4]!, g.faceParams[o + 5]!]);
    if (Math.abs(dot(axis, direction)) < 0.999) continue;
    const point = applyToPoint(body.placement, [g.faceParams[o]!, g.faceParams[o + 1]!, g.faceParams[o + 2]!]);
    const at = add(point, scale(axis, dot(subtract(middle, point), axis)));
    const away = Math.hypot(...subtract(at, middle));
    const radius = g.faceParams[o + 6]!;
    if (!best || away < best.away - 0.5 * best.radius || (Math.abs(away - best.away) < 1e-6 && radius > best.radius)) best = { at, away, radius };
  }
  return best?.at ?? middle;
}

/** A pull line in view space, model mm. */
export interface FlatLine {
  readonly component: number;
  readonly points: readonly Vec2[];
}

export const flatLines = (lines: readonly PullLine[], frame: ViewFrame): FlatLine[] =>
  lines.map((l) => ({ component: l.component, points: l.points.map((p): Vec2 => [dot(p, frame.right), dot(p, frame.up)]) }));
