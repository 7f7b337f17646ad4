import type { AssemblyNode, Part } from '../core/assembly/assembly.ts';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';
import { hexOfLinear } from '../core/shade/colors.ts';
import { uniqueId } from '../core/assembly/unique-id.ts';
import { dropEmptyBranches } from '../core/assembly/prune.ts';
import { looksLike } from '../core/assembly/looks-like.ts';
import { chooseName, saysNothing, type NameCandidate, type NameSource } from '../core/assembly/naming.ts';
import { decodeUtf8 } from '../core/assembly/part21-graph.ts';
import { readExchangeFacts, type ExchangeFacts, type ProductFacts } from '../core/assembly/part21.ts';
import { isStated, statedOn } from '../core/assembly/stated.ts';
import { QuarryError, type Notice } from '../core/base/errors.ts';
import { IDENTITY, type Placement } from '../core/base/placement.ts';
import type { ImportedFile, ImportResult, ImportStage } from '../core/assembly/importing.ts';
import type { Kernel } from './load.ts';
import { meshHere, type PartMesher } from './part-mesher.ts';
import { placementOf } from './read-triangulation.ts';
import { withScope, type Scope } from './scope.ts';

/* eslint-disable @typescript-eslint/no-explicit-any -- the kernel's generated types do not cover its overloads */

export interface ReadOptions {
  /** Hash of a geometry's content; equal shapes in one job share it. */
  readonly keyOf: (geometry: PartGeometry) => string;
  readonly onProgress?: (stage: ImportStage, done: number, total: number) => void;
  /** How parts are meshed; by itself one after the other. */
  readonly mesh?: PartMesher;
}

/**
 * Reads a STEP assembly: the first file is the top, the others are what it refers to.
 * @throws QuarryError with one of the FILE codes; a trap of the kernel comes out as it is and poisons the instance
 */
export async function readStep(k: Kernel, files: readonly ImportedFile[], options: ReadOptions): Promise<ImportResult> {
  const top = files[0];
  if (!top) throw new QuarryError('BAD_USAGE', { text: 'Give at least one STEP file.' });
  const facts = files.map((f) => readExchangeFacts(new TextDecoder('latin1').decode(f.bytes), f.name));
  checkExternals(files, facts);
  options.onProgress?.('reading', 0, 1);
  const folder = '/job';
  if (!k.FS.analyzePath(folder).exists) k.FS.mkdir(folder);
  // The kernel looks for other files by the very letters of the reference; people's systems do not tell case apart.
  const wanted = new Map(facts.flatMap((f) => f.externalFiles).map((n) => [n.toLowerCase(), n]));
  for (const f of files) k.FS.writeFile(`${folder}/${wanted.get(baseName(f.name).toLowerCase()) ?? baseName(f.name)}`, f.bytes);
  try {
    const tree = withScope((s) => transfer(k, s, `${folder}/${wanted.get(baseName(top.name).toLowerCase()) ?? baseName(top.name)}`, top.name, facts, options));
    return await meshTree(k, tree, top.name, options);
  } finally {
    for (const f of k.FS.readdir(folder)) if (f !== '.' && f !== '..') k.FS.unlink(`${folder}/${f}`);
  }
}

const baseName = (path: string) => path.split(/[\\/]/).pop() ?? path;

function checkExternals(files: readonly ImportedFile[], facts: readonly ExchangeFacts[]): void {
  const given = new Set(files.map((f) => baseName(f.name).toLowerCase()));
  const missing = new Set(facts.flatMap((f) => f.externalFiles).filter((n) => !given.has(n.toLowerCase())));
  if (missing.size) throw new QuarryError('FILES_MISSING', { files: [...missing].sort() });
}

function transfer(k: Kernel, s: Scope, path: string, name: string, facts: readonly ExchangeFacts[], options: ReadOptions): Tree {
  const oc = k as any;
  const reader = s.own(new oc.STEPCAFControl_Reader_1());
  reader.SetNameMode(true);
  reader.SetColorMode(true);
  if (reader.ReadFile(path) !== oc.IFSelect_ReturnStatus.IFSelect_RetDone) throw new QuarryError('FILE_UNREADABLE', { file: name });
  options.onProgress?.('translating', 0, 1);
  const document = new oc.TDocStd_Document(s.own(new oc.TCollection_ExtendedString_2('MDTV-XCAF', true)));
  const handle = s.own(new oc.Handle_TDocStd_Document_2(document));
  if (!reader.Transfer_1(handle, s.own(new oc.Message_ProgressRange_1()))) throw new QuarryError('FILE_UNREADABLE', { file: name });
  const main = s.own(document.Main());
  return new TreeWalker(k, s, main, facts, entityNumbers(s, reader)).read(name);
}

