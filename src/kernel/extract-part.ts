import { fitCurve, fitSurface, sameSurface, type FittedSurface } from '../core/assembly/fit.ts';
import { boxDiagonal, boxOf, CurveKind, EDGE_STRIDE, EdgeClass, FACE_STRIDE, SurfaceKind, type PartGeometry } from '../core/assembly/part-geometry.ts';
import type { Kernel } from './load.ts';
import { readNodes, type FaceMesh } from './read-triangulation.ts';
import { withScope, type Scope } from './scope.ts';

/* eslint-disable @typescript-eslint/no-explicit-any -- the kernel's generated types do not cover its overloads */

export interface MeshSettings {
  /** Largest distance of mesh and surface as a share of the part's diagonal. */
  readonly deflectionShare: number;
  /** Largest turn of the normal between neighbours, rad. */
  readonly angle: number;
}

export const MESH_DEFAULTS: MeshSettings = { deflectionShare: 0.001, angle: 0.2 };

/** Below this the normals of two faces at their common edge count as one: a tangent edge. cos 1°. */
const TANGENT_COS = Math.cos(Math.PI / 180);
const CURVE_SAMPLES = 13;

interface RawEdge {
  vertices: number[];
  faces: number[];
  /** Normals at the edge's nodes on each face, flat. */
  normals: number[][];
  shape: any;
}

/**
 * Meshes a shape and reads it out as part geometry.
 * @param shape a TopoDS_Shape in the part's own frame, mm
 * @returns undefined for a shape without a face (wires and points only)
 */
export function extractPart(k: Kernel, shape: any, settings: MeshSettings = MESH_DEFAULTS): PartGeometry | undefined {
  return withScope((s) => {
    const oc = k as any;
    shape = meshed(oc, s, shape, settings);
    if (!shape) return undefined;
    const faceMap = s.own(new oc.TopTools_IndexedMapOfShape_1());
    oc.TopExp.MapShapes_1(shape, oc.TopAbs_ShapeEnum.TopAbs_FACE, faceMap);
    const faceCount: number = faceMap.Extent();
    const edgeMap = s.own(new oc.TopTools_IndexedMapOfShape_1());
    oc.TopExp.MapShapes_1(shape, oc.TopAbs_ShapeEnum.TopAbs_EDGE, edgeMap);

    const deflection = deflectionFor(oc, s, shape, settings);
    const faces: (FaceMesh | undefined)[] = [];
    const edges: (RawEdge | undefined)[] = new Array<RawEdge | undefined>(edgeMap.Extent());
    const joins: [number, number][] = [];
    let nodeCount = 0;
    for (let f = 0; f < faceCount; f++) {
      const face = s.own(oc.TopoDS.Face_1(faceMap.FindKey(f + 1)));
      const mesh = readNodes(k, face, nodeCount);
      faces.push(mesh);
      if (!mesh) continue;
      nodeCount += mesh.positions.length / 3;
      readEdges(oc, face, f, mesh, edgeMap, edges, joins);
      mesh.handle.delete();
    }
    const vertexOf = joinNodes(nodeCount, joins);
    const exact = exactProperties(oc, shape);
    return assemble(oc, faceMap, faces, edges, vertexOf, deflection, exact);
  });
}

/** Largest distance of mesh and surface for a shape of this size, mm. */
function deflectionFor(oc: any, s: Scope, shape: any, settings: MeshSettings): number {
  const box = s.own(new oc.Bnd_Box_1());
  oc.BRepBndLib.Add(shape, box, false);
  return Math.max(1e-4, settings.deflectionShare * Math.sqrt(box.SquareExtent()));
}

/**
 * Meshes a shape. The mesher gives up on some closed faces, such as a cone up to its apex: these are cut in two, and the
 * whole is meshed again.
 * @returns the shape that carries the mesh; undefined when it has no face
 */
