/**
 * A scale as people type it: `1:5`, `0.7:1`, `1.25:1`, `3/8`, `1:1,5`, `2`; decimal point or comma.
 * @returns paper mm per model mm; undefined for what is none
 */
export function scaleFrom(text: string): number | undefined {
  const m = /^\s*(\d+(?:[.,]\d+)?|[.,]\d+)\s*(?:[:/]\s*(\d+(?:[.,]\d+)?|[.,]\d+))?\s*$/.exec(text);
  if (!m) return undefined;
  const [a, b] = [m[1]!, m[2] ?? '1'].map((t) => Number(t.replace(',', '.')));
  const scale = a! / b!;
  return scale > 0 && scale <= 1e6 && scale >= 1e-6 ? scale : undefined;
}
