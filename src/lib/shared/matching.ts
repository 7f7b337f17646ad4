/** So many are shown at once: nobody reads on. */
const MOST = 80;

/**
 * Entries in whose text every typed word occurs, those first in which a word begins with the first one typed; all in their order when
 * nothing is typed.
 */
export function matching<T>(entries: readonly T[], typed: string, textOf: (entry: T) => string, most = MOST): readonly T[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const [first] = words;
  if (first === undefined) return entries.slice(0, most);
  const begins: T[] = [];
  const holds: T[] = [];
  for (const e of entries) {
    const text = textOf(e).toLowerCase();
    if (!words.every((w) => text.includes(w))) continue;
    (text.startsWith(first) || text.includes(` ${first}`) ? begins : holds).push(e);
  }
  return [...begins, ...holds].slice(0, most);
}
