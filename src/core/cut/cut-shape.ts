import { cross, dot, type Vec3 } from '../base/vector.ts';
import type { ViewFrame } from '../outline/directions.ts';
import type { Plane } from './plane-cut.ts';
import { prism, type Prism } from './prism.ts';

/**
 * What a cut takes away in front of its plane n·x = d, when it is not everything. Model space, mm.
 * - half: only where `across`·x > `from`; the rest is seen from outside.
 * - stepped: parallel planes; step i lies at `d` where `across`·x is between its `from` and that of the next.
 * - local: only inside an outline, flat `[x, y, …]` in the view plane.
 */
export type CutShape =
  | { readonly kind: 'half'; readonly across: Vec3; readonly from: number }
  | { readonly kind: 'stepped'; readonly across: Vec3; readonly steps: readonly { readonly from: number; readonly d: number }[] }
  | { readonly kind: 'local'; readonly outline: readonly number[] };

/**
 * The prism that a cut takes away, and which of its faces are cutting planes; the others are walls.
 * @param reach beyond the scene in every direction, mm
 * @throws RangeError for an outline without area, steps that do not ascend, or directions that are not square to the plane's
 */
export function cutTool(shape: CutShape, plane: Plane, frame: ViewFrame, reach: number): { tool: Prism; planes: ReadonlySet<number> } {
  if (shape.kind === 'local') {
    const tool = prism({ origin: [0, 0, 0], u: frame.right, v: frame.up }, shape.outline, plane.d, reach);
    // The lower end is the bottom of the break.
    return { tool, planes: new Set([shape.outline.length / 2]) };
  }
  if (Math.abs(dot(shape.across, plane.normal)) > 1e-6) throw new RangeError('The direction across a cut must lie in its plane.');
  const steps = shape.kind === 'half' ? [{ from: shape.from, d: plane.d }] : shape.steps;
  if (steps.some((s, i) => i > 0 && s.from <= steps[i - 1]!.from)) throw new RangeError('The steps of a cut must ascend.');
  const outline: number[] = [];
  steps.forEach((s, i) => {
    const from = i === 0 && shape.kind === 'stepped' ? -reach : s.from;
    outline.push(from, s.d, steps[i + 1]?.from ?? reach, s.d);
  });
  const first = outline[0]!;
  outline.push(reach, reach, first, reach);
  const tool = prism({ origin: [0, 0, 0], u: shape.across, v: plane.normal }, outline, -reach, reach);
  const planes = new Set(tool.normals.flatMap((n, f) => (dot(n, plane.normal) < -0.999 ? [f] : [])));
  return { tool, planes };
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