/** Which entity of the file a solid or shell was made from; undefined where the kernel does not know, as for external files. */
function entityNumbers(s: Scope, reader: any): (shape: any) => number | undefined {
  const session = s.own(s.own(reader.Reader()).WS()).get();
  const results = s.own(session.TransferReader()).get();
  const model = s.own(session.Model()).get();
  return (shape) => {
    const entity = s.own(results.EntityFromShapeResult(shape, -1));
    if (entity.IsNull()) return undefined;
    const number = Number(s.own(model.StringLabel(entity)).get().ToCString().slice(1));
    return number > 0 ? number : undefined;
  };
}

/** A part as the file names it, before it is meshed. */
type RawPart = Pick<Part, 'name' | 'nameFrom' | 'properties' | 'color' | 'material' | 'densityKgM3' | 'entities' | 'stated'>;

/** What the file's labels say. Nodes point at `raw` by index. */
interface Tree {
  readonly nodes: readonly AssemblyNode[];
  readonly raw: readonly RawPart[];
  /** TopoDS_Shape per raw part; to be deleted. */
  readonly shapes: readonly any[];
  readonly title: string;
  readonly facts: readonly ExchangeFacts[];
  properties(product: string): Record<string, string>;
}

async function meshTree(k: Kernel, tree: Tree, file: string, options: ReadOptions): Promise<ImportResult> {
  const total = tree.shapes.length;
  options.onProgress?.('meshing', 0, total);
  const mesh = options.mesh ?? meshHere(k, options.keyOf);
  let meshed;
  try {
    meshed = await mesh(tree.shapes, (done) => options.onProgress?.('meshing', done, total));
  } finally {
    for (const s of tree.shapes) s.delete();
  }
  const parts: Part[] = [];
  const geometries = new Map<string, PartGeometry>();
  const notices: Notice[] = [];
  const ids = new Set<string>();
  const numberOf = tree.raw.map((raw, i) => {
    const m = meshed[i];
    if (!m || m.geometry.triangles.length === 0) {
      notices.push({ code: 'LEFT_OUT', about: raw.name, text: `“${raw.name}” has no surface (wires or points only) and is left out.` });
      return -1;
    }
    geometries.set(m.key, m.geometry);
    const { volumeMm3, areaMm2, centroid, box } = m.geometry;
    const id = uniqueId(raw.name, ids);
    const shape = looksLike(m.geometry);
    parts.push({ id, geometryKey: m.key, volumeMm3, areaMm2, centroid, box, ...raw, ...(shape ? { looksLike: shape } : {}) });
    return parts.length - 1;
  });
  if (parts.length === 0) throw new QuarryError('FILE_NO_SOLIDS', { file });
  const nodes = dropEmptyBranches(tree.nodes.map((n) => (n.part < 0 ? n : { ...n, part: numberOf[n.part]! })));
  const name = nodes[0]?.name || tree.title;
  const first = tree.facts[0]!;
  const stated = Object.fromEntries(tree.facts.flatMap((f) => [...f.statedVolumes]));
  return {
    assembly: {
      name,
      schema: first.schema,
      unit: first.unit,
      parts,
      nodes,
      properties: tree.properties(name),
      notices,
      ...(Object.keys(stated).length ? { statedVolumes: stated } : {}),
    },
    geometries,
  };
}

/** The texts of a product that could be its name, most trusted first. @param product its name, or its identifier where it has none */
function productNames(product: string, facts: ProductFacts | undefined, occurrence: string): NameCandidate[] {
  return [
    { text: product, from: 'product' },
    { text: facts?.id, from: 'product id' },
    { text: facts?.description, from: 'description' },
    { text: occurrence, from: 'occurrence' },
    ...(facts?.occurrences ?? []).map((text): NameCandidate => ({ text, from: 'occurrence' })),
  ];
}

/** Walks the document's labels: assemblies, references to them, simple shapes. */
class TreeWalker {
  private readonly oc: any;
  private readonly colors: any;
  private readonly tool: any;
  private readonly nodes: AssemblyNode[] = [];
  private readonly partOfEntry = new Map<string, number>();
  private readonly raw: RawPart[] = [];
  private readonly shapes: any[] = [];
  private readonly s: Scope;
  private readonly facts: readonly ExchangeFacts[];
  private readonly entityOf: (shape: any) => number | undefined;
  private title = '';

  constructor(k: Kernel, s: Scope, main: any, facts: readonly ExchangeFacts[], entityOf: (shape: any) => number | undefined) {
    this.s = s;
    this.oc = k;
    this.facts = facts;
    this.entityOf = entityOf;
    this.tool = s.own(this.oc.XCAFDoc_DocumentTool.ShapeTool(main)).get();
    this.colors = s.own(this.oc.XCAFDoc_DocumentTool.ColorTool(main)).get();
  }

