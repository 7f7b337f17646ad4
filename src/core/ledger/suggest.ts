import type { LedgerRecord } from '../document/records.ts';
import type { CellChange } from './grid.ts';
import type { Item, PropertyKey } from './items.ts';

export interface Suggestion extends CellChange {
  readonly text: string;
  readonly why: string;
}

/** Standard parts by their name: what they are, and how the trade writes it. */
const STANDARD: readonly (readonly [RegExp, string])[] = [
  [/\b(hex(agon)?[ _-]*(head)?[ _-]*(bolt|screw)|bolt)\b/i, 'Bolt'],
  [/\b(socket|cap)[ _-]*(head)?[ _-]*(cap)?[ _-]*screw\b/i, 'Socket head screw'],
  [/\b(grub|set)[ _-]*screw\b/i, 'Set screw'],
  [/\bscrew\b/i, 'Screw'],
  [/\b(lock|hex|wing)?[ _-]*nut\b/i, 'Nut'],
  [/\b(spring|lock)?[ _-]*washer\b/i, 'Washer'],
  [/\b(circlip|retaining[ _-]*ring|snap[ _-]*ring)\b/i, 'Circlip'],
  [/\b(dowel|split|cotter|spring|roll)[ _-]*pin\b/i, 'Pin'],
  [/\b(parallel|feather|woodruff)?[ _-]*key\b/i, 'Key'],
  [/\bo-?ring\b/i, 'O-ring'],
  [/\brivet\b/i, 'Rivet'],
  [/\b(ball|roller|needle|plain|flange)?[ _-]*bearing\b/i, 'Bearing'],
];
/** Numbers of product standards in a name: ISO 4017, DIN 934, EN 10642, ASME B18.2.1. */
const NORM = /\b(ISO|DIN|EN|ANSI|ASME|JIS)[ _-]*(EN|ISO)?[ _-]*[B]?\d[\d.]*\b/i;

/** Does the name say that this is a part one buys by a standard? */
export const isStandardName = (name: string): boolean => NORM.test(name) || STANDARD.some(([p]) => p.test(spaced(name)));

const spaced = (name: string) => name.replace(/_/g, ' ').replace(/([a-z])([A-Z])/g, '$1 $2');

/** A name as a list shows it: no underscores, no endings, the first letter large: `SHAFT_DRUM_20.stp` → `Shaft drum 20`. */
export function cleanedName(name: string): string {
  const words = spaced(name.replace(/\.[a-z]{2,6}$/i, ''))
    .replace(/\s+/g, ' ')
    .trim();
  const plain = /[a-z]/.test(words) ? words : words.replace(/\b[A-Z]{3,}\b/g, (w) => w.toLowerCase());
  return plain.charAt(0).toUpperCase() + plain.slice(1);
}

/** The next free drawing number of the scheme. @param besides numbers that are about to be given */
export function nextDrawingNumber(scheme: LedgerRecord['scheme'], items: readonly Item[], besides: ReadonlySet<string> = new Set()): string {
  const used = new Set([...items.map((i) => i.values.drawingNumber.text), ...besides]);
  for (let n = 1; ; n++) {
    const number = scheme.prefix + String(n).padStart(scheme.digits, '0');
    if (!used.has(number)) return number;
  }
}

/** The prefix and digits that most drawing numbers of the ledger share, if there is a scheme to see. */
export function guessScheme(items: readonly Item[]): LedgerRecord['scheme'] | undefined {
  const counts = new Map<string, number>();
  for (const i of items) {
    const m = /^(.*?)(\d{1,6})$/.exec(i.values.drawingNumber.text);
    if (m) counts.set(`${m[1]!}\u0000${m[2]!.length}`, (counts.get(`${m[1]!}\u0000${m[2]!.length}`) ?? 0) + 1);
  }
  const best = [...counts].sort((a, b) => b[1] - a[1])[0];
  if (!best || best[1] < 2) return undefined;
  const [prefix, digits] = best[0].split('\u0000') as [string, string];
  return { prefix, digits: Number(digits) };
}

/**
 * Sensible values for cells that are empty or plainly raw: one click each.
 * @param looksLike what the shape says by part id, see `assembly/looks-like`
 */
export function suggestionsFor(items: readonly Item[], ledger: LedgerRecord, looksLike: ReadonlyMap<string, string> = new Map()): Suggestion[] {
  const out: Suggestion[] = [];
  const given = new Set<string>();
  const scheme = ledger.scheme.prefix ? ledger.scheme : (guessScheme(items) ?? ledger.scheme);
  for (const i of items) {
    const add = (key: PropertyKey, text: string, why: string) => {
      if (text !== '' && text !== i.values[key].text) out.push({ part: i.part, key, text, why });
    };
    const name = i.values.description.text;
    const shape = looksLike.get(i.part);
    const standard = isStandardName(name) || (shape !== undefined && i.values.drawingNumber.text === '');
    if (i.values.description.from === 'file') add('description', cleanedName(name), 'The name from the file, made readable.');
    if (i.values.source.text === '') {
      if (standard) add('source', 'standard', isStandardName(name) ? `“${name}” is the name of a standard part.` : `It has the shape of a ${shape!}.`);
      else if (i.values.supplier.text !== '' || i.values.supplierNumber.text !== '') add('source', 'bought', 'It has a supplier.');
      else add('source', 'made', 'Neither a standard part by name or shape nor one with a supplier.');
    }
    const source = i.values.source.text || (standard ? 'standard' : 'made');
    if (source === 'made' && i.values.drawingNumber.text === '' && scheme.prefix) {
      const number = nextDrawingNumber(scheme, items, given);
      given.add(number);
      add('drawingNumber', number, `The next free number with “${scheme.prefix}”.`);
    }
    if (i.values.supplierNumber.text === '' && source === 'bought' && i.values.partNumber.text !== '')
      add('supplierNumber', i.values.partNumber.text, 'The part number from the file.');
  }
  return out;
}
