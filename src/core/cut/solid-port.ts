/** A closed triangle mesh, outward normals by the right-hand rule; mm. */
export interface TriangleSolid {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
}

export interface SolidDifference extends TriangleSolid {
  /** Per triangle: the triangle of the part that it is a piece of, or `-1 - t` for triangle t of the tool. */
  readonly source: Int32Array;
}

/** Boolean geometry, which a package does for us. */
export interface SolidPort {
  /** @returns undefined when the part is no closed solid; an empty result when nothing remains */
  subtract(part: TriangleSolid, tool: TriangleSolid): SolidDifference | undefined;
}
