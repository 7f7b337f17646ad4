import Flatbush from 'flatbush';
import type { ViewFrame } from '../../core/outline/directions.ts';
import { HIDDEN, type Linework } from '../../core/outline/linework.ts';
import type { Run } from '../../core/outline/runs.ts';
import { uniteLines } from '../../core/outline/unite.ts';
import type { Kernel } from '../load.ts';
import { withScope, type Scope } from '../scope.ts';

/* eslint-disable @typescript-eslint/no-explicit-any -- the kernel's generated types do not cover its overloads */

/**
 * Reads a STEP file as one shape, for the kernel's own algorithms to work on. The caller deletes it.
 * @param all the file and those that it refers to, the file first; default: it stands alone
 */
export function readShape(
  k: Kernel,
  bytes: Uint8Array,
  all: readonly { readonly name: string; readonly bytes: Uint8Array }[] = [{ name: 'reference.stp', bytes }],
): any {
  const oc = k as any;
  const folder = '/reference';
  if (!k.FS.analyzePath(folder).exists) k.FS.mkdir(folder);
  for (const f of all) k.FS.writeFile(`${folder}/${f.name}`, f.bytes);
  return withScope((s) => {
    const document = new oc.TDocStd_Document(s.own(new oc.TCollection_ExtendedString_2('MDTV-XCAF', true)));
    const handle = s.own(new oc.Handle_TDocStd_Document_2(document));
    const reader = s.own(new oc.STEPCAFControl_Reader_1());
    reader.ReadFile(`${folder}/${all[0]!.name}`);
    reader.Transfer_1(handle, s.own(new oc.Message_ProgressRange_1()));
    for (const f of all) k.FS.unlink(`${folder}/${f.name}`);
    const tool = s.own(oc.XCAFDoc_DocumentTool.ShapeTool(s.own(document.Main()))).get();
    const free = s.own(new oc.TDF_LabelSequence_1());
    tool.GetFreeShapes(free);
    const builder = s.own(new oc.BRep_Builder());
    const compound = new oc.TopoDS_Compound();
    builder.MakeCompound(compound);
    for (let i = 1; i <= free.Length(); i++) builder.Add(compound, s.own(oc.XCAFDoc_ShapeTool.GetShape_2(s.own(free.Value(i)))));
    return compound;
  });
}

/** A shape from the kernel's own text format, without the mesh that the file brings, often a coarse one. */
export function readBrep(k: Kernel, bytes: Uint8Array): any {
  const oc = k as any;
  return withScope((s) => {
    const name = '/reference.brep';
    k.FS.writeFile(name, bytes);
    const shape = new oc.TopoDS_Shape();
    oc.BRepTools.Read_2(shape, name, s.own(new oc.BRep_Builder()), s.own(new oc.Message_ProgressRange_1()));
    k.FS.unlink(name);
    oc.BRepTools.Clean(shape, true);
    return shape;
  });
}

/** The kernel's exact hidden-line algorithm; visible sharp edges and outlines as a union of lines. */
export function exactHiddenLines(k: Kernel, shape: any, frame: ViewFrame, tolerance: number): Linework {
  const oc = k as any;
  return withScope((s) => {
    const algo = new oc.HLRBRep_Algo_1();
    const handle = s.own(new oc.Handle_HLRBRep_Algo_2(algo));
    algo.Add_2(shape, 0);
    algo.Projector_1(projector(oc, s, frame));
    algo.Update();
    algo.Hide_1();
    const result = s.own(new oc.HLRBRep_HLRToShape(handle));
    const runs: Run[] = [];
    for (const compound of [result.VCompound_1(), result.OutLineVCompound_1()]) {
      s.own(compound);
      if (compound.IsNull()) continue;
      oc.BRepLib.BuildCurves3d_2(compound);
      runs.push(...edgesAsRuns(oc, compound));
    }
    return uniteLines(runs, tolerance);
  });
}

/** The kernel's polygonal hidden-line algorithm, a second witness; the shape must be meshed. */
export function polygonalHiddenLines(k: Kernel, shape: any, frame: ViewFrame, tolerance: number): Linework {
  const oc = k as any;
  return withScope((s) => {
    const algo = new oc.HLRBRep_PolyAlgo_1();
    const handle = s.own(new oc.Handle_HLRBRep_PolyAlgo_2(algo));
    algo.Load(shape);
    algo.Projector_2(projector(oc, s, frame));
    algo.Update();
    const result = s.own(new oc.HLRBRep_PolyHLRToShape());
    result.Update(handle);
    const runs: Run[] = [];
    for (const compound of [result.VCompound_1(), result.OutLineVCompound_1()]) {
      s.own(compound);
      if (!compound.IsNull()) runs.push(...edgesAsRuns(oc, compound));
    }
    return uniteLines(runs, tolerance);
  });
}

function projector(oc: any, s: Scope, frame: ViewFrame): any {
  const origin = s.own(new oc.gp_Pnt_3(0, 0, 0));
  const axes = s.own(new oc.gp_Ax2_2(origin, s.own(new oc.gp_Dir_4(...frame.toward)), s.own(new oc.gp_Dir_4(...frame.right))));
  return s.own(new oc.HLRAlgo_Projector_2(axes));
}