function meshed(oc: any, s: Scope, shape: any, settings: MeshSettings): any {
  const explorer = s.own(new oc.TopExp_Explorer_2(shape, oc.TopAbs_ShapeEnum.TopAbs_FACE, oc.TopAbs_ShapeEnum.TopAbs_SHAPE));
  if (!explorer.More()) return undefined;
  const deflection = deflectionFor(oc, s, shape, settings);
  s.own(new oc.BRepMesh_IncrementalMesh_2(shape, deflection, false, settings.angle, false));
  let complete = true;
  for (; explorer.More(); explorer.Next()) {
    const triangulation = s.own(oc.BRep_Tool.Triangulation(s.own(oc.TopoDS.Face_1(explorer.Current())), s.own(new oc.TopLoc_Location_1()), 0));
    if (triangulation.IsNull()) complete = false;
  }
  if (complete) return shape;
  const divider = s.own(new oc.ShapeUpgrade_ShapeDivideClosed(shape));
  divider.SetNbSplitPoints(1);
  divider.Perform(true);
  const divided = s.own(divider.Result());
  s.own(new oc.BRepMesh_IncrementalMesh_2(divided, deflection, false, settings.angle, false));
  return divided;
}

/** Polygons of the face's edges; the nodes of an edge's second occurrence are the same points as those of its first. */
function readEdges(oc: any, face: any, f: number, mesh: FaceMesh, edgeMap: any, edges: (RawEdge | undefined)[], joins: [number, number][]): void {
  withScope((s) => {
    const explorer = s.own(new oc.TopExp_Explorer_2(face, oc.TopAbs_ShapeEnum.TopAbs_EDGE, oc.TopAbs_ShapeEnum.TopAbs_SHAPE));
    for (; explorer.More(); explorer.Next()) {
      const edge = s.own(oc.TopoDS.Edge_1(explorer.Current()));
      const polygonHandle = s.own(oc.BRep_Tool.PolygonOnTriangulation_1(edge, mesh.handle, mesh.location));
      if (polygonHandle.IsNull()) continue;
      const polygon = polygonHandle.get();
      const nodes: number[] = [];
      const normals: number[] = [];
      for (let i = 1; i <= polygon.NbNodes(); i++) {
        const local = polygon.Node(i) - 1;
        nodes.push(mesh.first + local);
        normals.push(mesh.normals[local * 3]!, mesh.normals[local * 3 + 1]!, mesh.normals[local * 3 + 2]!);
      }
      if (oc.BRep_Tool.Degenerated(edge)) {
        for (let i = 1; i < nodes.length; i++) joins.push([nodes[0]!, nodes[i]!]);
        continue;
      }
      const index = edgeMap.FindIndex(edge) - 1;
      const known = edges[index];
      if (!known) {
        edges[index] = { vertices: nodes, faces: [f], normals: [normals], shape: edgeMap.FindKey(index + 1) };
        continue;
      }
      if (known.vertices.length === nodes.length) known.vertices.forEach((v, i) => joins.push([v, nodes[i]!]));
      known.faces.push(f);
      known.normals.push(normals);
    }
  });
}

/** Union-find over the nodes; returns the vertex number of each node, numbered in order of first use. */
function joinNodes(count: number, joins: readonly [number, number][]): Uint32Array {
  const parent = new Uint32Array(count);
  for (let i = 0; i < count; i++) parent[i] = i;
  const root = (i: number): number => {
    while (parent[i] !== i) {
      parent[i] = parent[parent[i]!]!;
      i = parent[i]!;
    }
    return i;
  };
  for (const [a, b] of joins) {
    const [x, y] = [root(a), root(b)];
    if (x !== y) parent[Math.max(x, y)] = Math.min(x, y);
  }
  const number = new Uint32Array(count).fill(0xffffffff);
  const out = new Uint32Array(count);
  let next = 0;
  for (let i = 0; i < count; i++) {
    const r = root(i);
    if (number[r] === 0xffffffff) number[r] = next++;
    out[i] = number[r]!;
  }
  return out;
}

interface ExactProperties {
  volume: number;
  area: number;
  centroid: [number, number, number];
}

function exactProperties(oc: any, shape: any): ExactProperties {
  return withScope((s) => {
    const volume = s.own(new oc.GProp_GProps_1());
    oc.BRepGProp.VolumeProperties_1(shape, volume, true, false, false);
    const area = s.own(new oc.GProp_GProps_1());
    oc.BRepGProp.SurfaceProperties_1(shape, area, false, false);
    const solid = volume.Mass() > 0;
    const c = s.own((solid ? volume : area).CentreOfMass());
    return { volume: Math.abs(volume.Mass()), area: area.Mass(), centroid: [c.X(), c.Y(), c.Z()] };
  });
}

