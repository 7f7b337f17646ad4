import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { unzipSync } from 'fflate';
import type { ImportedFile } from '../../core/assembly/importing.ts';
import { MOST_COMPONENTS, MOST_LEVELS, type MeshNode, type MeshTree, type RawMesh } from '../../core/assembly/mesh-tree.ts';
import { QuarryError } from '../../core/base/errors.ts';
import { IDENTITY, type Placement } from '../../core/base/placement.ts';
import { checkTriangles, cleanName, withoutEnding } from './limits.ts';

const UNITS: Readonly<Record<string, number>> = { micron: 1e-3, millimeter: 1, centimeter: 10, inch: 25.4, foot: 304.8, meter: 1000 };
/** Unpacked size at most. */
const MOST_BYTES = 600_000_000;
const MOST_ENTRIES = 5000;

type Element = Readonly<Record<string, unknown>>;

/**
 * 3MF (core specification, with objects in further model files as the production extension has it). Unit from the file, Z up.
 * @throws QuarryError FILE_DAMAGED, FILE_TOO_LARGE, FILE_CYCLE, FILE_TOO_MANY, FILE_TOO_DEEP
 */
export function readThreeMf(file: ImportedFile): MeshTree {
  const damaged = (why: string, cause?: unknown) => new QuarryError('FILE_DAMAGED', { file: file.name, format: '3MF', why }, { cause });
  const models = unpack(file, damaged);
  const main = [...models.keys()].find((n) => /^3d\/[^/]+\.model$/i.test(n)) ?? [...models.keys()][0];
  if (main === undefined) throw damaged('there is no model in it');
  return new ModelReader(file.name, models, damaged).read(main);
}

