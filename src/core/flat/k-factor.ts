import type { Assembly } from '../assembly/assembly.ts';
import { ledgerOf, type DrawingDocument } from '../document/records.ts';
import { itemsOf } from '../ledger/items.ts';

/** Key of the property that holds a part's own K. */
export const K_KEY = 'kFactor';

/** A share of the thickness as it is typed, `0.44`; undefined for what is none. */
export function parseK(text: string | undefined): number | undefined {
  const k = text?.trim() ? Number(text.replace(',', '.')) : NaN;
  return k >= 0 && k <= 1 ? k : undefined;
}

/**
 * The K that someone chose for a part: typed for it, else for its material. Undefined where nobody did: it goes by DIN 6935 then, from
 * inner radius and thickness.
 * @param material as the ledger has it
 */
export function chosenK(doc: DrawingDocument, part: string, material: string): number | undefined {
  const record = doc[`property:${part}`];
  const own = record?.type === 'property' ? parseK(record.values[K_KEY]) : undefined;
  if (own !== undefined) return own;
  const name = material.trim().toLowerCase();
  return name ? ledgerOf(doc).materials.find((m) => m.name.toLowerCase() === name)?.k : undefined;
}

/** Chosen Ks of the parts of a model, by the keys of their geometry. */
export function chosenKs(assembly: Assembly, doc: DrawingDocument): Map<string, number> {
  const anyone =
    ledgerOf(doc).materials.some((m) => m.k !== undefined) || Object.values(doc).some((r) => r.type === 'property' && r.values[K_KEY] !== undefined);
  const out = new Map<string, number>();
  if (!anyone) return out;
  const keys = new Map(assembly.parts.map((p) => [p.id, p.geometryKey]));
  for (const i of itemsOf(assembly, doc)) {
    const [k, key] = [chosenK(doc, i.part, i.values.material.text), keys.get(i.part)];
    if (k !== undefined && key !== undefined) out.set(key, k);
  }
  return out;
}

/** Name of what is measured on a part that is laid flat with a chosen K. */
export const flatKey = (geometryKey: string, k: number | undefined): string => (k === undefined ? geometryKey : `${geometryKey}~k${k}`);

/** The geometry and the K in such a name. */
export function readFlatKey(key: string): { readonly geometryKey: string; readonly k?: number } {
  const at = key.lastIndexOf('~k');
  return at < 0 ? { geometryKey: key } : { geometryKey: key.slice(0, at), k: Number(key.slice(at + 2)) };
}
