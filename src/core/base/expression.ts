/**
 * Reads what people type where a number is wanted: `45`, `12,5`, `2*12.5`, `(30+4)/2`, `10 mm`, `1 in`.
 * @returns mm; undefined for anything else, for a division by nought and for what is not finite
 */
export function evaluateLength(text: string): number | undefined {
  const tokens = text.replaceAll(',', '.').match(/\d+\.?\d*|\.\d+|[-+*/()]|mm|cm|m\b|inch|in|"|\S+/gi);
  if (!tokens || tokens.length > 200) return undefined;
  let at = 0;
  const unit: Readonly<Record<string, number>> = { mm: 1, cm: 10, m: 1000, in: 25.4, inch: 25.4, '"': 25.4 };
  const primary = (): number => {
    const t = tokens[at++];
    if (t === '-') return -primary();
    if (t === '+') return primary();
    let v: number;
    if (t === '(') {
      v = sum();
      if (tokens[at++] !== ')') return NaN;
    } else v = t !== undefined && /^[\d.]/.test(t) ? Number(t) : NaN;
    const factor = unit[tokens[at]?.toLowerCase() ?? ''];
    if (factor === undefined) return v;
    at++;
    return v * factor;
  };
  const product = (): number => {
    let v = primary();
    while (tokens[at] === '*' || tokens[at] === '/') v = tokens[at++] === '*' ? v * primary() : v / primary();
    return v;
  };
  const sum = (): number => {
    let v = product();
    while (tokens[at] === '+' || tokens[at] === '-') v = tokens[at++] === '+' ? v + product() : v - product();
    return v;
  };
  const v = sum();
  return at === tokens.length && Number.isFinite(v) ? v : undefined;
}
