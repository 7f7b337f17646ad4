import { CurveKind, EDGE_STRIDE, FACE_STRIDE, SurfaceKind } from '../assembly/part-geometry.ts';
import { applyToDirection, applyToPoint } from '../base/placement.ts';
import { dot, type Vec3 } from '../base/vector.ts';
import type { ViewFrame } from './directions.ts';
import { HIDDEN } from './linework.ts';
import type { ProjectedBody } from './scene.ts';

/** A projected circle: `point(t) = centre + rx·cos t·(cos turn, sin turn) + ry·sin t·(-sin turn, cos turn)`. */
export interface ProjectedCircle {
  readonly cx: number;
  readonly cy: number;
  readonly rx: number;
  readonly ry: number;
  readonly turn: number;
}

export interface ArcPiece extends ProjectedCircle {
  readonly t0: number;
  readonly t1: number;
}

export interface Run {
  /** Flat points, view space. */
  readonly xy: readonly number[];
  readonly kind: number;
  readonly component: number;
  readonly edge: number;
  readonly arc: ArcPiece | undefined;
}

interface Stretch {
  readonly from: Vec3;
  readonly to: Vec3;
  readonly hidden: boolean;
  readonly length: number;
}

/** Below this share of the radius an ellipse is seen edge-on: a straight line. */
const FLAT = 1e-6;

/** Turns the stretches of a chain into runs; flickers shorter than twice the deflection join their neighbours. */
export class RunBuilder {
  private readonly bodies: readonly ProjectedBody[];
  private readonly frame: ViewFrame;
  private readonly keepHidden: boolean;
  private readonly runs: Run[] = [];
  private stretches: Stretch[] = [];
  private body = 0;
  private edge = 0;
  private kind = 0;

  constructor(bodies: readonly ProjectedBody[], frame: ViewFrame, keepHidden: boolean) {
    this.bodies = bodies;
    this.frame = frame;
    this.keepHidden = keepHidden;
  }

  begin(body: number, edge: number, kind: number): void {
    this.stretches = [];
    this.body = body;
    this.edge = edge;
    this.kind = kind;
  }

  stretch(ax: number, ay: number, az: number, bx: number, by: number, bz: number, hidden: boolean): void {
    this.stretches.push({ from: [ax, ay, az], to: [bx, by, bz], hidden, length: Math.hypot(bx - ax, by - ay) });
  }

  end(): void {
    const states = this.withoutFlicker();
    let i = 0;
    while (i < this.stretches.length) {
      let j = i;
      while (j + 1 < this.stretches.length && states[j + 1] === states[i]) j++;
      if (!states[i] || this.keepHidden) this.emit(i, j, states[i]!);
      i = j + 1;
    }
  }

  finish(): readonly Run[] {
    return this.runs;
  }

  private withoutFlicker(): boolean[] {
    const states = this.stretches.map((s) => s.hidden);
    const least = 2 * this.bodies[this.body]!.body.geometry.deflectionMm;
    const groups: { hidden: boolean; from: number; to: number; length: number }[] = [];
    this.stretches.forEach((s, i) => {
      const last = groups[groups.length - 1];
      if (last && last.hidden === s.hidden) {
        last.to = i;
        last.length += s.length;
      } else groups.push({ hidden: s.hidden, from: i, to: i, length: s.length });
    });
    if (groups.length < 2) return states;
    groups.forEach((g, k) => {
      if (g.length >= least) return;
      const neighbour = groups[k - 1] ?? groups[k + 1]!;
      const other = groups[k + 1] ?? neighbour;
      if (Math.max(neighbour.length, other.length) < least) return;
      for (let i = g.from; i <= g.to; i++) states[i] = neighbour.length >= other.length ? neighbour.hidden : other.hidden;
    });
    return states;
  }

