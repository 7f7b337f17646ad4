import { type Document, type Mesh, NodeIO, type Node as SceneNode, Primitive } from '@gltf-transform/core';
import { EXTMeshGPUInstancing, EXTMeshoptCompression, KHRDracoMeshCompression, KHRMeshQuantization, type InstancedMesh } from '@gltf-transform/extensions';
import type { ImportedFile } from '../../core/assembly/importing.ts';
import { MOST_COMPONENTS, MOST_LEVELS, type MeshNode, type MeshTree, type RawMesh } from '../../core/assembly/mesh-tree.ts';
import { QuarryError, type Notice } from '../../core/base/errors.ts';
import { IDENTITY, type Placement } from '../../core/base/placement.ts';
import { hexOfLinear } from '../../core/shade/colors.ts';
import { checkTriangles, cleanName, withoutEnding } from './limits.ts';

/** What is read besides the core; other extensions only matter when a file requires them. */
const EXTENSIONS = [KHRMeshQuantization, KHRDracoMeshCompression, EXTMeshoptCompression, EXTMeshGPUInstancing];
const METRE = 1000;

/**
 * glTF 2.0, text with its buffers beside it or GLB. Metres and Y up, as the format says.
 * @param beside files that the text refers to
 * @throws QuarryError FILE_DAMAGED, FILE_FEATURE, FILES_MISSING, FILE_TOO_DEEP, FILE_TOO_MANY
 */
export async function readGltf(file: ImportedFile, beside: readonly ImportedFile[]): Promise<MeshTree> {
  const { name, bytes } = file;
  const damaged = (why: string, cause?: unknown) => new QuarryError('FILE_DAMAGED', { file: name, format: 'glTF 2.0', why }, { cause });
  const binary = /^glTF/.test(new TextDecoder('latin1').decode(bytes.subarray(0, 4)));
  const json = jsonOf(bytes, binary, damaged);
  check(json, name, damaged);
  const resources = binary ? {} : resourcesOf(json, beside);
  const io = new NodeIO().registerExtensions(EXTENSIONS).registerDependencies(await decodersFor(json));
  let document: Document;
  try {
    document = binary ? await io.readBinary(bytes) : await io.readJSON({ json: json as never, resources });
  } catch (e) {
    throw damaged('its buffers and accessors do not fit together', e);
  }
  return new TreeReader(document, name).read();
}

/** The decoders of what the file is packed with; they take a while to load. */
async function decodersFor(json: Json): Promise<Record<string, unknown>> {
  const used = Array.isArray(json.extensionsUsed) ? json.extensionsUsed.map(String) : [];
  const out: Record<string, unknown> = {};
  if (used.includes(KHRDracoMeshCompression.EXTENSION_NAME)) out['draco3d.decoder'] = await (await import('draco3dgltf')).default.createDecoderModule();
  if (used.includes(EXTMeshoptCompression.EXTENSION_NAME)) {
    const { MeshoptDecoder } = await import('meshoptimizer/decoder');
    await MeshoptDecoder.ready;
    out['meshopt.decoder'] = MeshoptDecoder;
  }
  return out;
}

interface Json {
  readonly asset?: { readonly version?: unknown };
  readonly extensionsRequired?: unknown;
  readonly extensionsUsed?: unknown;
  readonly nodes?: unknown;
  readonly buffers?: unknown;
  readonly images?: unknown;
  readonly bufferViews?: unknown;
  readonly accessors?: unknown;
}

const CHUNK_JSON = 0x4e4f534a;

function jsonOf(bytes: Uint8Array, binary: boolean, damaged: (why: string, cause?: unknown) => QuarryError): Json {
  let text = bytes;
  if (binary) {
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    if (bytes.length < 20 || view.getUint32(8, true) > bytes.length) throw damaged('it stops before its end');
    const length = view.getUint32(12, true);
    if (view.getUint32(16, true) !== CHUNK_JSON || 20 + length > bytes.length) throw damaged('its first chunk is not the structure');
    text = bytes.subarray(20, 20 + length);
  }
  try {
    const json: unknown = JSON.parse(new TextDecoder().decode(text));
    if (typeof json === 'object' && json !== null) return json as Json;
  } catch (e) {
    throw damaged('its structure is not JSON', e);
  }
  throw damaged('its structure is not JSON');
}

