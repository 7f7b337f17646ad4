import type { z } from 'zod';
import { applyToDirection, IDENTITY, type Placement } from '../base/placement.ts';
import { add, cross, dot, scale, subtract, type Vec3 } from '../base/vector.ts';
import type { ViewFrame } from '../outline/directions.ts';
import type { Plane } from './plane-cut.ts';
import { prism, type Prism } from './prism.ts';
import type { cutShape } from './record.ts';

export type CutShape = z.infer<typeof cutShape>;
export type AlignedShape = Extract<CutShape, { kind: 'aligned' }>;

/** A prism that is taken away. */
export interface CutTool {
  readonly tool: Prism;
  /** Its faces that are cutting planes; the others are walls. */
  readonly planes: ReadonlySet<number>;
  /** How the scene is turned before this tool comes. */
  readonly turn?: Placement;
  /** It takes from what the tool before it left, instead of giving a piece of its own. */
  readonly after?: boolean;
}

/**
 * The prisms of a cut: each gives a piece of its own of every body.
 * @param reach beyond the scene in every direction, mm
 * @throws RangeError as `whyNoShape` says
 */
export function cutTools(shape: CutShape, plane: Plane, frame: ViewFrame, reach: number): readonly CutTool[] {
  const wrong = whyNoShape(shape, plane.normal);
  if (wrong) throw new RangeError(wrong);
  if (shape.kind === 'local') {
    return [{ outline: shape.outline, d: plane.d }, ...(shape.more ?? [])].map(({ outline, d }, i) => {
      const tool = prism({ origin: [0, 0, 0], u: frame.right, v: frame.up }, outline, d, reach);
      // The lower end is the bottom of the break.
      return { tool, planes: new Set([outline.length / 2]), ...(i ? { after: true } : {}) };
    });
  }
  const along = (outline: readonly number[]): CutTool => {
    const tool = prism({ origin: [0, 0, 0], u: shape.across, v: plane.normal }, outline, -reach, reach);
    return { tool, planes: new Set(tool.normals.flatMap((n, f) => (dot(n, plane.normal) < -0.999 ? [f] : []))) };
  };
  const { d } = plane;
  if (shape.kind === 'aligned') {
    // Each half is what lies behind its own plane, up to the axis.
    const x = shape.from;
    return [
      along([-reach, d, x, d, x, -reach, reach, -reach, reach, reach, -reach, reach]),
      { ...along([x, d, reach, d, reach, reach, -reach, reach, -reach, -reach, x, -reach]), turn: turnBack(shape, plane) },
    ];
  }
  const steps = shape.kind === 'half' ? [{ from: shape.from, d }] : shape.steps;
  const outline: number[] = [];
  steps.forEach((s, i) => {
    const from = i === 0 && shape.kind === 'stepped' ? -reach : s.from;
    outline.push(from, s.d, steps[i + 1]?.from ?? reach, s.d);
  });
  outline.push(reach, reach, outline[0]!, reach);
  return [along(outline)];
}

/** A sentence when a shape cannot be cut, else undefined. */
export function whyNoShape(shape: CutShape, normal: Vec3): string | undefined {
  if (shape.kind === 'local') {
    const wrong = [shape, ...(shape.more ?? [])].some(({ outline: o }) => {
      let area = 0;
      for (let i = 0, j = o.length - 2; i < o.length; j = i, i += 2) area += o[j]! * o[i + 1]! - o[i]! * o[j + 1]!;
      return o.length < 6 || o.length % 2 !== 0 || Math.abs(area) <= 1e-9;
    });
    return wrong ? 'A break needs an outline of three corners or more around some area.' : undefined;
  }
  if (Math.abs(dot(shape.across, normal)) > 1e-6 || Math.abs(dot(shape.across, shape.across) - 1) > 1e-6)
    return 'The direction across a cut must lie in its plane and have the length 1.';
  if (shape.kind === 'stepped' && shape.steps.some((s, i) => i > 0 && s.from <= shape.steps[i - 1]!.from))
    return 'The steps of a cut must ascend: each begins where the one before ends.';
  if (shape.kind === 'aligned' && !(Math.abs(shape.turn) < Math.PI - 0.1)) return 'The two planes of a cut fold back on each other.';
  return undefined;
}

