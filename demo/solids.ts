import type { Kernel } from '../src/kernel/load.ts';

/* eslint-disable @typescript-eslint/no-explicit-any -- the kernel's generated types do not cover its overloads */

export type Solid = any;
export type Point = readonly [number, number, number];
export type Axis = 'x' | '-x' | 'y' | '-y' | 'z' | '-z';

const DIRECTION: Readonly<Record<Axis, Point>> = { x: [1, 0, 0], '-x': [-1, 0, 0], y: [0, 1, 0], '-y': [0, -1, 0], z: [0, 0, 1], '-z': [0, 0, -1] };

/** The few shapes that the demo's parts are made of; mm. A short-lived script: nothing is deleted. */
export class Solids {
  readonly oc: any;
  constructor(kernel: Kernel) {
    this.oc = kernel;
  }

  private point(p: Point) {
    return new this.oc.gp_Pnt_3(...p);
  }

  private frame(at: Point, axis: Axis) {
    return new this.oc.gp_Ax2_3(this.point(at), new this.oc.gp_Dir_4(...DIRECTION[axis]));
  }

  box(min: Point, max: Point): Solid {
    return new this.oc.BRepPrimAPI_MakeBox_4(this.point(min), this.point(max)).Shape();
  }

  cylinder(at: Point, axis: Axis, diameter: number, length: number): Solid {
    return new this.oc.BRepPrimAPI_MakeCylinder_3(this.frame(at, axis), diameter / 2, length).Shape();
  }

  /** A round tool from a place along any direction. */
  drill(at: Point, direction: Point, diameter: number, length: number): Solid {
    const axes = new this.oc.gp_Ax2_3(this.point(at), new this.oc.gp_Dir_4(...direction));
    return new this.oc.BRepPrimAPI_MakeCylinder_3(axes, diameter / 2, length).Shape();
  }

  /** About the origin. */
  ball(radius: number): Solid {
    return new this.oc.BRepPrimAPI_MakeSphere_1(radius).Shape();
  }

  /** About the z axis, its middle in the origin. */
  torus(radius: number, tube: number): Solid {
    return new this.oc.BRepPrimAPI_MakeTorus_1(radius, tube).Shape();
  }

  /** From `lower` at z = 0 to `upper` at `height`; radii. */
  cone(lower: number, upper: number, height: number): Solid {
    return new this.oc.BRepPrimAPI_MakeCone_1(lower, upper, height).Shape();
  }

  fuse(first: Solid, ...others: Solid[]): Solid {
    const joined = others.reduce((a, b) => new this.oc.BRepAlgoAPI_Fuse_3(a, b, new this.oc.Message_ProgressRange_1()).Shape(), first);
    const clean = new this.oc.ShapeUpgrade_UnifySameDomain_2(joined, true, true, false);
    clean.Build();
    return clean.Shape();
  }

  cut(from: Solid, ...tools: Solid[]): Solid {
    return tools.reduce((a, b) => new this.oc.BRepAlgoAPI_Cut_3(a, b, new this.oc.Message_ProgressRange_1()).Shape(), from);
  }

  common(a: Solid, b: Solid): Solid {
    return new this.oc.BRepAlgoAPI_Common_3(a, b, new this.oc.Message_ProgressRange_1()).Shape();
  }

  private face(points: readonly Point[]) {
    const polygon = new this.oc.BRepBuilderAPI_MakePolygon_1();
    for (const p of points) polygon.Add_1(this.point(p));
    polygon.Close();
    return new this.oc.BRepBuilderAPI_MakeFace_15(polygon.Wire(), true).Face();
  }

  /** A closed outline pushed along a vector. */
  prism(points: readonly Point[], by: Point): Solid {
    return new this.oc.BRepPrimAPI_MakePrism_1(this.face(points), new this.oc.gp_Vec_4(...by), false, true).Shape();
  }

  /** An outline of (radius, height) turned about the z axis. */
  turned(outline: readonly (readonly [number, number])[]): Solid {
    const axis = new this.oc.gp_Ax1_2(this.point([0, 0, 0]), new this.oc.gp_Dir_4(0, 0, 1));
    return new this.oc.BRepPrimAPI_MakeRevol_2(this.face(outline.map(([r, z]): Point => [r, 0, z])), axis, false).Shape();
  }

  /** Rounds the edges whose middle the rule accepts. */
  round(shape: Solid, radius: number, where: (middle: Point) => boolean): Solid {
    return this.treat(new this.oc.BRepFilletAPI_MakeFillet(shape, this.oc.ChFi3d_FilletShape.ChFi3d_Rational), shape, radius, where);
  }

  chamfer(shape: Solid, size: number, where: (middle: Point) => boolean): Solid {
    return this.treat(new this.oc.BRepFilletAPI_MakeChamfer(shape), shape, size, where);
  }

