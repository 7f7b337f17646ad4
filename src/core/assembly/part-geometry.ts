/**
 * The geometry of one part in its own frame, mm: a mesh, watertight where the part is a solid, and the B-rep edges
 * that run along mesh vertices. Struct of typed arrays, so that it can be transferred and stored as it is.
 */
export interface PartGeometry {
  /** 3 per vertex. */
  readonly positions: Float64Array;
  /** 3 vertices per triangle, counter-clockwise seen from outside. */
  readonly triangles: Uint32Array;
  /** Face of each triangle. */
  readonly triangleFace: Uint32Array;
  /** 9 per triangle: the exact outward surface normal at each corner. */
  readonly cornerNormals: Float32Array;
  /** `SurfaceKind` per face. */
  readonly faceKind: Uint8Array;
  /** `FACE_STRIDE` per face: a point on the axis (3), axis or normal (3), radius, second value (torus: minor radius; cone: half angle, rad). A cone's axis looks where it widens. */
  readonly faceParams: Float64Array;
  /** Edge `i` runs along `edgeVertices[edgeStart[i]]` to `edgeVertices[edgeStart[i + 1] - 1]`. */
  readonly edgeStart: Uint32Array;
  readonly edgeVertices: Uint32Array;
  /** `EdgeClass` per edge. */
  readonly edgeClass: Uint8Array;
  /** The two faces of each edge; -1 where there is none. */
  readonly edgeFaces: Int32Array;
  /** `CurveKind` per edge. */
  readonly edgeCurve: Uint8Array;
  /** `EDGE_STRIDE` per edge: circle centre (3), axis (3), radius. */
  readonly edgeParams: Float64Array;
  /** 1 for faces that a cut left as its walls: seen edge-on their edges are not drawn (ISO 128-40). Absent: none are. */
  readonly walls?: Uint8Array;
  /** Of a part that was cut: per edge the edge of the whole part it is a piece of, or -1 - f where face f was cut. Absent: edges are its own. */
  readonly edgeOrigin?: Int32Array;
  /** No mesh edge is without its twin. */
  readonly closed: boolean;
  /** Largest distance between mesh and surface, mm. */
  readonly deflectionMm: number;
  /** Exact, from the kernel; of the mesh where there is no kernel. */
  readonly volumeMm3: number;
  readonly areaMm2: number;
  readonly centroid: readonly [number, number, number];
  /** minX minY minZ maxX maxY maxZ of the mesh. */
  readonly box: readonly [number, number, number, number, number, number];
}

export const SurfaceKind = { plane: 0, cylinder: 1, cone: 2, sphere: 3, torus: 4, free: 5 } as const;
export const CurveKind = { line: 0, circle: 1, free: 2 } as const;
export const EdgeClass = { sharp: 0, tangent: 1, seam: 2, cut: 3 } as const;
export const FACE_STRIDE = 8;
export const EDGE_STRIDE = 7;

/** Diagonal of a box, mm; 0 for an empty one. */
export function boxDiagonal(b: readonly number[]): number {
  return Math.max(0, Math.hypot(b[3]! - b[0]!, b[4]! - b[1]!, b[5]! - b[2]!)) || 0;
}

/** Box of flat points, or `[0,0,0,0,0,0]` when there is none. */
export function boxOf(positions: Float64Array): PartGeometry['box'] {
  const b: [number, number, number, number, number, number] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i += 3)
    for (let k = 0; k < 3; k++) {
      const v = positions[i + k]!;
      if (v < b[k]!) b[k] = v;
      if (v > b[k + 3]!) b[k + 3] = v;
    }
  return positions.length ? b : [0, 0, 0, 0, 0, 0];
}