  private emit(i: number, j: number, hidden: boolean): void {
    const first = this.stretches[i]!;
    const xy = [first.from[0], first.from[1]];
    for (let k = i; k <= j; k++) xy.push(this.stretches[k]!.to[0], this.stretches[k]!.to[1]);
    const b = this.bodies[this.body]!;
    const circle =
      this.edge < 0 ? this.sphereOutline(b, -1 - this.edge) : b.body.geometry.edgeCurve[this.edge] === CurveKind.circle ? this.projectCircle(b) : undefined;
    this.runs.push({
      xy,
      kind: this.kind | (hidden ? HIDDEN : 0),
      component: b.body.component,
      edge: this.edge,
      arc: circle && arcThrough(circle, xy),
    });
  }

  /** A sphere's outline is a circle of its radius. */
  private sphereOutline(b: ProjectedBody, face: number): ProjectedCircle | undefined {
    const g = b.body.geometry;
    if (g.faceKind[face] !== SurfaceKind.sphere) return undefined;
    const p = g.faceParams.subarray(face * FACE_STRIDE, (face + 1) * FACE_STRIDE);
    const centre = applyToPoint(b.body.placement, [p[0]!, p[1]!, p[2]!]);
    return projectCircle([dot(centre, this.frame.right), dot(centre, this.frame.up), 0], [0, 0, 1], Math.abs(p[6]!));
  }

  private projectCircle(b: ProjectedBody): ProjectedCircle | undefined {
    const g = b.body.geometry;
    const p = g.edgeParams.subarray(this.edge * EDGE_STRIDE, (this.edge + 1) * EDGE_STRIDE);
    const centre = applyToPoint(b.body.placement, [p[0]!, p[1]!, p[2]!]);
    const axis = applyToDirection(b.body.placement, [p[3]!, p[4]!, p[5]!]);
    const { right, up, toward } = this.frame;
    return projectCircle([dot(centre, right), dot(centre, up), 0], [dot(axis, right), dot(axis, up), dot(axis, toward)], p[6]!);
  }
}

/** Projects a circle given in view space; undefined when it is seen edge-on. */
export function projectCircle(centre: Vec3, axis: Vec3, radius: number): ProjectedCircle | undefined {
  const tilt = Math.hypot(axis[0], axis[1]);
  const ry = radius * Math.abs(axis[2]);
  if (ry < FLAT * radius) return undefined;
  if (tilt < 1e-7) return { cx: centre[0], cy: centre[1], rx: radius, ry: radius, turn: 0 };
  // The long axis is square to the projected axis; turned into half a circle so that equal ellipses compare equal.
  let turn = Math.atan2(axis[0], -axis[1]);
  if (turn < 0) turn += Math.PI;
  if (turn >= Math.PI - 1e-9) turn = 0;
  return { cx: centre[0], cy: centre[1], rx: radius, ry, turn };
}

/** The arc of a projected circle that runs through the points, in their sense. */
export function arcThrough(c: ProjectedCircle, xy: readonly number[]): ArcPiece | undefined {
  const cos = Math.cos(c.turn);
  const sin = Math.sin(c.turn);
  const at = (i: number) => {
    const dx = xy[i]! - c.cx;
    const dy = xy[i + 1]! - c.cy;
    return Math.atan2((dy * cos - dx * sin) / c.ry, (dx * cos + dy * sin) / c.rx);
  };
  const t0 = at(0);
  let t = t0;
  let before = t0;
  for (let i = 2; i < xy.length; i += 2) {
    const now = at(i);
    let d = now - before;
    if (d > Math.PI) d -= 2 * Math.PI;
    else if (d < -Math.PI) d += 2 * Math.PI;
    t += d;
    before = now;
  }
  if (Math.abs(t - t0) > 2 * Math.PI - 1e-6) t = t0 + Math.sign(t - t0) * 2 * Math.PI;
  return Math.abs(t - t0) < 1e-9 ? undefined : { ...c, t0, t1: t };
}

/** Point of an arc at parameter t. */
export function arcPoint(c: ProjectedCircle, t: number): [number, number] {
  const x = c.rx * Math.cos(t);
  const y = c.ry * Math.sin(t);
  return [c.cx + x * Math.cos(c.turn) - y * Math.sin(c.turn), c.cy + x * Math.sin(c.turn) + y * Math.cos(c.turn)];
}