const COMPONENT_BYTES: Readonly<Record<number, number>> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
const COMPONENTS: Readonly<Record<string, number>> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 };

/** Accessors stay within their views, and views within their buffers. */
function checkRanges(json: Json, damaged: (why: string) => QuarryError): void {
  const list = (v: unknown) => (Array.isArray(v) ? (v as Record<string, unknown>[]) : []);
  const n = (v: unknown) => (typeof v === 'number' && v >= 0 ? v : 0);
  const buffers = list(json.buffers);
  const views = list(json.bufferViews);
  views.forEach((v, i) => {
    if (n(v['byteOffset']) + n(v['byteLength']) > n(buffers[n(v['buffer'])]?.['byteLength'])) throw damaged(`view ${i} reaches beyond its buffer`);
  });
  list(json.accessors).forEach((a, i) => {
    if (a['bufferView'] === undefined) return;
    const view = views[n(a['bufferView'])];
    const size = (COMPONENT_BYTES[n(a['componentType'])] ?? 0) * (COMPONENTS[String(a['type'])] ?? 0);
    const stride = n(view?.['byteStride']) || size;
    if (!view || size === 0 || n(a['byteOffset']) + stride * Math.max(0, n(a['count']) - 1) + size > n(view['byteLength']))
      throw damaged(`accessor ${i} reaches beyond its view`);
  });
}

/** What a reader would trip over: another version, required extensions, files that are not there, nodes that contain themselves. */
function check(json: Json, file: string, damaged: (why: string) => QuarryError): void {
  if (!/^2(\.|$)/.test(String(json.asset?.version ?? ''))) throw damaged('it is not version 2.0');
  const known = new Set<string>(EXTENSIONS.map((e) => e.EXTENSION_NAME));
  const wanted = Array.isArray(json.extensionsRequired) ? json.extensionsRequired.map(String).filter((e) => !known.has(e)) : [];
  if (wanted.length) throw new QuarryError('FILE_FEATURE', { file, what: wanted.join(', ') });
  checkRanges(json, damaged);
  const nodes = Array.isArray(json.nodes) ? (json.nodes as { children?: unknown }[]) : [];
  const children = nodes.map((n) => (Array.isArray(n?.children) ? n.children.map(Number) : []));
  const parents = new Uint8Array(nodes.length);
  for (const list of children)
    for (const c of list) {
      if (!(c >= 0 && c < nodes.length)) throw damaged(`a node refers to node ${c}, which is not there`);
      if (parents[c] === 1) throw damaged(`node ${c} is in two places`);
      parents[c] = 1;
    }
  // With one parent each, whatever is not below a root is in a cycle.
  const seen = new Uint8Array(nodes.length);
  const stack = nodes.flatMap((_, i) => (parents[i] ? [] : [[i, 0] as [number, number]]));
  while (stack.length) {
    const [i, depth] = stack.pop()!;
    if (depth > MOST_LEVELS) throw new QuarryError('FILE_TOO_DEEP', { file, depth, limit: MOST_LEVELS });
    seen[i] = 1;
    for (const c of children[i]!) stack.push([c, depth + 1]);
  }
  const cycle = seen.indexOf(0);
  if (cycle >= 0) throw new QuarryError('FILE_CYCLE', { file, product: `node ${cycle}` });
}

const isData = (uri: string) => /^data:/i.test(uri);

function resourcesOf(json: Json, beside: readonly ImportedFile[]): Record<string, Uint8Array<ArrayBuffer>> {
  const byName = new Map(beside.map((f) => [f.name.toLowerCase(), f.bytes]));
  const out: Record<string, Uint8Array<ArrayBuffer>> = {};
  const missing: string[] = [];
  const uris = (list: unknown) => (Array.isArray(list) ? list.flatMap((b: { uri?: unknown }) => (typeof b?.uri === 'string' ? [b.uri] : [])) : []);
  for (const uri of uris(json.buffers)) {
    if (isData(uri)) continue;
    const plain = decodeURIComponent(uri).split(/[\\/]/).pop()!;
    const bytes = byName.get(plain.toLowerCase());
    if (bytes) out[uri] = bytes.slice();
    else missing.push(plain);
  }
  if (missing.length) throw new QuarryError('FILES_MISSING', { files: missing });
  // Pictures on surfaces are of no use here.
  for (const uri of uris(json.images)) if (!isData(uri)) out[uri] = new Uint8Array(0);
  return out;
}

