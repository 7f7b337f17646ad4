import { QuarryError } from '../base/errors.ts';

/** One entity instance of the exchange structure (ISO 10303-21): its keyword and raw parameter text. */
export interface Entity {
  readonly type: string;
  readonly body: string;
}

/** Types whose content we read; the bodies of all others are passed over. */
const WANTED =
  /^(NEXT_ASSEMBLY_USAGE_OCCURRENCE|PRODUCT|PRODUCT_DEFINITION\w*|PROPERTY_DEFINITION|PROPERTY_DEFINITION_REPRESENTATION|REPRESENTATION|DESCRIPTIVE_REPRESENTATION_ITEM|MEASURE_REPRESENTATION_ITEM|VALUE_REPRESENTATION_ITEM|DOCUMENT_FILE|APPLIED_DOCUMENT_REFERENCE|SI_UNIT|CONVERSION_BASED_UNIT|LENGTH_UNIT|INTEGER_REPRESENTATION_ITEM|REAL_REPRESENTATION_ITEM|SHAPE_DEFINITION_REPRESENTATION|SHAPE_REPRESENTATION_RELATIONSHIP|\w*SHAPE_REPRESENTATION|MANIFOLD_SOLID_BREP|BREP_WITH_VOIDS|FACETED_BREP|SHELL_BASED_SURFACE_MODEL|(DIRECTED_)?(DIMENSIONAL|ANGULAR)_\w+|SHAPE_DIMENSION_REPRESENTATION|\w*SHAPE_ASPECT\w*|(GEOMETRIC_ITEM_SPECIFIC|ITEM_IDENTIFIED_REPRESENTATION)_USAGE|TOLERANCE_\w+|LIMITS_AND_FITS|\w+_TOLERANCE|DATUM\w*|COMMON_DATUM|\w*MEASURE_WITH_UNIT|)$/;

/** One pass over the DATA sections; every reference must have its entity. */
export function scanEntities(text: string, file: string): Map<number, Entity> {
  const entities = new Map<number, Entity>();
  const known = new Set<number>();
  const wanted = new Map<number, number>();
  let i = text.indexOf('DATA;');
  if (i < 0) throw new QuarryError('FILE_TRUNCATED', { file });
  const n = text.length;
  let current = 0;
  while (i < n) {
    const c = text.charCodeAt(i);
    if (c === 39) {
      i = endOfString(text, i);
      continue;
    }
    if (c === 47 && text.charCodeAt(i + 1) === 42) {
      const end = text.indexOf('*/', i + 2);
      i = end < 0 ? n : end + 2;
      continue;
    }
    if (c === 35) {
      let id = 0;
      let j = i + 1;
      for (; j < n; j++) {
        const d = text.charCodeAt(j) - 48;
        if (d < 0 || d > 9) break;
        id = id * 10 + d;
      }
      if (current === 0) {
        current = id;
        known.add(id);
        let k = j;
        while (k < n && text.charCodeAt(k) !== 61) k++;
        k++;
        while (k < n && text.charCodeAt(k) <= 32) k++;
        let e = k;
        while (e < n && /[A-Z0-9_a-z]/.test(text[e]!)) e++;
        const type = text.slice(k, e).toUpperCase();
        if (WANTED.test(type)) {
          const end = endOfStatement(text, e);
          const body = text.slice(e, end);
          // A complex instance `( A() B() )` has no keyword of its own; only units, measures and tolerances interest us there.
          if (type !== '' || /UNIT|MEASURE_REPRESENTATION_ITEM|_TOLERANCE/.test(body)) entities.set(id, { type, body });
        }
        if (type === 'CARTESIAN_POINT') checkPoint(text, e, id, file);
        j = e;
      } else if (!wanted.has(id)) wanted.set(id, current);
      i = j;
      continue;
    }
    if (c === 59) current = 0;
    i++;
  }
  for (const [id, from] of wanted) if (!known.has(id)) throw new QuarryError('FILE_BROKEN_REFERENCE', { file, entity: from, missing: id });
  return entities;
}

/** Numbers of ten digits before the point, or none at all: no machine is that large, and the kernel would work on it for minutes. */
const BEYOND = /(?:E\+?0*[1-9]\d)|(?:\d{11,}\.)|nan|inf/i;

function checkPoint(text: string, start: number, id: number, file: string): void {
  const open = text.indexOf('(', text.indexOf(',', start));
  const end = text.indexOf(')', open);
  const coordinates = text.slice(open + 1, end);
  if (open > 0 && BEYOND.test(coordinates))
    throw new QuarryError('FILE_DAMAGED', {
      file,
      format: 'STEP',
      why: `point #${id} lies at (${coordinates.slice(0, 60).trim()}), beyond anything that can be drawn`,
    });
}

function endOfString(text: string, start: number): number {
  let i = start + 1;
  for (;;) {
    const q = text.indexOf("'", i);
    if (q < 0) return text.length;
    if (text.charCodeAt(q + 1) !== 39) return q + 1;
    i = q + 2;
  }
}

