import type { Placement } from '../../core/base/placement.ts';
import type { Kernel } from '../load.ts';

/* eslint-disable @typescript-eslint/no-explicit-any -- the kernel's generated types do not cover its overloads */

/** A part used at a place, or a sub-assembly of them. */
export interface StepNode {
  /** Of its product: equal names with one shape are one product. */
  readonly name: string;
  readonly occurrence?: string;
  readonly placement: Placement;
  readonly color?: string;
  /** Of this occurrence alone. */
  readonly ownColor?: string;
  /** TopoDS_Shape; absent for a sub-assembly. */
  readonly shape?: any;
  readonly children?: readonly StepNode[];
}

/** Writes an AP214 file with the kernel's own writer. @param unit as the writer calls it: MM, INCH, M */
export function writeStep(k: Kernel, name: string, nodes: readonly StepNode[], unit = 'MM'): Uint8Array {
  const oc = k as any;
  const document = new oc.TDocStd_Document(new oc.TCollection_ExtendedString_2('MDTV-XCAF', true));
  const handle = new oc.Handle_TDocStd_Document_2(document);
  const shapes = oc.XCAFDoc_DocumentTool.ShapeTool(document.Main()).get();
  const colors = oc.XCAFDoc_DocumentTool.ColorTool(document.Main()).get();
  oc.XCAFDoc_ShapeTool.SetAutoNaming(false);
  const call = (label: any, text: string) => oc.TDataStd_Name.Set_1(label, new oc.TCollection_ExtendedString_2(text, true));
  const paint = (label: any, color: string) => {
    const [r, g, b] = [1, 3, 5].map((i) => parseInt(color.slice(i, i + 2), 16) / 255);
    colors.SetColor_2(label, new oc.Quantity_Color_3(r, g, b, oc.Quantity_TypeOfColor.Quantity_TOC_sRGB), oc.XCAFDoc_ColorType.XCAFDoc_ColorSurf);
  };
  const products: { name: string; shape: any; color: string | undefined; label: any }[] = [];
  const productOf = (n: StepNode): any => {
    const known = products.find((p) => p.name === n.name && p.shape === n.shape && p.color === n.color);
    if (known) return known.label;
    const label = shapes.AddShape(n.shape, false, false);
    call(label, n.name);
    if (n.color) paint(label, n.color);
    products.push({ name: n.name, shape: n.shape, color: n.color, label });
    return label;
  };
  const fill = (parent: any, list: readonly StepNode[]) => {
    for (const n of list) {
      let label;
      if (n.children) {
        label = shapes.NewShape();
        call(label, n.name);
        fill(label, n.children);
      } else label = productOf(n);
      const t = new oc.gp_Trsf_1();
      t.SetValues(...(n.placement as number[]));
      const component = shapes.AddComponent_1(parent, label, new oc.TopLoc_Location_2(t));
      call(component, n.occurrence ?? n.name);
      if (n.ownColor) paint(component, n.ownColor);
    }
  };
  const root = shapes.NewShape();
  call(root, name);
  fill(root, nodes);
  shapes.UpdateAssemblies();
  oc.Interface_Static.SetCVal('write.step.unit', unit);
  const writer = new oc.STEPCAFControl_Writer_1();
  writer.SetNameMode(true);
  writer.SetColorMode(true);
  const done = writer.Perform_1(handle, new oc.TCollection_AsciiString_2('/written.step'), new oc.Message_ProgressRange_1());
  oc.Interface_Static.SetCVal('write.step.unit', 'MM');
  if (!done) throw new Error('The STEP file was not written.');
  const bytes = k.FS.readFile('/written.step');
  k.FS.unlink('/written.step');
  return bytes;
}