  private treat(tool: any, shape: Solid, size: number, where: (middle: Point) => boolean): Solid {
    const oc = this.oc;
    const edges = new oc.TopTools_IndexedMapOfShape_1();
    oc.TopExp.MapShapes_1(shape, oc.TopAbs_ShapeEnum.TopAbs_EDGE, edges);
    let count = 0;
    for (let i = 1; i <= edges.Extent(); i++) {
      const edge = oc.TopoDS.Edge_1(edges.FindKey(i));
      if (oc.BRep_Tool.Degenerated(edge)) continue;
      const curve = new oc.BRepAdaptor_Curve_2(edge);
      const p = curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2);
      if (!where([p.X(), p.Y(), p.Z()])) continue;
      tool.Add_2(size, edge);
      count++;
    }
    if (count === 0) throw new Error('No edge to treat');
    return tool.Shape();
  }

  /** A coil of round wire about the z axis, from z = 0 up. */
  coil(diameter: number, wire: number, pitch: number, turns: number): Solid {
    const oc = this.oc;
    const surface = new oc.Geom_CylindricalSurface_1(new oc.gp_Ax3_4(this.point([0, 0, 0]), new oc.gp_Dir_4(0, 0, 1)), diameter / 2);
    const start = new oc.gp_Pnt2d_3(0, 0);
    const end = new oc.gp_Pnt2d_3(2 * Math.PI * turns, pitch * turns);
    const segment = new oc.GCE2d_MakeSegment_1(start, end).Value();
    const edge = new oc.BRepBuilderAPI_MakeEdge_30(new oc.Handle_Geom2d_Curve_2(segment.get()), new oc.Handle_Geom_Surface_2(surface)).Edge();
    oc.BRepLib.BuildCurve3d(edge, 1e-5, oc.GeomAbs_Shape.GeomAbs_C1, 14, 0);
    const spine = new oc.BRepBuilderAPI_MakeWire_2(edge).Wire();
    const across = new oc.gp_Ax2_3(this.point([diameter / 2, 0, 0]), new oc.gp_Dir_4(0, 1, 0));
    const circle = new oc.BRepBuilderAPI_MakeEdge_8(new oc.gp_Circ_2(across, wire / 2)).Edge();
    const profile = new oc.BRepBuilderAPI_MakeFace_15(new oc.BRepBuilderAPI_MakeWire_2(circle).Wire(), true).Face();
    return new oc.BRepOffsetAPI_MakePipe_1(spine, profile).Shape();
  }

  /** Moves a shape for good. */
  moved(shape: Solid, by: Point): Solid {
    const t = new this.oc.gp_Trsf_1();
    t.SetTranslation_1(new this.oc.gp_Vec_4(...by));
    return new this.oc.BRepBuilderAPI_Transform_2(shape, t, true).Shape();
  }

  /** Turns a shape for good, so that its z axis looks along `axis`. */
  turnedShape(shape: Solid, axis: Axis): Solid {
    return new this.oc.BRepBuilderAPI_Transform_2(shape, this.turnTo(axis), true).Shape();
  }

  private turnTo(axis: Axis): any {
    const t = new this.oc.gp_Trsf_1();
    if (axis === 'z') return t;
    const to = new this.oc.gp_Ax3_4(this.point([0, 0, 0]), new this.oc.gp_Dir_4(...DIRECTION[axis]));
    const from = new this.oc.gp_Ax3_4(this.point([0, 0, 0]), new this.oc.gp_Dir_4(0, 0, 1));
    t.SetDisplacement(from, to);
    return t;
  }

  mirroredX(shape: Solid): Solid {
    const t = new this.oc.gp_Trsf_1();
    t.SetMirror_3(new this.oc.gp_Ax2_3(this.point([0, 0, 0]), new this.oc.gp_Dir_4(1, 0, 0)));
    return new this.oc.BRepBuilderAPI_Transform_2(shape, t, true).Shape();
  }

  /** Where a part stands: its own z axis looks along `axis`, its origin lies at `at`. */
  location(at: Point, axis: Axis = 'z'): any {
    const t = this.turnTo(axis);
    t.SetTranslationPart(new this.oc.gp_Vec_4(...at));
    return new this.oc.TopLoc_Location_2(t);
  }

  /** Hexagon prism along z, `across` the flats. */
  hexagon(across: number, height: number): Solid {
    const r = across / Math.sqrt(3);
    const points = Array.from({ length: 6 }, (_, i): Point => [r * Math.cos((i * Math.PI) / 3), r * Math.sin((i * Math.PI) / 3), 0]);
    return this.prism(points, [0, 0, height]);
  }
}