function endOfStatement(text: string, start: number): number {
  let i = start;
  while (i < text.length) {
    const c = text.charCodeAt(i);
    if (c === 59) return i;
    i = c === 39 ? endOfString(text, i) : i + 1;
  }
  return text.length;
}

/** Splits `(a,(b,c),'d')` into its top-level parameters. */
export function parameters(body: string): string[] {
  const out: string[] = [];
  let depth = 0;
  let from = 0;
  for (let i = 0; i < body.length; i++) {
    const c = body[i];
    if (c === "'") i = endOfString(body, i) - 1;
    else if (c === '(') {
      if (++depth === 1) from = i + 1;
    } else if (c === ')') {
      if (--depth === 0) {
        out.push(body.slice(from, i).trim());
        break;
      }
    } else if (c === ',' && depth === 1) {
      out.push(body.slice(from, i).trim());
      from = i + 1;
    }
  }
  return out;
}

export const reference = (p: string | undefined): number => (p?.startsWith('#') ? Number(p.slice(1)) : 0);
export const references = (p: string | undefined): number[] => [...(p ?? '').matchAll(/#(\d+)/g)].map((m) => Number(m[1]));
export const stringOf = (p: string | undefined): string => (p?.startsWith("'") ? decodeString(p.slice(1, -1)) : '');

/** Undoes the string escapes of ISO 10303-21, 6.4.3, and raw UTF-8 that many writers put in unescaped. */
export function decodeString(raw: string): string {
  const plain = raw
    .replaceAll("''", "'")
    .replace(/\\X2\\([0-9A-F]+?)\\X0\\/gi, (_, hex: string) => hex.replace(/.{4}/g, (h) => String.fromCharCode(parseInt(h, 16))))
    .replace(/\\X4\\([0-9A-F]+?)\\X0\\/gi, (_, hex: string) =>
      hex.replace(/.{8}/g, (h) => (parseInt(h, 16) <= 0x10ffff ? String.fromCodePoint(parseInt(h, 16)) : '')),
    )
    .replace(/\\X\\([0-9A-F]{2})/gi, (_, h: string) => String.fromCharCode(parseInt(h, 16)))
    .replace(/\\S\\(.)/g, (_, c: string) => String.fromCharCode(c.charCodeAt(0) + 128))
    .replaceAll('\\\\', '\\');
  return decodeUtf8(plain);
}

/** Bytes of UTF-8 kept one per character come back as text; anything else stays as it is. */
export function decodeUtf8(text: string): string {
  if (!/[\u0080-\u00ff]/.test(text) || /[^\u0000-\u00ff]/.test(text)) return text;
  try {
    return decodeURIComponent([...text].map((c) => `%${c.charCodeAt(0).toString(16).padStart(2, '0')}`).join(''));
  } catch {
    return text;
  }
}

export class Graph {
  readonly entities: Map<number, Entity>;
  private readonly byType = new Map<string, number[]>();
  constructor(entities: Map<number, Entity>) {
    this.entities = entities;
    for (const [id, e] of entities) {
      const list = this.byType.get(e.type);
      if (list) list.push(id);
      else this.byType.set(e.type, [id]);
    }
  }
  all(type: string): readonly number[] {
    return this.byType.get(type) ?? [];
  }
  type(id: number): string {
    return this.entities.get(id)?.type ?? '';
  }
  /** The text of an entity after its keyword. */
  body(id: number): string {
    return this.entities.get(id)?.body ?? '';
  }
  params(id: number): string[] {
    return parameters(this.body(id));
  }
  /** Parameters of one of the types of a complex instance. */
  paramsOf(id: number, keyword: string): string[] {
    const body = this.body(id);
    const at = new RegExp(`(?:^|[^A-Z0-9_])${keyword}\\s*\\(`).exec(body);
    return at ? parameters(body.slice(at.index + at[0].length - 1)) : [];
  }
  /** Entities of a type, complex ones among them. */
  having(keyword: string): readonly number[] {
    const complex = this.all('').filter((id) => new RegExp(`(?:^|[^A-Z0-9_])${keyword}\\s*\\(`).test(this.body(id)));
    return [...this.all(keyword), ...complex];
  }
  /** Name of the product behind a product definition (of any subtype), or of one of its occurrences. */
  productName(id: number): string {
    const p = this.params(this.product(id));
    return stringOf(p[1]) || stringOf(p[0]);
  }
  /** The product behind an entity; 0 when there is none. */
  product(id: number): number {
    const type = this.type(id);
    if (type === 'PRODUCT') return id;
    if (type === 'NEXT_ASSEMBLY_USAGE_OCCURRENCE') return this.product(reference(this.params(id)[4]));
    // Definition, formation, shape: each names the next in its third place.
    return type.startsWith('PRODUCT_DEFINITION') ? this.product(reference(this.params(id)[2])) : 0;
  }
}