  read(file: string): Tree {
    const free = this.s.own(new this.oc.TDF_LabelSequence_1());
    this.tool.GetFreeShapes(free);
    const roots: any[] = [];
    for (let i = 1; i <= free.Length(); i++) roots.push(this.s.own(free.Value(i)));
    const title = baseName(file).replace(/\.\w+$/, '');
    this.title = title;
    if (roots.length === 1) this.visit(roots[0], roots[0], -1, IDENTITY, undefined);
    else {
      this.nodes.push({ parent: -1, name: title, product: title, placement: IDENTITY, part: -1 });
      for (const r of roots) this.visit(r, r, 0, IDENTITY, undefined);
    }
    return { nodes: this.nodes, raw: this.raw, shapes: this.shapes, title, facts: this.facts, properties: (product) => this.property(product) };
  }

  private property(product: string): Record<string, string> {
    return Object.assign({}, ...this.facts.map((f) => f.properties.get(product) ?? {}));
  }

  /** @param label where it is used; @param shape what is used: the same label for a root */
  private visit(label: any, shape: any, parent: number, placement: Placement, color: string | undefined): void {
    const XST = this.oc.XCAFDoc_ShapeTool;
    const own = this.colorOf(label) ?? color;
    const occurrence = label === shape ? '' : this.nameOf(label);
    const used = { placement, parent, ...(own ? { color: own } : {}), ...(saysNothing(occurrence) ? {} : { occurrence }) };
    const components = XST.IsAssembly(shape) ? this.usesIn(shape) : [];
    if (components.length === 0 || this.isOneProduct(shape, components)) {
      const { part, product } = this.partAt(shape, occurrence);
      this.nodes.push({ ...used, name: this.raw[part]!.name, product, part });
      return;
    }
    const index = this.nodes.length;
    const product = this.nameOf(shape);
    const [facts] = this.productsCalled(product);
    const { name } = chooseName([...productNames(product, facts, occurrence), ...(parent < 0 ? [this.fileName()] : [])], 'Unnamed');
    this.nodes.push({ ...used, name, product: name, part: -1 });
    for (const { component, referred } of components)
      this.visit(component, referred, index, placementOf(this.s.own(XST.GetLocation(component))) ?? IDENTITY, own);
  }

  private usesIn(shape: any): { component: any; referred: any }[] {
    const XST = this.oc.XCAFDoc_ShapeTool;
    const labels = this.s.own(new this.oc.TDF_LabelSequence_1());
    XST.GetComponents(shape, labels, false);
    return Array.from({ length: labels.Length() }, (_, i) => {
      const component = this.s.own(labels.Value(i + 1));
      const referred = this.s.own(new this.oc.TDF_Label());
      return XST.GetReferredShape(component, referred) ? [{ component, referred }] : [];
    }).flat();
  }

