import type { AssemblyNode, Part } from '../core/assembly/assembly.ts';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';
import { hexOfLinear } from '../core/shade/colors.ts';
import { uniqueId } from '../core/assembly/unique-id.ts';
import { dropEmptyBranches } from '../core/assembly/prune.ts';
import { looksLike } from '../core/assembly/looks-like.ts';
import { decodeUtf8, readExchangeFacts, type ExchangeFacts } from '../core/assembly/part21.ts';
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
  for (const f of files) k.FS.writeFile(`${folder}/${baseName(f.name)}`, f.bytes);
  try {
    const tree = withScope((s) => transfer(k, s, `${folder}/${baseName(top.name)}`, top.name, facts, options));
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
  return new TreeWalker(k, s, main, facts).read(name);
}

/** A part as the file names it, before it is meshed. */
type RawPart = Pick<Part, 'name' | 'properties' | 'color' | 'material' | 'densityKgM3' | 'entities'>;

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

  constructor(k: Kernel, s: Scope, main: any, facts: readonly ExchangeFacts[]) {
    this.s = s;
    this.oc = k;
    this.facts = facts;
    this.tool = s.own(this.oc.XCAFDoc_DocumentTool.ShapeTool(main)).get();
    this.colors = s.own(this.oc.XCAFDoc_DocumentTool.ColorTool(main)).get();
  }

  read(file: string): Tree {
    const free = this.s.own(new this.oc.TDF_LabelSequence_1());
    this.tool.GetFreeShapes(free);
    const roots: any[] = [];
    for (let i = 1; i <= free.Length(); i++) roots.push(this.s.own(free.Value(i)));
    const title = baseName(file).replace(/\.\w+$/, '');
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
    const product = this.nameOf(shape);
    const own = this.colorOf(label) ?? color;
    if (XST.IsAssembly(shape)) {
      const index = this.nodes.length;
      this.nodes.push({ parent, name: product, product, placement, part: -1, ...(own ? { color: own } : {}) });
      const components = this.s.own(new this.oc.TDF_LabelSequence_1());
      XST.GetComponents(shape, components, false);
      for (let i = 1; i <= components.Length(); i++) {
        const c = this.s.own(components.Value(i));
        const referred = this.s.own(new this.oc.TDF_Label());
        if (!XST.GetReferredShape(c, referred)) continue;
        const location = this.s.own(XST.GetLocation(c));
        this.visit(c, referred, index, placementOf(location) ?? IDENTITY, own);
      }
      return;
    }
    const part = this.partAt(shape, product);
    this.nodes.push({ parent, name: product, product, placement, part, ...(own ? { color: own } : {}) });
  }

  private partAt(label: any, product: string): number {
    const text = this.s.own(new this.oc.TCollection_AsciiString_1());
    this.oc.TDF_Tool.Entry(label, text);
    const entry: string = text.ToCString();
    const known = this.partOfEntry.get(entry);
    if (known !== undefined) return known;
    const material = this.facts.map((f) => f.materials.get(product)).find(Boolean);
    const color = this.colorOf(label);
    this.shapes.push(this.oc.XCAFDoc_ShapeTool.GetShape_2(label));
    // Of the first file that has the product: numbers are unique within a file only.
    const entities = this.facts.map((f) => f.entities.get(product)).find(Boolean);
    this.raw.push({
      name: product,
      properties: this.property(product),
      ...(entities ? { entities } : {}),
      ...(color ? { color } : {}),
      ...(material ? { material: material.name } : {}),
      ...(material?.densityKgM3 ? { densityKgM3: material.densityKgM3 } : {}),
    });
    this.partOfEntry.set(entry, this.raw.length - 1);
    return this.raw.length - 1;
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
