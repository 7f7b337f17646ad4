import { EDGE_STRIDE, type PartGeometry } from './part-geometry.ts';

type EdgeArrays = Pick<PartGeometry, 'edgeStart' | 'edgeVertices' | 'edgeClass' | 'edgeFaces' | 'edgeCurve' | 'edgeParams'>;

/** Gathers the edges of a part in the making. */
export class EdgeList {
  private readonly start = [0];
  private readonly vertices: number[] = [];
  private readonly classes: number[] = [];
  private readonly faces: number[] = [];
  private readonly curves: number[] = [];
  private readonly params: number[] = [];
  private readonly origins: number[] = [];

  /**
   * An edge of fewer than two vertices is none.
   * @param curve missing params are 0
   * @param origin see `PartGeometry.edgeOrigin`
   */
  add(
    vertices: readonly number[],
    edgeClass: number,
    faces: readonly [number, number],
    curve: { readonly kind: number; readonly params: ArrayLike<number> },
    origin = 0,
  ): void {
    if (vertices.length < 2) return;
    for (const v of vertices) this.vertices.push(v);
    this.start.push(this.vertices.length);
    this.classes.push(edgeClass);
    this.origins.push(origin);
    this.faces.push(...faces);
    this.curves.push(curve.kind);
    for (let k = 0; k < EDGE_STRIDE; k++) this.params.push(curve.params[k] ?? 0);
  }

  /** Of a part that was cut. */
  finishCut(): EdgeArrays & { readonly edgeOrigin: Int32Array } {
    return { ...this.finish(), edgeOrigin: Int32Array.from(this.origins) };
  }

  finish(): EdgeArrays {
    return {
      edgeStart: Uint32Array.from(this.start),
      edgeVertices: Uint32Array.from(this.vertices),
      edgeClass: Uint8Array.from(this.classes),
      edgeFaces: Int32Array.from(this.faces),
      edgeCurve: Uint8Array.from(this.curves),
      edgeParams: Float64Array.from(this.params),
    };
  }
}