function assemble(
  oc: any,
  faceMap: any,
  faces: readonly (FaceMesh | undefined)[],
  rawEdges: readonly (RawEdge | undefined)[],
  vertexOf: Uint32Array,
  deflection: number,
  exact: ExactProperties,
): PartGeometry {
  const vertexCount = vertexOf.reduce((m, v) => Math.max(m, v + 1), 0);
  const positions = new Float64Array(vertexCount * 3);
  const filled = new Uint8Array(vertexCount);
  const triangles: number[] = [];
  const triangleFace: number[] = [];
  const normals: number[] = [];
  faces.forEach((mesh, f) => {
    if (!mesh) return;
    for (let i = 0; i < mesh.positions.length / 3; i++) {
      const v = vertexOf[mesh.first + i]!;
      if (filled[v]) continue;
      filled[v] = 1;
      positions.set(mesh.positions.subarray(i * 3, i * 3 + 3), v * 3);
    }
    for (let t = 0; t < mesh.triangles.length; t += 3) {
      const local = [mesh.triangles[t]!, mesh.triangles[t + 1]!, mesh.triangles[t + 2]!];
      const [a, b, c] = local.map((n) => vertexOf[mesh.first + n]!) as [number, number, number];
      if (a === b || b === c || c === a) continue;
      triangles.push(a, b, c);
      triangleFace.push(f);
      for (const n of local) normals.push(mesh.normals[n * 3]!, mesh.normals[n * 3 + 1]!, mesh.normals[n * 3 + 2]!);
    }
  });
  const box = boxOf(positions);
  const faceData = describeFaces(oc, faceMap, faces, Math.max(1e-5, 1e-4 * boxDiagonal(box)));
  const edgeData = describeEdges(oc, rawEdges, vertexOf, faceData, 1e-4 * boxDiagonal(box));
  return {
    positions,
    triangles: Uint32Array.from(triangles),
    triangleFace: Uint32Array.from(triangleFace),
    cornerNormals: Float32Array.from(normals),
    ...faceData,
    ...edgeData,
    closed: isClosed(triangles),
    deflectionMm: deflection,
    volumeMm3: exact.volume,
    areaMm2: exact.area,
    centroid: exact.centroid,
    box,
  };
}

function isClosed(triangles: readonly number[]): boolean {
  const open = new Map<number, number>();
  const big = 0x4000000;
  for (let t = 0; t < triangles.length; t += 3)
    for (let e = 0; e < 3; e++) {
      const a = triangles[t + e]!;
      const b = triangles[t + ((e + 1) % 3)]!;
      const twin = b * big + a;
      const n = open.get(twin) ?? 0;
      if (n > 1) open.set(twin, n - 1);
      else if (n === 1) open.delete(twin);
      else open.set(a * big + b, (open.get(a * big + b) ?? 0) + 1);
    }
  return open.size === 0;
}

function describeFaces(oc: any, faceMap: any, faces: readonly (FaceMesh | undefined)[], tolerance: number) {
  const faceKind = new Uint8Array(faces.length).fill(SurfaceKind.free);
  const faceParams = new Float64Array(faces.length * FACE_STRIDE);
  faces.forEach((mesh, f) => {
    if (!mesh) return;
    withScope((s) => {
      const adaptor = s.own(new oc.BRepAdaptor_Surface_2(s.own(oc.TopoDS.Face_1(faceMap.FindKey(f + 1))), false));
      if (adaptor.GetType() === oc.GeomAbs_SurfaceType.GeomAbs_Torus) {
        const torus = s.own(adaptor.Torus());
        const axis = s.own(torus.Axis());
        const [o, d] = [s.own(axis.Location()), s.own(axis.Direction())];
        faceKind[f] = SurfaceKind.torus;
        faceParams.set([o.X(), o.Y(), o.Z(), d.X(), d.Y(), d.Z(), torus.MajorRadius(), torus.MinorRadius()], f * FACE_STRIDE);
        return;
      }
      let fitted = fitSurface(mesh.positions, mesh.normals, tolerance);
      // A cone up to its apex has no normal there, and the fit finds none.
      if (fitted.kind === SurfaceKind.free && adaptor.GetType() === oc.GeomAbs_SurfaceType.GeomAbs_Cone) fitted = coneOf(s, adaptor);
      faceKind[f] = fitted.kind;
      faceParams.set(fitted.params, f * FACE_STRIDE);
    });
  });
  return { faceKind, faceParams };
}