class TreeReader {
  private readonly meshes: RawMesh[] = [];
  private readonly meshOf = new Map<Mesh, number>();
  private readonly nodes: MeshNode[] = [];
  private readonly notices: Notice[] = [];
  /** What the nodes that use a mesh say of it. */
  private readonly said = new Map<number, Record<string, string>[]>();
  private triangles = 0;
  private readonly document: Document;
  private readonly file: string;

  constructor(document: Document, file: string) {
    this.document = document;
    this.file = file;
  }

  read(): MeshTree {
    const root = this.document.getRoot();
    const scene = root.getDefaultScene() ?? root.listScenes()[0];
    const title = cleanName(withoutEnding(this.file), 'Assembly');
    const tops = scene?.listChildren() ?? [];
    const only = tops.length === 1 && tops[0]!.listChildren().length > 0 && !tops[0]!.getMesh() ? tops[0]! : undefined;
    if (only) this.visit(only, -1);
    else {
      this.nodes.push({ parent: -1, name: cleanName(scene?.getName(), title), placement: IDENTITY, mesh: -1 });
      for (const t of tops) this.visit(t, 0);
    }
    return {
      name: title,
      schema: 'glTF 2.0',
      unitMm: METRE,
      up: 'y',
      meshes: this.meshes.map((m, i) => ({ ...m, properties: { ...common(this.said.get(i) ?? []), ...m.properties } })),
      nodes: this.nodes,
      properties: { ...flat(scene?.getExtras() ?? {}), ...(only ? flat(only.getExtras()) : {}) },
      notices: this.notices,
    };
  }

  private visit(node: SceneNode, parent: number): void {
    const mesh = node.getMesh();
    const index = mesh ? this.mesh(mesh) : -1;
    const children = node.listChildren();
    if (index >= 0) this.said.set(index, [...(this.said.get(index) ?? []), flat(node.getExtras())]);
    const name = cleanName(node.getName(), index >= 0 ? this.meshes[index]!.name : 'Group');
    if (this.nodes.length > 2 * MOST_COMPONENTS)
      throw new QuarryError('FILE_TOO_MANY', { file: this.file, count: this.nodes.length, limit: MOST_COMPONENTS, what: 'components' });
    const at = this.nodes.length;
    const placement = rowMajor(node.getMatrix());
    const instances = index >= 0 ? placesOf(node) : [];
    if (instances.length) {
      this.nodes.push({ parent, name, placement, mesh: -1 });
      for (const p of instances) this.nodes.push({ parent: at, name, placement: p, mesh: index });
      for (const c of children) this.visit(c, at);
      return;
    }
    // A node with a mesh and children is a group of both.
    this.nodes.push({ parent, name, placement, mesh: children.length ? -1 : index });
    if (children.length && index >= 0) this.nodes.push({ parent: at, name, placement: IDENTITY, mesh: index });
    for (const c of children) this.visit(c, at);
  }

  private mesh(mesh: Mesh): number {
    const known = this.meshOf.get(mesh);
    if (known !== undefined) return known;
    const positions: number[] = [];
    let color: string | undefined;
    let material: string | undefined;
    for (const p of mesh.listPrimitives()) {
      const corners = trianglesOf(p);
      const from = p.getAttribute('POSITION');
      if (!corners || !from) {
        this.notices.push({ code: 'LEFT_OUT', about: mesh.getName(), text: `“${cleanName(mesh.getName(), 'Mesh')}” has lines or points that are left out.` });
        continue;
      }
      this.triangles += corners.length / 3;
      checkTriangles(this.file, this.triangles);
      const at: number[] = [];
      for (const v of corners) {
        if (v >= from.getCount())
          throw new QuarryError('FILE_DAMAGED', { file: this.file, format: 'glTF 2.0', why: `a triangle refers to point ${v} of ${from.getCount()}` });
        from.getElement(v, at);
        positions.push(at[0]!, at[1]!, at[2]!);
      }
      const m = p.getMaterial();
      color ??= m ? hexOfLinear(m.getBaseColorFactor()) : undefined;
      material ??= m?.getName() || undefined;
    }
    const index = this.meshes.length;
    this.meshes.push({
      name: cleanName(mesh.getName(), `Part ${index + 1}`),
      positions: Float64Array.from(positions),
      properties: flat(mesh.getExtras()),
      ...(color ? { color } : {}),
      ...(material ? { material: cleanName(material, '') } : {}),
    });
    this.meshOf.set(mesh, index);
    return index;
  }
}

