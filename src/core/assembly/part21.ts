import { QuarryError, type Notice } from '../base/errors.ts';
import { readStated } from './part21-stated.ts';
import type { Stated } from './stated.ts';
import { decodeString, Graph, reference, references, scanEntities, stringOf, type Entity } from './part21-graph.ts';

/** What the text itself says, besides geometry. */
export interface ExchangeFacts {
  readonly schema: string;
  /** Length unit named first in the file: `mm`, `cm`, `m`, `inch`, `foot`, or `mm` when unknown. */
  readonly unit: string;
  /** Base names of other files that hold geometry. */
  readonly externalFiles: readonly string[];
  /** User-defined properties by product name. */
  readonly properties: ReadonlyMap<string, Readonly<Record<string, string>>>;
  /** Entity that names each product (`name`), its material (`material`) and each of its properties, by product name. */
  readonly entities: ReadonlyMap<string, Readonly<Record<string, string>>>;
  readonly materials: ReadonlyMap<string, { readonly name: string; readonly densityKgM3?: number }>;
  /** Volumes that the file states for checking, mm³ by product name (geometric validation properties). */
  readonly statedVolumes: ReadonlyMap<string, number>;
  readonly products: readonly ProductFacts[];
  /** Solids and surface models by entity number: their own name, and the product whose shape they are. */
  readonly bodies: ReadonlyMap<number, { readonly name: string; readonly product: ProductFacts | undefined }>;
  /** Sizes, tolerances and datums that the model states, on faces by entity number. */
  readonly stated: Stated;
  readonly notices: readonly Notice[];
}

/** A product as the text gives it: every text that could be its name. */
export interface ProductFacts {
  readonly id: string;
  readonly name: string;
  readonly description: string;
  /** Names of its occurrences, in the order of the file. */
  readonly occurrences: readonly string[];
  /** Other products are used in it: it is an assembly, whatever shapes it has besides. */
  readonly hasChildren: boolean;
}

export const STRUCTURE_LIMITS = { depth: 200, components: 200_000 } as const;

/**
 * Checks the text of a STEP file before the kernel sees it, and reads what the kernel's bindings do not give.
 * @param text the file as Latin-1 (every byte one character)
 * @param file its name, for messages
 * @throws QuarryError FILE_EMPTY, FILE_NOT_STEP, FILE_TRUNCATED, FILE_BROKEN_REFERENCE, FILE_CYCLE, FILE_TOO_DEEP, FILE_TOO_MANY,
 *   FILE_DAMAGED for coordinates that are no numbers or beyond all measure
 */