function coneOf(s: Scope, adaptor: any): FittedSurface {
  const cone = s.own(adaptor.Cone());
  const axis = s.own(cone.Axis());
  const [o, d] = [s.own(axis.Location()), s.own(axis.Direction())];
  const angle: number = cone.SemiAngle();
  const way = Math.sign(angle);
  return { kind: SurfaceKind.cone, params: [o.X(), o.Y(), o.Z(), way * d.X(), way * d.Y(), way * d.Z(), cone.RefRadius(), Math.abs(angle)] };
}

function describeEdges(
  oc: any,
  raw: readonly (RawEdge | undefined)[],
  vertexOf: Uint32Array,
  surfaces: { readonly faceKind: Uint8Array; readonly faceParams: Float64Array },
  tolerance: number,
) {
  const onOneSurface = ([f, g]: readonly number[]): boolean => {
    if (g === undefined || f === g) return false;
    const kind = surfaces.faceKind[f!]!;
    const params = (face: number) => surfaces.faceParams.subarray(face * FACE_STRIDE, (face + 1) * FACE_STRIDE);
    return kind === surfaces.faceKind[g!] && sameSurface(kind, params(f!), params(g!), tolerance);
  };
  const start: number[] = [0];
  const vertices: number[] = [];
  const classes: number[] = [];
  const faces: number[] = [];
  const curves: number[] = [];
  const params: number[] = [];
  for (const e of raw) {
    if (!e) continue;
    for (const v of e.vertices) vertices.push(vertexOf[v]!);
    start.push(vertices.length);
    classes.push(classOf(e, onOneSurface(e.faces)));
    faces.push(e.faces[0]!, e.faces[1] ?? -1);
    const curve = withScope((s) => {
      const adaptor = s.own(new oc.BRepAdaptor_Curve_2(s.own(oc.TopoDS.Edge_1(e.shape))));
      if (adaptor.GetType() === oc.GeomAbs_CurveType.GeomAbs_Line) return { kind: CurveKind.line, params: [0, 0, 0, 0, 0, 0, 0] };
      const [a, b] = [adaptor.FirstParameter(), adaptor.LastParameter()];
      const samples: number[] = [];
      for (let i = 0; i < CURVE_SAMPLES; i++) {
        const p = s.own(adaptor.Value(a + ((b - a) * i) / (CURVE_SAMPLES - 1)));
        samples.push(p.X(), p.Y(), p.Z());
      }
      return fitCurve(samples);
    });
    curves.push(curve.kind);
    params.push(...curve.params);
  }
  return {
    edgeStart: Uint32Array.from(start),
    edgeVertices: Uint32Array.from(vertices),
    edgeClass: Uint8Array.from(classes),
    edgeFaces: Int32Array.from(faces),
    edgeCurve: Uint8Array.from(curves),
    edgeParams: Float64Array.from(params.length ? params : new Array<number>(0 * EDGE_STRIDE)),
  };
}

/** @param oneSurface the faces are pieces of one surface: their edge is none, though the normals at an apex differ */
function classOf(e: RawEdge, oneSurface: boolean): number {
  const [a, b] = [e.normals[0], e.normals[1]];
  if (!a || !b) return EdgeClass.sharp;
  let least = 1;
  let most = -1;
  for (let i = 0; i < Math.min(a.length, b.length); i += 3) {
    const c = a[i]! * b[i]! + a[i + 1]! * b[i + 1]! + a[i + 2]! * b[i + 2]!;
    least = Math.min(least, c);
    most = Math.max(most, c);
  }
  if ((oneSurface || e.faces[0] === e.faces[1]) && most > TANGENT_COS) return EdgeClass.seam;
  return least < TANGENT_COS ? EdgeClass.sharp : EdgeClass.tangent;
}
