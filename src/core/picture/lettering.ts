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

/** The text, or as much of it as fits into `widthMm` with a dot where it is cut. */
export function fitText(text: string, heightMm: number, widthMm: number): string {
  if (textWidth(text, heightMm) <= widthMm) return text;
  let out = text;
  while (out.length > 1 && textWidth(`${out}.`, heightMm) > widthMm) out = out.slice(0, -1);
  return `${out.trimEnd()}.`;
}

/** Breaks at spaces into at most `lines` lines of `widthMm`; the last one is cut short if need be. */
export function wrapText(text: string, heightMm: number, widthMm: number, lines: number): string[] {
  const out: string[] = [];
  let rest = text.split(/\s+/).filter(Boolean);
  while (rest.length && out.length < lines) {
    if (out.length === lines - 1) {
      out.push(fitText(rest.join(' '), heightMm, widthMm));
      break;
    }
    let n = 1;
    while (n < rest.length && textWidth(rest.slice(0, n + 1).join(' '), heightMm) <= widthMm) n++;
    out.push(fitText(rest.slice(0, n).join(' '), heightMm, widthMm));
    rest = rest.slice(n);
  }
  return out;
}
