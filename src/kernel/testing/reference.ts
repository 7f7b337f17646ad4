import type { ViewFrame } from '../../core/outline/directions.ts';
import type { Linework } from '../../core/outline/linework.ts';
import type { Run } from '../../core/outline/runs.ts';
import { uniteLines } from '../../core/outline/unite.ts';
import type { Kernel } from '../load.ts';
import { withScope } from '../scope.ts';

/* eslint-disable @typescript-eslint/no-explicit-any -- the kernel's generated types do not cover its overloads */

/** Reads a STEP file as one shape, for the kernel's own algorithms to work on. The caller deletes it. */
export function readShape(k: Kernel, bytes: Uint8Array): any {
  const oc = k as any;
  k.FS.writeFile('/reference.stp', bytes);
  return withScope((s) => {
    const reader = s.own(new oc.STEPControl_Reader_1());
    reader.ReadFile('/reference.stp');
    reader.TransferRoots(s.own(new oc.Message_ProgressRange_1()));
    k.FS.unlink('/reference.stp');
    return reader.OneShape();
  });
}

/** The kernel's exact hidden-line algorithm; visible sharp edges and outlines as a union of lines. */
export function exactHiddenLines(k: Kernel, shape: any, frame: ViewFrame, tolerance: number): Linework {
  const oc = k as any;
  return withScope((s) => {
    const origin = s.own(new oc.gp_Pnt_3(0, 0, 0));
    const axes = s.own(new oc.gp_Ax2_2(origin, s.own(new oc.gp_Dir_4(...frame.toward)), s.own(new oc.gp_Dir_4(...frame.right))));
    const algo = new oc.HLRBRep_Algo_1();
    const handle = s.own(new oc.Handle_HLRBRep_Algo_2(algo));
    algo.Add_2(shape, 0);
    algo.Projector_1(s.own(new oc.HLRAlgo_Projector_2(axes)));
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
      runs.push({ xy, kind: 0, component: 0, edge: 0, arc: undefined });
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

/** Share of `a`'s length that has no line of `b` within `tolerance`, sampled along the runs. */
export function uncovered(a: Linework, b: Linework, tolerance: number): number {
  const segments: number[] = [];
  for (let i = 0; i < b.kind.length; i++)
    for (let p = b.start[i]! * 2; p < b.start[i + 1]! * 2 - 2; p += 2) segments.push(b.xy[p]!, b.xy[p + 1]!, b.xy[p + 2]!, b.xy[p + 3]!);
  let total = 0;
  let missing = 0;
  for (let i = 0; i < a.kind.length; i++)
    for (let p = a.start[i]! * 2; p < a.start[i + 1]! * 2 - 2; p += 2) {
      const [x0, y0, x1, y1] = [a.xy[p]!, a.xy[p + 1]!, a.xy[p + 2]!, a.xy[p + 3]!];
      const length = Math.hypot(x1 - x0, y1 - y0);
      const n = Math.max(1, Math.ceil(length / tolerance));
      for (let q = 0; q < n; q++) {
        const t = (q + 0.5) / n;
        total += length / n;
        if (!nearSome(segments, x0 + (x1 - x0) * t, y0 + (y1 - y0) * t, tolerance)) missing += length / n;
      }
    }
  return total > 0 ? missing / total : 0;
}

function nearSome(s: readonly number[], x: number, y: number, tolerance: number): boolean {
  for (let i = 0; i < s.length; i += 4) {
    const [ax, ay, bx, by] = [s[i]!, s[i + 1]!, s[i + 2]!, s[i + 3]!];
    if (x < Math.min(ax, bx) - tolerance || x > Math.max(ax, bx) + tolerance || y < Math.min(ay, by) - tolerance || y > Math.max(ay, by) + tolerance) continue;
    const [dx, dy] = [bx - ax, by - ay];
    const l2 = dx * dx + dy * dy;
    const t = l2 > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / l2)) : 0;
    if (Math.hypot(x - ax - dx * t, y - ay - dy * t) <= tolerance) return true;
  }
  return false;
}