  /**
   * A product that has several shapes (a solid beside wires, several solids) comes out of the kernel as an assembly of
   * shapes without names. The file's own graph of occurrences tells: nothing is used in it.
   */
  private isOneProduct(shape: any, components: readonly { component: any }[]): boolean {
    if (components.some(({ component }) => !/^=>\[/.test(this.nameOf(component)))) return false;
    const products = this.productsCalled(this.nameOf(shape));
    return products.length > 0 && products.every((p) => !p.hasChildren);
  }

  private productsCalled(name: string): ProductFacts[] {
    return this.facts.flatMap((f) => f.products.filter((p) => (p.name || p.id) === name));
  }

  private fileName(): NameCandidate {
    return { text: this.title, from: 'file' };
  }

  private partAt(label: any, occurrence: string): { readonly part: number; readonly product: string } {
    const text = this.s.own(new this.oc.TCollection_AsciiString_1());
    this.oc.TDF_Tool.Entry(label, text);
    const entry: string = text.ToCString();
    const product = this.nameOf(label);
    const known = this.partOfEntry.get(entry);
    if (known !== undefined) return { part: known, product };
    const material = this.facts.map((f) => f.materials.get(product)).find(Boolean);
    const color = this.colorOf(label);
    const shape = this.oc.XCAFDoc_ShapeTool.GetShape_2(label);
    this.shapes.push(shape);
    // Of the first file that has the product: numbers are unique within a file only.
    const entities = this.facts.map((f) => f.entities.get(product)).find(Boolean);
    this.raw.push({
      ...this.partName(shape, product, occurrence),
      properties: this.property(product),
      ...(entities ? { entities } : {}),
      ...(color ? { color } : {}),
      ...(material ? { material: material.name } : {}),
      ...(material?.densityKgM3 ? { densityKgM3: material.densityKgM3 } : {}),
      ...this.statedOf(shape),
    });
    this.partOfEntry.set(entry, this.raw.length - 1);
    return { part: this.raw.length - 1, product };
  }

  /** What a part is called: its product's texts, its occurrences', its solids', the file's, whichever says something first. */
  private partName(shape: any, product: string, occurrence: string): { name: string; nameFrom: NameSource } {
    const candidates = productNames(product, undefined, '');
    if (saysNothing(product)) {
      const bodies = this.bodiesOf(shape);
      const called = this.productsCalled(product);
      const facts = bodies[0]?.product ?? (called.length === 1 ? called[0] : undefined);
      candidates.push(...productNames(product, facts, occurrence));
      candidates.push(...bodies.map((b): NameCandidate => ({ text: b.name, from: 'body' })));
      // With several parts in a file its name would tell none of them from the others.
      if (this.facts.length === 1 && this.facts[0]!.products.length <= 1) candidates.push(this.fileName());
    }
    const { name, from } = chooseName(candidates, 'Unnamed');
    return { name, nameFrom: from };
  }

  /** What the file states on a part's faces, by their order in it. */
  private statedOf(shape: any): Pick<RawPart, 'stated'> {
    const { stated } = this.facts[0]!;
    if (!isStated(stated)) return {};
    const faces = this.s.own(new this.oc.TopTools_IndexedMapOfShape_1());
    this.oc.TopExp.MapShapes_1(shape, this.oc.TopAbs_ShapeEnum.TopAbs_FACE, faces);
    const indexOf = new Map<number, number>();
    for (let i = 1; i <= faces.Extent(); i++) {
      const number = this.entityOf(this.s.own(faces.FindKey(i)));
      if (number !== undefined) indexOf.set(number, i - 1);
    }
    const own = statedOn(stated, (f) => indexOf.get(f));
    return isStated(own) ? { stated: own } : {};
  }

  private bodiesOf(shape: any): { name: string; product: ProductFacts | undefined }[] {
    const { TopAbs_SOLID, TopAbs_SHELL, TopAbs_SHAPE } = this.oc.TopAbs_ShapeEnum;
    const out: { name: string; product: ProductFacts | undefined }[] = [];
    for (const [kind, not] of [
      [TopAbs_SOLID, TopAbs_SHAPE],
      [TopAbs_SHELL, TopAbs_SOLID],
    ])
      for (const e = this.s.own(new this.oc.TopExp_Explorer_2(shape, kind, not)); e.More(); e.Next()) {
        const number = this.entityOf(this.s.own(e.Current()));
        const body = number === undefined ? undefined : this.facts[0]!.bodies.get(number);
        if (body) out.push(body);
      }
    return out;
  }

  private nameOf(label: any): string {
    const handle = this.s.own(new this.oc.Handle_TDF_Attribute_1());
    if (!label.FindAttribute_1(this.s.own(this.oc.TDataStd_Name.GetID()), handle)) return 'Unnamed';
    // With a filler of 0 the text is written as UTF-8, which comes back one byte a character.
    const ascii = this.s.own(new this.oc.TCollection_AsciiString_13(handle.get().Get(), 0));
    const name = decodeUtf8(decodeUtf8(ascii.ToCString()))
      .replace(/[\u0000-\u001f]/g, ' ')
      .trim();
    return name === '' ? 'Unnamed' : name.length > 200 ? `${name.slice(0, 199)}…` : name;
  }

  /** sRGB of a label's own colour, surface before generic, then that of its first coloured face. */
  private colorOf(label: any): string | undefined {
    const q = this.s.own(new this.oc.Quantity_Color_1());
    const types = this.oc.XCAFDoc_ColorType;
    for (const type of [types.XCAFDoc_ColorSurf, types.XCAFDoc_ColorGen])
      if (this.colors.GetColor_4(label, type, q)) return hexOfLinear([q.Red(), q.Green(), q.Blue()]);
    const subs = this.s.own(new this.oc.TDF_LabelSequence_1());
    if (!this.oc.XCAFDoc_ShapeTool.GetSubShapes(label, subs)) return undefined;
    for (let i = 1; i <= Math.min(subs.Length(), 50); i++) {
      const sub = this.s.own(subs.Value(i));
      for (const type of [types.XCAFDoc_ColorSurf, types.XCAFDoc_ColorGen])
        if (this.colors.GetColor_4(sub, type, q)) return hexOfLinear([q.Red(), q.Green(), q.Blue()]);
    }
    return undefined;
  }
}