function unpack(file: ImportedFile, damaged: (why: string, cause?: unknown) => QuarryError): Map<string, Uint8Array> {
  let size = 0;
  let entries = 0;
  try {
    const all = unzipSync(file.bytes, {
      filter(e) {
        size += e.originalSize;
        if (++entries > MOST_ENTRIES || size > MOST_BYTES) throw new QuarryError('FILE_TOO_LARGE', { file: file.name, bytes: size, limitBytes: MOST_BYTES });
        return /\.model$/i.test(e.name);
      },
    });
    return new Map(Object.entries(all).map(([n, b]) => [n.replace(/^\//, ''), b]));
  } catch (cause) {
    if (cause instanceof QuarryError) throw cause;
    throw damaged('it is not a package that can be opened', cause);
  }
}

const LISTS = new Set(['object', 'vertex', 'triangle', 'component', 'item', 'base', 'basematerials', 'metadata']);
const parser = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '',
  removeNSPrefix: true,
  parseAttributeValue: false,
  // Only those of XML itself: files that declare a document type are refused.
  processEntities: true,
  htmlEntities: false,
  isArray: (name) => LISTS.has(name),
});

const listOf = (e: unknown, key: string): Element[] => {
  const v = (e as Element | undefined)?.[key];
  return Array.isArray(v) ? (v as Element[]) : [];
};
const textOf = (e: Element, key: string): string => (typeof e[key] === 'string' ? e[key] : '');

interface RawObject {
  readonly element: Element;
  readonly path: string;
  readonly colors: ReadonlyMap<string, readonly { readonly name: string; readonly color: string | undefined }[]>;
}

class ModelReader {
  private readonly objects = new Map<string, RawObject>();
  private readonly meshes: RawMesh[] = [];
  private readonly meshOf = new Map<string, number>();
  private readonly nodes: MeshNode[] = [];
  private triangles = 0;
  private readonly file: string;
  private readonly models: ReadonlyMap<string, Uint8Array>;
  private readonly damaged: (why: string, cause?: unknown) => QuarryError;

  constructor(file: string, models: ReadonlyMap<string, Uint8Array>, damaged: (why: string, cause?: unknown) => QuarryError) {
    this.file = file;
    this.models = models;
    this.damaged = damaged;
  }

  read(main: string): MeshTree {
    const model = this.load(main);
    for (const other of this.models.keys()) if (other !== main) this.load(other);
    const title = cleanName(withoutEnding(this.file), 'Assembly');
    const unit = textOf(model, 'unit') || 'millimeter';
    const unitMm = UNITS[unit];
    if (unitMm === undefined) throw this.damaged(`its unit “${cleanName(unit, '')}” is not one of the format`);
    const items = listOf(model['build'], 'item');
    if (items.length === 0) throw this.damaged('nothing in it is to be built');
    this.nodes.push({ parent: -1, name: title, placement: IDENTITY, mesh: -1 });
    for (const item of items) this.place(item, main, 0, []);
    return { name: title, schema: '3MF', unitMm, up: 'z', meshes: this.meshes, nodes: this.nodes, notices: [] };
  }

  private load(path: string): Element {
    const text = new TextDecoder().decode(this.models.get(path));
    if (/<!DOCTYPE/i.test(text.slice(0, 4096))) throw this.damaged('it declares a document type, which the format does not allow');
    if (XMLValidator.validate(text) !== true) throw this.damaged('its model is not well-formed XML');
    const model = (parser.parse(text) as Element)['model'] as Element | undefined;
    if (typeof model !== 'object') throw this.damaged('there is no model in it');
    const resources = model['resources'];
    const colors = new Map(
      listOf(resources, 'basematerials').map((b) => [
        textOf(b, 'id'),
        listOf(b, 'base').map((c) => ({ name: textOf(c, 'name'), color: colorOf(textOf(c, 'displaycolor')) })),
      ]),
    );
    for (const o of listOf(resources, 'object')) this.objects.set(`${path}#${textOf(o, 'id')}`, { element: o, path, colors });
    return model;
  }

  private place(use: Element, from: string, parent: number, above: readonly string[]): void {
    const path = textOf(use, 'path').replace(/^\//, '') || from;
    const key = `${path}#${textOf(use, 'objectid')}`;
    const object = this.objects.get(key);
    if (!object) throw this.damaged(`it refers to object ${cleanName(textOf(use, 'objectid'), '?')}, which is not there`);
    const name = cleanName(textOf(object.element, 'name'), `Part ${textOf(object.element, 'id')}`);
    if (above.includes(key)) throw new QuarryError('FILE_CYCLE', { file: this.file, product: name });
    if (above.length > MOST_LEVELS) throw new QuarryError('FILE_TOO_DEEP', { file: this.file, depth: above.length, limit: MOST_LEVELS });
    if (this.nodes.length > MOST_COMPONENTS)
      throw new QuarryError('FILE_TOO_MANY', { file: this.file, count: this.nodes.length, limit: MOST_COMPONENTS, what: 'components' });
    const placement = this.transform(textOf(use, 'transform'));
    const at = this.nodes.length;
    const parts = listOf(object.element['components'], 'component');
    if (parts.length) {
      this.nodes.push({ parent, name, placement, mesh: -1 });
      for (const c of parts) this.place(c, object.path, at, [...above, key]);
    } else this.nodes.push({ parent, name, placement, mesh: this.mesh(key, object, name) });
  }

  /** Row vectors in the file: twelve numbers, translation last. */
  private transform(text: string): Placement {
    if (text === '') return IDENTITY;
    const m = text.trim().split(/\s+/).map(Number);
    if (m.length !== 12 || m.some((v) => !Number.isFinite(v))) throw this.damaged('a transform is not twelve numbers');
    return [0, 1, 2].flatMap((c) => [m[c]!, m[3 + c]!, m[6 + c]!, m[9 + c]!]);
  }

  private mesh(key: string, { element, colors }: RawObject, name: string): number {
    const known = this.meshOf.get(key);
    if (known !== undefined) return known;
    const mesh = element['mesh'] as Element | undefined;
    const vertices = listOf(mesh?.['vertices'], 'vertex');
    const corners = listOf(mesh?.['triangles'], 'triangle');
    this.triangles += corners.length;
    checkTriangles(this.file, this.triangles);
    const positions = new Float64Array(vertices.length * 3);
    vertices.forEach((v, i) => ['x', 'y', 'z'].forEach((k, j) => (positions[i * 3 + j] = v[k] === undefined ? NaN : Number(v[k]))));
    const triangles = new Uint32Array(corners.length * 3);
    corners.forEach((t, i) =>
      ['v1', 'v2', 'v3'].forEach((k, j) => {
        const v = Number(t[k]);
        if (!(v >= 0 && v < vertices.length)) throw this.damaged(`a triangle refers to point ${cleanName(String(t[k]), '?')} of ${vertices.length}`);
        triangles[i * 3 + j] = v;
      }),
    );
    const base = colors.get(textOf(element, 'pid'))?.[Number(textOf(element, 'pindex') || 0)];
    const index = this.meshes.length;
    this.meshes.push({
      name,
      positions,
      triangles,
      ...(base?.color ? { color: base.color } : {}),
      ...(base?.name ? { material: cleanName(base.name, '') } : {}),
    });
    this.meshOf.set(key, index);
    return index;
  }
}

const colorOf = (text: string) => (/^#[0-9a-f]{6}([0-9a-f]{2})?$/i.test(text) ? text.slice(0, 7).toLowerCase() : undefined);