/** Corners of the triangles of a primitive; undefined for lines and points. */
function trianglesOf(p: Primitive): number[] | undefined {
  const indices = p.getIndices();
  const count = indices ? indices.getCount() : (p.getAttribute('POSITION')?.getCount() ?? 0);
  const at = (i: number) => (indices ? indices.getScalar(i) : i);
  const out: number[] = [];
  switch (p.getMode()) {
    case Primitive.Mode.TRIANGLES:
      for (let i = 0; i + 2 < count; i += 3) out.push(at(i), at(i + 1), at(i + 2));
      return out;
    case Primitive.Mode.TRIANGLE_STRIP:
      for (let i = 0; i + 2 < count; i++) out.push(at(i), at(i + 1 + (i % 2)), at(i + 2 - (i % 2)));
      return out;
    case Primitive.Mode.TRIANGLE_FAN:
      for (let i = 1; i + 1 < count; i++) out.push(at(0), at(i), at(i + 1));
      return out;
    default:
      return undefined;
  }
}

/** Column-major 4×4 to row-major 3×4. */
const rowMajor = (m: readonly number[]): Placement => [0, 1, 2].flatMap((r) => [m[r]!, m[4 + r]!, m[8 + r]!, m[12 + r]!]);

/** Placements of a mesh that one node shows many times (EXT_mesh_gpu_instancing). */
function placesOf(node: SceneNode): Placement[] {
  const instanced = node.getExtension<InstancedMesh>(EXTMeshGPUInstancing.EXTENSION_NAME);
  const [moves, turns, scales] = ['TRANSLATION', 'ROTATION', 'SCALE'].map((name) => instanced?.getAttribute(name));
  const count = Math.min(moves?.getCount() ?? turns?.getCount() ?? scales?.getCount() ?? 0, MOST_COMPONENTS + 1);
  return Array.from({ length: count }, (_, i) => {
    const [x = 0, y = 0, z = 0] = moves?.getElement(i, []) ?? [];
    const [a = 0, b = 0, c = 0, w = 1] = turns?.getElement(i, []) ?? [];
    const [sx = 1, sy = 1, sz = 1] = scales?.getElement(i, []) ?? [];
    return [
      ...[(1 - 2 * (b * b + c * c)) * sx, 2 * (a * b - c * w) * sy, 2 * (a * c + b * w) * sz, x],
      ...[2 * (a * b + c * w) * sx, (1 - 2 * (a * a + c * c)) * sy, 2 * (b * c - a * w) * sz, y],
      ...[2 * (a * c - b * w) * sx, 2 * (b * c + a * w) * sy, (1 - 2 * (a * a + b * b)) * sz, z],
    ];
  });
}

const MOST_PROPERTIES = 100;
const MOST_EXTRAS_LEVELS = 10;

/** Free data of any depth as texts by path: `supplier.number`, `holes.0.size`. */
function flat(extras: object): Record<string, string> {
  const out: Record<string, string> = {};
  const visit = (value: unknown, path: string, level: number): void => {
    if (Object.keys(out).length >= MOST_PROPERTIES || level > MOST_EXTRAS_LEVELS) return;
    if (typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean') out[cleanName(path, 'Property')] = cleanName(String(value), '');
    else if (Array.isArray(value) && value.every((v) => typeof v !== 'object')) out[cleanName(path, 'Property')] = cleanName(value.map(String).join(', '), '');
    else if (typeof value === 'object' && value !== null) for (const [k, v] of Object.entries(value)) visit(v, path ? `${path}.${k}` : k, level + 1);
  };
  visit(extras, '', 0);
  return out;
}

/** What all of them say alike. */
function common(all: readonly Record<string, string>[]): Record<string, string> {
  return Object.fromEntries(Object.entries(all[0] ?? {}).filter(([k, v]) => all.every((o) => o[k] === v)));
}