function edgesAsRuns(oc: any, compound: any): Run[] {
  return withScope((s) => {
    const runs: Run[] = [];
    const explorer = s.own(new oc.TopExp_Explorer_2(compound, oc.TopAbs_ShapeEnum.TopAbs_EDGE, oc.TopAbs_ShapeEnum.TopAbs_SHAPE));
    for (; explorer.More(); explorer.Next()) {
      const adaptor = s.own(new oc.BRepAdaptor_Curve_2(s.own(oc.TopoDS.Edge_1(explorer.Current()))));
      const [a, b] = [adaptor.FirstParameter(), adaptor.LastParameter()];
      const n = adaptor.GetType() === oc.GeomAbs_CurveType.GeomAbs_Line ? 1 : 400;
      const xy: number[] = [];
      for (let i = 0; i <= n; i++) {
        const p = s.own(adaptor.Value(a + ((b - a) * i) / n));
        xy.push(p.X(), p.Y());
      }
      runs.push({ xy, kind: 0, component: 0, edge: 0, arc: undefined, slack: 0 });
    }
    return runs;
  });
}

/** Area in which the plane n·x = d cuts the shape's solids, mm², by the kernel's boolean of shape and a planar face. */
export function exactCutArea(k: Kernel, shape: any, normal: readonly [number, number, number], d: number, reach: number): number {
  const oc = k as any;
  return withScope((s) => {
    const origin = s.own(new oc.gp_Pnt_3(normal[0] * d, normal[1] * d, normal[2] * d));
    const plane = s.own(new oc.gp_Pln_3(origin, s.own(new oc.gp_Dir_4(...normal))));
    const face = s.own(s.own(new oc.BRepBuilderAPI_MakeFace_9(plane, -reach, reach, -reach, reach)).Face());
    let area = 0;
    const explorer = s.own(new oc.TopExp_Explorer_2(shape, oc.TopAbs_ShapeEnum.TopAbs_SOLID, oc.TopAbs_ShapeEnum.TopAbs_SHAPE));
    for (; explorer.More(); explorer.Next()) {
      const common = s.own(new oc.BRepAlgoAPI_Common_3(explorer.Current(), face, s.own(new oc.Message_ProgressRange_1())));
      const props = s.own(new oc.GProp_GProps_1());
      oc.BRepGProp.SurfaceProperties_1(s.own(common.Shape()), props, false, false);
      area += props.Mass();
    }
    return area;
  });
}

/** Share of `a`'s visible length that has no visible line of `b` within `tolerance`, sampled along the runs. */
export function uncovered(a: Linework, b: Linework, tolerance: number): number {
  let total = 0;
  let missing = 0;
  const near = nearLines(b, tolerance);
  walkLines(a, tolerance, (x, y, length) => {
    total += length;
    if (!near(x, y)) missing += length;
  });
  return total > 0 ? missing / total : 0;
}

/** Calls `visit` with points along the visible runs and the length that each stands for. */
export function walkLines(a: Linework, step: number, visit: (x: number, y: number, length: number) => void): void {
  for (let i = 0; i < a.kind.length; i++) {
    if (a.kind[i]! & HIDDEN) continue;
    for (let p = a.start[i]! * 2; p < a.start[i + 1]! * 2 - 2; p += 2) {
      const [x0, y0, x1, y1] = [a.xy[p]!, a.xy[p + 1]!, a.xy[p + 2]!, a.xy[p + 3]!];
      const length = Math.hypot(x1 - x0, y1 - y0);
      const n = Math.max(1, Math.ceil(length / step));
      for (let q = 0; q < n; q++) visit(x0 + ((x1 - x0) * (q + 0.5)) / n, y0 + ((y1 - y0) * (q + 0.5)) / n, length / n);
    }
  }
}

/** Tells whether a visible line passes within `tolerance` of a point. */
export function nearLines(b: Linework, tolerance: number): (x: number, y: number) => boolean {
  const s: number[] = [];
  for (let i = 0; i < b.kind.length; i++) {
    if (b.kind[i]! & HIDDEN) continue;
    for (let p = b.start[i]! * 2; p < b.start[i + 1]! * 2 - 2; p += 2) s.push(b.xy[p]!, b.xy[p + 1]!, b.xy[p + 2]!, b.xy[p + 3]!);
  }
  if (s.length === 0) return () => false;
  const tree = new Flatbush(s.length / 4);
  for (let i = 0; i < s.length; i += 4)
    tree.add(Math.min(s[i]!, s[i + 2]!), Math.min(s[i + 1]!, s[i + 3]!), Math.max(s[i]!, s[i + 2]!), Math.max(s[i + 1]!, s[i + 3]!));
  tree.finish();
  return (x, y) =>
    tree.search(x - tolerance, y - tolerance, x + tolerance, y + tolerance).some((j) => {
      const i = j * 4;
      const [ax, ay, dx, dy] = [s[i]!, s[i + 1]!, s[i + 2]! - s[i]!, s[i + 3]! - s[i + 1]!];
      const l2 = dx * dx + dy * dy;
      const t = l2 > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / l2)) : 0;
      return Math.hypot(x - ax - dx * t, y - ay - dy * t) <= tolerance;
    });
}
