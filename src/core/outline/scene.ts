import { boxDiagonal, type PartGeometry } from '../assembly/part-geometry.ts';
import { applyToPoint, determinant, type Placement } from '../base/placement.ts';
import type { ViewFrame } from './directions.ts';

/** A part in its place; several bodies may belong to one component. */
export interface Body {
  readonly component: number;
  readonly geometry: PartGeometry;
  readonly placement: Placement;
}

/**
 * A part seen along a direction, in view axes but about the part's own origin: x right, y up, z toward the reader; mm.
 * Every body of the part that is turned the same way shares it.
 */
export interface PartView {
  readonly geometry: PartGeometry;
  /** Row-major 3×3 from the part's frame to view axes. */
  readonly turn: readonly number[];
  readonly mirrored: boolean;
  /** 3 per vertex. */
  readonly xyz: Float64Array;
  /** Per triangle corner: normal · toward; positive looks at the reader. */
  readonly facing: Float32Array;
  /** `Facing` per triangle. */
  readonly side: Uint8Array;
  /** 1 for each face that is seen edge-on as a whole. */
  readonly edgeOn: Uint8Array;
  /** minX minY minZ maxX maxY maxZ of the vertices that triangles use. */
  readonly box: Float64Array;
}

/** A body in view space: its part's view, shifted. */
export interface Instance {
  readonly body: Body;
  readonly part: PartView;
  readonly x: number;
  readonly y: number;
  readonly z: number;
}

/** Bodies projected along one direction; computed once and used for lines, item map and shading. */
export interface ProjectedScene {
  readonly frame: ViewFrame;
  readonly parts: readonly PartView[];
  readonly instances: readonly Instance[];
  /** minX minY minZ maxX maxY maxZ, view space; infinite and inverted when there is nothing. */
  readonly box: readonly number[];
  /** Of that box, mm; 1 for an empty scene. The tolerances hang on it. */
  readonly diagonal: number;
}

export const Facing = { back: 0, edge: 1, front: 2, mixed: 3 } as const;

/** |n·w| below this is edge-on: normals are single precision, and on splines good to about this. */
export const EDGE_ON = 1e-5;
/** A whole face may be a little worse: its facets tilt, its normals do not. */
const FACE_EDGE_ON = 1e-4;

export function projectScene(bodies: readonly Body[], frame: ViewFrame): ProjectedScene {
  const known = new Map<PartGeometry, Map<string, PartView>>();
  const parts: PartView[] = [];
  const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  const instances = bodies.map((body): Instance => {
    const turn = turnOf(body.placement, frame);
    let views = known.get(body.geometry);
    if (!views) known.set(body.geometry, (views = new Map<string, PartView>()));
    // Placements multiplied up along a tree differ in their last digits.
    const key = turn.map((v) => Math.round(v * 1e10) + 0).join();
    let part = views.get(key);
    if (!part) {
      part = projectPart(body.geometry, turn, determinant(body.placement) < 0);
      views.set(key, part);
      parts.push(part);
    }
    const [x, y, z] = [frame.right, frame.up, frame.toward].map((a) => a[0] * body.placement[3]! + a[1] * body.placement[7]! + a[2] * body.placement[11]!) as [
      number,
      number,
      number,
    ];
    const at = [x, y, z];
    for (let k = 0; k < 3; k++) {
      box[k] = Math.min(box[k]!, part.box[k]! + at[k]!);
      box[k + 3] = Math.max(box[k + 3]!, part.box[k + 3]! + at[k]!);
    }
    return { body, part, x, y, z };
  });
  const size = Math.hypot(box[3]! - box[0]!, box[4]! - box[1]!, box[5]! - box[2]!);
  return { frame, parts, instances, box, diagonal: Number.isFinite(size) && size > 0 ? size : 1 };
}

function turnOf(placement: Placement, frame: ViewFrame): number[] {
  const out: number[] = [];
  for (const axis of [frame.right, frame.up, frame.toward])
    for (let c = 0; c < 3; c++) out.push(axis[0] * placement[c]! + axis[1] * placement[4 + c]! + axis[2] * placement[8 + c]!);
  return out;
}

function projectPart(g: PartGeometry, turn: readonly number[], mirrored: boolean): PartView {
  const n = g.positions.length;
  const xyz = new Float64Array(n);
  const [a, b, c, e, f, h, j, k, l] = turn as number[] & { length: 9 };
  for (let p = 0; p < n; p += 3) {
    const x = g.positions[p]!;
    const y = g.positions[p + 1]!;
    const z = g.positions[p + 2]!;
    xyz[p] = a! * x + b! * y + c! * z;
    xyz[p + 1] = e! * x + f! * y + h! * z;
    xyz[p + 2] = j! * x + k! * y + l! * z;
  }
  const corners = g.cornerNormals;
  const facing = new Float32Array(corners.length / 3);
  const edgeOn = new Uint8Array(g.faceKind.length).fill(1);
  for (let p = 0, q = 0; p < corners.length; p += 3, q++) {
    const w = j! * corners[p]! + k! * corners[p + 1]! + l! * corners[p + 2]!;
    facing[q] = w;
    if (w > FACE_EDGE_ON || w < -FACE_EDGE_ON) edgeOn[g.triangleFace[(q / 3) | 0]!] = 0;
  }
  const side = new Uint8Array(g.triangles.length / 3);
  for (let t = 0; t < side.length; t++) {
    if (edgeOn[g.triangleFace[t]!]) {
      side[t] = Facing.edge;
      continue;
    }
    const p = facing[t * 3]!;
    const q = facing[t * 3 + 1]!;
    const r = facing[t * 3 + 2]!;
    const plus = p > EDGE_ON || q > EDGE_ON || r > EDGE_ON;
    const minus = p < -EDGE_ON || q < -EDGE_ON || r < -EDGE_ON;
    side[t] = plus ? (minus ? Facing.mixed : Facing.front) : minus ? Facing.back : Facing.edge;
  }
  return { geometry: g, turn, mirrored, xyz, facing, side, edgeOn, box: usedBox(g, xyz) };
}

/** A cut leaves vertices behind that no triangle uses. */
function usedBox(g: PartGeometry, xyz: Float64Array): Float64Array {
  const box = Float64Array.of(Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity);
  for (let i = 0; i < g.triangles.length; i++) {
    const v = g.triangles[i]! * 3;
    for (let k = 0; k < 3; k++) {
      const c = xyz[v + k]!;
      if (c < box[k]!) box[k] = c;
      if (c > box[k + 3]!) box[k + 3] = c;
    }
  }
  return box;
}

/** Diagonal of the box around all bodies in model space, mm; 1 for none. */
export function sceneDiagonal(bodies: readonly Body[]): number {
  const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (const { geometry, placement } of bodies)
    for (let i = 0; i < 8; i++) {
      const b = geometry.box;
      const p = applyToPoint(placement, [b[i & 1 ? 3 : 0]!, b[i & 2 ? 4 : 1]!, b[i & 4 ? 5 : 2]!]);
      for (let k = 0; k < 3; k++) {
        box[k] = Math.min(box[k]!, p[k]!);
        box[k + 3] = Math.max(box[k + 3]!, p[k]!);
      }
    }
  return boxDiagonal(box) || 1;
}
