/** Where a name was taken from, most trusted first. */
export type NameSource = 'product' | 'product id' | 'description' | 'occurrence' | 'body' | 'file' | 'none';

export interface NameCandidate {
  readonly text: string | undefined;
  readonly from: NameSource;
}

const UUID = /^\{?[0-9a-f]{8}-?[0-9a-f]{4}-?[0-9a-f]{4}-?[0-9a-f]{4}-?[0-9a-f]{12}\}?$/i;

/** What writers put where nobody gave a name: kinds of shape and of node, numbered or not, in a few languages (common practice of writers). */
const DEFAULT_NAME = new RegExp(
  `^(${[
    '(manifold[ _-]?)?(solid|compound|compsolid|shell|face|wire|surface|body|brep|solid[ _-]?body|part[ _-]?body|surface[ _-]?body)([ _-]?brep)?',
    'part|component|product|assembly|sub[ _-]?assembly|assem|instance|occurrence|item|element|feature',
    'object|mesh|node|group|shape|geometry|entity|scene|root|model|primitive|default|import(ed)?|new',
    'un(named|titled|saved|known)|no[ _-]?name|none|null|nil|not specified|n/?a',
    'nauo|instance id|next assembly (relationship|usage occurrence)',
    'k(ö|oe)rper|volumenk(ö|oe)rper|bauteil|teil|baugruppe|unbenannt|pi(è|e)ce|corps|solide|s(ó|o)lido|pieza|parte|corpo|cuerpo',
    'open cascade.*|step translator.*',
  ].join('|')})[ _.:#-]*[0-9.]*$`,
  'iu',
);

/** Is this one of the names that say nothing of the part: empty, a number of two digits at most, a default of a writer, a UUID, a reference? */
export function saysNothing(name: string | undefined): boolean {
  const text = (name ?? '').trim().replace(/^[([{<"']+|[)\]}>"']+$/gu, '');
  if (!/[\p{L}\p{N}]/u.test(text) || /^\d{1,2}$/.test(text)) return true;
  return UUID.test(text) || /^=?>?\[?\d+(:\d+)+\]?$/.test(text) || /^#\d+$/.test(text) || DEFAULT_NAME.test(text);
}

/** A number that only tells pieces apart, as in `Nut:3`, `nut_3`, `NUT::3`. */
const withoutCount = (name: string) => name.replace(/\s*[_:.<(-]+\s*\d+\s*[>)]?$/u, '');

/**
 * The first candidate that says something; of an occurrence without the number that tells pieces apart. Where none does,
 * the first that is not empty, else `otherwise`: two parts called “Part1” and “Part2” stay apart.
 */
export function chooseName(candidates: readonly NameCandidate[], otherwise: string): { readonly name: string; readonly from: NameSource } {
  for (const { text, from } of candidates) {
    if (saysNothing(text)) continue;
    const name = from === 'occurrence' ? withoutCount(text!.trim()) : text!.trim();
    if (!saysNothing(name)) return { name, from };
  }
  const first = candidates.find((c) => c.text?.trim());
  return { name: first?.text!.trim() ?? otherwise, from: 'none' };
}

/** How the source of a name is told, such as “from its solid”. */
export const NAME_SOURCE_TEXT: Readonly<Record<NameSource, string>> = {
  product: 'the product name in the file',
  'product id': 'the product’s identifier in the file, which gives no name that says anything',
  description: 'the product’s description in the file, which gives no name that says anything',
  occurrence: 'the name of its occurrence in the file; the product has none that says anything',
  body: 'the name of its solid in the file; the product has none that says anything',
  file: 'the name of the file, which gives the part no name that says anything',
  none: 'a default of the program that wrote the file: nothing in it gives a name',
};