export function readExchangeFacts(text: string, file: string): ExchangeFacts {
  if (text.trim() === '') throw new QuarryError('FILE_EMPTY', { file });
  if (!/^\s*(\/\*[\s\S]*?\*\/\s*)*ISO-10303-21\s*;/.test(text.slice(0, 4096))) throw new QuarryError('FILE_NOT_STEP', { file });
  if (!text.slice(-4096).includes('END-ISO-10303-21')) throw new QuarryError('FILE_TRUNCATED', { file });
  const schema = decodeString(/FILE_SCHEMA\s*\(\s*\(\s*'([^']*)'/.exec(text.slice(0, 20_000))?.[1] ?? '').split(' ')[0] ?? '';
  const entities = scanEntities(text, file);
  const graph = new Graph(entities);
  checkStructure(graph, file);
  return {
    schema,
    unit: lengthUnit(entities),
    externalFiles: externalFiles(graph),
    ...readProperties(graph, MM_PER_UNIT[lengthUnit(entities)] ?? 1),
    ...readProducts(graph),
    stated: readStated(graph, MM_PER_UNIT[lengthUnit(entities)] ?? 1),
    notices: [],
  };
}

/** Cycles, depth and count of the occurrence graph. */
function checkStructure(graph: Graph, file: string): void {
  const children = new Map<number, number[]>();
  const isChild = new Set<number>();
  for (const id of graph.all('NEXT_ASSEMBLY_USAGE_OCCURRENCE')) {
    const p = graph.params(id);
    const [parent, child] = [reference(p[3]), reference(p[4])];
    isChild.add(child);
    const list = children.get(parent);
    if (list) list.push(child);
    else children.set(parent, [child]);
  }
  const done = new Map<number, { depth: number; count: number }>();
  const open = new Set<number>();
  const visit = (start: number): void => {
    // A stack of our own: 2,000 levels must not end the thread.
    const stack: { id: number; next: number }[] = [{ id: start, next: 0 }];
    open.add(start);
    while (stack.length) {
      const top = stack[stack.length - 1]!;
      const list = children.get(top.id) ?? [];
      if (top.next < list.length) {
        const child = list[top.next++]!;
        if (open.has(child)) throw new QuarryError('FILE_CYCLE', { file, product: graph.productName(child) });
        if (!done.has(child)) {
          open.add(child);
          stack.push({ id: child, next: 0 });
        }
        continue;
      }
      stack.pop();
      open.delete(top.id);
      let depth = 0;
      let count = list.length ? 0 : 1;
      for (const c of list) {
        depth = Math.max(depth, 1 + done.get(c)!.depth);
        count += done.get(c)!.count;
      }
      done.set(top.id, { depth, count });
    }
  };
  for (const id of children.keys()) if (!done.has(id)) visit(id);
  for (const id of children.keys()) {
    if (isChild.has(id)) continue;
    const { depth, count } = done.get(id)!;
    if (depth > STRUCTURE_LIMITS.depth) throw new QuarryError('FILE_TOO_DEEP', { file, depth, limit: STRUCTURE_LIMITS.depth });
    if (count > STRUCTURE_LIMITS.components) throw new QuarryError('FILE_TOO_MANY', { file, count, limit: STRUCTURE_LIMITS.components });
  }
}

/** The length unit of the first context; a conversion is based on another unit, which is not the file's. */
function lengthUnit(entities: Map<number, Entity>): string {
  const complex = [...entities.values()].filter((e) => e.type === '').map((e) => e.body);
  const assigned = complex.flatMap((body) =>
    references(/GLOBAL_UNIT_ASSIGNED_CONTEXT\s*\(\s*\(([^)]*)\)/.exec(body)?.[1]).map((id) => entities.get(id)?.body ?? ''),
  );
  for (const body of [...assigned, ...complex]) {
    if (!body.includes('LENGTH_UNIT')) continue;
    const named = /CONVERSION_BASED_UNIT\s*\(\s*'([^']*)'/.exec(body)?.[1]?.toLowerCase();
    if (named) return named.includes('inch') || named === 'in' ? 'inch' : named.includes('f') ? 'foot' : named;
    const si = /SI_UNIT\s*\(\s*(\$|\.\w+\.)\s*,\s*\.METRE\./.exec(body)?.[1];
    if (si) return { '.MILLI.': 'mm', '.CENTI.': 'cm', $: 'm', '.KILO.': 'km', '.MICRO.': 'µm' }[si] ?? 'mm';
  }
  return 'mm';
}

function externalFiles(graph: Graph): string[] {
  const names = new Set<string>();
  for (const id of graph.all('DOCUMENT_FILE')) {
    const name = stringOf(graph.params(id)[0]).split(/[\\/]/).pop() ?? '';
    if (/\.(stp|step|p21)$/i.test(name)) names.add(name);
  }
  return [...names];
}

const BODY_TYPES = ['MANIFOLD_SOLID_BREP', 'BREP_WITH_VOIDS', 'FACETED_BREP', 'SHELL_BASED_SURFACE_MODEL'] as const;

/** Products with all their texts, and the bodies that are their shapes (ISO 10303-41, -42). */
function readProducts(graph: Graph): Pick<ExchangeFacts, 'products' | 'bodies'> {
  const occurrences = new Map<number, string[]>();
  const parents = new Set<number>();
  for (const id of graph.all('NEXT_ASSEMBLY_USAGE_OCCURRENCE')) {
    const [own, name, description, parent, child] = graph.params(id);
    parents.add(graph.product(reference(parent)));
    const product = graph.product(reference(child));
    occurrences.set(product, [...(occurrences.get(product) ?? []), ...[name, description, own].map(stringOf)]);
  }
  const byEntity = new Map<number, ProductFacts>();
  for (const id of graph.all('PRODUCT')) {
    const [own, name, description] = graph.params(id).map(stringOf) as [string, string, string];
    byEntity.set(id, { id: own, name, description, occurrences: occurrences.get(id) ?? [], hasChildren: parents.has(id) });
  }
  // A product's representation may be equivalent to another one, which then holds the body.
  const owner = new Map<number, number>();
  for (const id of graph.all('SHAPE_DEFINITION_REPRESENTATION')) {
    const [definition, representation] = graph.params(id).map(reference);
    const product = graph.product(definition ?? 0);
    if (product) owner.set(representation ?? 0, product);
  }
  for (const id of graph.all('SHAPE_REPRESENTATION_RELATIONSHIP')) {
    const [first, second] = [reference(graph.params(id)[2]), reference(graph.params(id)[3])];
    const known = owner.get(first) ?? owner.get(second);
    if (known === undefined) continue;
    if (!owner.has(first)) owner.set(first, known);
    if (!owner.has(second)) owner.set(second, known);
  }
  const productOf = new Map<number, ProductFacts | undefined>();
  for (const [representation, product] of owner)
    for (const item of references(graph.params(representation)[1])) if (!productOf.has(item)) productOf.set(item, byEntity.get(product));
  const bodies = new Map<number, { name: string; product: ProductFacts | undefined }>();
  for (const type of BODY_TYPES) for (const id of graph.all(type)) bodies.set(id, { name: stringOf(graph.params(id)[0]), product: productOf.get(id) });
  return { products: [...byEntity.values()], bodies };
}

const MM_PER_UNIT: Readonly<Record<string, number>> = { mm: 1, cm: 10, m: 1000, inch: 25.4, foot: 304.8 };

function readProperties(graph: Graph, unitMm: number) {
  const statedVolumes = new Map<string, number>();
  const properties = new Map<string, Record<string, string>>();
  const materials = new Map<string, { name: string; densityKgM3?: number }>();
  const entities = new Map<string, Record<string, string>>();
  const from = (product: string, what: string, id: number) => {
    const bag = entities.get(product) ?? {};
    bag[what] ??= `#${id}`;
    entities.set(product, bag);
  };
  for (const id of graph.all('PRODUCT')) from(graph.productName(id), 'name', id);
  for (const id of graph.all('PROPERTY_DEFINITION_REPRESENTATION')) {
    const [definition, representation] = graph.params(id).map(reference);
    if (!definition || graph.type(definition) !== 'PROPERTY_DEFINITION') continue;
    const [rawName, rawText, target] = graph.params(definition);
    const name = stringOf(rawName);
    const product = graph.productName(reference(target));
    if (!product) continue;
    for (const item of references(graph.params(representation ?? 0)[1])) {
      const value = itemValue(graph, item);
      if (!value) continue;
      if (/^material property$/i.test(name)) {
        const known = materials.get(product) ?? { name: '' };
        if (/density/i.test(stringOf(rawText)) || /density/i.test(value.name)) {
          const density = Number(value.value);
          // Writers differ in the unit: steel is 7850 in kg/m³, 7.85 in g/cm³, 0.00785 in g/mm³.
          if (density > 0) known.densityKgM3 = Number((density < 0.1 ? density * 1e6 : density < 50 ? density * 1000 : density).toPrecision(9));
        } else if (value.name || value.value) {
          known.name = value.name || value.value;
          from(product, 'material', item);
        }
        materials.set(product, known);
        continue;
      }
      if (/validation/i.test(name) && /volume/i.test(value.name) && Number(value.value) > 0) statedVolumes.set(product, Number(value.value) * unitMm ** 3);
      // Validation properties and the like are for programs, not for people.
      if (/validation|geometric|shape|attribute valid/i.test(name) || !(value.name || name)) continue;
      const bag = properties.get(product) ?? {};
      bag[value.name || name] = value.value;
      from(product, `property:${value.name || name}`, item);
      properties.set(product, bag);
    }
  }
  for (const [k, m] of materials) if (!m.name) materials.delete(k);
  return { properties, entities, materials, statedVolumes };
}

function itemValue(graph: Graph, id: number): { name: string; value: string } | undefined {
  const p = graph.params(id);
  switch (graph.type(id)) {
    case 'DESCRIPTIVE_REPRESENTATION_ITEM':
      return { name: stringOf(p[0]), value: stringOf(p[1]) };
    case 'MEASURE_REPRESENTATION_ITEM':
    case 'VALUE_REPRESENTATION_ITEM':
      return { name: stringOf(p[0]), value: /\(\s*'?([^')]*)'?\s*\)/.exec(p[1] ?? '')?.[1] ?? '' };
    case 'INTEGER_REPRESENTATION_ITEM':
    case 'REAL_REPRESENTATION_ITEM':
      return { name: stringOf(p[0]), value: p[1] ?? '' };
    default:
      return undefined;
  }
}
