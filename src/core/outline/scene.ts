import type { PartGeometry } from '../assembly/part-geometry.ts';
import { determinant, type Placement } from '../base/placement.ts';
import type { ViewFrame } from './directions.ts';

/** A part in its place; several bodies may belong to one component. */
export interface Body {
  readonly component: number;
  readonly geometry: PartGeometry;
  readonly placement: Placement;
}

/** A body in view space: x right, y up, z toward the reader; mm. */
export interface ProjectedBody {
  readonly body: Body;
  /** 3 per vertex. */
  readonly xyz: Float64Array;
  /** Per triangle corner: normal · toward; positive looks at the reader. */
  readonly facing: Float32Array;
  /** 9 per triangle, view space. */
  readonly normals: Float32Array;
  /** `Facing` per triangle. */
  readonly side: Uint8Array;
  /** 1 for each face that is seen edge-on as a whole. */
  readonly edgeOn: Uint8Array;
  readonly mirrored: boolean;
}

export const Facing = { back: 0, edge: 1, front: 2, mixed: 3 } as const;

/** |n·w| below this is edge-on: normals are single precision, and on splines good to about this. */
export const EDGE_ON = 1e-5;
/** A whole face may be a little worse: its facets tilt, its normals do not. */
const FACE_EDGE_ON = 1e-4;

export function projectBody(body: Body, frame: ViewFrame): ProjectedBody {
  const g = body.geometry;
  const m = viewMatrix(body.placement, frame);
  const n = g.positions.length;
  const xyz = new Float64Array(n);
  const [a, b, c, d, e, f, h, i, j, k, l, o] = m as number[] & { length: 12 };
  for (let p = 0; p < n; p += 3) {
    const x = g.positions[p]!;
    const y = g.positions[p + 1]!;
    const z = g.positions[p + 2]!;
    xyz[p] = a! * x + b! * y + c! * z + d!;
    xyz[p + 1] = e! * x + f! * y + h! * z + i!;
    xyz[p + 2] = j! * x + k! * y + l! * z + o!;
  }
  const corners = g.cornerNormals;
  const normals = new Float32Array(corners.length);
  const facing = new Float32Array(corners.length / 3);
  const edgeOn = new Uint8Array(g.faceKind.length).fill(1);
  for (let p = 0, q = 0; p < corners.length; p += 3, q++) {
    const x = corners[p]!;
    const y = corners[p + 1]!;
    const z = corners[p + 2]!;
    normals[p] = a! * x + b! * y + c! * z;
    normals[p + 1] = e! * x + f! * y + h! * z;
    const w = j! * x + k! * y + l! * z;
    normals[p + 2] = w;
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
  return { body, xyz, facing, normals, side, edgeOn, mirrored: determinant(body.placement) < 0 };
}

/** Row-major 3×4 from the part's frame to view space. */
function viewMatrix(placement: Placement, frame: ViewFrame): number[] {
  const out: number[] = [];
  for (const axis of [frame.right, frame.up, frame.toward])
    for (let c = 0; c < 4; c++) out.push(axis[0] * placement[c]! + axis[1] * placement[4 + c]! + axis[2] * placement[8 + c]!);
  return out;
}