/** The axis at which two planes meet: a point and a unit vector. */
function axisOf(shape: AlignedShape, plane: Plane): { point: Vec3; axis: Vec3 } {
  return { point: add(scale(shape.across, shape.from), scale(plane.normal, plane.d)), axis: cross(plane.normal, shape.across) };
}

/** The second plane of an aligned cut, where it really is. */
export function turnedPlane(shape: AlignedShape, plane: Plane): Plane {
  const { point, axis } = axisOf(shape, plane);
  const normal = applyToDirection(rotation([0, 0, 0], axis, shape.turn), plane.normal);
  return { normal, d: dot(normal, point) };
}

function turnBack(shape: AlignedShape, plane: Plane): Placement {
  const { point, axis } = axisOf(shape, plane);
  return rotation(point, axis, -shape.turn);
}

/** Turn about a line through `point`, right-handed about the unit vector `axis`. (Rodrigues) */
function rotation(point: Vec3, axis: Vec3, angle: number): Placement {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const turned = (v: Vec3): Vec3 => add(add(scale(v, c), scale(cross(axis, v), s)), scale(axis, dot(axis, v) * (1 - c)));
  const [x, y, z] = [turned([1, 0, 0]), turned([0, 1, 0]), turned([0, 0, 1])];
  const t = subtract(point, turned(point));
  const m = [...IDENTITY];
  for (let r = 0; r < 3; r++) [m[r * 4], m[r * 4 + 1], m[r * 4 + 2], m[r * 4 + 3]] = [x[r]!, y[r]!, z[r]!, t[r]!];
  return m;
}

/** Which of the two planes of an aligned cut a point belongs to: the nearer one; near the axis the first. */
export function sideOf(shape: AlignedShape, plane: Plane, p: Vec3): 0 | 1 {
  const { point, axis } = axisOf(shape, plane);
  const d = subtract(p, point);
  const u = dot(d, shape.across);
  const v = dot(d, cross(axis, shape.across));
  if (Math.hypot(u, v) < 1e-3) return 0;
  // Angles from the two half-planes: the first looks against `across`, the second is turned from it.
  const fold = (a: number) => Math.abs(Math.atan2(Math.sin(a), Math.cos(a)));
  const at = Math.atan2(v, u);
  return fold(at - shape.turn) < fold(at - Math.PI) ? 1 : 0;
}

/** The tool in the frame of a part that is placed by row-major 3×4 `m`. */
export function toolInPart(tool: Prism, m: readonly number[]): Prism {
  const back = (v: Vec3): Vec3 => [
    m[0]! * v[0] + m[4]! * v[1] + m[8]! * v[2],
    m[1]! * v[0] + m[5]! * v[1] + m[9]! * v[2],
    m[2]! * v[0] + m[6]! * v[1] + m[10]! * v[2],
  ];
  const positions = new Float64Array(tool.positions.length);
  for (let i = 0; i < positions.length; i += 3)
    positions.set(back([tool.positions[i]! - m[3]!, tool.positions[i + 1]! - m[7]!, tool.positions[i + 2]! - m[11]!]), i);
  const [x, y, z] = [back([1, 0, 0]), back([0, 1, 0]), back([0, 0, 1])];
  const mirrored = dot(cross(x, y), z) < 0;
  const triangles = mirrored ? tool.triangles.map((_, i, t) => t[i % 3 === 0 ? i : i % 3 === 1 ? i + 1 : i - 1]!) : tool.triangles;
  return { positions, triangles, face: tool.face, normals: tool.normals.map(back) };
}
