import type { Assembly, AssemblyNode, Part } from '../core/assembly/assembly.ts';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';
import { decodeUtf8, readExchangeFacts, type ExchangeFacts } from '../core/assembly/part21.ts';
import { QuarryError, type Notice } from '../core/base/errors.ts';
import { IDENTITY, type Placement } from '../core/base/placement.ts';
import type { ImportedFile, ImportResult, ImportStage } from '../core/assembly/importing.ts';
import { extractPart } from './extract-part.ts';
import type { Kernel } from './load.ts';
import { placementOf } from './read-triangulation.ts';
import { withScope, type Scope } from './scope.ts';

/* eslint-disable @typescript-eslint/no-explicit-any -- the kernel's generated types do not cover its overloads */

export interface ReadOptions {
  /** Hash of a geometry's content; equal shapes in one job share it. */
  readonly keyOf: (geometry: PartGeometry) => string;
  readonly onProgress?: (stage: ImportStage, done: number, total: number) => void;
}

/**
 * Reads a STEP assembly: the first file is the top, the others are what it refers to.
 * @throws QuarryError with one of the FILE codes; a trap of the kernel comes out as it is and poisons the instance
 */
export function readStep(k: Kernel, files: readonly ImportedFile[], options: ReadOptions): ImportResult {
  const top = files[0];
  if (!top) throw new QuarryError('BAD_USAGE', { text: 'Give at least one STEP file.' });
  const facts = files.map((f) => readExchangeFacts(new TextDecoder('latin1').decode(f.bytes), f.name));
  checkExternals(files, facts);
  options.onProgress?.('reading', 0, 1);
  const folder = '/job';
  if (!k.FS.analyzePath(folder).exists) k.FS.mkdir(folder);
  for (const f of files) k.FS.writeFile(`${folder}/${baseName(f.name)}`, f.bytes);
  try {
    return withScope((s) => transfer(k, s, `${folder}/${baseName(top.name)}`, top.name, facts, options));
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

function transfer(k: Kernel, s: Scope, path: string, name: string, facts: readonly ExchangeFacts[], options: ReadOptions): ImportResult {
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
  const walker = new TreeWalker(k, s, main, facts, options);
  const result = walker.read(name);
  if (result.assembly.parts.length === 0) throw new QuarryError('FILE_NO_SOLIDS', { file: name });
  return result;
}

/** Walks the document's labels: assemblies, references to them, simple shapes. */
class TreeWalker {
  private readonly oc: any;
  private readonly colors: any;
  private readonly tool: any;
  private readonly nodes: AssemblyNode[] = [];
  private readonly partOfEntry = new Map<string, number>();
  private readonly parts: Part[] = [];
  private readonly geometries = new Map<string, PartGeometry>();
  private readonly notices: Notice[] = [];
  private readonly k: Kernel;
  private readonly s: Scope;
  private readonly facts: readonly ExchangeFacts[];
  private readonly options: ReadOptions;
  private partTotal = 0;

  constructor(k: Kernel, s: Scope, main: any, facts: readonly ExchangeFacts[], options: ReadOptions) {
    this.k = k;
    this.s = s;
    this.oc = k;
    this.facts = facts;
    this.options = options;
    this.tool = s.own(this.oc.XCAFDoc_DocumentTool.ShapeTool(main)).get();
    this.colors = s.own(this.oc.XCAFDoc_DocumentTool.ColorTool(main)).get();
  }

  read(file: string): ImportResult {
    const free = this.s.own(new this.oc.TDF_LabelSequence_1());
    this.tool.GetFreeShapes(free);
    const roots: any[] = [];
    for (let i = 1; i <= free.Length(); i++) roots.push(this.s.own(free.Value(i)));
    const all = this.s.own(new this.oc.TDF_LabelSequence_1());
    this.tool.GetShapes(all);
    for (let i = 1; i <= all.Length(); i++) if (!this.oc.XCAFDoc_ShapeTool.IsAssembly(this.s.own(all.Value(i)))) this.partTotal++;
    const title = baseName(file).replace(/\.\w+$/, '');
    if (roots.length === 1) this.visit(roots[0], roots[0], -1, IDENTITY, undefined);
    else {
      this.nodes.push({ parent: -1, name: title, product: title, placement: IDENTITY, part: -1 });
      for (const r of roots) this.visit(r, r, 0, IDENTITY, undefined);
    }
    const kept = dropEmptyBranches(this.nodes);
    const first = this.facts[0]!;
    const rootName = kept[0]?.name || title;
    const assembly: Assembly = {
      name: rootName,
      schema: first.schema,
      unit: first.unit,
      parts: this.parts,
      nodes: kept,
      properties: this.property(rootName),
      notices: this.notices,
    };
    return { assembly, geometries: this.geometries };
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
    if (part < 0) return;
    this.nodes.push({ parent, name: product, product, placement, part, ...(own ? { color: own } : {}) });
  }

  private partAt(label: any, product: string): number {
    const text = this.s.own(new this.oc.TCollection_AsciiString_1());
    this.oc.TDF_Tool.Entry(label, text);
    const entry: string = text.ToCString();
    const known = this.partOfEntry.get(entry);
    if (known !== undefined) return known;
    this.options.onProgress?.('meshing', this.partOfEntry.size, this.partTotal);
    const geometry = extractPart(this.k, this.s.own(this.oc.XCAFDoc_ShapeTool.GetShape_2(label)));
    if (!geometry || geometry.triangles.length === 0) {
      this.partOfEntry.set(entry, -1);
      this.notices.push({ code: 'LEFT_OUT', about: product, text: `“${product}” has no surface (wires or points only) and is left out.` });
      return -1;
    }
    const geometryKey = this.options.keyOf(geometry);
    this.geometries.set(geometryKey, geometry);
    const material = this.facts.map((f) => f.materials.get(product)).find(Boolean);
    const color = this.colorOf(label);
    const id = uniqueId(product, new Set(this.parts.map((p) => p.id)));
    this.parts.push({
      id,
      name: product,
      geometryKey,
      volumeMm3: geometry.volumeMm3,
      areaMm2: geometry.areaMm2,
      centroid: geometry.centroid,
      box: geometry.box,
      properties: this.property(product),
      ...(color ? { color } : {}),
      ...(material ? { material: material.name } : {}),
      ...(material?.densityKgM3 ? { densityKgM3: material.densityKgM3 } : {}),
    });
    this.partOfEntry.set(entry, this.parts.length - 1);
    return this.parts.length - 1;
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
      if (this.colors.GetColor_4(label, type, q)) return hex([q.Red(), q.Green(), q.Blue()]);
    const subs = this.s.own(new this.oc.TDF_LabelSequence_1());
    if (!this.oc.XCAFDoc_ShapeTool.GetSubShapes(label, subs)) return undefined;
    for (let i = 1; i <= Math.min(subs.Length(), 50); i++) {
      const sub = this.s.own(subs.Value(i));
      for (const type of [types.XCAFDoc_ColorSurf, types.XCAFDoc_ColorGen])
        if (this.colors.GetColor_4(sub, type, q)) return hex([q.Red(), q.Green(), q.Blue()]);
    }
    return undefined;
  }
}

/** Linear light to `#rrggbb` (IEC 61966-2-1). */
function hex(linear: readonly number[]): string {
  const channel = (v: number) => {
    const s = v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055;
    return Math.round(255 * Math.min(1, Math.max(0, s)))
      .toString(16)
      .padStart(2, '0');
  };
  return `#${linear.map(channel).join('')}`;
}

function uniqueId(name: string, taken: ReadonlySet<string>): string {
  const base = name.slice(0, 80);
  let id = base;
  for (let n = 2; taken.has(id); n++) id = `${base}~${n}`;
  return id;
}

/** Sub-assemblies in which nothing can be drawn go; parents keep coming before their children. */
function dropEmptyBranches(nodes: readonly AssemblyNode[]): AssemblyNode[] {
  const used = new Array<boolean>(nodes.length).fill(false);
  for (let i = nodes.length - 1; i >= 0; i--) {
    if (nodes[i]!.part >= 0) used[i] = true;
    if (used[i] && nodes[i]!.parent >= 0) used[nodes[i]!.parent] = true;
  }
  const number = new Array<number>(nodes.length).fill(-1);
  const out: AssemblyNode[] = [];
  nodes.forEach((n, i) => {
    if (!used[i]) return;
    number[i] = out.length;
    out.push({ ...n, parent: n.parent < 0 ? -1 : number[n.parent]! });
  });
  return out;
}
