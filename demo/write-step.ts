import type { Kernel } from '../src/kernel/load.ts';
import type { DemoNode, DemoPart } from './winch.ts';
import type { Solids } from './solids.ts';

/* eslint-disable @typescript-eslint/no-explicit-any -- the kernel's generated types do not cover its overloads */

interface DemoAssembly {
  readonly name: string;
  readonly properties: Readonly<Record<string, string>>;
  readonly children: readonly DemoNode[];
}

/** One AP214 file with structure, names, colours, materials and user-defined properties. */
export function writeDemoStep(k: Kernel, s: Solids, assembly: DemoAssembly): string {
  const oc = k as any;
  const document = new oc.TDocStd_Document(new oc.TCollection_ExtendedString_2('MDTV-XCAF', true));
  const handle = new oc.Handle_TDocStd_Document_2(document);
  const main = document.Main();
  const shapes = oc.XCAFDoc_DocumentTool.ShapeTool(main).get();
  const colors = oc.XCAFDoc_DocumentTool.ColorTool(main).get();
  const materials = oc.XCAFDoc_DocumentTool.MaterialTool(main).get();
  oc.XCAFDoc_ShapeTool.SetAutoNaming(false);
  const properties = new Map<string, Readonly<Record<string, string>>>([[assembly.name, assembly.properties]]);
  const name = (label: any, text: string) => oc.TDataStd_Name.Set_1(label, new oc.TCollection_ExtendedString_2(text, true));
  const ascii = (text: string) => new oc.Handle_TCollection_HAsciiString_2(new oc.TCollection_HAsciiString_2(text));
  const labels = new Map<string, any>();
  const partLabel = (part: DemoPart): any => {
    const known = labels.get(part.name);
    if (known) return known;
    const label = shapes.AddShape(part.shape, false, false);
    name(label, part.name);
    const [r, g, b] = [1, 3, 5].map((i) => parseInt(part.color.slice(i, i + 2), 16) / 255);
    colors.SetColor_2(label, new oc.Quantity_Color_3(r, g, b, oc.Quantity_TypeOfColor.Quantity_TOC_sRGB), oc.XCAFDoc_ColorType.XCAFDoc_ColorSurf);
    // The kernel takes g/mm³.
    if (part.material)
      materials.SetMaterial_2(label, ascii(part.material[0]), ascii(''), part.material[1] * 1e-6, ascii('density'), ascii('POSITIVE_RATIO_MEASURE'));
    properties.set(part.name, part.properties);
    labels.set(part.name, label);
    return label;
  };
  const fill = (parent: any, children: readonly DemoNode[]) => {
    for (const c of children) {
      let label: any;
      if (c.group) {
        label = shapes.NewShape();
        name(label, c.group.name);
        properties.set(c.group.name, c.group.properties);
        fill(label, c.group.children);
      } else label = partLabel(c.part!);
      const component = shapes.AddComponent_1(parent, label, s.location(c.at, c.axis));
      name(component, c.group?.name ?? c.part!.name);
    }
  };
  const root = shapes.NewShape();
  name(root, assembly.name);
  fill(root, assembly.children);
  shapes.UpdateAssemblies();
  const writer = new oc.STEPCAFControl_Writer_1();
  writer.SetNameMode(true);
  writer.SetColorMode(true);
  writer.SetMaterialMode(true);
  if (!writer.Perform_1(handle, new oc.TCollection_AsciiString_2('/demo.step'), new oc.Message_ProgressRange_1()))
    throw new Error('The STEP file was not written.');
  return withProperties(new TextDecoder().decode(k.FS.readFile('/demo.step')), properties);
}

/** Adds user-defined properties as Part 21 entities: PROPERTY_DEFINITION on the product definition of each product (ISO 10303-41). */
function withProperties(step: string, properties: ReadonlyMap<string, Readonly<Record<string, string>>>): string {
  const text = step
    .replace(/FILE_NAME\([\s\S]*?\);/, "FILE_NAME('sw-40.step','2026-01-01T00:00:00',('Nimble Quarry'),('Nimble Quarry'),'','demo script','');")
    .replace(/(?<=FILE_DESCRIPTION\(\()'[^']*'/, "'Shoreline sampling winch SW-40, invented'");
  let next = 1;
  for (const m of text.matchAll(/^#(\d+)\s*=/gm)) next = Math.max(next, Number(m[1]) + 1);
  const context = /#(\d+)\s*=\s*\(\s*GEOMETRIC_REPRESENTATION_CONTEXT/.exec(text)?.[1];
  const product = new Map([...text.matchAll(/#(\d+)\s*=\s*PRODUCT\(\s*'((?:[^']|'')*)'/g)].map((m) => [m[1]!, m[2]!]));
  const formation = new Map(
    [...text.matchAll(/#(\d+)\s*=\s*PRODUCT_DEFINITION_FORMATION\(\s*'[^']*'\s*,\s*'[^']*'\s*,\s*#(\d+)/g)].map((m) => [m[1]!, product.get(m[2]!)]),
  );
  const out: string[] = [];
  for (const m of text.matchAll(/#(\d+)\s*=\s*PRODUCT_DEFINITION\(\s*'[^']*'\s*,\s*'[^']*'\s*,\s*#(\d+)/g)) {
    const bag = properties.get(formation.get(m[2]!) ?? '');
    for (const [key, value] of Object.entries(bag ?? {})) {
      if (!value) continue;
      const [definition, item, representation, link] = [next, next + 1, next + 2, next + 3];
      next += 4;
      out.push(
        `#${definition}=PROPERTY_DEFINITION('${key}','user defined attribute',#${m[1]});`,
        `#${item}=DESCRIPTIVE_REPRESENTATION_ITEM('${key}','${encode(value)}');`,
        `#${representation}=REPRESENTATION('${key}',(#${item}),#${context});`,
        `#${link}=PROPERTY_DEFINITION_REPRESENTATION(#${definition},#${representation});`,
      );
    }
  }
  const end = text.lastIndexOf('ENDSEC;');
  return `${text.slice(0, end)}${out.join('\n')}\n${text.slice(end)}`;
}

const encode = (s: string) =>
  s.replaceAll("'", "''").replace(/[^\u0020-\u007e]/g, (c) => `\\X2\\${c.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}\\X0\\`);
