import { ADVANCES, CAP_HEIGHT, UNITS_PER_EM } from './lettering-metrics.ts';

const advance = new Map<string, number>();
for (const [w, chars] of ADVANCES) for (const c of chars) advance.set(c, w);

/** Font size (em, mm) for capitals of the given height (mm): ISO 3098 names lettering by the height of its capitals. */
export function emFor(heightMm: number): number {
  return (heightMm * UNITS_PER_EM) / CAP_HEIGHT;
}

/** Width of a text set with capitals of `heightMm`, mm on paper. Unknown characters count as a wide one. */
export function textWidth(text: string, heightMm: number): number {
  let units = 0;
  for (const c of text) units += advance.get(c) ?? UNITS_PER_EM * 0.9;
  return (units / CAP_HEIGHT) * heightMm;
}

/** What stands where a text is cut short. */
const CUT_MARK = '...';

/** The text, or as much of it as fits into `widthMm` with three dots where it is cut. */
export function fitText(text: string, heightMm: number, widthMm: number): string {
  if (textWidth(text, heightMm) <= widthMm) return text;
  let out = text;
  while (out.length > 1 && textWidth(`${out.trimEnd()}${CUT_MARK}`, heightMm) > widthMm) out = out.slice(0, -1);
  return `${out.trimEnd()}${CUT_MARK}`;
}

/** A text in lines, and whether something of it is missing. */
export interface Wrapped {
  readonly lines: readonly string[];
  readonly cut: boolean;
}

/**
 * Breaks at spaces into at most `lines` lines of `widthMm`. A word that is wider than a line is broken after a hyphen, a stroke, a
 * dot or an underscore, and else where the line ends; the last line is cut short if need be.
 */
export function wrapped(text: string, heightMm: number, widthMm: number, lines: number): Wrapped {
  const out: string[] = [];
  let rest = text.split(/\s+/).filter(Boolean);
  while (rest.length && out.length < lines) {
    if (out.length === lines - 1) {
      const last = rest.join(' ');
      out.push(fitText(last, heightMm, widthMm));
      return { lines: out, cut: out.at(-1) !== last };
    }
    let n = 1;
    while (n < rest.length && textWidth(rest.slice(0, n + 1).join(' '), heightMm) <= widthMm) n++;
    const head = n === 1 ? headOf(rest[0]!, heightMm, widthMm) : rest.slice(0, n).join(' ');
    out.push(head);
    rest = n === 1 && head !== rest[0] ? [rest[0]!.slice(head.length), ...rest.slice(1)] : rest.slice(n);
  }
  return { lines: out, cut: rest.length > 0 };
}

/** The lines of {@link wrapped}. */
export const wrapText = (text: string, heightMm: number, widthMm: number, lines: number): string[] => [...wrapped(text, heightMm, widthMm, lines).lines];

/** As much of a word as a line holds, one letter at least. */
function headOf(word: string, heightMm: number, widthMm: number): string {
  let n = word.length;
  while (n > 1 && textWidth(word.slice(0, n), heightMm) > widthMm) n--;
  if (n === word.length) return word;
  const joint = Math.max(...[...'-/._'].map((c) => word.lastIndexOf(c, n - 1)));
  return word.slice(0, joint > 0 ? joint + 1 : n);
}
