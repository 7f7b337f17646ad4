import { applyToDirection, applyToPoint, determinant, type Placement } from '../core/base/placement.ts';
import type { Kernel } from './load.ts';

/* eslint-disable @typescript-eslint/no-explicit-any -- the kernel's generated types do not cover its overloads */

/** One face's triangulation in the part's frame. */
export interface FaceMesh {
  /** Number of its first node among all nodes of the part. */
  readonly first: number;
  readonly positions: Float64Array;
  /** Exact outward normals, per node. */
  readonly normals: Float64Array;
  /** Local node numbers from 0, counter-clockwise seen from outside. */
  readonly triangles: Uint32Array;
  /** Live kernel objects: the caller deletes the handle. */
  readonly handle: any;
  readonly location: any;
}

/**
 * A handle's array as it lies in the heap: the object behind the handle starts with a virtual table pointer and a
 * count, then `lower, upper, deletable, data`; element i lies at `data + i * size`.
 * @returns the address of element 1, or 0 when the layout is not what we know
 */
function firstElement(k: Kernel, handle: any, count: number, size: number): number {
  const object = k.HEAP32[handle.$$.ptr >> 2]!;
  const at = (object + 8) >> 2;
  if (k.HEAP32[at] !== 1 || k.HEAP32[at + 1] !== count) return 0;
  const data = k.HEAP32[at + 3]!;
  return data > 0 && data + size * (count + 1) <= k.HEAPU8.byteLength ? data + size : 0;
}

/** Reads nodes, triangles and exact normals of a meshed face; undefined when it has no triangulation. */
export function readNodes(k: Kernel, face: any, first: number): FaceMesh | undefined {
  const oc = k as any;
  const location = new oc.TopLoc_Location_1();
  const handle = oc.BRep_Tool.Triangulation(face, location, 0);
  if (handle.IsNull()) {
    handle.delete();
    return undefined;
  }
  const t = handle.get();
  oc.StdPrs_ToolTriangulatedShape.ComputeNormals_1(face, handle);
  const n: number = t.NbNodes();
  const m: number = t.NbTriangles();
  const placement = placementOf(location);
  const mirrored = placement !== undefined && determinant(placement) < 0;
  const reversed = face.Orientation_1() === oc.TopAbs_Orientation.TopAbs_REVERSED;
  const positions = pointsOf(k, t, n);
  const normals = normalsOf(k, t, n);
  const triangles = trianglesOf(k, t, m, reversed !== mirrored);
  if (placement) place(placement, positions, normals);
  turnOutward(positions, triangles, normals);
  return { first, positions, normals, triangles, handle, location };
}

function pointsOf(k: Kernel, t: any, n: number): Float64Array {
  const array = t.MapNodeArray();
  const at = t.IsDoublePrecision() ? firstElement(k, array, n, 24) : 0;
  let out: Float64Array | undefined;
  if (at && at % 8 === 0) {
    out = k.HEAPF64.slice(at >> 3, (at >> 3) + n * 3);
    const probe = t.Node(n);
    if (out[n * 3 - 3] !== probe.X() || out[n * 3 - 1] !== probe.Z()) out = undefined;
    probe.delete();
  }
  array.delete();
  if (out) return out;
  out = new Float64Array(n * 3);
  for (let i = 0; i < n; i++) {
    const p = t.Node(i + 1);
    out[i * 3] = p.X();
    out[i * 3 + 1] = p.Y();
    out[i * 3 + 2] = p.Z();
    p.delete();
  }
  return out;
}

function normalsOf(k: Kernel, t: any, n: number): Float64Array {
  const out = new Float64Array(n * 3);
  const array = t.MapNormalArray();
  const at = firstElement(k, array, n * 3, 4);
  if (at) out.set(k.HEAPF32.subarray(at >> 2, (at >> 2) + n * 3));
  array.delete();
  const probe = t.Normal_1(n);
  const same = Math.abs(out[n * 3 - 3]! - probe.X()) < 1e-6 && Math.abs(out[n * 3 - 1]! - probe.Z()) < 1e-6;
  probe.delete();
  if (!at || !same)
    for (let i = 0; i < n; i++) {
      const d = t.Normal_1(i + 1);
      out[i * 3] = d.X();
      out[i * 3 + 1] = d.Y();
      out[i * 3 + 2] = d.Z();
      d.delete();
    }
  return out;
}

function trianglesOf(k: Kernel, t: any, m: number, flip: boolean): Uint32Array {
  const out = new Uint32Array(m * 3);
  const array = t.MapTriangleArray();
  const at = firstElement(k, array, m, 12);
  if (at) out.set(k.HEAP32.subarray(at >> 2, (at >> 2) + m * 3));
  array.delete();
  const probe = t.Triangle(m);
  const same = out[m * 3 - 3] === probe.Value(1) && out[m * 3 - 1] === probe.Value(3);
  probe.delete();
  if (!at || !same)
    for (let i = 0; i < m; i++) {
      const tri = t.Triangle(i + 1);
      for (let c = 0; c < 3; c++) out[i * 3 + c] = tri.Value(c + 1);
      tri.delete();
    }
  for (let i = 0; i < m * 3; i += 3) {
    const [a, b, c] = [out[i]! - 1, out[i + 1]! - 1, out[i + 2]! - 1];
    out[i] = a;
    out[i + 1] = flip ? c : b;
    out[i + 2] = flip ? b : c;
  }
  return out;
}

/** undefined for the identity. */
export function placementOf(location: any): Placement | undefined {
  if (location.IsIdentity()) return undefined;
  const trsf = location.Transformation();
  const out: number[] = [];
  for (let r = 1; r <= 3; r++) for (let c = 1; c <= 4; c++) out.push(trsf.Value(r, c));
  trsf.delete();
  return out;
}

function place(m: Placement, positions: Float64Array, normals: Float64Array): void {
  for (let i = 0; i < positions.length; i += 3) {
    positions.set(applyToPoint(m, [positions[i]!, positions[i + 1]!, positions[i + 2]!]), i);
    normals.set(applyToDirection(m, [normals[i]!, normals[i + 1]!, normals[i + 2]!]), i);
  }
}

/** The kernel gives the surface's own normal, which may look into the solid: the triangles know better. */
function turnOutward(positions: Float64Array, triangles: Uint32Array, normals: Float64Array): void {
  let agreement = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t]! * 3, triangles[t + 1]! * 3, triangles[t + 2]! * 3];
    const ux = positions[b]! - positions[a]!;
    const uy = positions[b + 1]! - positions[a + 1]!;
    const uz = positions[b + 2]! - positions[a + 2]!;
    const vx = positions[c]! - positions[a]!;
    const vy = positions[c + 1]! - positions[a + 1]!;
    const vz = positions[c + 2]! - positions[a + 2]!;
    agreement += (uy * vz - uz * vy) * normals[a]! + (uz * vx - ux * vz) * normals[a + 1]! + (ux * vy - uy * vx) * normals[a + 2]!;
  }
  if (agreement < 0) for (let i = 0; i < normals.length; i++) normals[i] = -normals[i]!;
}
